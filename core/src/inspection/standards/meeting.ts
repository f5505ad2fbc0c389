import { BRAILLE_TABLES, brailleTable, USUAL_BRAILLE } from '../../braille/index.js';
import { bounds, joinBoxes } from '../../geometry/index.js';
import { type Evaluation, type Evaluator } from '../../relief/index.js';
import { type BrailleShape, isStale, lightReflectance, newShape, saidBy, type ShapePart, type Sign, sideOf, type TextPart, withCells } from '../../sign/index.js'; // prettier-ignore
import { formatLength } from '../../units/index.js';
import { followsOthers } from '../setting.js';
import { type ClauseResult, judged, meets } from './judge.js';
import { type Measured } from './measures.js';
import { type MeasureName, type Standard } from './standard.js';

/** A sign that was changed so that it meets a standard, or as far as it could be. */
export interface Met {
  readonly sign: Sign;
  /** What was changed, in sentences. */
  readonly said: readonly string[];
  readonly results: readonly ClauseResult[];
}

/** Words as cells by a table. */
export type Translate = (words: string, table: string) => Promise<string>;

/** How often a sign is measured and changed: one change may ask for another. */
const ROUNDS = 6;
/** mm and percent by which more is done than has to be. */
const EASE = 0.1;
/** A font that was drawn for touch. */
const FONT = 'atkinson-hyperlegible-regular';
/** mm around what stands nearest to the edge of a blank that is made larger. */
const MARGIN = 10;

const up = (mm: number): number => Math.ceil(mm * 100 - 1e-6) / 100;

/**
 * Changes a sign, again and again, where it fails a clause that says what to change: words, font, sizes, spacing, heights, braille, finishes,
 * and the blank where it becomes too small. Nothing else is changed.
 * @param translate without one new words stay without cells, and braille that has to say them fails
 */
export async function madeToMeet(standard: Standard, sign: Sign, evaluator: Evaluator, translate?: Translate): Promise<Met> {
  const next = JSON.parse(JSON.stringify(sign)) as Sign;
  const said: string[] = [];
  for (let round = 0; ; round++) {
    await translateAll(next, translate, said);
    const evaluation = await evaluator.evaluate(next);
    const results = judged(standard, evaluation, evaluator);
    if (meets(results) || round === ROUNDS) return { sign: next, said: latest(said), results };
    const mender = new Mender(next, evaluation, said);
    for (const result of results) if (result.verdict === 'fails') mender.mend(result);
    mender.makeRoom();
  }
}

/** A length, and what is said after it. */
const LENGTH = /[\d./ ]+(?:mm|in)\b.*$/u;

/** Every sentence once, and of those that differ in their lengths alone the last. */
const latest = (said: readonly string[]): string[] => [
  ...new Map(said.map((sentence) => [sentence.replace(LENGTH, ''), sentence])).values(),
];

async function translateAll(sign: Sign, translate: Translate | undefined, said: string[]): Promise<void> {
  if (!translate) return;
  for (const part of sign.parts) {
    if (part.kind !== 'shape' || part.shape.kind !== 'braille' || part.shape.corrected || !isStale(sign, part.shape)) continue;
    const words = saidBy(sign, part.shape);
    part.shape = withCells(part.shape, words, await translate(words, part.shape.table));
    said.push(`${part.name} is translated anew.`);
  }
}

class Mender {
  constructor(
    private readonly sign: Sign,
    private readonly evaluation: Evaluation,
    private readonly said: string[],
  ) {}

  mend({ clause: { measure, least, most }, worst, beyond }: ClauseResult): void {
    const parts = new Set(beyond.map(({ part }) => part));
    const texts = this.texts().filter(({ id }) => parts.has(id));
    const dotted = this.dotted().filter(({ id }) => parts.has(id));
    const lacking = Math.max((least ?? -Infinity) - (worst?.value ?? 0), (worst?.value ?? 0) - (most ?? Infinity));
    if (this.mendLetters(measure, texts, beyond, least, lacking)) return;
    if (this.mendBraille(measure, dotted, least, lacking)) return;
    if (measure === 'height-on-wall') this.hang(beyond, least, most);
  }

  /** A blank that what became larger does not fit on is made larger, rectangles and the like. */
  makeRoom(): void {
    const inks = this.evaluation.parts.flatMap(({ id, ink }) => {
      const part = this.sign.parts.find((each) => each.id === id);
      return ink && part && !followsOthers(part) && sideOf(part) === 'front' ? [ink] : [];
    });
    if (inks.length === 0) return;
    const whole = inks.reduce((a, b) => joinBoxes(a, b)!);
    const edge = bounds([this.evaluation.blank])!;
    const { outline } = this.sign.blank;
    if (!('width' in outline) || (whole.minX >= edge.minX && whole.maxX <= edge.maxX && whole.minY >= edge.minY && whole.maxY <= edge.maxY)) return; // prettier-ignore
    const width = up(Math.max(outline.width, 2 * Math.max(-whole.minX, whole.maxX) + 2 * MARGIN));
    const height = up(Math.max(outline.height, 2 * Math.max(-whole.minY, whole.maxY) + 2 * MARGIN));
    Object.assign(outline, { width, height });
    this.say(`The blank is ${this.length(width)} by ${this.length(height)}: it was too small.`);
  }

  private texts(): TextPart[] {
    return this.sign.parts.filter((part): part is TextPart => part.kind === 'text' && !part.hidden && sideOf(part) === 'front');
  }

  private dotted(): (ShapePart & { shape: BrailleShape })[] {
    return this.sign.parts.filter(
      (part): part is ShapePart & { shape: BrailleShape } =>
        part.kind === 'shape' && part.shape.kind === 'braille' && !part.hidden,
    );
  }

  private mendLetters(
    measure: MeasureName,
    texts: readonly TextPart[],
    beyond: readonly Measured[],
    least: number | undefined,
    lacking: number,
  ): boolean {
    // prettier-ignore
    const each = (change: (part: TextPart) => string | undefined): true => {
      for (const part of texts) this.say(change(part));
      return true;
    };
    const capitals = (part: TextPart): number => this.evaluation.parts.find(({ id }) => id === part.id)?.text?.capHeight ?? 0;
    switch (measure) {
      case 'raised-height':
        // Where nothing is raised everything that is read is to be.
        for (const part of beyond.length === 0 ? this.texts() : texts) this.say(this.raise(part, lacking));
        return true;
      case 'small-letters':
        return each((part) => ((part.words = part.words.toUpperCase()), `${part.name} is in capitals.`));
      case 'other-style':
      case 'stroke-share':
        return each((part) => {
          const isSet = part.font === FONT;
          part.font = FONT;
          for (const tier of part.tiers) if (isSet && tier.area.kind === 'offset') tier.area = { kind: 'outline' };
          if (isSet && 'stretch' in part.size) part.size.stretch = 100;
          return `${part.name} is set in a plain font for touch.`;
        });
      case 'round-width':
        return each((part) => {
          if ('stretch' in part.size && part.size.stretch !== 100) part.size.stretch = 100;
          else part.font = FONT;
          return `${part.name} is as wide as its font makes it.`;
        });
      case 'character-height':
        return each((part) => {
          const value = beyond.find((measured) => measured.part === part.id)!.value;
          const height = up(capitals(part) * ((value < (least ?? 0) ? 16 : 50) / value));
          part.size = { kind: 'capitals', height, stretch: 'stretch' in part.size ? part.size.stretch : 100 };
          delete part.frame;
          return `${part.name} has capitals of ${this.length(height)}.`;
        });
      case 'letter-gap':
      case 'letter-gap-at-base':
        return each((part) => this.track(part, beyond, (value) => least! - value + EASE / 2));
      case 'letter-gap-in-strokes':
        return each((part) => this.track(part, beyond, (value) => (-(value - 3.9) * capitals(part) * 14) / 100));
      case 'line-share':
        return each((part) => ((part.leading = { kind: 'percent', of: 150 }), `The lines of ${part.name} are 150 % apart.`));
      case 'character-to-border':
        return this.spread(lacking);
      case 'words-without-braille':
        return this.sayAll();
      case 'glossy':
        return this.dull();
      case 'reflectance-contrast':
        return each((part) => this.contrast(part));
      default:
        return false;
    }
  }

  private mendBraille(
    measure: MeasureName,
    dotted: readonly (ShapePart & { shape: BrailleShape })[],
    least: number | undefined,
    lacking: number,
  ): boolean {
    // prettier-ignore
    const set = (change: (part: ShapePart & { shape: BrailleShape }) => void): true => {
      for (const part of dotted) {
        change(part);
        this.say(`${part.name} has dots, cells and lines as the standard has them.`);
      }
      return true;
    };
    switch (measure) {
      case 'not-contracted':
        return set(({ shape }) => {
          const { language } = brailleTable(shape.table)!;
          const table = BRAILLE_TABLES.find((each) => each.language === language && each.isContracted);
          if (table) Object.assign(shape, { table: table.id, corrected: undefined });
          delete shape.corrected;
        });
      case 'dot-base':
      case 'dot-height':
      case 'dot-roundness':
        return set((part) => {
          part.shape.base = USUAL_BRAILLE.base;
          delete part.shape.ball;
          part.tiers = [{ ...part.tiers[0], on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: USUAL_BRAILLE.height }, edge: { kind: 'domed', width: USUAL_BRAILLE.base / 2 } }]; // prettier-ignore
        });
      case 'dot-distance':
        return set(({ shape }) => (shape.dots = USUAL_BRAILLE.dots));
      case 'cell-distance':
        return set(({ shape }) => (shape.cell = USUAL_BRAILLE.cells));
      case 'line-distance':
        return set(({ shape }) => (shape.line = USUAL_BRAILLE.lines));
      case 'braille-above':
      case 'braille-to-character':
        for (const part of dotted) {
          part.place.y = Number((part.place.y - lacking - (measure === 'braille-above' ? 9.5 : 0) - EASE).toFixed(2));
          this.say(`${part.name} is below the words, ${this.length(9.5)} or more from them.`);
        }
        return true;
      case 'braille-to-border':
        return least !== undefined && this.spread(lacking);
      default:
        return false;
    }
  }

  private raise(part: TextPart, lacking: number): string {
    const tier = part.tiers.find(({ on, action }) => on && (action.kind === 'raise' || action.kind === 'set'));
    if (tier?.action.kind === 'raise' && Number.isFinite(lacking)) tier.action.by = up(tier.action.by + lacking + EASE / 2);
    else if (tier?.action.kind === 'set' && Number.isFinite(lacking)) tier.action.to = up(tier.action.to + lacking + EASE / 2);
    else part.tiers = [{ id: part.tiers[0]?.id ?? 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by: 1 }, ...(part.tiers[0]?.finish && { finish: part.tiers[0].finish }) }]; // prettier-ignore
    return `${part.name} is raised higher.`;
  }

  /** Tracking by what the narrowest, or widest, gap of a text lacks. */
  private track(part: TextPart, beyond: readonly Measured[], more: (value: number) => number): string {
    const capHeight = this.evaluation.parts.find(({ id }) => id === part.id)?.text?.capHeight ?? 1;
    const stretch = this.evaluation.parts.find(({ id }) => id === part.id)?.text?.stretch ?? 100;
    const own = beyond.filter((measured) => measured.part === part.id).map(({ value }) => more(value));
    const most = own.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0);
    part.tracking = Math.max(-50, Math.min(1000, up(part.tracking + (100 * most) / (capHeight * (stretch / 100)))));
    return most > 0 ? `The letters of ${part.name} are farther apart.` : `The letters of ${part.name} are closer.`;
  }

  /** Borders that follow the blank go outwards with it. */
  private spread(lacking: number): true {
    const { outline } = this.sign.blank;
    if (!('width' in outline)) return true;
    outline.width = up(outline.width + 2 * (lacking + EASE));
    outline.height = up(outline.height + 2 * (lacking + EASE));
    this.say(`The blank is ${this.length(outline.width)} by ${this.length(outline.height)}, for room around what is touched.`);
    return true;
  }

  /** Braille that says all raised words: of one text by following it, else in words of its own. */
  private sayAll(): true {
    const texts = this.texts().filter(({ tiers }) => tiers.some(({ on, action }) => on && action.kind !== 'mark'));
    let [part] = this.dotted();
    if (!part) {
      this.sign.parts.push((part = newShape(this.sign, 'braille') as typeof part));
      this.say(`${part.name} is new, below the words.`);
    }
    const { shape } = part;
    delete shape.corrected;
    if (texts.length === 1) shape.follows = texts[0].id;
    else {
      delete shape.follows;
      shape.words = texts.map(({ words }) => words).join('\n');
    }
    return true;
  }

  private dull(): true {
    for (const finish of this.sign.finishes ?? []) {
      if (finish.gloss !== 'gloss' && finish.gloss !== 'metal') continue;
      finish.gloss = 'matt';
      this.say(`${finish.name} is matt.`);
    }
    return true;
  }

  /** Letters in black or white, whichever differs more from their background. */
  private contrast(part: TextPart): string {
    const { finishes = [], blank } = this.sign;
    const face = finishes.find(({ id }) => id === blank.finish?.face);
    const isDark = lightReflectance(face?.colour ?? '#d0d0d0') < 18;
    const finish = isDark
      ? ({ id: 'white-matt', name: 'white', colour: '#f4f3ee', gloss: 'matt' } as const)
      : ({ id: 'black-matt', name: 'black', colour: '#1f1f1d', gloss: 'matt' } as const);
    if (!finishes.some(({ id }) => id === finish.id)) this.sign.finishes = [...finishes, finish];
    for (const tier of part.tiers) tier.finish = { ...tier.finish, top: finish.id };
    return `${part.name} is ${finish.name}, matt.`;
  }

  private hang(beyond: readonly Measured[], least = 0, most = Infinity): void {
    const { checks } = this.sign;
    if (checks?.floor === undefined) return;
    const values = beyond.map(({ value }) => value);
    const by = Math.min(...values) < least ? least - Math.min(...values) : most - Math.max(...values);
    checks.floor = Math.round(checks.floor + by + Math.sign(by));
    this.say(`Its middle hangs ${this.length(checks.floor)} above the floor.`);
  }

  private length(mm: number): string {
    return formatLength(Number(mm.toFixed(2)), this.sign.unit);
  }

  private say(sentence: string | undefined): void {
    if (sentence) this.said.push(sentence);
  }
}
