import { brailleTable } from '../../braille/index.js';
import { area, bounds, type Box, direction, gapBetween, joinBoxes, middleOfBox, type Outline } from '../../geometry/index.js';
import { isPlainFont } from './font-faults.js';
import { type Evaluation, type Evaluator } from '../../relief/index.js';
import { type Finish, isStale, lightReflectance, saidBy, type Sign, type TextPart } from '../../sign/index.js';
import { type Dot, type DottedPart, dotsIn } from './dots.js';
import { type RaisedLetter, type RaisedText, type Raised, raisedIn, turnedBack } from './raised.js';
import { Sections } from './sections.js';
import { type MeasureName } from './standard.js';

/** A value of a measure, and where it was found. */
export interface Measured {
  readonly value: number;
  readonly part?: string;
  readonly place?: { readonly x: number; readonly y: number };
  /** What it is of, where that is more than the name of its part. */
  readonly of?: string;
}

/** Capitals that stand flat on their line and end flat at their top, as high as an I. */
const FLAT = /^[BDEFHIKLMNPRTXZ]$/u;
/** Letters and figures that stand flat on their line. */
const FEET = /^[ABDEFHIKLMNPRTXZ1247]$/u;
/** Sides that lean less than so much of a letter's area are upright. */
const UPRIGHT = 0.97;
/** Word capital in Unified English Braille. */
const WORD_CAPITAL = '⠠⠠';

const both = (a: Box, b: Box): Box => joinBoxes(a, b)!;
const boxOf = (outline: Outline): Box => bounds(outline)!;
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor((values.length - 1) / 2)];

/** All measures of a sign that standards ask for, each taken when it is first asked for. */
export class Tactile {
  private readonly sections: Sections;
  private readonly raised: Raised;
  private readonly dotted: readonly DottedPart[];
  private readonly sign: Sign;
  private readonly known = new Map<MeasureName, readonly Measured[]>();

  constructor(
    private readonly evaluation: Evaluation,
    private readonly evaluator: Evaluator,
  ) {
    this.sign = evaluation.sign;
    this.sections = new Sections(evaluation);
    this.dotted = dotsIn(evaluation, this.sections);
    const dots = this.dotted.flatMap(({ dots: all }) => all.map(({ rings }) => rings));
    this.raised = raisedIn(evaluation, evaluator, this.sections, dots);
  }

  /** Every value of a measure; none where the sign has nothing of what it measures. */
  of(name: MeasureName): readonly Measured[] {
    let values = this.known.get(name);
    if (!values) this.known.set(name, (values = this.measure(name)));
    return values;
  }

  private measure(name: MeasureName): readonly Measured[] {
    switch (name) {
      case 'raised-height':
        return this.ofLetters(({ top, ground }) => top - ground);
      case 'small-letters':
        return this.raised.texts.map(({ part, letters }) => of(part, letters.filter(isSmall(part)).length));
      case 'other-style':
        return this.raised.texts.map(({ part }) => of(part, this.isPlain(part) ? 0 : 1));
      case 'round-width':
        return this.ofFonts(({ roundWidth, stretch }) => 100 * roundWidth * stretch);
      case 'character-height':
        return this.straightTexts().map(({ part, letters }) => of(part, this.heightOf(part, letters)));
      case 'stroke-share':
        return this.straightTexts().map(({ part, letters }) =>
          of(part, (100 * this.strokeOf(part, letters)) / this.heightOf(part, letters)),
        );
      case 'letter-gap':
        return this.neighbours(({ a, b, part }) => at(part, gapBetween(a.head, b.head), a, b));
      case 'letter-gap-at-base':
        return this.neighbours(({ a, b, part }) =>
          isUpright(a) && isUpright(b) ? undefined : at(part, gapBetween(a.base, b.base), a, b),
        );
      case 'letter-gap-in-strokes':
        return this.neighbours(({ a, b, part, letters }) =>
          at(part, gapBetween(a.base, b.base) / this.strokeOf(part, letters), a, b),
        );
      case 'character-to-border':
        return this.toBorders(
          this.raised.texts.flatMap(({ part, letters }) => letters.map(({ base }) => ({ part: part.id, outline: base }))),
        );
      case 'line-share':
        return this.straightTexts().flatMap((text) => this.lineShares(text));
      case 'words-without-braille':
        return this.wordsWithout();
      case 'not-contracted':
        return this.dotted.map(({ part }) => of(part, brailleTable(part.shape.table)?.isContracted ? 0 : 1));
      case 'dot-base':
        return this.ofDots(({ base }) => base);
      case 'dot-height':
        return this.ofDots(({ height }) => height);
      case 'dot-roundness':
        return this.ofDots(({ half }) => half);
      case 'dot-distance':
        return this.pairs(
          (a, b) => a.cell === b.cell && a.line === b.line && Math.abs(a.column - b.column) + Math.abs(a.row - b.row) === 1,
        );
      case 'cell-distance':
        return this.pairs((a, b) => b.cell === a.cell + 1 && a.line === b.line && a.column === b.column && a.row === b.row);
      case 'line-distance':
        return this.pairs((a, b) => b.line === a.line + 1 && a.cell === b.cell && a.column === b.column && a.row === b.row, true);
      case 'capital-indicators':
        return this.dotted.map(({ part }) => of(part, part.shape.cells.split(WORD_CAPITAL).length - 1));
      case 'braille-above':
        return this.belowTexts();
      case 'braille-to-character':
        return this.fromCharacters();
      case 'braille-to-border':
        return this.toBorders(
          this.dotted.flatMap(({ part, dots }) => dots.map(({ rings }) => ({ part: part.id, outline: rings }))),
        );
      case 'height-on-wall':
        return this.onWall();
      case 'glossy':
        return this.finishes().map(({ part, on, ground }) => of(part, [on, ground].filter((finish) => finish?.gloss === 'gloss' || finish?.gloss === 'metal').length)); // prettier-ignore
      case 'reflectance-contrast':
        return this.finishes().flatMap(({ part, on, ground }) => (on && ground ? of(part, contrastOf(on, ground)) : []));
    }
  }

  private ofLetters(value: (letter: RaisedLetter) => number): Measured[] {
    return this.raised.texts.flatMap(({ part, letters }) => letters.map((letter) => ({ ...at(part, value(letter), letter), of: `“${letter.character}” of ${part.name}` }))); // prettier-ignore
  }

  private ofDots(value: (dot: Dot) => number): Measured[] {
    return this.dotted.flatMap(({ part, dots }) => dots.map((dot) => ({ value: value(dot), part: part.id, place: { x: dot.x, y: dot.y }, of: part.name }))); // prettier-ignore
  }

  private isPlain(part: TextPart): boolean {
    const entry = this.evaluator.fontEntry(part.font);
    return entry !== undefined && isPlainFont(entry);
  }

  /** Texts whose letters stand upright beside each other. */
  private straightTexts(): RaisedText[] {
    return this.raised.texts.filter(({ part }) => !part.path);
  }

  private ofFonts(value: (font: { roundWidth: number; stretch: number }) => number): Measured[] {
    return this.raised.texts.flatMap(({ part }) => {
      const font = this.evaluator.fontMeasures(part.font);
      const stretch = (this.evaluation.parts.find(({ id }) => id === part.id)?.text?.stretch ?? 100) / 100;
      return font ? of(part, value({ roundWidth: font.roundWidth, stretch })) : [];
    });
  }

  /** By how much letters became larger or smaller on each side than they were set, where they stand on their ground. */
  private growthOf(part: TextPart, letters: readonly RaisedLetter[]): number {
    const growth = letters.map(({ base, outline }) => {
      const [made, set] = [base, outline].map((rings) => boxOf(turnedBack(rings, part)));
      return (made.maxX - made.minX - (set.maxX - set.minX)) / 2;
    });
    return median(growth);
  }

  /** The height of an I: of the capitals that are as high, as they are made, or of the font's at this size. */
  private heightOf(part: TextPart, letters: readonly RaisedLetter[]): number {
    const flat = letters.filter(({ character }) => FLAT.test(character)).map(({ base }) => boxOf(turnedBack(base, part)));
    if (flat.length > 0) return median(flat.map(({ minY, maxY }) => maxY - minY));
    const text = this.evaluation.parts.find(({ id }) => id === part.id)?.text;
    const font = this.evaluator.fontMeasures(part.font);
    return text && font ? text.capHeight / font.capitals + 2 * this.growthOf(part, letters) : 0;
  }

  /** The stroke of an I: as it is made where there is one, else that of the font at this size, grown as the letters are. */
  private strokeOf(part: TextPart, letters: readonly RaisedLetter[]): number {
    const text = this.evaluation.parts.find(({ id }) => id === part.id)?.text;
    const font = this.evaluator.fontMeasures(part.font);
    if (!text || !font) return 0;
    return (font.stroke * (text.capHeight / font.capitals) * text.stretch) / 100 + 2 * this.growthOf(part, letters);
  }

  private neighbours(
    measure: (pair: {
      a: RaisedLetter;
      b: RaisedLetter;
      part: TextPart;
      letters: readonly RaisedLetter[];
    }) => Measured | undefined,
  ): Measured[] {
    return this.raised.texts.flatMap(({ part, letters }) =>
      letters.slice(1).flatMap((b, i) => {
        const a = letters[i];
        return a.line !== b.line || a.endsWord ? [] : (measure({ a, b, part, letters }) ?? []);
      }),
    );
  }

  private toBorders(own: readonly { readonly part: string; readonly outline: Outline }[]): Measured[] {
    return own.flatMap(({ part, outline }) => {
      const gaps = this.raised.others.map((other) => gapBetween(outline, other, 'edges'));
      return gaps.length === 0 ? [] : [{ value: Math.min(...gaps), part, place: middleOfBox(boxOf(outline)) }];
    });
  }

  private lineShares({ part, letters }: RaisedText): Measured[] {
    const height = this.heightOf(part, letters);
    const feet = new Map<number, number[]>();
    for (const { line, character, base } of letters) {
      if (!FEET.test(character)) continue;
      const foot = boxOf(turnedBack(base, part)).minY;
      feet.set(line, [...(feet.get(line) ?? []), foot]);
    }
    const lines = [...feet].sort(([a], [b]) => a - b).map(([line, all]) => ({ line, y: median(all) }));
    return lines
      .slice(1)
      .flatMap(({ line, y }, i) => (line === lines[i].line + 1 ? of(part, (100 * (lines[i].y - y)) / height) : []));
  }

  /** Words of raised texts that no braille says as it stands. */
  private wordsWithout(): Measured[] {
    const said = new Set(this.dotted.flatMap(({ part, dots, asked }) => (dots.length < asked || isStale(this.sign, part.shape) ? [] : wordsIn(saidBy(this.sign, part.shape))))); // prettier-ignore
    return this.raised.texts.map(({ part }) => {
      const missing = wordsIn(part.words).filter((word) => !said.has(word));
      return {
        ...of(part, missing.length),
        ...(missing.length > 0 && {
          of: missing
            .slice(0, 4)
            .map((word) => `“${word}”`)
            .join(', '),
        }),
      };
    });
  }

  /** Distances of dots that belong together so; of lines only how far they are below each other. */
  private pairs(areSo: (a: Dot, b: Dot) => boolean, areLines = false): Measured[] {
    return this.dotted.flatMap(({ part, dots }) => {
      const { cos, sin } = direction(part.place.turn);
      const lines = new Map<string, Dot[]>();
      for (const dot of dots) lines.set(`${dot.line} ${dot.cell}`, [...(lines.get(`${dot.line} ${dot.cell}`) ?? []), dot]);
      return dots.flatMap((a) => {
        const near = areLines ? [[1, 0]] : [[0, 0], [0, 1]]; // prettier-ignore
        return near
          .flatMap(([line, cell]) => lines.get(`${a.line + line} ${a.cell + cell}`) ?? [])
          .filter((b) => areSo(a, b))
          .map((b) => ({
            value: areLines ? Math.abs((b.y - a.y) * cos - (b.x - a.x) * sin) : Math.hypot(a.x - b.x, a.y - b.y),
            part: part.id,
            place: { x: a.x, y: a.y },
            of: part.name,
          }));
      });
    });
  }

  /** The raised texts that a part in braille belongs to: the one that it follows, or those whose words it says. */
  private textsOf({ part }: DottedPart): RaisedText[] {
    const { follows } = part.shape;
    const words = new Set(wordsIn(saidBy(this.sign, part.shape)));
    return this.raised.texts.filter(
      ({ part: text }) => text.id === follows || wordsIn(text.words).some((word) => words.has(word)),
    );
  }

  /** How far the tops of dots are below the feet of the letters that they say. */
  private belowTexts(): Measured[] {
    return this.dotted.flatMap((dotted) => {
      const texts = this.textsOf(dotted);
      if (dotted.dots.length === 0 || texts.length === 0) return [];
      const top = Math.max(...dotted.dots.map(({ rings }) => boxOf(rings).maxY));
      const foot = Math.min(...texts.flatMap(({ letters }) => letters.map(({ base }) => boxOf(base).minY)));
      return [of(dotted.part, foot - top)];
    });
  }

  private fromCharacters(): Measured[] {
    const letters = this.raised.texts.flatMap(({ letters: all }) => all.map(({ base }) => base));
    return this.dotted.flatMap(({ part, dots }) => {
      if (letters.length === 0 || dots.length === 0) return [];
      const own = dots.map(({ rings }) => rings);
      const whole = own.map(boxOf).reduce(both);
      const near = [...letters].sort((a, b) => apart(boxOf(a), whole) - apart(boxOf(b), whole)).slice(0, NEAREST);
      let best: Measured = of(part, Infinity);
      for (const dot of own)
        for (const letter of near) {
          if (apart(boxOf(dot), boxOf(letter)) >= best.value) continue;
          const value = gapBetween(dot, letter);
          if (value < best.value) best = { ...of(part, value), place: middleOfBox(boxOf(dot)) };
        }
      return [best];
    });
  }

  /** Heights of baselines above the floor. */
  private onWall(): Measured[] {
    const floor = this.sign.checks?.floor;
    if (floor === undefined) return [];
    const { minY, maxY } = boxOf([this.evaluation.blank]);
    const height = (y: number): number => floor + y - (minY + maxY) / 2;
    const texts = this.raised.texts.flatMap(({ part, letters }) => {
      const lines = new Map<number, number[]>();
      for (const { line, base } of letters) lines.set(line, [...(lines.get(line) ?? []), boxOf(base).minY]);
      return [...lines.values()].map((feet) => of(part, height(median(feet))));
    });
    const cells = this.dotted.flatMap(({ part, dots }) => {
      // The lowest row of their cells, whether it has dots or not.
      const feet = dots.map(({ rings, row }) => boxOf(rings).minY - (2 - row) * part.shape.dots);
      return feet.length === 0 ? [] : [of(part, height(Math.min(...feet)))];
    });
    return [...texts, ...cells];
  }

  /** What letters and their background wear. */
  private finishes(): { readonly part: TextPart; readonly on?: Finish; readonly ground?: Finish }[] {
    return this.raised.texts.map(({ part, letters }) => {
      const whole = letters.map(({ base }) => boxOf(base)).reduce(both);
      const { ground, top } = letters[0];
      return {
        part,
        on: this.sections.finishIn(whole, (ground + top) / 2, Infinity),
        ground: this.sections.finishIn({ minX: whole.minX - AROUND, minY: whole.minY - AROUND, maxX: whole.maxX + AROUND, maxY: whole.maxY + AROUND }, ground - SAME, ground + SAME), // prettier-ignore
      };
    });
  }
}

/** Letters that are nearest to braille are measured, so many. */
const NEAREST = 40;
/** mm around words that count as their background. */
const AROUND = 5;
const SAME = 1e-6;

const of = (part: { readonly id: string; readonly name: string }, value: number): Measured => ({
  value,
  part: part.id,
  of: part.name,
});
function at(part: TextPart, value: number, ...letters: readonly RaisedLetter[]): Measured {
  const place = middleOfBox(letters.map(({ box }) => box).reduce(both));
  return { ...of(part, value), place, of: `${letters.map(({ character }) => `“${character}”`).join(' and ')} of ${part.name}` };
}

const isUpright = ({ base, head }: RaisedLetter): boolean => area(head) > UPRIGHT * area(base);
/** Letters that have a capital and are not set as one. */
const isSmall =
  ({ features }: TextPart) =>
  ({ character }: RaisedLetter): boolean =>
    !features?.smallCapitals && character !== character.toUpperCase();

/** Words as they are compared: letters and figures alone, without their case. */
export const wordsIn = (text: string): string[] =>
  text
    .toLowerCase()
    .normalize('NFC')
    .match(/[\p{L}\p{N}]+/gu) ?? [];

/** Contrast of two surfaces in percent of the lighter one's light reflectance value. */
export function contrastOf(a: Finish, b: Finish): number {
  const [dark, light] = [lightReflectance(a.colour), lightReflectance(b.colour)].sort((p, q) => p - q);
  return light > 0 ? (100 * (light - dark)) / light : 0;
}

const apart = (a: Box, b: Box): number =>
  Math.hypot(Math.max(0, a.minX - b.maxX, b.minX - a.maxX), Math.max(0, a.minY - b.maxY, b.minY - a.maxY));
