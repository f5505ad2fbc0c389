/** Lengths as sign makers type them, always kept as millimetres. */

/** A length in millimetres. */
export type Mm = number;

/** The unit in which lengths are shown and in which a bare number is read. */
export type LengthUnit = 'mm' | 'in';

/** Exact by definition: 1 in = 25.4 mm (international yard and pound agreement, 1959). */
export const MM_PER_INCH = 25.4;

const MM_PER: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  inches: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
  ft: 12 * MM_PER_INCH,
  foot: 12 * MM_PER_INCH,
  feet: 12 * MM_PER_INCH,
  "'": 12 * MM_PER_INCH,
  '′': 12 * MM_PER_INCH,
};

/** Single-character fractions that a keyboard or a pasted text may bring. */
const VULGAR: Readonly<Record<string, string>> = {
  '¼': ' 1/4', '½': ' 1/2', '¾': ' 3/4', '⅐': ' 1/7', '⅑': ' 1/9', '⅓': ' 1/3', '⅔': ' 2/3',
  '⅛': ' 1/8', '⅜': ' 3/8', '⅝': ' 5/8', '⅞': ' 7/8', '⅕': ' 1/5', '⅖': ' 2/5', '⅗': ' 3/5', '⅘': ' 4/5',
}; // prettier-ignore

/** Thrown where a text is not a length; `notUnderstood` is the part that could not be read. */
export class LengthError extends Error {
  constructor(
    readonly text: string,
    readonly notUnderstood: string,
    remedy = 'write a length such as 19 mm, 3/4 in or 1 ft 2 1/2 in',
  ) {
    super(
      notUnderstood === '' ? `No length given: ${remedy}.` : `“${notUnderstood}” in “${text}” was not understood: ${remedy}.`,
    );
    this.name = 'LengthError';
  }
}

type Token = { kind: 'number'; value: number; text: string } | { kind: 'word' | 'sign'; text: string };

const TOKEN = /\s*(?:(\d+(?:[.,]\d+)?|[.,]\d+)(?:\s*[/⁄]\s*(\d+))?|([a-zA-Z]+|["″'′])|([+−–-]))/uy;

function tokens(text: string): Token[] {
  const source = text.replace(/[¼½¾⅐⅑⅓⅔⅛⅜⅝⅞⅕⅖⅗⅘]/gu, (sign) => VULGAR[sign]);
  const found: Token[] = [];
  TOKEN.lastIndex = 0;
  while (source.slice(TOKEN.lastIndex).trim() !== '') {
    const start = TOKEN.lastIndex;
    const match = TOKEN.exec(source);
    if (!match) throw new LengthError(text, source.slice(start).trim());
    const [whole, numerator, denominator, word, sign] = match;
    if (numerator !== undefined) {
      if (/^[1-9]\d{0,2},\d{3}$/u.test(numerator))
        throw new LengthError(text, numerator, 'the comma could mean thousands or decimals, write it with a point or none');
      const over = denominator === undefined ? 1 : Number(denominator);
      if (over === 0) throw new LengthError(text, whole.trim(), 'a fraction cannot be over 0');
      found.push({ kind: 'number', value: Number(numerator.replace(',', '.')) / over, text: whole.trim() });
    } else if (word !== undefined) found.push({ kind: 'word', text: word });
    else found.push({ kind: 'sign', text: sign });
  }
  return found;
}

/**
 * Reads a length: numbers, decimals (point or comma), fractions and mixed numbers, with mm, cm, m, in, ft (or ″ and ′),
 * one after the other ("1 ft 2 1/2 in") and as sums and differences ("6 mm + 1/8 in"). A number without a unit is in
 * `bare`, except where another number of the same term chain states its unit after it.
 *
 * @param text what was typed
 * @param bare the unit of a number that states none
 * @returns millimetres, possibly negative
 * @throws LengthError with the text that was not understood
 */
export function parseLength(text: string, bare: LengthUnit = 'mm'): Mm {
  const list = tokens(text);
  if (list.length === 0) throw new LengthError(text, '');
  let total = 0;
  let at = 0;
  while (at < list.length) {
    let sign = 1;
    const first = list[at];
    if (first.kind === 'sign') {
      sign = first.text === '+' ? 1 : -1;
      at++;
    }
    let termCount = 0;
    // A term is one or more "number [fraction] unit" one after the other: 1 ft 2 1/2 in.
    while (at < list.length && list[at].kind !== 'sign') {
      const number = list[at];
      if (number.kind !== 'number') throw new LengthError(text, number.text);
      let value = number.value;
      at++;
      const fraction = list[at];
      if (fraction?.kind === 'number') {
        const isMixed = fraction.text.search(/[/⁄]/u) > 0 && Number.isInteger(value) && !/[/⁄]/u.test(number.text);
        if (!isMixed) throw new LengthError(text, `${number.text} ${fraction.text}`);
        value += fraction.value;
        at++;
      }
      const unit = list[at];
      let mmPer = MM_PER[bare];
      if (unit?.kind === 'word') {
        const known = MM_PER[unit.text] ?? MM_PER[unit.text.toLowerCase()];
        if (known === undefined) throw new LengthError(text, unit.text);
        mmPer = known;
        at++;
      } else if (termCount > 0) throw new LengthError(text, number.text);
      total += sign * value * mmPer;
      termCount++;
    }
    if (termCount === 0) throw new LengthError(text, first.text);
  }
  if (!Number.isFinite(total)) throw new LengthError(text, text);
  // The shortest decimal that is within 1e-9 mm: 0.1 in + 0.2 in is 7.62 and not 7.620000000000001.
  return Number(total.toFixed(9));
}

/** Inches by which a length may miss a fraction that it is read as: lengths are kept to a thousandth of a millimetre here and there. */
const NEARLY_A_FRACTION = 2e-5;

const INCH_DENOMINATORS = [1, 2, 4, 8, 16, 32, 64];

/** @param within inches by which it may be off */
function inchFraction(inches: number, within = 1e-9): string | undefined {
  for (const denominator of INCH_DENOMINATORS) {
    const count = inches * denominator;
    if (Math.abs(count - Math.round(count)) > within * denominator) continue;
    const whole = Math.floor(Math.round(count) / denominator);
    const rest = Math.round(count) - whole * denominator;
    if (rest === 0) return String(whole);
    return whole === 0 ? `${rest}/${denominator}` : `${whole} ${rest}/${denominator}`;
  }
  return undefined;
}

// Halves are rounded away from zero, also those that a double holds a trifle too low: 3.175 is shown as 3.18.
const trimmed = (value: number, digits: number): string =>
  String(Number((value + Math.sign(value) * 1e-7 * 10 ** -digits).toFixed(digits)));

/**
 * A length as text that {@link parseLength} reads back to the same millimetres (to 1e-9 mm).
 * Inches become a fraction where one down to 1/64 is exact, else a decimal.
 */
export function formatLengthExact(mm: Mm, unit: LengthUnit): string {
  if (unit === 'mm') return `${trimmed(mm, 9)} mm`.replace('-', '−');
  const inches = Math.abs(mm) / MM_PER_INCH;
  return `${mm < 0 ? '−' : ''}${inchFraction(inches) ?? trimmed(inches, 11)} in`;
}

/**
 * A length for reading: millimetres to 0.01, inches as the fraction where there is one within {@link NEARLY_A_FRACTION}, else to 0.001 in.
 * Negative values carry a true minus sign.
 */
export function formatLength(mm: Mm, unit: LengthUnit): string {
  if (unit === 'mm') return `${trimmed(mm, 2)} mm`.replace('-', '−').replace(/^−0 /u, '0 ');
  const inches = Math.abs(mm) / MM_PER_INCH;
  const shown = inchFraction(inches, NEARLY_A_FRACTION) ?? trimmed(inches, 3);
  return `${mm < 0 && shown !== '0' ? '−' : ''}${shown} in`;
}

/** A length for reading in one unit, or in both: "25.4 mm (1 in)". */
export const lengthWords = (mm: Mm, unit: LengthUnit, isInBoth: boolean): string =>
  isInBoth ? `${formatLength(mm, unit)} (${formatLength(mm, unit === 'mm' ? 'in' : 'mm')})` : formatLength(mm, unit);

/** An area for reading, from mm²: cm² or in². */
export function formatArea(mm2: number, unit: LengthUnit): string {
  return unit === 'mm' ? `${trimmed(mm2 / 100, 2)} cm²` : `${trimmed(mm2 / (MM_PER_INCH * MM_PER_INCH), 2)} in²`;
}
