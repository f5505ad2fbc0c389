import { code128, datamatrix, type DrawingContext, ean13, qrcode, type RenderOptions, upca } from 'bwip-js/generic';
import { LRUCache } from 'lru-cache';
import { checkDigit } from './check-digit.js';
import { type SymbologyId } from './symbologies.js';

/** How much of a QR code may be lost and still be read: about 7, 15, 25 or 30 percent (ISO/IEC 18004). */
export type Correction = 'L' | 'M' | 'Q' | 'H';

/** Dark and light modules of a code, in columns from the left and rows from the top; of bars one row. */
export interface CodeSymbol {
  readonly columns: number;
  readonly rows: number;
  /** 1 where a module is dark, row by row. */
  readonly dark: Uint8Array;
  /** What a reader says, with the check digit. */
  readonly says: string;
}

/** Why no code can be made of words, in a sentence without a name. */
export interface CodeFault {
  readonly fault: string;
}

/** Characters that a code is made of at most. */
const MOST = 2000;
const remembered = new LRUCache<string, CodeSymbol | CodeFault>({ max: 500 });

/**
 * Words as a code, by bwip-js.
 * @param correction of a QR code; M where nothing is said
 */
export function symbolOf(symbology: SymbologyId, words: string, correction: Correction = 'M'): CodeSymbol | CodeFault {
  const key = `${symbology} ${correction} ${words}`;
  let made = remembered.get(key);
  if (!made) remembered.set(key, (made = encoded(symbology, words, correction)));
  return made;
}

function encoded(symbology: SymbologyId, words: string, correction: Correction): CodeSymbol | CodeFault {
  if (words === '') return { fault: 'it has no words yet' };
  if (words.length > MOST) return { fault: `it has ${words.length} characters, and no code here has more than ${MOST}` };
  try {
    switch (symbology) {
      case 'qr':
        return drawn(qrcode, { ...universal(words), eclevel: correction } as Options, words);
      case 'data-matrix':
        return foreignFault(words) ?? drawn(datamatrix, { text: words }, words);
      case 'code-128':
        return foreignFault(words) ?? drawn(code128, { text: words }, words);
      case 'ean-13':
        return numbered(words, 12, ean13);
      case 'upc-a':
        return numbered(words, 11, upca);
    }
  } catch (error) {
    return { fault: faultOf(error) };
  }
}

type Encoder = typeof qrcode;

/** Options of a code of its own are passed on to what encodes it. */
type Options = Partial<RenderOptions> & { readonly text: string };

/** Words beyond ASCII are said to be UTF-8 (ECI 26, AIM ITS/04-023), so that no reader has to guess. */
function universal(words: string): Options {
  if (isAscii(words)) return { text: words };
  return { text: `^ECI000026${words.replaceAll('^', '^^')}`, parsefnc: true };
}

const isAscii = (words: string): boolean => [...words].every((letter) => letter >= ' ' && letter <= '~');

/** What has no place in a code of ASCII. */
function foreignFault(words: string): CodeFault | undefined {
  const foreign = [...words].find((letter) => !isAscii(letter));
  if (foreign === '\n') return { fault: 'a line break cannot be in it' };
  return foreign === undefined ? undefined : { fault: `“${foreign}” cannot be in it: only letters without accents, figures and common signs can; a QR code takes any` }; // prettier-ignore
}

/** A number of so many figures, with its check digit or without. */
function numbered(words: string, figures: number, encoder: Encoder): CodeSymbol | CodeFault {
  const plain = words.replace(/[ -]/gu, '');
  if (!/^\d+$/u.test(plain) || plain.length < figures || plain.length > figures + 1)
    return { fault: `it has to be ${figures} figures, or ${figures + 1} with the check digit` };
  const digit = checkDigit(plain.slice(0, figures));
  if (plain.length > figures && plain[figures] !== digit)
    return { fault: `its check digit has to be ${digit}, not ${plain[figures]}` };
  const says = plain.slice(0, figures) + digit;
  return drawn(encoder, { text: says }, says);
}

function faultOf(error: unknown): string {
  const text = error instanceof Error ? error.message : String(error);
  return /maximum|too long|size|length|capacity/iu.test(text)
    ? 'its words are too long for it'
    : 'no code can be made of its words';
}

/** Takes down what the encoder draws: polygons of modules, filled by the even-odd rule, or lines as wide as bars. */
function drawn(encoder: Encoder, options: Options, says: string): CodeSymbol {
  const taken = new Taken();
  encoder({ bcid: '', ...options, scaleX: 1, scaleY: 1 }, taken);
  return { ...taken.end(), says };
}

class Taken implements DrawingContext<Omit<CodeSymbol, 'says'>> {
  private columns = 0;
  private rows = 0;
  private dark = new Uint8Array(0);
  private hasBars = false;

  scale(): [number, number] {
    return [1, 1];
  }

  measure(): { width: number; ascent: number; descent: number } {
    return { width: 0, ascent: 0, descent: 0 };
  }

  init(width: number, height: number): void {
    [this.columns, this.rows, this.dark] = [width, height, new Uint8Array(width * height)];
  }

  /** A bar: `wide` modules across, its middle at `x`, which is rounded up where it lies within a module. */
  line(x: number, _y: number, _x: number, _y1: number, wide: number): void {
    this.hasBars = true;
    const from = x - Math.ceil(wide / 2);
    for (let column = from; column < from + wide; column++) this.dark[column] = 1;
  }

  /** Upright edges of modules turn those to their right about. */
  polygon(points: readonly (readonly [number, number])[]): void {
    points.forEach(([x, y], i) => {
      const [x2, y2] = points[(i + 1) % points.length];
      if (x !== x2) return;
      for (let row = Math.min(y, y2); row < Math.max(y, y2); row++)
        for (let column = x; column < this.columns; column++) this.dark[row * this.columns + column] ^= 1;
    });
  }

  hexagon(): void {}
  ellipse(): void {}
  fill(): void {}
  text(): void {}

  end(): Omit<CodeSymbol, 'says'> {
    const dark = this.hasBars ? this.dark.slice(0, this.columns) : this.dark;
    return this.hasBars ? trimmed(dark) : { columns: this.columns, rows: this.rows, dark };
  }
}

/** Bars without what was left free beside them. */
function trimmed(dark: Uint8Array): Omit<CodeSymbol, 'says'> {
  const own = dark.slice(dark.indexOf(1), dark.lastIndexOf(1) + 1);
  return { columns: own.length, rows: 1, dark: own };
}
