import { insideLeft, area, contourArea, movedBy, type Outline, ShapeCache, type Stroke } from '../../geometry/index.js';
import {
  connectedComponents,
  ContourSet,
  type CornerForm,
  difference,
  union,
  offset,
  strokeArea,
  touchingGroups,
  withoutSliverRings,
} from '../../arrangement/index.js';
import { type Area, type Bridges, isUpright, sinks, type Tier } from '../../sign/index.js';
import { withBridges } from './bridges.js';
import { growthOf } from '../profile/edge-form.js';
import { type PlacedPart } from './part-outline.js';

/** What a tier's area is measured by where it scales with its part: mm that 100 % are. */
export const scaleOf = (placed: PlacedPart): number =>
  placed.text?.capHeight ?? (placed.ink ? placed.ink.maxY - placed.ink.minY : 0);

/** mm of an amount that may be in percent of the part's height. */
const lengthOf = (value: number, scales: boolean | undefined, placed: PlacedPart): number =>
  scales ? (value / 100) * scaleOf(placed) : value;

/** How far a tier's area reaches from the outline, in mm: outwards above 0, inwards below; 0 for the outline itself. */
export function reachOf(chosen: Area, placed: PlacedPart): number {
  switch (chosen.kind) {
    case 'outline':
      return 0;
    case 'offset':
      return lengthOf(chosen.by, chosen.scales, placed);
    case 'stroke': {
      const width = lengthOf(chosen.width, chosen.scales, placed);
      return chosen.side === 'outside' ? width : chosen.side === 'on' ? width / 2 : -width;
    }
  }
}

/** An area that swallows something: a letter whose strokes or counters are not all left, and what would still keep them. */
export interface Swallowed {
  /** The greatest growth, or shrinking, in mm at which the letter keeps its strokes and counters. */
  readonly largest: number;
  readonly x: number;
  readonly y: number;
  /** Letters that lose something. */
  readonly count: number;
  /** Whether nothing at all is left. */
  readonly isGone: boolean;
}

/** The area that a tier acts on. */
export interface TierArea {
  readonly area: ContourSet;
  /** Where its slopes lean outwards, what of it is level. */
  readonly level?: ContourSet;
}

/** Makes the areas that tiers act on, letter by letter: every different letter once. */
export class TierAreas {
  private readonly shapes = new ShapeCache<Outline>();
  private readonly kept = new ShapeCache<KeptSearch>();

  /**
   * The area that a tier of a placed part acts on.
   * @param amount mm that the tier rises or sinks, by which sloped sides reach out where the outline is their inner end
   * @param bridges left standing where the tier cuts through
   */
  of(placed: PlacedPart, tier: Tier, amount: number, bridges?: Bridges): TierArea {
    const { action, edge } = tier;
    if (action.kind === 'cut-through' && bridges) {
      const key = JSON.stringify(bridges);
      const bridged = remembered(placed, `bridged ${JSON.stringify(tier.area)} ${key}`, () =>
        ContourSet.of(
          connectedComponents(this.chosen(placed, tier.area)).map((letter) => {
            const make = (rings: Outline) => withBridges(insideLeft(rings), bridges);
            const { value, dx, dy } = this.shapes.get(letter, `bridged ${key}`, make);
            return movedBy(value, dx, dy);
          }),
        ),
      );
      return { area: bridged };
    }
    if (isUpright(action)) return { area: this.chosen(placed, tier.area) };
    const out = growthOf(edge, amount, sinks(action));
    const plain = action.kind === 'line' ? this.lines(placed, action.width) : this.chosen(placed, tier.area);
    if (out === 0) return { area: plain };
    const key = JSON.stringify([tier.area, action.kind === 'line' ? action.width : 0, out]);
    // Free of intersections, with the inside on the left.
    const level = remembered(placed, `level ${key}`, () =>
      ContourSet.of(connectedComponents(plain).map((outline) => insideLeft(outline))),
    );
    return { area: remembered(placed, key, () => this.grown(level, out, 'mitred')), level };
  }

  /** What stays open around the insert of a window: all within the clearance of the window's edge. */
  gap(placed: PlacedPart, tier: Tier, clearance: number): ContourSet {
    if (clearance === 0) return ContourSet.EMPTY;
    return remembered(placed, `gap ${JSON.stringify(tier.area)} ${clearance}`, () => {
      const settled = ContourSet.of(connectedComponents(this.chosen(placed, tier.area)).map((letter) => insideLeft(letter)));
      const window = ContourSet.of(settled.glyphs.map((letter) => union(ContourSet.of([letter]))));
      return this.less(window, this.grown(window, -clearance));
    });
  }

  /** Where an area loses strokes or counters of its outline; undefined where it keeps all. */
  swallowed(placed: PlacedPart, { area: chosen, action }: Tier): Swallowed | undefined {
    if (action.kind === 'line' || chosen.kind === 'outline' || placed.area.isEmpty) return undefined;
    const corners = chosen.corners ?? 'round';
    const reaches =
      chosen.kind === 'stroke' && chosen.side === 'on'
        ? [reachOf(chosen, placed), -reachOf(chosen, placed)]
        : [reachOf(chosen, placed)];
    let worst: Swallowed | undefined;
    for (const letter of connectedComponents(placed.area)) {
      for (const by of reaches) {
        if (by === 0) continue;
        const search = this.kept.get(letter, `${by} ${corners}`, (contours) => {
          const grown = this.shapes.get(letter, `${by} ${corners}`, () => grownRings(contours, by, corners)).value;
          return new KeptSearch(contours, by, corners, grown);
        }).value;
        if (search.keepsAll) continue;
        const count = (worst?.count ?? 0) + 1;
        // Of most letters it is enough to know that they keep as much as the one that keeps least.
        if (worst && search.keeps(worst.largest)) worst = { ...worst, count };
        else {
          const [x, y] = middleOf(letter);
          worst = { largest: search.largest, x, y, count, isGone: false };
        }
      }
    }
    if (!worst) return undefined;
    return { ...worst, isGone: area(this.chosen(placed, chosen).contours) <= 0 };
  }

  private chosen(placed: PlacedPart, chosen: Area): ContourSet {
    const whole = placed.area;
    const by = reachOf(chosen, placed);
    if (by === 0) return whole;
    return remembered(placed, `area ${JSON.stringify(chosen)}`, () => {
      if (chosen.kind === 'offset') return this.grown(whole, by, chosen.corners);
      if (chosen.kind !== 'stroke') return whole;
      switch (chosen.side) {
        case 'outside':
          return this.less(this.grown(whole, by, chosen.corners), whole);
        case 'inside':
          return this.less(whole, this.grown(whole, by, chosen.corners));
        case 'on':
          return this.less(this.grown(whole, by, chosen.corners), this.grown(whole, -by, chosen.corners));
      }
    });
  }

  private lines(placed: PlacedPart, width: number): ContourSet {
    return remembered(placed, `line ${width}`, () => {
      // Along the outline of what letters that overlap are together.
      const rings = connectedComponents(placed.area).flatMap((letter) => letter.map((points) => ({ points, closed: true })));
      const strokes = [...placed.strokes, ...rings].filter(({ points }) => points.length > 0);
      const alone = strokes.map((stroke) => this.along([stroke], width));
      const drawn = strokes.map((_, i) => i).filter((i) => alone[i].length > 0);
      const letters = touchingGroups(drawn.map((i) => alone[i])).map((group) => group.map((i) => drawn[i]));
      return ContourSet.of(
        letters.map((own) => (own.length === 1 ? alone[own[0]] : this.along(own.map((i) => strokes[i]), width))), // prettier-ignore
      );
    });
  }

  /** What lies along strokes: of every different letter once. */
  private along(strokes: readonly Stroke[], width: number): Outline {
    const closed = strokes.map((stroke) => stroke.closed);
    const { value, dx, dy } = this.shapes.get(
      strokes.map(({ points }) => points),
      `line ${width} ${closed.map(Number).join('')}`,
      (all) => strokeArea(all.map((points, i) => ({ points, closed: closed[i] })), width), // prettier-ignore
    );
    return movedBy(value, dx, dy);
  }

  /** Contours grown or shrunk: every different letter once, joined where they come to touch. */
  private grown(contours: ContourSet, by: number, corners: CornerForm = 'round'): ContourSet {
    const one = connectedComponents(contours).flatMap((letter) => {
      const { value, dx, dy } = this.shapes.get(letter, `${by} ${corners}`, (rings) => grownRings(rings, by, corners));
      return value.length > 0 ? [movedBy(value, dx, dy)] : [];
    });
    const groups = by > 0 ? touchingGroups(one) : one.map((_, i) => [i]);
    return ContourSet.of(
      groups.map((group) => (group.length === 1 ? one[group[0]] : withoutSliverRings(union(group.flatMap((i) => one[i])), by))),
    );
  }

  /** What the first area covers and the second does not, letter by letter where they lie apart. */
  private less(whole: ContourSet, taken: ContourSet): ContourSet {
    const first = connectedComponents(whole);
    const second = connectedComponents(taken);
    const groups = touchingGroups([...first, ...second]);
    const left = groups.flatMap((group): Outline[] => {
      const outer = group.filter((i) => i < first.length).map((i) => first[i]);
      const inner = group.filter((i) => i >= first.length).map((i) => second[i - first.length]);
      return inner.length === 0 ? outer : [difference(ContourSet.of(outer), ContourSet.of(inner))];
    });
    return ContourSet.of(left);
  }
}

const middleOf = (outline: Outline): readonly [number, number] => {
  const largest = [...outline].sort((a, b) => Math.abs(contourArea(b)) - Math.abs(contourArea(a)))[0];
  return [largest[0], largest[1]];
};

/** Pieces and counters of an outline. */
function countsOf(outline: Outline): string {
  const pieces = outline.filter((ring) => contourArea(ring) > 0).length;
  return `${pieces} ${outline.length - pieces}`;
}

/** The search for what is kept begins at this share of the growth, and ends where it is known to one part in so many. */
const SMALLEST_SHARE = 2 ** -12;
const SEARCHED_TO = 1.004;

/**
 * The greatest growth (or shrinking) at which a letter has as many pieces and counters as before, by bisection of its logarithm: what
 * reaches far takes much longer to work out than what does not. It is looked for as closely as is asked.
 */
class KeptSearch {
  /** Whether all of `by` keeps them. */
  readonly keepsAll: boolean;
  private readonly whole: Outline;
  private readonly wanted: string;
  /** Shares of `by` at which they are kept, and not kept. */
  private low = 0;
  private high = 1;

  /** @param grown what the letter is when grown by all of `by` */
  constructor(
    letter: Outline,
    private readonly by: number,
    private readonly corners: CornerForm,
    grown: Outline,
  ) {
    this.whole = union(ContourSet.of([letter]));
    this.wanted = countsOf(this.whole);
    this.keepsAll = countsOf(grown) === this.wanted;
    if (this.keepsAll) this.low = 1;
  }

  /** Whether a growth of so many mm keeps them. */
  keeps(mm: number): boolean {
    return this.keepsShare(mm / Math.abs(this.by));
  }

  /** The greatest growth in mm that keeps them. */
  get largest(): number {
    if (this.low === 0 && !this.keepsShare(SMALLEST_SHARE)) return 0;
    while (this.high > this.low * SEARCHED_TO) this.keepsShare(Math.sqrt(this.low * this.high));
    return this.low * Math.abs(this.by);
  }

  private keepsShare(share: number): boolean {
    if (share <= this.low) return true;
    if (share >= this.high) return false;
    const isKept = countsOf(offset(this.whole, this.by * share, undefined, this.corners)) === this.wanted;
    if (isKept) this.low = share;
    else this.high = share;
    return isKept;
  }
}

const grownRings = (rings: Outline, by: number, corners: CornerForm): Outline =>
  withoutSliverRings(offset(rings, by, undefined, corners), by);

function remembered(placed: PlacedPart, key: string, make: () => ContourSet): ContourSet {
  let made = placed.areas.get(key);
  if (!made) {
    made = make();
    placed.areas.set(key, made);
  }
  return made;
}
