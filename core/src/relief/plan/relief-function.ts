import { type Windings } from '../../arrangement/index.js';
import { type Layer } from '../placing/layers.js';
import { type SupportPlane } from '../../support/index.js';
import { higher, lower, HeightProfile } from '../profile/height-profile.js';
import { type PlanLayers, reliefLayersIn } from './plan-layers.js';
import { type EmbeddedSlope } from '../slopes/embedded-slopes.js';

/** What a surface over a place of the plan is made by. */
interface Made {
  /** Of the relief; {@link FACE_LAYER} for the face of the blank. */
  readonly layer: number;
  /** The layer that coloured it since. */
  readonly marked?: number;
}

/** The surface over a place of the plan. */
export type Surface = Made &
  (
    | /** Level: so far from the face, or from a plane. */ LevelSurface
      /** The slope of a letter that nothing comes near, by the distance from its edge. */
    | { readonly kind: 'profile'; readonly profile: HeightProfile }
    /** A slope that is embedded in the plan, between two of its lines. */
    | { readonly kind: 'embedded'; readonly embedded: EmbeddedSlope; readonly band: number }
  );

/** A level, by its number: mm above the face; on a plane that is its height only where the plane touches the surface. */
export interface LevelSurface {
  readonly kind: 'level';
  readonly z: number;
  readonly plane?: SupportPlane;
  /** Of one in a plane the surface of the other side, to which it comes no nearer than {@link LEAST_LEFT}. */
  readonly beside?: Surface;
  /** Whether it is the lower one of both. */
  readonly isUnder?: true;
}

/** A level that lies in a plane. */
export type LevelInPlane = LevelSurface & { readonly plane: SupportPlane };

/** mm of material that a level in a plane leaves above the other side. */
export const LEAST_LEFT = 0.02;

/** Layer of a surface that is the face of the blank, or its back. */
export const FACE_LAYER = -1;
export const BACK_LAYER = -2;

/** What the relief function makes of a place: material between two surfaces, or none; with what had an effect. */
export interface ReliefValue {
  readonly material?: Material;
  /** Whether it lies outside of all that is kept. */
  readonly isOutside?: boolean;
  /** Two layers, one of either side, that leave nothing between them. */
  readonly met?: readonly [number, number];
  /** Layers that changed what was there. */
  readonly effective: readonly number[];
  /** Layers that changed nothing, and the height of what was there before. */
  readonly idle: readonly { readonly layer: number; readonly z: number }[];
  /** Layers that lie over the place. */
  readonly present: readonly number[];
  /** Sloped letters, taken for isolated ones, that stand on a slope and must be embedded too. */
  readonly notEmbedded: readonly number[];
}

/** What there is over and under a place of the plan. */
export interface Material {
  readonly surface: Surface;
  /** The side that is turned away. */
  readonly under: Surface;
  /** How it came to that, in build order. */
  readonly steps: readonly Step[];
}

/** The heights through which a layer changed a place: what stands upright between them it has made. */
export interface Step {
  readonly layer: number;
  readonly low: number;
  readonly high: number;
}

/** Levels nearer than this are one: it is far below what any machine can make. */
export const LEVEL_STEP = 1e-6;

/** The relief function on the windings of a place. */
export class ReliefFunction {
  private readonly embeddedAt = new Map<number, EmbeddedSlope>();
  private readonly keeps: boolean;

  constructor(
    private readonly layers: readonly Layer[],
    embedded: readonly EmbeddedSlope[],
    private readonly numbers: PlanLayers,
    private readonly thickness: number,
  ) {
    for (const each of embedded) this.embeddedAt.set(each.layer, each);
    this.keeps = layers.some(({ operation }) => operation === 'keep');
  }

  /** @param windings of a place on the blank */
  at(windings: Windings): ReliefValue {
    const { layers, thickness } = this;
    const there = new Set<number>();
    for (let i = 0; i < windings.length; i += 2) there.add(windings[i]);
    const effective: number[] = [];
    const present: number[] = [];
    const notEmbedded: number[] = [];
    const idle: { layer: number; z: number }[] = [];
    let material: Material | undefined = {
      surface: { kind: 'level', z: 0, layer: FACE_LAYER },
      under: { kind: 'level', z: -thickness, layer: BACK_LAYER },
      steps: [],
    };
    let met: readonly [number, number] | undefined;
    const indices = reliefLayersIn(windings, layers.length);
    const plate = indices.find((index) => layers[index].operation === 'back up');
    if (this.keeps && !indices.some((index) => layers[index].operation === 'keep'))
      return {
        material: plate === undefined ? undefined : this.plate(plate),
        isOutside: true,
        effective,
        idle,
        present,
        notEmbedded,
      };
    for (const index of indices) {
      const layer = layers[index];
      if (layer.operation === 'keep' || layer.operation === 'back up') continue;
      present.push(index);
      if (!material) continue;
      const before: Material = material;
      const after = this.applied(before, index, there, notEmbedded);
      if (after && after.surface === before.surface && after.under === before.under) {
        idle.push({ layer: index, z: middleHeight(before[layer.isBehind ? 'under' : 'surface']) });
        continue;
      }
      effective.push(index);
      material = after;
      if (after && !this.isOpen(after, there)) {
        if (after.under.layer >= 0 && after.surface.layer >= 0) met = [after.surface.layer, after.under.layer];
        material = undefined;
      }
    }
    if (material && plate !== undefined) {
      const side = layers[plate].isBehind ? 'under' : 'surface';
      const { steps, ...both } = this.plate(plate);
      material = { ...material, [side]: both[side], steps: [...material.steps, ...steps] };
    }
    if (material) material = apart(material);
    return { material, met, effective, idle, present, notEmbedded };
  }

  /** The plate behind letters, where none of them is. */
  private plate(index: number): Material {
    const { z, under } = this.layers[index];
    return platform(index, z, under!);
  }

  /** What one layer makes of a place; undefined where it is cut through. */
  private applied(before: Material, index: number, there: ReadonlySet<number>, notEmbedded: number[]): Material | undefined {
    const layer = this.layers[index];
    if (layer.operation === 'through') return undefined;
    if (layer.operation === 'insert') {
      return platform(index, layer.z, layer.under!, layer.plane);
    }
    const side = layer.isBehind ? 'under' : 'surface';
    const was = before[side];
    if (layer.operation === 'mark') return { ...before, [side]: { ...was, marked: index } };
    const own = this.surfaceOf(index, there);
    if ((own.kind === 'profile' && needsLines(was)) || (needsLines(own) && was.kind === 'profile'))
      notEmbedded.push(own.kind === 'profile' ? index : was.layer);
    // Seen from the reader, what rises on the side that is turned away comes lower.
    const isHigher = (layer.operation === 'raise') !== (layer.isBehind ?? false);
    const now = layer.operation === 'set' ? own : this.chosen(was, own, isHigher, there);
    if (now === was || isSame(now, was)) return before;
    const heights = [...heightsOf(was), ...heightsOf(now)];
    const step: Step = { layer: now.layer, low: Math.min(...heights), high: Math.max(...heights) };
    return { ...before, [side]: now, steps: [...before.steps, step] };
  }

  /** Whether there is material between two surfaces; lines stand wherever that changes. */
  private isOpen({ surface, under }: Material, there: ReadonlySet<number>): boolean {
    if (surface.kind === 'profile' || under.kind === 'profile') return true;
    if (surface.kind === 'level' && under.kind === 'level') return surface.z > under.z + LEVEL_STEP;
    return this.isAbove(surface, under, there);
  }

  private surfaceOf(index: number, there: ReadonlySet<number>): Surface {
    const { profile, z, plane } = this.layers[index];
    if (!profile) return { kind: 'level', z, layer: index, ...(plane && { plane }) };
    const { numbers } = this;
    const embedded = this.embeddedAt.get(index);
    if (!embedded || !there.has(numbers.outlineOf(embedded))) return { kind: 'profile', profile, layer: index };
    let band = 0;
    while (band < embedded.levels.length && there.has(numbers.lineOf(embedded, band))) band++;
    // From the line of its run on it is level; slopes over the same area may have lines beyond.
    if (band > 0 && embedded.levels[band - 1] >= profile.run - 1e-9) return { kind: 'level', z: profile.end, layer: index };
    return { kind: 'embedded', embedded, band, layer: index };
  }

  private chosen(a: Surface, b: Surface, isHigher: boolean, there: ReadonlySet<number>): Surface {
    if (a.kind === 'level' && b.kind === 'level') return b.z > a.z === isHigher && Math.abs(a.z - b.z) > LEVEL_STEP ? b : a;
    if (a.kind !== 'embedded' && b.kind !== 'embedded') {
      const [p, q] = [rampOf(a), rampOf(b)];
      const profile = isHigher ? higher(p, q) : lower(p, q);
      if (profile.key === p.key) return a;
      // As long as it comes to the level of the newer one, that is what it is made of.
      const layer = Math.abs(profile.end - q.end) < LEVEL_STEP ? b.layer : a.layer;
      return profile.isLevel ? { kind: 'level', z: profile.end, layer } : { kind: 'profile', profile, layer };
    }
    return this.isAbove(b, a, there) === isHigher ? b : a;
  }

  /** Whether a surface lies above another here; lines stand wherever that changes. */
  private isAbove(b: Surface, a: Surface, there: ReadonlySet<number>): boolean {
    if (a.kind === 'embedded' && b.kind === 'embedded' && a.embedded.area !== b.embedded.area) {
      const intersection = this.numbers.intersections.find(
        ({ first, second }) =>
          (first === a.embedded.layer && second === b.embedded.layer) ||
          (first === b.embedded.layer && second === a.embedded.layer),
      );
      if (intersection) return there.has(this.numbers.aboveOf(intersection)) === (intersection.first === b.embedded.layer);
    }
    return middleHeight(b) > middleHeight(a);
  }
}

/** Surfaces that the slopes of a letter cannot be kept apart from. */
const needsLines = (surface: Surface): boolean => surface.kind === 'embedded' || isInPlane(surface);

/** Whether a surface is a level in a plane. */
export const isInPlane = (surface: Surface): surface is Surface & LevelInPlane =>
  surface.kind === 'level' && surface.plane !== undefined;

/** Material of which a level in a plane knows the other side; of two of them that in front does. */
function apart({ surface, under, steps }: Material): Material {
  return {
    surface: isInPlane(surface) ? { ...surface, beside: under } : surface,
    under: isInPlane(under) && !isInPlane(surface) ? { ...under, beside: surface, isUnder: true } : under,
    steps,
  };
}

/** A plate between two levels. */
function platform(layer: number, z: number, under: number, plane?: SupportPlane): Material {
  return {
    surface: { kind: 'level', z, layer, ...(plane && { plane }) },
    under: { kind: 'level', z: under, layer, ...(plane && { plane }) },
    steps: [{ layer, low: under, high: z }],
  };
}

/** The ends of what a surface comes to. */
function heightsOf(surface: Surface): readonly number[] {
  if (surface.kind === 'level') return [surface.z];
  const { start, end } = surface.kind === 'profile' ? surface.profile : surface.embedded.profile;
  return [start, end];
}

const rampOf = (surface: Exclude<Surface, { kind: 'embedded' }>): HeightProfile =>
  surface.kind === 'level' ? HeightProfile.level(surface.z) : surface.profile;

/** A height in the middle of a surface over one place. */
export function middleHeight(surface: Surface): number {
  if (surface.kind === 'level') return surface.z;
  if (surface.kind === 'profile') return (surface.profile.start + surface.profile.end) / 2;
  const { embedded, band } = surface;
  const { levels, profile } = embedded;
  const from = band === 0 ? 0 : levels[band - 1];
  return band < levels.length ? profile.at((from + levels[band]) / 2) : profile.at(from + 1e-3);
}

/** Whether two surfaces have the same height everywhere over a place. */
function isSame(a: Surface, b: Surface): boolean {
  if (a.kind === 'level' && b.kind === 'level') return Math.abs(a.z - b.z) <= LEVEL_STEP && a.plane === b.plane;
  return a === b;
}
