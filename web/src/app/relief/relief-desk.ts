import { notesOf } from '@plain-relief/core/checks';
import {
  bodies,
  edgeOf,
  heightColour,
  heightReach,
  lineSeenFrom,
  profileOf,
  sectionSpans,
  spaceSection,
  stretchCells,
  supportFigures,
  supportLines,
} from '@plain-relief/core/drawing';
import { runPath } from '@plain-relief/core/format';
import { bounds, nearestOn, type OnPolyline } from '@plain-relief/core/geometry';
import { proposedMachine, proposedTools, type SignRemedy, signRemedies, type Standing } from '@plain-relief/core/making';
import { heightPaint, pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type PrintChoice, printFindings, printSentences, proposedLines, type SplitLines } from '@plain-relief/core/processes';
import { type Evaluation, Evaluator, partsSeen, TextPartsError } from '@plain-relief/core/relief';
import { liesHalfTurned, type Turning } from '@plain-relief/core/cutting';
import {
  Dictionary,
  type Words,
  type Finding,
  type FindingRemedy,
  inspect,
  judged,
  type Limits,
  madeToMeet,
  type Met,
  remediesOf,
  standardOf,
  told,
} from '@plain-relief/core/inspection';
import { materialFor, type Shop, type ShopTool } from '@plain-relief/core/shop';
import { extentOfOne, type Part, type SectionLine, type Side, type Sign } from '@plain-relief/core/sign';
import { coloured, type ColouredMesh, figuresOf, inSpaceOrFlat, signModel, solidOf } from '@plain-relief/core/solid';
import { type FontBook, type FontEntry, type LetterGap, type OpenedUp } from '@plain-relief/core/type';
import { transfer } from 'comlink';
import { modelOf } from './model-of';
import type { Fetch } from './fetch-bytes';
import { pageFonts, readJson } from './page-fonts';
import { planPaths } from './plan-paths';
import { screenRings } from './screen-path';
import type {
  FiguresView,
  InspectionView,
  LadderView,
  ModelView,
  PictureView,
  PlanView,
  ProposalsView,
  ReliefView,
  SectionView,
  SpaceSectionView,
  TextPieces,
} from './views';

const WARM_UP_RUNS = 24;
/** A sign that takes longer is no practice: the designer might come back meanwhile. */
const LONGEST_WARM_UP_MS = 150;
/** mm by which chords of the model may lie beside the surface that it is bent to: its shading is smooth. */
const MODEL_CHORDS = 0.1;

/** The worker's side: evaluates signs and turns evaluations into what the page shows. */
export class ReliefDesk {
  private book: Promise<FontBook> | undefined;
  private evaluator: Evaluator | undefined;
  private last: Evaluation | undefined;
  private solid: { readonly of: Evaluation; readonly coloured: ColouredMesh } | undefined;
  private space: { readonly of: Evaluation; readonly coloured: ColouredMesh } | undefined;

  private warmUps = 0;
  private warmUp: ReturnType<typeof setTimeout> | undefined;

  /** @param warmsUp whether spare time after the first signs is used to get the browser's compiler going */
  constructor(
    private readonly fetch: Fetch,
    private readonly warmsUp = false,
  ) {}

  /** The fonts at hand, those that the shop added meanwhile among them. */
  async fonts(): Promise<readonly FontEntry[]> {
    const book = await this.fontBook();
    const own = await this.fetch('/api/shop/fonts').catch(() => undefined);
    if (own) book.learn(readJson<{ entry: FontEntry }[]>(own).map(({ entry }) => entry));
    return book.catalogue;
  }

  private fontBook(): Promise<FontBook> {
    this.book ??= pageFonts(this.fetch);
    // A failed load is tried again the next time.
    this.book.catch(() => (this.book = undefined));
    return this.book;
  }

  /** @param side that the views are seen from */
  async show(sign: Sign, side: Side = 'front'): Promise<ReliefView> {
    const book = await this.fontBook();
    this.evaluator ??= new Evaluator(book);
    const began = performance.now();
    const evaluation = await this.evaluator.evaluate(sign, side);
    this.last = evaluation;
    const { highest, deepest, thinnest, parts } = evaluation;
    const view = {
      plan: planView(evaluation),
      section: sectionView(evaluation, lineSeenFrom(sign.section, side)),
      ladder: ladderView(evaluation),
      notes: notesOf(evaluation),
      facts: {
        highest: Math.max(0, highest),
        deepest,
        thinnest,
        letters: parts.reduce((sum, part) => sum + part.letters, 0),
      },
    };
    const took = performance.now() - began;
    if (this.warmsUp) this.warmUpLater(sign, side, took);
    return { ...view, side, took };
  }

  /** What the sign that was shown last is made with where nobody has chosen. */
  proposals(shop: Shop): ProposalsView | undefined {
    const evaluation = this.last;
    if (!evaluation) return undefined;
    return {
      machine: proposedMachine(evaluation, shop)?.id,
      material: materialFor(shop, evaluation.sign.blank.material)?.id,
      tools: proposedTools(evaluation, shop).map(({ id }) => id),
    };
  }

  /**
   * The first runs of the evaluation are several times slower than later ones, since the browser compiles what runs often. While
   * nothing is asked, the same sign is worked out a few times more, so that the first typed letter is not the one that waits.
   */
  private warmUpLater(sign: Sign, side: Side, took: number): void {
    clearTimeout(this.warmUp);
    if (this.warmUps >= WARM_UP_RUNS || took > LONGEST_WARM_UP_MS) return;
    this.warmUp = setTimeout(() => {
      this.warmUps++;
      const began = performance.now();
      planView(this.evaluator!.evaluateLoaded(sign, side));
      this.warmUpLater(sign, side, performance.now() - began);
    }, 40);
  }

  /** The section of the last evaluation along another line of the sign. */
  section(line: SectionLine): SectionView | undefined {
    return this.last && sectionView(this.last, lineSeenFrom(line, this.last.side));
  }

  /** The last sign in space cut by the plane that stands square to its surface along a line, or is level there; undefined of one that is flat. */
  spaceSection(line: SectionLine): SpaceSectionView | undefined {
    const { last } = this;
    if (!last?.sign.support || last.side !== 'front') return undefined;
    const outline = spaceSection(last.sign, this.modelInSpace(last).mesh, line);
    const box = bounds(outline);
    return box && { d: screenRings(outline), box, words: supportFigures(last, { line }) };
  }

  /** The gaps between the letters of a text of the last sign, from left to right in each line. */
  gaps(part: string): readonly LetterGap[] {
    return this.last && this.evaluator ? this.evaluator.gaps(this.last, part) : [];
  }

  /** What opening a text of the last sign up for a tool takes. */
  openUp(part: string, diameter: number): OpenedUp | undefined {
    return this.last && this.evaluator?.openUp(this.last, part, diameter);
  }

  /** What could be changed of the last sign for what tools left of it. */
  signRemedies(left: readonly Standing[], tools: readonly ShopTool[], turning: Turning | undefined): readonly SignRemedy[] {
    const { last, evaluator } = this;
    if (!last || !evaluator) return [];
    const isTurned = liesHalfTurned(last.side, turning);
    const seen = left.map(({ cause, region }) => ({
      cause,
      region: isTurned ? region.map((contour) => contour.map((mm) => -mm)) : region,
    }));
    return signRemedies(evaluator, last, seen, tools);
  }

  /** What words are looked up in; nothing is said of them where it does not come. */
  private dictionary: Promise<Dictionary | undefined> | undefined;
  private words: Words = {};

  private async wordsOf(own: readonly string[]): Promise<Words> {
    const text = async (path: string) => new TextDecoder().decode(await this.fetch(path));
    const files = async (place: string) => {
      const [aff, dic] = await Promise.all([text(`/dictionaries/${place}/index.aff`), text(`/dictionaries/${place}/index.dic`)]);
      return { aff, dic };
    };
    this.dictionary ??= Promise.all(['en', 'en-au'].map(files)).then(
      (all) => new Dictionary(all),
      () => undefined,
    );
    const dictionary = await this.dictionary;
    // Tried again with the next sign.
    if (!dictionary) this.dictionary = undefined;
    return dictionary?.learn(own) ?? {};
  }

  /** What is measured of a sign beyond limits, and how it meets the standard that it is to meet; nothing else of it is worked out. */
  async inspect(sign: Sign, side: Side, limits: Limits, own: readonly string[] = []): Promise<InspectionView> {
    this.words = await this.wordsOf(own);
    const began = performance.now();
    const evaluator = (this.evaluator ??= new Evaluator(await this.fontBook()));
    const last = (this.last = await evaluator.evaluate(sign, side));
    const solid = solidOf(last);
    performance.measure('evaluation and solid to check', { start: began });
    const solidAt = performance.now();
    const { findings, off } = told(last, inspect(last, limits, this.words, solid));
    const standard = standardOf(last.sign.checks?.standard);
    const clauses = standard && judged(standard, last, evaluator);
    performance.measure('checks', { start: solidAt });
    return { findings, off, clauses, took: performance.now() - began };
  }

  /** What mends a finding of the last sign, tried. */
  remediesOf(finding: Finding, limits: Limits): readonly FindingRemedy[] {
    const { last, evaluator } = this;
    return last && evaluator ? remediesOf(finding, last, evaluator, limits, this.words) : [];
  }

  /** The last sign changed so that it meets its standard, but for words that are yet to be translated. */
  async madeToMeet(): Promise<Met | undefined> {
    const { last, evaluator } = this;
    const standard = standardOf(last?.sign.checks?.standard);
    return last && evaluator && standard ? madeToMeet(standard, last.sign, evaluator) : undefined;
  }

  /** What a printer would have trouble with of the last sign, in sentences. */
  printFindings(choice: PrintChoice): readonly string[] {
    const { last } = this;
    return last
      ? printSentences(printFindings(last, inSpaceOrFlat(last, solidOf(last, 'all but inserts')).mesh, choice), choice)
      : [];
  }

  /** Lines that make the last sign into pieces no larger than a bed, beside letters where they can be. */
  printLines(width: number, depth: number): SplitLines | undefined {
    const { last } = this;
    if (!last) return undefined;
    const { minX, minY, maxX, maxY } = bounds([last.blank])!;
    const boxes = last.parts.flatMap(({ area }) => area.contours.map((contour) => bounds([contour])!));
    return {
      upright: proposedLines(minX, maxX, width, boxes.map((box) => [box.minX, box.maxX])), // prettier-ignore
      level: proposedLines(minY, maxY, depth, boxes.map((box) => [box.minY, box.maxY])), // prettier-ignore
    };
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
  nearest(x: number, y: number, reach: number): OnPolyline | undefined {
    if (!this.last) return undefined;
    const parts = partsSeen(this.last).filter(({ ink }) => ink);
    const closed = [...edgeOf(this.last), ...parts.flatMap((part) => part.area.contours)];
    const strokes = parts.flatMap((part) => part.strokes);
    return nearestOn([...closed.map((points) => ({ points, closed: true })), ...strokes], x, y, reach);
  }

  /** The model of the last evaluation. */
  model(): ModelView | undefined {
    if (!this.last) return undefined;
    const model = modelOf(this.modelInSpace(this.last), heightReach(this.last));
    const { positions, normals, colours, finishes } = model;
    return transfer(model, [positions.buffer, normals.buffer, colours.buffer, finishes.buffer]);
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
    const { volumeMm3, removedMm3, areas, inserts } = figuresOf(this.last, this.colouredSolid(this.last).mesh);
    return {
      volumeMm3,
      removedMm3,
      inserts,
      areas: areas.map(({ finish, ...sizes }) => ({ name: finish.name, colour: finish.colour, ...sizes })),
    };
  }

  /** The sign as it is in space, where it is bent around something. */
  private modelInSpace(evaluation: Evaluation): ColouredMesh {
    const flat = this.colouredSolid(evaluation);
    if (!evaluation.sign.support) return flat;
    if (this.space?.of !== evaluation) this.space = { of: evaluation, coloured: signModel(evaluation, flat.mesh, MODEL_CHORDS) };
    return this.space.coloured;
  }

  /** The solid is made once for model, picture and figures. */
  private colouredSolid(evaluation: Evaluation): ColouredMesh {
    if (this.solid?.of !== evaluation) this.solid = { of: evaluation, coloured: coloured(evaluation, solidOf(evaluation)) };
    return this.solid.coloured;
  }
}

function planView(evaluation: Evaluation): PlanView {
  const { blank, kept, sign } = evaluation;
  const names = new Map(sign.parts.map((part) => [part.id, part.name]));
  const copies = new Map(sign.parts.map((part) => [part.id, part.copies]));
  return {
    blank: bounds([blank])!,
    edge: screenRings(edgeOf(evaluation)),
    sheet: kept && sign.support?.kind !== 'block' ? screenRings([blank]) : undefined,
    paths: planPaths(evaluation),
    bends: supportLines(evaluation),
    stretch: stretchCells(evaluation).map((cell) => ({ ...cell, colour: stretchColour(cell.share, evaluation.sign) })),
    parts: partsSeen(evaluation).map(({ id, ink, caps, frame, letters, text, slots }) => ({
      id,
      caps,
      name: names.get(id) ?? id,
      ink,
      extent: ink && extentOfOne({ width: ink.maxX - ink.minX, height: ink.maxY - ink.minY }, copies.get(id)),
      frame: screenRings([frame]),
      ...(slots && { slots: screenRings(slots.map((slot) => slot.frame)) }),
      letters,
      text,
      isFramed: sign.parts.some((part) => part.id === id && part.kind === 'text' && part.frame !== undefined),
    })),
  };
}

/** The colour of a stretch: blue where the surface is shorter than the plan, red where longer, full at the limit of the sign. */
function stretchColour(share: number, { support }: Sign): string {
  const limit = support && 'stretch' in support ? Math.max(0.5, support.stretch) / 100 : 0.03;
  const strength = Math.round(100 * Math.min(1, Math.abs(share) / limit));
  return `color-mix(in srgb, ${share < 0 ? '#33658a' : '#a5281f'} ${strength}%, #fbf7ee)`;
}

function sectionView(evaluation: Evaluation, line: SectionLine): SectionView {
  const spans = sectionSpans(evaluation, line);
  const reach = heightReach(evaluation);
  const profiles = bodies(spans).map((body) => Float64Array.from(profileOf(body)));
  return {
    line,
    profiles,
    bodies: profiles.map((profile) => runPath(profile, true)),
    surfaces: spans.map(({ from, to, z, zEnd }) => ({ from, to, z, zEnd, colour: heightColour((z + zEnd) / 2, reach) })),
    from: spans[0]?.from ?? 0,
    to: spans[spans.length - 1]?.to ?? 0,
    top: Math.max(0, evaluation.highest),
    bottom: Math.min(-evaluation.sign.blank.thickness, evaluation.rearmost),
  };
}

function ladderView(evaluation: Evaluation): LadderView {
  const { sign, levels, rungs, side } = evaluation;
  const reach = heightReach(evaluation);
  const back = -sign.blank.thickness;
  const names = new Map(sign.parts.map((part) => [part.id, part.name]));
  const shown = rungs
    .filter((rung) => rung.side === side)
    .map(({ part, tier, z, reached }) => ({
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
    limit: side === 'front' ? sign.heightLimit : undefined,
    side,
    rungs: shown,
    levels: levels.map(({ z, areaMm2 }) => ({ z, areaMm2, colour: heightColour(z, reach) })),
  };
}
