import type { CrossSection, ManifoldToplevel } from 'manifold-3d';
import { type Evaluation, type PartPlan } from '../src/relief/index.js';
import { type Action, facesOf, type Part, type Shape, type Sign, type Tier } from '../src/sign/index.js';
import { Area, boxOf, MITRE_LIMIT, type Ring } from './brute-area.js';
import { amountOf, withMore } from './oracle-actions.js';
import { barBehind } from './oracle-bar.js';
import { riseOf, type Span, spanned, tan } from './oracle-edges.js';
import { faceAround, movesToFaces, ringOf } from './oracle-faces.js';
import { type OraclePlane, OraclePlanes } from './oracle-planes.js';
import { areaOf, isBeyond, largestRing, ringsOf, signedArea, thickEnough } from './oracle-rings.js';
import { crossSection } from './referee.js';
import { CHORDS, chordsOf, shapeOutline } from './shape-outline.js';

/**
 * The relief function as docs/sign-format.md defines it, point by point and by brute force. It shares no code with the relief: outlines
 * are grown and combined by a general library, distances are measured to every edge in turn. Of the evaluation it takes only how words
 * were set (the rings and strokes of text parts) and where studs were put, which the definition leaves to the application.
 */

/** What there is over a place: material between two heights, none, or too near to an edge to tell. */
export type There = { readonly front: Span; readonly back: Span } | 'none' | 'unsure';

/** A tier as it acts: area, action, and its height by the distance. */
interface Acting {
  readonly kind: Action['kind'] | 'edge';
  readonly area: Area;
  readonly box: readonly [number, number, number, number];
  readonly isBack: boolean;
  /** Height above the face of its own side at a place inside; `aside` is how far off it may be read. */
  height(x: number, y: number, aside: number): Span;
  readonly under?: number;
  /** What its heights are measured from where that is a plane; they are levels then. */
  readonly plane?: OraclePlane;
  /** Whether it cannot be judged inside its area. */
  readonly isOpen?: boolean;
}

/** mm between both sides from which a level in a plane is judged. */
const HELD_BACK = 1.2;

/** A side over a place: heights, or levels of a plane. */
interface Side extends Span {
  readonly plane?: OraclePlane;
  readonly isBack?: boolean;
}

/** The higher or the lower of what is there and what comes, by their levels; undefined where that cannot be told. */
function chosen(was: Side, own: Side, isUp: boolean): Side | undefined {
  const choose = isUp ? Math.max : Math.min;
  if (was.plane === own.plane) return { ...own, least: choose(was.least, own.least), most: choose(was.most, own.most) };
  const [low, high] = isUp ? [was, own] : [own, was];
  if (high.least > low.most + 1e-6) return own;
  return high.most <= low.least + 1e-6 ? was : undefined;
}

export class Oracle {
  private readonly acting: Acting[] = [];
  private readonly outlines = new Map<string, CrossSection>();
  private readonly kept: Area;
  private readonly ground: Area;
  private readonly plate: { readonly area: Area; readonly thickness: number } | undefined;
  private readonly thickness: number;
  private readonly planes: OraclePlanes;

  /** @param evaluation of the front, for how its words were set */
  constructor(
    private readonly m: ManifoldToplevel,
    readonly sign: Sign,
    private readonly evaluation: Evaluation,
  ) {
    this.thickness = sign.blank.thickness;
    const faces = facesOf(sign.support);
    const blank = shapeOutline(m, sign.blank.outline, true);
    // Of a blank in several pieces the largest one counts, without its holes.
    const outer = faces.length > 0 ? ringOf(evaluation.blank) : largestRing(blank);
    this.ground = new Area([outer]);
    const bases = new Map<string, number>();
    for (const part of sign.parts) bases.set(part.id, this.baseOf(part, bases));
    this.planes = new OraclePlanes(
      sign,
      (part) => this.levelsOf(part, bases.get(part.id)!),
      ({ id }) => bases.get(id)!,
    );
    for (const part of sign.parts)
      this.outlines.set(part.id, this.placed(part, faces.length > 0 ? faceAround(part.place, faces) : outer));
    const cutTo = faces.length > 0 ? undefined : sign.blank.cutTo;
    let kept = crossSection(m, [Float64Array.from(outer.flat())]);
    if (cutTo) {
      const parts = sign.parts.filter(({ id, hidden }) => cutTo.parts.includes(id) && !hidden);
      kept = this.union(
        parts.map((part) => (part.side === 'back' ? this.outlineOf(part.id).mirror([1, 0]) : this.outlineOf(part.id))),
      );
      const plate = this.plateBehind(kept);
      if (plate && !isBeyond(boxOf(plate.area.rings))) this.plate = plate;
    }
    if (faces.length > 0)
      kept = crossSection(
        m,
        faces.map(({ outline }) => outline),
      );
    this.kept = areaOf(kept);
    const keptArea = this.kept;
    for (const [form, isBack] of [
      [sign.blank.edge, false],
      [sign.blank.backEdge, true],
    ] as const) {
      // prettier-ignore
      if (!form) continue;
      const own = isBack ? areaOf(kept.mirror([1, 0])) : keptArea;
      const height = Math.min(form.kind === 'chamfered' ? form.height : form.radius, this.thickness);
      this.act('edge', own, isBack, (x, y, aside) => spanned((d) => riseOf(form, height, d) - height, own.distance(x, y), aside));
    }
    if (cutTo?.hollow || cutTo?.studs) this.fromBehind(kept);
    if (this.plate) this.drillBar(kept);
    for (const part of sign.parts) {
      if (part.hidden || this.isTooFar(part)) continue;
      const before = this.acting.length;
      for (const tier of part.tiers) if (tier.on) this.tier(part, tier, bases.get(part.id)!);
      if (this.acting.slice(before).some(({ box }) => isBeyond(box))) this.acting.length = before;
    }
  }

  /** Whether the outline of a part reaches further than parts may: it is left out. */
  private isTooFar({ id }: Part): boolean {
    const outline = this.outlineOf(id);
    if (outline.isEmpty()) return false;
    const { min, max } = outline.bounds();
    return isBeyond([min[0], min[1], max[0], max[1]]);
  }

  /** What there is at a place of the plan seen from the front. @param aside mm by which edges and distances may be read aside */
  at(x: number, y: number, aside: number): There {
    const { thickness, plate } = this;
    if (aside > 0) {
      for (const area of [this.ground, this.kept, plate?.area]) if (area && area.distance(x, y) < aside) return 'unsure';
    }
    const isOn = this.ground.contains(x, y);
    const isPlate = plate?.area.contains(x, y) ?? false;
    const behind: Span = { least: -thickness - (plate?.thickness ?? 0), most: -thickness - (plate?.thickness ?? 0) };
    if (!isOn) return 'none';
    if (!this.kept.contains(x, y)) return isPlate ? { front: { least: -thickness, most: -thickness }, back: behind } : 'none';
    let front: Side = { least: 0, most: 0 };
    let back: Side = { least: -thickness, most: -thickness };
    let isUnsure = false;
    for (const layer of this.acting) {
      const own = layer.isBack ? -x : x;
      const [minX, minY, maxX, maxY] = layer.box;
      if (!(own >= minX - aside && own <= maxX + aside && y >= minY - aside && y <= maxY + aside)) continue;
      if (aside > 0 && layer.area.distance(own, y) < aside) return 'unsure';
      if (!layer.area.contains(own, y)) continue;
      if (layer.isOpen) return 'unsure';
      if (layer.kind === 'mark') continue;
      if (layer.kind === 'cut-through') return 'none';
      const height = layer.height(own, y, aside);
      const { plane } = layer;
      const seen: Side = { ...(layer.isBack ? this.turned(height) : height), ...(plane && { plane, isBack: layer.isBack }) };
      if (layer.kind === 'insert') {
        const thick = layer.under!;
        const [near, far] = layer.isBack ? [seen.most + thick, seen.least] : [seen.most, seen.least - thick];
        const rest = { plane, isBack: layer.isBack };
        front = { least: near, most: near, ...rest };
        back = { least: far, most: far, ...rest };
      } else {
        const was = layer.isBack ? back : front;
        const isUp = (layer.kind === 'raise') !== layer.isBack;
        const now = layer.kind === 'set' || layer.kind === 'edge' ? seen : chosen(was, seen, isUp);
        if (!now) return 'unsure';
        if (layer.isBack) back = now;
        else front = now;
      }
      if (front.most <= back.least + 1e-6) return isUnsure ? 'unsure' : 'none';
      if (front.least <= back.most + 1e-6) isUnsure = true;
    }
    if (isUnsure) return 'unsure';
    return this.inSpans(x, y, aside, front, isPlate ? behind : back);
  }

  private turned({ least, most }: Span): Span {
    return { least: -this.thickness - most, most: -this.thickness - least };
  }

  /** What levels in planes come to over a place. */
  private inSpans(x: number, y: number, aside: number, front: Side, back: Side): There {
    const heights = ({ plane, isBack, ...level }: Side): Span | undefined => {
      if (!plane) return level;
      const own = plane.heights(isBack ? -x : x, y, isBack ? this.turned(level) : level, aside);
      return own && isBack ? this.turned(own) : own;
    };
    const [near, far] = [heights(front), heights(back)];
    if (!near || !far) return 'unsure';
    // Where a plane comes near the other side, which is noted, it is held back from one place to the next.
    if ((front.plane ?? back.plane) && near.least < far.most + HELD_BACK) return 'unsure';
    return { front: near, back: far };
  }

  private act(kind: Acting['kind'], area: Area, isBack: boolean, height: Acting['height'], rest: Partial<Acting> = {}): void {
    if (area.rings.length > 0) this.acting.push({ kind, area, box: boxOf(area.rings), isBack, height, ...rest });
  }

  private tier(part: Part, tier: Tier, base: number): void {
    const isBack = part.side === 'back';
    for (const { more, outline, strokes } of this.letterings(part)) {
      const action = withMore(tier.action, more);
      const chosen =
        action.kind === 'line' ? this.stroked(outline, strokes, action.width) : this.tierArea(outline, tier, this.scaleOf(part));
      const isOpen = action.kind === 'cut-through' && part.bridges !== undefined;
      const plane = this.planes.of(part, tier);
      if (action.kind === 'mark' || action.kind === 'cut-through') {
        this.act(action.kind, areaOf(chosen), isBack, () => ({ least: base, most: base }), { isOpen });
        continue;
      }
      const [amount, sign] = amountOf(action);
      const level = { least: base + sign * amount, most: base + sign * amount };
      const kind = action.kind === 'line' ? 'carve' : action.kind;
      if (action.kind === 'insert') {
        this.act(kind, areaOf(chosen), isBack, () => level, { under: action.thickness, plane });
        const { clearance = 0 } = action;
        if (clearance > 0)
          this.act('cut-through', areaOf(chosen.subtract(this.grown(chosen, -clearance, 'round'))), isBack, () => level);
        continue;
      }
      // What is measured from a plane has upright sides.
      const edge = plane ? undefined : tier.edge;
      if (!edge || (amount === 0 && !(edge.kind === 'ridged' && !edge.capped))) {
        this.act(kind, areaOf(chosen), isBack, () => level, { plane });
        continue;
      }
      const own = areaOf(chosen);
      if (edge.kind === 'sloped' && (edge.sized === 'top') !== sign < 0) {
        // Its level end is the area; the slope lies outside of it.
        const run = amount * tan(edge.angle);
        const whole = areaOf(chosen.offset(run, 'Miter', MITRE_LIMIT, 0));
        this.act(kind, whole, isBack, (x, y, aside) => {
          if (own.contains(x, y) && own.distance(x, y) > aside) return level;
          const out = own.contains(x, y) ? 0 : own.mitredGrowth(x, y);
          return spanned((d) => base + sign * Math.min(amount, Math.max(0, run - d) / tan(edge.angle)), out, aside);
        });
        continue;
      }
      this.act(kind, own, isBack, (x, y, aside) =>
        spanned((d) => base + sign * riseOf(edge, amount, d), own.distance(x, y), aside),
      );
    }
  }

  /** The outlines of a part whose letters are made alike. */
  private letterings(part: Part): { more: number; outline: CrossSection; strokes: PartPlan['strokes'] }[] {
    const plan = this.planOf(part.id);
    if (part.kind !== 'text') return [{ more: 0, outline: this.outlineOf(part.id), strokes: plan.strokes }];
    const { groups } = plan;
    if (!groups) return [{ more: 0, outline: this.outlineOf(part.id), strokes: plan.strokes }];
    return groups.map(({ more, placed }) => ({
      more,
      outline: crossSection(this.m, placed.area.contours),
      strokes: placed.strokes,
    }));
  }

  private scaleOf(part: Part): number {
    if (part.kind === 'text') return this.planOf(part.id).text?.capHeight ?? 0;
    const { min, max } = this.outlineOf(part.id).bounds();
    const strokes = this.planOf(part.id).strokes.flatMap(({ points }) => [...points].filter((_, i) => i % 2 === 1));
    const isEmpty = this.outlineOf(part.id).isEmpty();
    const low = Math.min(isEmpty ? Infinity : min[1], ...strokes);
    const high = Math.max(isEmpty ? -Infinity : max[1], ...strokes);
    return high > low ? high - low : 0;
  }

  private tierArea(outline: CrossSection, { area }: Tier, scale: number): CrossSection {
    if (area.kind === 'outline') return outline;
    const length = (value: number): number => (area.scales ? (value / 100) * scale : value);
    const grown = (by: number): CrossSection => this.grown(outline, by, area.corners ?? 'round');
    if (area.kind === 'offset') return grown(length(area.by));
    const width = length(area.width);
    switch (area.side) {
      case 'outside':
        return grown(width).subtract(outline);
      case 'inside':
        return outline.subtract(grown(-width));
      case 'on':
        return grown(width / 2).subtract(grown(-width / 2));
    }
  }

  private grown(outline: CrossSection, by: number, corners: 'round' | 'mitred' | 'square'): CrossSection {
    const join = ({ round: 'Round', mitred: 'Miter', square: 'Square' } as const)[corners];
    return outline.offset(by, join, MITRE_LIMIT, chordsOf(Math.abs(by)));
  }

  private stroked(outline: CrossSection, strokes: PartPlan['strokes'], width: number): CrossSection {
    const r = width / 2;
    const pieces: CrossSection[] = [];
    for (const { points, closed } of [
      ...strokes,
      ...ringsOf(outline).map((ring) => ({ points: Float64Array.from(ring.flat()), closed: true })),
    ]) {
      const n = points.length / 2;
      for (let i = 0; i < (closed ? n : n - 1); i++) {
        const j = (i + 1) % n;
        const [ax, ay, bx, by] = [points[2 * i], points[2 * i + 1], points[2 * j], points[2 * j + 1]];
        const length = Math.hypot(bx - ax, by - ay);
        if (length > 0) pieces.push(this.stadiumAlong(ax, ay, bx, by, r));
      }
      if (n === 1) pieces.push(this.m.CrossSection.circle(r, CHORDS).translate([points[0], points[1]]));
    }
    return this.union(pieces);
  }

  private stadiumAlong(ax: number, ay: number, bx: number, by: number, r: number): CrossSection {
    const length = Math.hypot(bx - ax, by - ay);
    const ends = Math.min(180, Math.max(12, Math.ceil(Math.PI / Math.acos(Math.max(0, 1 - 0.005 / Math.max(r, 0.01))))));
    const from = Math.atan2(by - ay, bx - ax) + Math.PI / 2;
    const points: number[] = [];
    for (const [x, y, start] of [
      [ax, ay, from],
      [bx, by, from + Math.PI],
    ] as const)
      // prettier-ignore
      for (let i = 0; i <= ends; i++) points.push(x + r * Math.cos(start + (Math.PI * i) / ends), y + r * Math.sin(start + (Math.PI * i) / ends));
    return length > 0 ? crossSection(this.m, [Float64Array.from(points)]) : this.union([]);
  }

  private union(pieces: readonly CrossSection[]): CrossSection {
    return this.m.CrossSection.union([...pieces]);
  }

  private outlineOf(id: string): CrossSection {
    return this.outlines.get(id)!;
  }

  private planOf(id: string): PartPlan {
    return this.evaluation.parts.find((plan) => plan.id === id)!;
  }

  private baseOf(part: Part, bases: ReadonlyMap<string, number>): number {
    if (part.sitsOn.kind === 'face') return 0;
    const { part: id, at } = part.sitsOn;
    const base = bases.get(id)!;
    const host = this.sign.parts.find((other) => other.id === id)!;
    const levels = this.levelsOf(host, base).map(({ level }) => level);
    if (levels.length === 0) return base;
    return at === 'top' ? Math.max(...levels) : Math.min(...levels);
  }

  private levelsOf({ tiers }: Part, base: number): { tier: Tier; level: number }[] {
    return tiers
      .filter(({ on, action }) => on && action.kind !== 'mark' && action.kind !== 'cut-through')
      .map((tier) => {
        const [amount, sign] = amountOf(tier.action);
        return { tier, level: base + sign * amount };
      });
  }

  /** A part's outline in the plan of its own side. */
  private placed(part: Part, blank: Ring): CrossSection {
    // How words are set is not the relief's: their rings are taken as they are.
    // Nor is how what sits in a plane is laid so that it is true there: closed forms judge that.
    if (part.kind === 'text' || this.planes.isLaidInPlane(part))
      return crossSection(this.m, this.planOf(part.id)?.area.contours ?? []);
    const own = part.side === 'back' ? blank.map(([x, y]) => [-x, y] as const).reverse() : blank;
    const { x, y, turn, mirror } = part.place;
    const around = thickEnough(this.m, this.followed(part.shape, own) ?? shapeOutline(this.m, part.shape, false));
    const put = (mirror ? around.mirror([1, 0]) : around).rotate(turn).translate([x, y]);
    const { copies } = part;
    if (!copies) return put;
    if (copies.kind === 'faces') {
      const moves = movesToFaces(part.place, facesOf(this.sign.support), copies.on === 'all');
      return this.union(moves.map((move) => put.translate(move)));
    }
    if (copies.kind === 'row') {
      return this.union(
        Array.from({ length: copies.count }, (_, i) => {
          const from = i - (copies.count - 1) / 2;
          return put.translate([from * copies.stepX, from * copies.stepY]);
        }),
      );
    }
    return this.union(
      Array.from({ length: copies.count }, (_, i) => {
        const angle = (-360 * i) / copies.count;
        if (!copies.turning) {
          const at = ((90 + angle) * Math.PI) / 180;
          return put.translate([copies.radius * Math.cos(at), copies.radius * Math.sin(at)]);
        }
        return put
          .translate([-x, copies.radius - y])
          .rotate(angle)
          .translate([x, y]);
      }),
    );
  }

  private followed(shape: Shape, blank: Ring): CrossSection | undefined {
    const { m } = this;
    if (shape.kind === 'combined') {
      const all = shape.of.map((id) => this.outlineOf(id));
      const [first, ...rest] = all;
      if (shape.how === 'join') return this.union(all);
      if (shape.how === 'cut') return first.subtract(this.union(rest));
      return rest.reduce((left, other) => left.intersect(other), first);
    }
    const ground = crossSection(m, [Float64Array.from(blank.flat())]);
    if (shape.kind === 'border') {
      const source = shape.of === 'blank' ? ground : this.outlineOf(shape.of);
      const outer = this.grown(source, -shape.inset, 'round');
      return shape.width === 0 ? outer : outer.subtract(this.grown(source, -shape.inset - shape.width, 'round'));
    }
    if (shape.kind !== 'fixings') return undefined;
    const [minX, minY, maxX, maxY] = boxOf([blank]);
    const [left, right, low, high] = [minX + shape.inset, maxX - shape.inset, minY + shape.inset, maxY - shape.inset];
    const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
    const middles: (readonly [number, number])[] =
      shape.places === 'corners'
        ? [[left, low], [right, low], [right, high], [left, high]] // prettier-ignore
        : shape.places === 'sides'
          ? [[left, y], [right, y]] // prettier-ignore
          : shape.places === 'ends'
            ? [[x, low], [x, high]] // prettier-ignore
            : this.middlesAround(shape, ground);
    return this.union(middles.map(([cx, cy]) => m.CrossSection.circle(shape.diameter / 2, CHORDS).translate([cx, cy])));
  }

  /** Evenly along the line at the inset, the first where the line crosses above the middle. */
  private middlesAround({ inset, count }: Extract<Shape, { kind: 'fixings' }>, ground: CrossSection): [number, number][] {
    const line = inset === 0 ? ground : this.grown(ground, -inset, 'round');
    if (line.isEmpty()) return [];
    const ring = largestRing(line);
    const [minX, minY, maxX] = boxOf([ring]);
    // From the lowest place in the middle, clockwise.
    const clockwise = [...ring].reverse();
    const lengths: number[] = [];
    let whole = 0;
    let start = 0;
    let best = Infinity;
    clockwise.forEach((a, i) => {
      const b = clockwise[(i + 1) % clockwise.length];
      lengths.push(whole);
      const middle = (minX + maxX) / 2;
      if (a[0] > middle !== b[0] > middle) {
        const t = (middle - a[0]) / (b[0] - a[0]);
        const y = a[1] + t * (b[1] - a[1]);
        if (y - minY < best) {
          best = y - minY;
          start = whole + t * Math.hypot(b[0] - a[0], b[1] - a[1]);
        }
      }
      whole += Math.hypot(b[0] - a[0], b[1] - a[1]);
    });
    return Array.from({ length: count }, (_, i) => {
      const at = (start + whole * (0.5 + i / count)) % whole;
      let k = lengths.length - 1;
      while (lengths[k] > at) k--;
      const [a, b] = [clockwise[k], clockwise[(k + 1) % clockwise.length]];
      const t = (at - lengths[k]) / (Math.hypot(b[0] - a[0], b[1] - a[1]) || 1);
      return [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
    });
  }

  /** What is taken out of flat-cut letters from behind. */
  private fromBehind(kept: CrossSection): void {
    const { cutTo, thickness } = this.sign.blank;
    const studs = this.evaluation.studs ?? [];
    const circles = (r: number): CrossSection =>
      this.union(studs.map(({ x, y }) => this.m.CrossSection.circle(r, CHORDS).translate([x, y])));
    if (cutTo?.hollow && cutTo.hollow.face < thickness) {
      const inside = this.grown(kept, -cutTo.hollow.wall, 'round');
      const bosses = cutTo.studs ? circles(cutTo.studs.diameter / 2 + cutTo.hollow.wall) : this.union([]);
      const level = cutTo.hollow.face - thickness;
      this.act('carve', areaOf(inside.subtract(bosses).mirror([1, 0])), true, () => ({ least: level, most: level }));
    }
    if (cutTo?.studs) {
      const level = -cutTo.studs.depth;
      this.act('carve', areaOf(circles(cutTo.studs.diameter / 2).mirror([1, 0])), true, () => ({ least: level, most: level }));
    }
  }

  /** The hole of a bar behind letters goes through the letters as well. */
  private drillBar(kept: CrossSection): void {
    const backer = this.sign.blank.cutTo?.backer;
    const hole = backer?.kind === 'bar' && !kept.isEmpty() ? barBehind(this.m, backer, kept).hole : undefined;
    if (!hole) return;
    this.act('cut-through', areaOf(hole), false, () => ({ least: 0, most: 0 }));
  }

  private plateBehind(kept: CrossSection): { area: Area; thickness: number } | undefined {
    const backer = this.sign.blank.cutTo?.backer;
    if (!backer || kept.isEmpty()) return undefined;
    if (backer.kind === 'bar') {
      const { bar, hole } = barBehind(this.m, backer, kept);
      return { area: areaOf(hole ? bar.subtract(hole) : bar), thickness: backer.thickness };
    }
    const grown = ringsOf(this.grown(kept, backer.margin, 'round'));
    const filled = crossSection(
      this.m,
      grown.filter((ring) => signedArea(ring) > 0).map((ring) => Float64Array.from(ring.flat())),
    );
    return { area: areaOf(filled), thickness: backer.thickness };
  }
}
