import { LRUCache } from 'lru-cache';
import { bounds, boxRing, insideLeft, type Contour, CoordinateError, type Outline } from '../../geometry/index.js';
import { connectedComponents, ContourSet, NodingMemory } from '../../arrangement/index.js';
import {
  baseLevels,
  type BlockFace,
  faceAt,
  facesOf,
  laidBlock,
  fontsOf,
  outlinesUsed,
  type Part,
  type ShapePart,
  type Side,
  sideOf,
  type Sign,
  type TextPart,
  tierLevel,
} from '../../sign/index.js';
import {
  type FontBook,
  type FontEntry,
  type FontMeasures,
  fontMeasures,
  type LetterGap,
  letterGaps,
  openUp,
  type OpenedUp,
  setBlock,
} from '../../type/index.js';
import { CutToPlans, planOfFaces } from './cut-to.js';
import { evaluated } from './evaluated.js';
import { type Evaluation, type PartPlan, type PartRole, type Rung, type Short } from './evaluation.js';
import { type Known, type LaidBlank, layOut } from './laying.js';
import { edgeLayer, type Layer, layersOf } from '../placing/layers.js';
import { type LetterPlace, letterPlaces } from '../placing/letter-places.js';
import { mirroredRing } from '../placing/mirrored.js';
import {
  blankOutline,
  copied,
  copiesNote,
  type PlacedPart,
  placeShape,
  placeText,
  type Surroundings,
  textChoice,
} from '../placing/part-outline.js';
import { type GroundPlane, groundPlanes, type PlaneOf, planesOfSign } from './planes-of-sign.js';
import { layersAllRound } from './round-layers.js';
import { SlopeMeshes } from '../slopes/slope-mesh.js';
import { outlinedText, splitText, TextPartsError } from '../placing/text-parts.js';
import { note } from '../../notes/index.js';
import { trackOf } from '../placing/text-track.js';
import { HiddenError, View, viewFromBefore } from './projected.js';
import { surfaceOf, type SupportSurface } from '../../support/index.js';
import { reachOf, TierAreas } from '../placing/tier-area.js';
import { Fields } from '../slopes/embedded-slopes.js';

const byId = (parts: readonly PartPlan[]): ReadonlyMap<string, PartPlan> => new Map(parts.map((part) => [part.id, part]));

const MOST_REMEMBERED = 1000;
/** mm by which a slope may stay below its height before that counts. */
const LEAST_SHORT = 0.01;

/**
 * Evaluates signs. It keeps the outlines of parts from one evaluation to the next, so that an edit works out again only
 * the part it touches; results do not depend on what is kept.
 */
export class Evaluator implements Known {
  private readonly remembered = new LRUCache<string, PlacedPart>({ max: MOST_REMEMBERED });
  private readonly blanks = new Map<string, Contour>();
  private readonly areas = new TierAreas();
  readonly fields = new Fields();
  readonly slopeMeshes = new SlopeMeshes(this.fields);
  readonly memory = new NodingMemory();
  private readonly cutTo = new CutToPlans();

  constructor(private readonly book: FontBook) {}

  /**
   * Loads the fonts of a sign, then evaluates it. The sign is not changed.
   * @param side that is turned to the reader
   */
  async evaluate(sign: Sign, side: Side = 'front'): Promise<Evaluation> {
    await this.book.need(fontsOf(sign));
    return this.evaluateLoaded(sign, side);
  }

  /** The same where the fonts are loaded. @throws FontError where one is not */
  evaluateLoaded(sign: Sign, side: Side = 'front'): Evaluation {
    const blank = this.blankOf(sign, side);
    const faces = facesOf(sign.support);
    const bases = baseLevels(sign);
    const planeOf = planesOfSign(sign, side);
    const groundOf = groundPlanes(sign, planeOf, bases);
    const layers: Layer[] = [];
    const rungs: Rung[] = [];
    const parts: PartPlan[] = [];
    const placedParts = new Map<string, PlacedPart>();
    const keys = new Map<string, string>();
    const sources = new Set(sign.parts.flatMap((part) => outlinesUsed(part).map(({ id }) => id)));
    for (const part of sign.parts) {
      try {
        const own = faces.length > 0 ? outlineAround(part, faces) : this.blankOf(sign, sideOf(part));
        const placed = this.place(part, { sign, blank: own, placed: placedParts }, keys, groundOf(part));
        placedParts.set(part.id, placed);
        const isSource = sources.has(part.id) || Boolean(sign.blank.cutTo?.parts.includes(part.id));
        const role = roleOf(part, isSource);
        const made =
          role === 'made'
            ? this.layersOf(part, sign, placed, bases.get(part.id) ?? 0, planeOf, sideOf(part) !== side)
            : { layers: [], rungs: [] };
        layers.push(...made.layers);
        rungs.push(...made.rungs);
        parts.push({ id: part.id, ...placed, role, ...(role === 'hidden' && { ink: undefined }) });
      } catch (error) {
        if (!(error instanceof CoordinateError)) throw error;
        const nothing = { frame: new Float64Array(), letters: 0, area: ContourSet.EMPTY, strokes: [], notes: [] };
        parts.push({ id: part.id, ...nothing, role: 'too far' });
      }
    }
    const cut = faces.length > 0 ? planOfFaces(faces, side) : this.cutTo.plan(sign, side, placedParts);
    const kept = cut.kept?.contours;
    const all = layersAllRound(sign, [...edgeLayers(sign, side, kept ?? [blank]), ...cut.layers, ...layers]);
    const found = { rungs, parts, side, kept, cutNotes: cut.notes, ...(cut.studs && { studs: cut.studs }) };
    return evaluated(sign, blank, all, found, layOut(laidBlank(sign, side, blank), all, this));
  }

  /** The gaps between the letters of a text part, from left to right in each line. */
  gaps({ sign, parts }: Evaluation, id: string): LetterGap[] {
    const part = sign.parts.find((other) => other.id === id);
    if (part?.kind !== 'text' || !this.book.entry(part.font)) return [];
    return letterGaps(setBlock(this.book, textChoice(part, this.book, sign.slots), trackOf(part, sign, byId(parts))));
  }

  /** The letters of a text part as they lie in the plan, line by line as they are read; none of a part that is not seen. */
  letters({ sign, parts }: Evaluation, id: string): LetterPlace[] {
    const part = sign.parts.find((other) => other.id === id);
    if (part?.kind !== 'text' || part.hidden || !this.book.entry(part.font)) return [];
    const places = letterPlaces(part, this.book, trackOf(part, sign, byId(parts)), sign.slots);
    const ground = groundPlanes(sign, planesOfSign(sign, 'front'), baseLevels(sign))(part);
    return lettersAsLaid(places, part, sign, ground);
  }

  /** A font's entry in the catalogue. */
  fontEntry(id: string): FontEntry | undefined {
    return this.book.entry(id);
  }

  /** Proportions of a font of the sign. */
  fontMeasures(id: string): FontMeasures | undefined {
    return this.book.entry(id) && fontMeasures(this.book, id);
  }

  /** What opening a text part up for a tool takes; undefined where no gap can open. */
  openUp({ sign, parts }: Evaluation, id: string, diameter: number): OpenedUp | undefined {
    const part = sign.parts.find((other) => other.id === id);
    if (part?.kind !== 'text' || !this.book.entry(part.font)) return undefined;
    return openUp(this.book, textChoice(part, this.book, sign.slots), diameter, trackOf(part, sign, byId(parts)));
  }

  /** A text part as the parts of its lines or words. @throws TextPartsError */
  split({ sign }: Evaluation, id: string, into: 'lines' | 'words'): TextPart[] {
    return splitText(sign, textPart(sign, id), into, this.book);
  }

  /** The letters of a text part as plain outlines. @throws TextPartsError */
  outlined({ sign, parts }: Evaluation, id: string): ShapePart[] {
    return outlinedText(sign, textPart(sign, id), this.book, byId(parts));
  }

  private layersOf(
    part: Part,
    sign: Sign,
    placed: PlacedPart,
    base: number,
    planeOf: PlaneOf,
    isBehind: boolean,
  ): { layers: Layer[]; rungs: Rung[] } {
    const { thickness } = sign.blank;
    const layers = layersOf(part, placed, base, this.areas, (tier) => planeOf(part, tier), isBehind ? thickness : undefined);
    const rungs = layers.flatMap((layer): Rung[] => {
      if (layer.isMore) return [];
      const found = this.shortOf(layer, isBehind ? -thickness - base : base);
      const short = found && isBehind ? { ...found, highest: -thickness - found.highest } : found;
      const lost = this.areas.swallowed(placed, layer.of);
      const swallowed = lost && { ...lost, reach: reachOf(layer.of.area, placed) };
      const z = tierLevel(layer.of, base);
      return [{ part: part.id, tier: layer.tier, side: sideOf(part), z, reached: short?.highest, short, swallowed }];
    });
    return { layers, rungs };
  }

  /** Where strokes are too narrow for a slope to come to its height: the heights above the base that it comes to. */
  private shortOf({ profile, area, level }: Layer, base: number): Short | undefined {
    // What leans outwards comes to its level by growing.
    if (!profile || area.isEmpty || level) return undefined;
    const heights = connectedComponents(area).map((outline) =>
      Math.abs(profile.at(this.fields.field({ outline: insideLeft(outline) }, profile).field.deepest) - base),
    );
    const sign = profile.end < base ? -1 : 1;
    const full = Math.abs(profile.end - base);
    if (heights.every((height) => height > full - LEAST_SHORT)) return undefined;
    return { lowest: Math.min(...heights), highest: base + sign * Math.max(...heights), full };
  }

  private blankOf(sign: Sign, side: Side): Contour {
    const block = sign.support?.kind === 'block' ? sign.support : undefined;
    const key = `${side} ${JSON.stringify(block ?? sign.blank.outline)}`;
    let contour = this.blanks.get(key);
    if (!contour) {
      const seen = block ? boxRing(laidBlock(block).box) : blankOutline(sign.blank);
      if (this.blanks.size > 4) this.blanks.clear();
      this.blanks.set(key, (contour = side === 'front' ? seen : mirroredRing(seen)));
    }
    return contour;
  }

  /** @param keys what each earlier part was remembered by; a part that follows others changes with them */
  private place(part: Part, around: Surroundings, keys: Map<string, string>, ground?: GroundPlane): PlacedPart {
    const { sign } = around;
    const followed = outlinesUsed(part).map(({ id }) => keys.get(id));
    const followsBlank =
      part.kind === 'shape' && ((part.shape.kind === 'border' && part.shape.of === 'blank') || part.shape.kind === 'fixings');
    const key = JSON.stringify([
      sign.unit,
      { ...part, tiers: 0, sitsOn: 0, group: 0, locked: 0, bridges: 0 },
      followed,
      ground ? ground.key : 0,
      part.kind === 'text' && part.projected ? [sign.support, sign.blank.thickness] : 0,
      part.kind === 'text' && part.words.includes('{') ? (sign.slots ?? []).map(({ name }) => name) : 0,
      followsBlank || part.copies?.kind === 'faces' || (part.kind === 'text' && part.path?.kind === 'sides')
        ? sign.support?.kind === 'block'
          ? sign.support
          : sign.blank.outline
        : 0,
    ]);
    keys.set(part.id, key);
    let placed = this.remembered.get(key);
    if (!placed) {
      const set = part.kind === 'text' ? placeText(part, this.book, around) : placeShape(part, around);
      const one = ground ? onGround(set, part, sign, ground) : part.kind === 'text' ? seenFromBefore(set, part, sign) : set;
      placed = copied(one, part.copies, part.place, facesOf(sign.support));
      const merged = copiesNote(part, one, sign.unit);
      if (merged.length > 0) placed = { ...placed, notes: [...placed.notes, ...merged] };
      this.remembered.set(key, placed);
    }
    return placed;
  }
}

/** A part as it is true in the plane that it sits on; where it reaches too far round, which is told, as in the plan. */
function onGround(placed: PlacedPart, part: Part, sign: Sign, ground: GroundPlane): PlacedPart {
  try {
    return viewInPlane(ground, surfaceOf(sign)!, part).part(placed);
  } catch (error) {
    if (!(error instanceof HiddenError)) throw error;
    return { ...placed, notes: [...placed.notes, note('support-hidden', { part: part.id }, part.name)] };
  }
}

/** The surface that a text is laid on as it looks from before its place; undefined where it lies as in the plan. */
const projectedOn = (part: TextPart, sign: Sign): SupportSurface | undefined =>
  part.projected && sign.support?.kind !== 'block' ? surfaceOf(sign) : undefined;

const viewInPlane = ({ plane, at, level }: GroundPlane, surface: SupportSurface, part: Part): View =>
  new View(surface, at, senseOf(part), (x, y) => plane.heightFromFront(x, y, level));

const senseOf = (part: Part): 1 | -1 => (sideOf(part) === 'back' ? -1 : 1);

/** Letters laid on what the sign is bent around as they look from before their place, where that is asked for and can be. */
function seenFromBefore(placed: PlacedPart, part: TextPart, sign: Sign): PlacedPart {
  const surface = projectedOn(part, sign);
  if (!surface) return placed;
  try {
    return viewFromBefore(part.place, surface, senseOf(part)).part(placed);
  } catch (error) {
    if (!(error instanceof HiddenError)) throw error;
    return { ...placed, notes: [...placed.notes, note('support-hidden', { part: part.id }, part.name)] };
  }
}

/** Single letters as they are laid: in the plane that they sit on, or as they look from before. */
function lettersAsLaid(letters: readonly LetterPlace[], part: TextPart, sign: Sign, ground?: GroundPlane): LetterPlace[] {
  const surface = ground ? surfaceOf(sign) : projectedOn(part, sign);
  if (!surface) return [...letters];
  const view = ground ? viewInPlane(ground, surface, part) : viewFromBefore(part.place, surface, senseOf(part));
  try {
    return letters.map((letter) => {
      const outline = view.rings(letter.outline);
      return { ...letter, outline, box: bounds(outline)! };
    });
  } catch (error) {
    if (!(error instanceof HiddenError)) throw error;
    return [...letters];
  }
}

/** The outline of the face of a block that a part is on, about its middle. */
const outlineAround = ({ place }: Part, faces: readonly BlockFace[]): Contour => {
  const { outline, x, y } = faceAt(faces, place.x, place.y)!;
  return outline.map((value, i) => value - (i % 2 === 0 ? x : y));
};

/** What becomes of a part. @param isSource others are made from it: that it makes nothing itself is as it should be then */
function roleOf({ tiers, hidden }: Part, isSource: boolean): PartRole {
  if (isSource && tiers.every(({ on }) => !on)) return 'source';
  return hidden ? 'hidden' : 'made';
}

/** The blank as it is laid with a side turned to the reader. */
function laidBlank({ blank: { thickness, finish } }: Sign, side: Side, contour: Contour): LaidBlank {
  const [face, back] = side === 'front' ? [finish?.face, finish?.back] : [finish?.back, finish?.face];
  return {
    contour,
    thickness,
    isFacePainted: Boolean(face ?? finish?.sides),
    isBackPainted: Boolean(back ?? finish?.sides),
    sides: finish?.sides,
  };
}

/** The edge forms of a blank, that of the side turned to the reader first. */
function edgeLayers({ blank }: Sign, side: Side, outline: Outline): Layer[] {
  const { edge, backEdge, finish, thickness } = blank;
  const front = { edge, face: finish?.face, sides: finish?.sides };
  const back = { edge: backEdge, face: finish?.back, sides: finish?.sides };
  const [near, far] = side === 'front' ? [front, back] : [back, front];
  return [edgeLayer(near, outline, thickness, false), edgeLayer(far, outline, thickness, true)].flatMap((layer) => layer ?? []);
}

function textPart(sign: Sign, id: string): TextPart {
  const part = sign.parts.find((other) => other.id === id);
  if (part?.kind !== 'text') throw new TextPartsError('Only words can be taken apart or turned into outlines.');
  return part;
}
