import { covered, difference, intersection, offset, union } from '../arrangement/index.js';
import { area, bounds, type Contour, contourArea, type Outline, perimeter, simplified, snapRing } from '../geometry/index.js';
import { DistanceField, type Middle, type NarrowLine } from '../medial-axis/index.js';
import { Border } from './border.js';
import { boxContour, filled, grown, PATH_TOLERANCE, type Ring, ringsOf } from './regions.js';
import { type Terrace } from './terraces.js';

/** mm by which a tool counts as thinner than it is: in a slot exactly as wide as it there is a way for it. */
const FIT = 0.002;
/** mm that corners reach beyond a tool in them for that to be left: chords of curves make corners in which nothing is cut. */
const SLIVER = 0.015;
const HAIR = 0.0007;
/** mm beyond open sides, more than the radius, so that the way along them is told from the edge. */
const BEYOND = 0.2;
/** mm by which open sides may lie farther out than they have to. */
const ROUGH = 0.1;
/** What is no larger than so many times the growth is small. */
const SMALL = 3;
/** Radii of the largest tool that distances are told by. */
const KNOWN = 4;
/** mm within which a way of a tool passes where it has been. */
const PASSED = 0.02;
/** Ways that are a little longer are taken where they are fewer. */
const HARDLY_LONGER = 1.1;

/**
 * Where tools may go at a terrace: all that does not stand higher, and around it as much as lets a tool run along open sides. Told by the
 * distance of every place from what stands, so that what each tool reaches, its ways, and what is left for a smaller one are read off
 * one field.
 */
export class FreeSpace {
  private readonly field: DistanceField;
  /** What discs leave of the free space, by their radii, and how the same is told of smaller ones. */
  private readonly narrow = new Map<number, Narrow>();
  private readonly region: Outline;

  /**
   * @param radius of the tool that is the first here, in mm
   * @param step mm between its ways
   * @param footprint all that the stock is cut down to: where the ways over all of it are hardly longer than those over the terrace alone
   *   what lies lower is cleared as well
   */
  constructor(
    readonly terrace: Terrace,
    readonly radius: number,
    step: number,
    footprint: Outline,
  ) {
    const { needed, keepOut, kind } = terrace;
    this.isWide = (kind === 'level' || kind === 'slope') && isWorthAll(terrace, footprint, step);
    // Beyond what is cleared from above nothing is.
    const whole = kind === 'window' || kind === 'cut out' ? [] : grown(filled(footprint), radius + BEYOND);
    const own = (): Outline => roughlyGrown(needed, radius + BEYOND);
    const around = this.isWide ? whole : kind === 'cut out' ? own() : intersection(own(), whole);
    this.region = kind === 'window' ? needed : difference(around, keepOut);
    this.field = new DistanceField(this.region, KNOWN * radius, PATH_TOLERANCE);
  }

  /** Whether what lies lower is cleared down to the terrace as well. */
  readonly isWide: boolean;

  /** What a tool leaves of the terrace: all but the opening of the free space by it. */
  left(radius: number): Outline {
    const r = radius - FIT;
    let narrow = this.narrow.get(r);
    if (!narrow) this.narrow.set(r, (narrow = new Narrow(this.narrowBy(r), this.field)));
    return within(narrow.places, this.terrace.below);
  }

  /** How smaller tools do in some of the places that one leaves: what each leaves of them. */
  leftAmong(places: Outline): (radius: number) => Outline {
    const narrow = new Narrow(places, this.field);
    return (radius) => within(narrow.tell(radius - FIT, SLIVER) ?? places, this.terrace.below);
  }

  /** Ways of the first tool: rings from beside what stands inwards, `first` from the first to the second and then `step`. */
  rings(radius: number, step: number, first: number): Ring[] {
    const r = radius - FIT;
    const walls = this.within(radius).map((points) => ({ points, depth: r }));
    return [...walls, ...ringsOf(this.field, r + first, step)];
  }

  /** Where the axis of a tool may go. */
  within(radius: number): Outline {
    return this.field.lines([radius - FIT])[0].filter((ring) => ring.length >= 6);
  }

  /** Ways of a tool where one of radius `before` left something, the outermost last. */
  restLines(radius: number, before: number, step: number): NarrowLine[] {
    const r = radius - FIT;
    const lines: NarrowLine[][] = [];
    for (let level = r; level < before - FIT; level += step) lines.push(this.field.linesBelow(level, before - FIT, SLIVER));
    return this.openWhereBeen(lines.reverse().flat(), before);
  }

  /** Lines whose ends are open only where the larger tool has a way: a place that it hardly fits into may have none. */
  private openWhereBeen(lines: readonly NarrowLine[], before: number): NarrowLine[] {
    let ways: Border | undefined;
    const hasBeen = ({ x, y }: Middle): boolean =>
      (ways ??= new Border(this.within(before))).meets({
        minX: x - PASSED,
        minY: y - PASSED,
        maxX: x + PASSED,
        maxY: y + PASSED,
      });
    return lines.map(({ points, isClosed, begin, end }) => ({
      points,
      isClosed,
      ...(begin && hasBeen(begin) && { begin }),
      ...(end && hasBeen(end) && { end }),
    }));
  }

  /** Whether a tool may go straight from one place to another. */
  isFree(radius: number, ax: number, ay: number, bx: number, by: number): boolean {
    const length = Math.hypot(bx - ax, by - ay);
    const least = radius / 4;
    // As far from a place as it is free beyond the radius, everything is free.
    for (let along = least; along < length;) {
      const distance = this.field.distanceAt(ax + ((bx - ax) * along) / length, ay + ((by - ay) * along) / length);
      if (distance < radius - 2 * FIT) return false;
      along += Math.max(least, distance - radius);
    }
    return true;
  }

  /** Where places are exactly as wide as the tool lines may not close: then a hair narrower, or the slow and sure way. */
  private narrowBy(radius: number): Outline {
    // Wherever a disc does not come a larger one does not either.
    const larger = [...this.narrow.keys()].filter((each) => each > radius);
    const among = this.narrow.get(Math.min(...larger));
    const tell = among?.tell ?? ((r: number, least: number) => this.field.narrow(r, least));
    const narrow = tell(radius, SLIVER) ?? tell(radius - HAIR, SLIVER);
    if (narrow) return narrow;
    return difference(this.region, offset(offset(this.region, -radius, PATH_TOLERANCE), radius + SLIVER, PATH_TOLERANCE));
  }
}

/** What discs of a radius leave of a free space. */
class Narrow {
  private told?: (radius: number, least: number) => Outline | undefined;

  constructor(
    readonly places: Outline,
    private readonly field: DistanceField,
  ) {}

  /** What smaller discs leave: sought here alone. */
  readonly tell = (radius: number, least: number): Outline | undefined => {
    if (this.places.length === 0) return [];
    return (this.told ??= this.field.narrowAmong(this.places))(radius, least);
  };
}

/**
 * At least all places no farther than so from a region: where sides are open nothing is finished by it. Of what is small beside the tool
 * the box is as good.
 */
function roughlyGrown(region: Outline, by: number): Outline {
  const [boxes, large]: [Contour[], Contour[]] = [[], []];
  for (const ring of region) {
    const { minX, minY, maxX, maxY } = bounds([ring])!;
    if (Math.max(maxX - minX, maxY - minY) > SMALL * by) large.push(Float64Array.from(simplified(ring, ROUGH)));
    else if (contourArea(ring) > 0)
      boxes.push(boxContour({ minX: minX - by, minY: minY - by, maxX: maxX + by, maxY: maxY + by }));
  }
  return union(boxes, offset(large, by + ROUGH, ROUGH));
}

/** Whether clearing all that is not higher asks for hardly longer ways than clearing what lies at a terrace alone. */
function isWorthAll({ needed, keepOut }: Terrace, footprint: Outline, step: number): boolean {
  const whole = filled(footprint);
  const ways = (mm2: number, edge: number): number => mm2 / step + edge;
  const all = ways(Math.max(0, area(whole) - area(keepOut)), perimeter(whole) + perimeter(keepOut));
  return all <= HARDLY_LONGER * ways(area(needed), perimeter(needed));
}

/** Of an outline of many small rings what lies within another: only those that come near its edge are cut by it. */
export function within(outline: Outline, region: Outline): Outline {
  const border = new Border(region);
  const [kept, cut]: [Contour[], Contour[]] = [[], []];
  for (const ring of outline) {
    if (border.meets(bounds([ring])!)) cut.push(ring);
    else if (border.contains(ring[0], ring[1])) kept.push(ring);
  }
  return cut.length === 0 ? kept : [...kept, ...intersection(covered(cut.map(snapRing)), region)];
}
