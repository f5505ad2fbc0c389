import { arrange, type Constraints, type NodingMemory, TouchedCells, type Windings } from '../../arrangement/index.js';
import { type Contour } from '../../geometry/index.js';
import { heightsOf } from '../slopes/slope-intersections.js';
import { isOnBlank, reliefLayersIn } from './plan-layers.js';
import { BACK_LAYER, FACE_LAYER, LEVEL_STEP } from './relief-function.js';
import { type Layer } from '../placing/layers.js';
import { joined, type Embedding, type EmbeddedSlope } from '../slopes/embedded-slopes.js';

/**
 * Slopes that others hide, or that are cut away again, need no lines where that is so: of what lies over a place the bounds of every
 * height are known before anything is embedded, and with them which heights make a difference there.
 */

/** An embedding without the lines and constraints that make no difference. */
export interface Visible {
  readonly contours: Embedding['contours'];
  readonly embedded: readonly EmbeddedSlope[];
  readonly constraints: Constraints;
  /** Whether it makes a difference anywhere which of two layers is the higher. */
  mayMeet(first: number, second: number): boolean;
}

/** Below this many numbers in all constraints there is nothing to gain. */
const FEWEST = 4000;

/** What slopes are embedded in the plan by, without what lies where it makes no difference. */
export function withoutHidden(
  { contours, embedded, constraints }: Embedding,
  blank: Contour,
  layers: readonly Layer[],
  thickness: number,
  { memory, hasSides }: { readonly memory: NodingMemory; readonly hasSides: boolean },
): Visible {
  const count = constraints.reduce((sum, list) => sum + list.length, 0);
  if (count < FEWEST) return { contours, embedded, constraints: joined(constraints), mayMeet: () => true };
  const bounds = new HeightBounds(layers, contours, embedded, thickness, hasSides);
  const places: Place[] = [new Place([])];
  const { edges } = arrange([[blank], ...contours], (windings) => places.push(bounds.at(windings)) - 1, {
    segments: [],
    on: () => false,
    memory,
  });
  const sure = new Set(places.flatMap(({ effective }) => [...effective]));
  const mattering = places.map(({ matters, doubts }) => {
    const open = doubts.filter(({ layer }) => !sure.has(layer));
    return new Set([...matters, ...open.flatMap(({ layer, against }) => [layer, ...against])]);
  });
  const mayMeet = (first: number, second: number): boolean => mattering.some((set) => set.has(first) && set.has(second));
  /** By area, where one of its slopes makes a difference; none where they all do wherever they lie. */
  const cells = constraints.map((_, area) => {
    const own = embedded.filter((each) => each.area === area).map(({ layer }) => layer);
    const isShown = (place: number): boolean => own.some((layer) => mattering[place].has(layer));
    const isHidden = places.some(({ present }, place) => own.some((layer) => present.includes(layer)) && !isShown(place));
    return isHidden ? new TouchedCells(edges, isShown) : undefined;
  });
  return {
    contours,
    constraints: joined(constraints.map((list, area) => cells[area]?.touching(list) ?? list)),
    embedded: embedded.map((each) => {
      const shown = cells[each.area];
      return shown ? { ...each, rings: each.rings.map((rings) => rings.flatMap((ring) => shown.shortened(ring) ?? [])) } : each;
    }),
    mayMeet,
  };
}

/** What the bounds of heights tell of a place. */
class Place {
  /** Layers whose heights what is left there may depend on. */
  readonly matters = new Set<number>();
  /** Layers that change what was there, whatever their heights are. */
  readonly effective = new Set<number>();
  /** Layers of which it depends on their heights whether they do, and on those of the layers that were there. */
  readonly doubts: { readonly layer: number; readonly against: readonly number[] }[] = [];

  /** @param present layers that lie over it */
  constructor(readonly present: readonly number[]) {}
}

/** Heights between which a surface lies, and the layers that it may be made by. */
interface Reach {
  readonly low: number;
  readonly high: number;
  readonly owners: readonly number[];
}

/** The relief function on bounds of heights: what `ReliefFunction` makes of a place, whatever the slopes over it are like there. */
class HeightBounds {
  private readonly heights: readonly { readonly low: number; readonly high: number }[];
  private readonly keeps: boolean;

  constructor(
    private readonly layers: readonly Layer[],
    contours: Embedding['contours'],
    embedded: readonly EmbeddedSlope[],
    private readonly thickness: number,
    private readonly hasSides: boolean,
  ) {
    const byLayer = new Map(embedded.map((each) => [each.layer, each]));
    this.heights = layers.map(({ profile, z }, i) => {
      if (!profile) return { low: z, high: z };
      const each = byLayer.get(i);
      // Letters of the layer that nothing comes near keep their slopes to themselves, and may be deeper.
      const isAll = each && each.pieces.reduce((sum, { outline }) => sum + outline.length, 0) === contours[i].contours.length;
      return isAll ? heightsOf(each) : profile.upTo(Infinity);
    });
    this.keeps = layers.some(({ operation }) => operation === 'keep');
  }

  /** @param windings of a place, without lines of slopes */
  at(windings: Windings): Place {
    const { layers, thickness } = this;
    const present = reliefLayersIn(windings, layers.length);
    const place = new Place(present);
    const { matters, doubts } = place;
    if (!isOnBlank(windings) || (this.keeps && !present.some((index) => layers[index].operation === 'keep'))) return place;
    let front: Reach = { low: 0, high: 0, owners: [FACE_LAYER] };
    let back: Reach = { low: -thickness, high: -thickness, owners: [BACK_LAYER] };
    for (const index of present) {
      const { operation, isBehind, under } = layers[index];
      if (operation === 'keep' || operation === 'back up' || operation === 'mark') continue;
      if (operation === 'through') return place;
      const { low, high } = this.heights[index];
      if (operation === 'insert') {
        front = { low, high, owners: [index] };
        back = { low: under!, high: under!, owners: [index] };
        continue;
      }
      const was = isBehind ? back : front;
      const now = this.applied(was, index, place);
      if (now === was) continue;
      if (isBehind) back = now;
      else front = now;
      if (front.low <= back.high + LEVEL_STEP) for (const owner of [...front.owners, ...back.owners]) matters.add(owner);
      if (front.high < back.low) return place;
    }
    for (const owner of [...front.owners, ...back.owners]) matters.add(owner);
    // Who made a place tells who made its upright sides.
    if (this.hasSides) for (const { layer, against } of doubts) for (const each of [layer, ...against]) matters.add(each);
    return place;
  }

  /** What a layer makes of a surface. */
  private applied(was: Reach, index: number, { effective, doubts }: Place): Reach {
    const { operation, isBehind, profile } = this.layers[index];
    const own = this.heights[index];
    const alone: Reach = { ...own, owners: [index] };
    const isHigher = (operation === 'raise') !== (isBehind ?? false);
    if (operation !== 'set' && (isHigher ? own.high <= was.low : own.low >= was.high)) return was;
    // A slope that begins where the other ends lies beyond it everywhere but for its edge.
    const gap = profile ? -LEVEL_STEP : LEVEL_STEP;
    if (operation === 'set' || (isHigher ? own.low > was.high + gap : own.high < was.low - gap)) {
      effective.add(index);
      return alone;
    }
    doubts.push({ layer: index, against: was.owners });
    const choose = isHigher ? Math.max : Math.min;
    return {
      low: choose(was.low, own.low),
      high: choose(was.high, own.high),
      owners: [...was.owners.filter((owner) => owner < 0 || this.mayWin(owner, own, isHigher)), index],
    };
  }

  private mayWin(owner: number, own: { low: number; high: number }, isHigher: boolean): boolean {
    const { low, high } = this.heights[owner];
    return isHigher ? high > own.low - LEVEL_STEP : low < own.high + LEVEL_STEP;
  }
}
