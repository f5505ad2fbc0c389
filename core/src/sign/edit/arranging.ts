import { type Box, joinBoxes, radians } from '../../geometry/index.js';
import { freeId } from '../document/new-sign.js';
import { type Part, type Sign } from '../document/schema.js';

/** Where a part is seen, and for text the box from its cap line to its last baseline. */
export interface PartBoxes {
  readonly id: string;
  readonly ink: Box;
  readonly caps?: Box;
}

/** What boxes are measured by: all that is seen, or of text its capitals, which a descender does not move. */
export type MeasuredBy = 'capitals' | 'box';

export type Alignment = 'left' | 'centre' | 'right' | 'top' | 'middle' | 'bottom';

export interface Move {
  readonly id: string;
  readonly dx: number;
  readonly dy: number;
}

/** The box that a part is placed by. By capitals, text has the height of its capitals and the width of what is seen. */
export const measuredBox = ({ ink, caps }: PartBoxes, by: MeasuredBy): Box =>
  by === 'capitals' && caps ? { ...ink, minY: caps.minY, maxY: caps.maxY } : ink;

/** Parts that are grouped together with any of the given ones move and align as one. */
export function unitsOf(sign: Sign, ids: readonly string[]): string[][] {
  const units: string[][] = [];
  const seen = new Set<string>();
  for (const id of ids) {
    if (seen.has(id)) continue;
    const unit = withGroup(sign, id);
    unit.forEach((member) => seen.add(member));
    units.push(unit);
  }
  return units;
}

/** A part and those grouped with it, in build order. */
export function withGroup(sign: Sign, id: string): string[] {
  const group = sign.parts.find((part) => part.id === id)?.group;
  return group === undefined ? [id] : sign.parts.filter((part) => part.group === group).map((part) => part.id);
}

interface Unit {
  readonly ids: readonly string[];
  readonly box: Box;
}

function boxedUnits(units: readonly (readonly string[])[], boxes: readonly PartBoxes[], by: MeasuredBy): Unit[] {
  return units.flatMap((ids) => {
    const box = boxes
      .filter(({ id }) => ids.includes(id))
      .map((part) => measuredBox(part, by))
      .reduce<Box | undefined>(joinBoxes, undefined);
    return box ? [{ ids, box }] : [];
  });
}

const IS_UPRIGHT: Readonly<Record<Alignment, boolean>> = { left: false, centre: false, right: false, top: true, middle: true, bottom: true }; // prettier-ignore

function edgeOf({ minX, minY, maxX, maxY }: Box, at: Alignment): number {
  return { left: minX, centre: (minX + maxX) / 2, right: maxX, top: maxY, middle: (minY + maxY) / 2, bottom: minY }[at];
}

/**
 * What brings an edge or the middle of each unit to that of a box; where none is given, to that of all of them together.
 * @param units ids that move as one
 */
export function aligned(
  units: readonly (readonly string[])[],
  boxes: readonly PartBoxes[],
  at: Alignment,
  by: MeasuredBy,
  to?: Box,
): Move[] {
  const boxed = boxedUnits(units, boxes, by);
  const target = to ?? boxed.map(({ box }) => box).reduce<Box | undefined>(joinBoxes, undefined);
  if (!target) return [];
  return boxed.flatMap(({ ids, box }) => {
    const by1 = edgeOf(target, at) - edgeOf(box, at);
    return ids.map((id) => (IS_UPRIGHT[at] ? { id, dx: 0, dy: by1 } : { id, dx: by1, dy: 0 }));
  });
}

/**
 * What brings units to a box: each by itself, or all as one where they would come to lie on each other, as the lines of a block do
 * that is brought to the middle.
 */
export function broughtTo(
  units: readonly (readonly string[])[],
  boxes: readonly PartBoxes[],
  at: Alignment,
  by: MeasuredBy,
  to: Box,
): Move[] {
  const each = aligned(units, boxes, at, by, to);
  const before = boxedUnits(units, boxes, by).map(({ box }) => box);
  const moves = new Map(each.map((move) => [move.id, move]));
  const after = boxedUnits(units, boxes, by).map(({ ids, box }) => movedBox(box, moves.get(ids[0])!));
  const isStacked = after.some((box, i) =>
    after.some((other, j) => j > i && areOver(box, other) && !areOver(before[i], before[j])),
  );
  return isStacked ? aligned([units.flat()], boxes, at, by, to) : each;
}

const movedBox = ({ minX, minY, maxX, maxY }: Box, { dx, dy }: Move): Box => ({
  minX: minX + dx,
  minY: minY + dy,
  maxX: maxX + dx,
  maxY: maxY + dy,
});

const areOver = (a: Box, b: Box): boolean => a.minX < b.maxX && b.minX < a.maxX && a.minY < b.maxY && b.minY < a.maxY;

/** What makes the gaps between three or more units equal, across or up; the outermost stay where they are. */
export function distributed(
  units: readonly (readonly string[])[],
  boxes: readonly PartBoxes[],
  along: 'across' | 'up',
  by: MeasuredBy,
): Move[] {
  const isUp = along === 'up';
  const low = ({ box }: Unit) => (isUp ? box.minY : box.minX);
  const high = ({ box }: Unit) => (isUp ? box.maxY : box.maxX);
  const boxed = boxedUnits(units, boxes, by).sort((a, b) => low(a) + high(a) - low(b) - high(b));
  if (boxed.length < 3) return [];
  const last = boxed[boxed.length - 1];
  const filled = boxed.reduce((sum, unit) => sum + high(unit) - low(unit), 0);
  const gap = (high(last) - low(boxed[0]) - filled) / (boxed.length - 1);
  let pen = low(boxed[0]);
  return boxed.flatMap((unit) => {
    const by1 = pen - low(unit);
    pen += high(unit) - low(unit) + gap;
    return unit.ids.map((id) => (isUp ? { id, dx: 0, dy: by1 } : { id, dx: by1, dy: 0 }));
  });
}

/** What is dimensioned of a box: its distances to the edges of the blank, or of its middle to that of the blank. */
export type Distance = 'left' | 'right' | 'top' | 'bottom' | 'across' | 'up';

/** What brings a box to a distance from the edges or the middle of another. */
export function moveToDistance(box: Box, blank: Box, what: Distance, mm: number): { readonly dx: number; readonly dy: number } {
  switch (what) {
    case 'left':
      return { dx: blank.minX + mm - box.minX, dy: 0 };
    case 'right':
      return { dx: blank.maxX - mm - box.maxX, dy: 0 };
    case 'across':
      return { dx: edgeOf(blank, 'centre') + mm - edgeOf(box, 'centre'), dy: 0 };
    case 'top':
      return { dx: 0, dy: blank.maxY - mm - box.maxY };
    case 'bottom':
      return { dx: 0, dy: blank.minY + mm - box.minY };
    case 'up':
      return { dx: 0, dy: edgeOf(blank, 'middle') + mm - edgeOf(box, 'middle') };
  }
}

const tidy = (mm: number): number => Number(mm.toFixed(4));

/** Moves parts of a sign that may be changed; locked ones stay. What follows another part follows it by itself. */
export function movedParts(sign: Sign, moves: readonly Move[]): void {
  for (const { id, dx, dy } of moves) {
    const part = sign.parts.find((other) => other.id === id);
    if (part && !part.locked) Object.assign(part.place, { x: tidy(part.place.x + dx), y: tidy(part.place.y + dy) });
  }
}

/** Turns parts as one about the middle of a box, by degrees anticlockwise. */
export function turnedParts(sign: Sign, ids: readonly string[], degrees: number, { x, y }: { x: number; y: number }): void {
  const angle = radians(degrees);
  const [cos, sin] =
    degrees % 90 === 0 ? [Math.round(Math.cos(angle)), Math.round(Math.sin(angle))] : [Math.cos(angle), Math.sin(angle)];
  for (const part of free(sign, ids)) {
    const [dx, dy] = [part.place.x - x, part.place.y - y];
    const turn = (part.place.turn + degrees) % 360;
    Object.assign(part.place, {
      x: tidy(x + cos * dx - sin * dy),
      y: tidy(y + sin * dx + cos * dy),
      turn: tidy(turn > 180 ? turn - 360 : turn <= -180 ? turn + 360 : turn),
    });
  }
}

/** Mirrors parts as one, left for right, about an upright line at x. */
export function mirroredParts(sign: Sign, ids: readonly string[], x: number): void {
  for (const part of free(sign, ids))
    Object.assign(part.place, {
      x: tidy(2 * x - part.place.x),
      turn: part.place.turn === 0 ? 0 : -part.place.turn,
      mirror: !part.place.mirror,
    });
}

const free = (sign: Sign, ids: readonly string[]): Part[] => sign.parts.filter((part) => ids.includes(part.id) && !part.locked);

/** Makes one group of parts, and of the groups that they are in. */
export function grouped(sign: Sign, ids: readonly string[]): void {
  const members = new Set(ids.flatMap((id) => withGroup(sign, id)));
  const group = freeId(
    'group',
    sign.parts.flatMap((part) => part.group ?? []),
  );
  for (const part of sign.parts) if (members.has(part.id)) part.group = group;
}

/** Takes the groups apart that the given parts are in. */
export function ungrouped(sign: Sign, ids: readonly string[]): void {
  const members = new Set(ids.flatMap((id) => withGroup(sign, id)));
  for (const part of sign.parts) if (members.has(part.id)) delete part.group;
}

/**
 * Copies of parts, in place, with ids that are free in the sign that they are added to. Among themselves they follow each other as
 * the originals do; what they followed outside is followed on where it is there, and let go where it is not.
 */
export function pastedParts(parts: readonly Part[], sign: Sign): Part[] {
  const taken = new Set(sign.parts.map(({ id }) => id));
  const ids = new Map<string, string>();
  const groups = new Map<string, string>();
  const takenGroups = new Set(sign.parts.flatMap(({ group }) => group ?? []));
  const out: Part[] = [];
  for (const part of parts) {
    const stem = part.id.replace(/-\d+$/u, '');
    const id = taken.has(part.id) ? freeId(stem, taken) : part.id;
    taken.add(id);
    const now = (old: string): string | undefined =>
      ids.get(old) ?? (sign.parts.some((other) => other.id === old) ? old : undefined);
    const copy = following({ ...part }, now);
    ids.set(part.id, id);
    if (part.group !== undefined) {
      if (!groups.has(part.group)) groups.set(part.group, freeId('group', [...takenGroups, ...groups.values()]));
      copy.group = groups.get(part.group);
    }
    out.push({ ...copy, id });
  }
  return out;
}

/** A part that follows others by other ids; what it followed and is not there is let go. */
function following(part: Part, now: (id: string) => string | undefined): Part {
  if (part.sitsOn.kind === 'part') {
    const host = now(part.sitsOn.part);
    part.sitsOn = host === undefined ? { kind: 'face' } : { ...part.sitsOn, part: host };
  }
  if (part.kind === 'text') {
    if (part.path?.kind === 'part') {
      const host = now(part.path.part);
      if (host === undefined) delete part.path;
      else part.path = { ...part.path, part: host };
    }
    return part;
  }
  const { shape } = part;
  if (shape.kind === 'border' && shape.of !== 'blank') part.shape = { ...shape, of: now(shape.of) ?? 'blank' };
  if (shape.kind === 'combined') {
    const of = shape.of.flatMap((id) => now(id) ?? []);
    part.shape = of.length > 0 ? { ...shape, of } : { kind: 'rectangle', width: 20, height: 20, cornerRadius: 0 };
  }
  return part;
}
