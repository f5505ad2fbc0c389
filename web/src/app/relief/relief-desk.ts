import { heightColour, heightReach, sectionSpans } from '@plain-relief/core/drawing';
import { runPath } from '@plain-relief/core/format';
import { bounds, nearestOn, type OnRun } from '@plain-relief/core/outline';
import { heightPaint, pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type Evaluation, Evaluator, TextPartsError } from '@plain-relief/core/relief';
import type { Part, SectionLine, Sign } from '@plain-relief/core/sign';
import { coloured, type ColouredMesh, figuresOf, solidOf } from '@plain-relief/core/solid';
import { FontBook, type FontEntry, type LetterGap, type OpenedUp } from '@plain-relief/core/type';
import { transfer } from 'comlink';
import { modelOf } from './model-of';
import { planPaths } from './plan-paths';
import { screenPath } from './screen-path';
import type { FiguresView, LadderView, ModelView, PictureView, PlanView, ReliefView, SectionView, TextPieces } from './views';

/** Brings a file of the server. */
export type Fetch = (path: string) => Promise<Uint8Array>;

const read = <T>(bytes: Uint8Array): T => JSON.parse(new TextDecoder().decode(bytes)) as T;

const PRACTICE_RUNS = 24;
/** A sign that takes longer is no practice: the designer might come back meanwhile. */
const LONGEST_PRACTICE_MS = 150;

/** The worker's side: evaluates signs and turns evaluations into what the page shows. */
export class ReliefDesk {
  private book: Promise<FontBook> | undefined;
  private evaluator: Evaluator | undefined;
  private last: Evaluation | undefined;
  private solid: { readonly of: Evaluation; readonly coloured: ColouredMesh } | undefined;

  private practised = 0;
  private practice: ReturnType<typeof setTimeout> | undefined;

  /** @param practises whether spare time after the first signs is used to get the browser's compiler going */
  constructor(
    private readonly fetch: Fetch,
    private readonly practises = false,
  ) {}

  /** The fonts at hand, those that the shop added meanwhile among them. */
  async fonts(): Promise<readonly FontEntry[]> {
    const book = await this.fontBook();
    const own = await this.fetch('/api/shop/fonts').catch(() => undefined);
    if (own) book.learn(read<{ entry: FontEntry }[]>(own).map(({ entry }) => entry));
    return book.catalogue;
  }

  private fontBook(): Promise<FontBook> {
    this.book ??= Promise.all([this.fetch('/fonts/catalogue.json'), this.fetch('/api/shop/fonts')]).then(([shipped, own]) => {
      const book = new FontBook(read<FontEntry[]>(shipped), ({ file }) => this.fetch(`/fonts/${file}`));
      book.learn(read<{ entry: FontEntry }[]>(own).map(({ entry }) => entry));
      return book;
    });
    // A failed load is tried again the next time.
    this.book.catch(() => (this.book = undefined));
    return this.book;
  }

  async show(sign: Sign): Promise<ReliefView> {
    const book = await this.fontBook();
    this.evaluator ??= new Evaluator(book);
    const began = performance.now();
    const evaluation = await this.evaluator.evaluate(sign);
    this.last = evaluation;
    const { highest, lowest, notes, parts } = evaluation;
    const view = {
      plan: planView(evaluation),
      section: sectionView(evaluation, sign.section),
      ladder: ladderView(evaluation),
      notes,
      facts: {
        highest: Math.max(0, highest),
        deepest: Math.min(0, lowest),
        letters: parts.reduce((sum, part) => sum + part.letters, 0),
      },
    };
    const took = performance.now() - began;
    if (this.practises) this.practiseLater(sign, took);
    return { ...view, took };
  }

  /**
   * The first runs of the evaluation are several times slower than later ones, since the browser compiles what runs often. While
   * nothing is asked, the same sign is worked out a few times more, so that the first typed letter is not the one that waits.
   */
  private practiseLater(sign: Sign, took: number): void {
    clearTimeout(this.practice);
    if (this.practised >= PRACTICE_RUNS || took > LONGEST_PRACTICE_MS) return;
    this.practice = setTimeout(() => {
      this.practised++;
      const began = performance.now();
      planView(this.evaluator!.evaluateLoaded(sign));
      this.practiseLater(sign, performance.now() - began);
    }, 40);
  }

  /** The section of the last evaluation along another line. */
  section(line: SectionLine): SectionView | undefined {
    return this.last && sectionView(this.last, line);
  }

  /** The gaps between the letters of a text of the last sign, from left to right in each line. */
  gaps(part: string): readonly LetterGap[] {
    return this.last && this.evaluator ? this.evaluator.gaps(this.last, part) : [];
  }

  /** What opening a text of the last sign up for a tool takes. */
  openUp(part: string, diameter: number): OpenedUp | undefined {
    return this.last && this.evaluator?.openUp(this.last, part, diameter);
  }

  /** A text of the last sign as the texts of its lines or words, or why that cannot be. */
  split(part: string, into: 'lines' | 'words'): TextPieces {
    return this.pieces((evaluator, last) => evaluator.split(last, part, into));
  }

  /** The letters of a text of the last sign as plain outlines, or why that cannot be. */
  outlined(part: string): TextPieces {
    return this.pieces((evaluator, last) => evaluator.outlined(last, part));
  }

  private pieces(make: (evaluator: Evaluator, last: Evaluation) => readonly Part[]): TextPieces {
    if (!this.last || !this.evaluator) return { parts: [], refusal: 'The sign is still being laid out: try again in a moment.' };
    try {
      return { parts: make(this.evaluator, this.last) };
    } catch (error) {
      if (error instanceof TextPartsError) return { parts: [], refusal: error.message };
      throw error;
    }
  }

  /** The place on the outlines of the last sign nearest to (x, y), within reach of it in mm. */
  nearest(x: number, y: number, reach: number): OnRun | undefined {
    if (!this.last) return undefined;
    const { blank, parts } = this.last;
    const closed = [blank, ...parts.flatMap(({ ink, contours }) => (ink ? contours : []))];
    const strokes = parts.flatMap((part) => (part.ink ? part.strokes : []));
    return nearestOn([...closed.map((points) => ({ points, closed: true })), ...strokes], x, y, reach);
  }

  /** The model of the last evaluation. */
  model(): ModelView | undefined {
    if (!this.last) return undefined;
    const model = modelOf(this.colouredSolid(this.last), heightReach(this.last));
    return transfer(model, [model.positions.buffer, model.normals.buffer, model.colours.buffer, model.finishes.buffer]);
  }

  /** The last sign lit from the upper left, in its finishes or in the colours of its heights. */
  picture(longest: number, isInFinishes: boolean): PictureView | undefined {
    if (!this.last) return undefined;
    const solid = this.colouredSolid(this.last);
    const { width, height } = pictureSize(this.last, longest);
    const paint = isInFinishes ? undefined : heightPaint(solid.mesh, heightReach(this.last));
    const picture = reliefPicture(solid, width, height, paint);
    return transfer(picture, [picture.rgba.buffer]);
  }

  /** What the solid of the last sign measures. */
  figures(): FiguresView | undefined {
    if (!this.last) return undefined;
    const { volumeMm3, removedMm3, areas } = figuresOf(this.last, this.colouredSolid(this.last).mesh);
    return {
      volumeMm3,
      removedMm3,
      areas: areas.map(({ finish, ...sizes }) => ({ name: finish.name, colour: finish.colour, ...sizes })),
    };
  }

  /** The solid is made once for model, picture and figures. */
  private colouredSolid(evaluation: Evaluation): ColouredMesh {
    if (this.solid?.of !== evaluation) this.solid = { of: evaluation, coloured: coloured(evaluation, solidOf(evaluation)) };
    return this.solid.coloured;
  }
}

function planView(evaluation: Evaluation): PlanView {
  const { blank, parts, sign } = evaluation;
  const names = new Map(sign.parts.map((part) => [part.id, part.name]));
  return {
    blank: bounds([blank])!,
    edge: screenPath([blank], true),
    paths: planPaths(evaluation),
    parts: parts.map(({ id, ink, caps, frame, letters, text }) => ({
      id,
      caps,
      name: names.get(id) ?? id,
      ink,
      frame: screenPath([frame], true),
      letters,
      text,
      isFramed: sign.parts.some((part) => part.id === id && part.kind === 'text' && part.frame !== undefined),
    })),
  };
}

function sectionView(evaluation: Evaluation, line: SectionLine): SectionView {
  const spans = sectionSpans(evaluation, line);
  const back = -evaluation.sign.blank.thickness;
  const reach = heightReach(evaluation);
  const bodies: string[] = [];
  let run: number[] = [];
  const close = (end: number) => {
    if (run.length > 0) bodies.push(runPath(Float64Array.from([...run, end, back, run[0], back]), true));
    run = [];
  };
  spans.forEach(({ from, to, z, zEnd }, i) => {
    if (i > 0 && from - spans[i - 1].to > 1e-6) close(spans[i - 1].to);
    run.push(from, z, to, zEnd);
  });
  if (spans.length > 0) close(spans[spans.length - 1].to);
  return {
    bodies,
    surfaces: spans.map(({ from, to, z, zEnd }) => ({ from, to, z, zEnd, colour: heightColour((z + zEnd) / 2, reach) })),
    from: spans[0]?.from ?? 0,
    to: spans[spans.length - 1]?.to ?? 0,
    top: Math.max(0, evaluation.highest),
    bottom: back,
  };
}

function ladderView(evaluation: Evaluation): LadderView {
  const { sign, levels, rungs } = evaluation;
  const reach = heightReach(evaluation);
  const back = -sign.blank.thickness;
  const names = new Map(sign.parts.map((part) => [part.id, part.name]));
  const shown = rungs.map(({ part, tier, z, reached }) => ({
    part,
    tier,
    name: names.get(part) ?? part,
    z: Number.isFinite(z) ? z : back,
    reached,
    isThrough: !Number.isFinite(z),
    colour: Number.isFinite(z) ? heightColour(z, reach) : 'none',
  }));
  return {
    top: Math.max(0, ...shown.map(({ z }) => z)),
    back,
    rungs: shown,
    levels: levels.map(({ z, areaMm2 }) => ({ z, areaMm2, colour: heightColour(z, reach) })),
  };
}
