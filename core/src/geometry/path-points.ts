import { type PathCommand } from './path.js';

/** A point that an outline's curves begin and end at; a handle is the place that a curve heads for as it leaves or arrives. */
export interface PathPoint {
  readonly x: number;
  readonly y: number;
  readonly arriving?: Handle;
  readonly leaving?: Handle;
}

export interface Handle {
  readonly x: number;
  readonly y: number;
}

/** One subpath of points, from which an area is closed or a line is not. */
export interface PointRun {
  readonly points: readonly PathPoint[];
  readonly closed: boolean;
}

export type PathPoints = readonly PointRun[];

const SAME = 1e-9;
const isAt = (a: Handle, b: Handle): boolean => Math.abs(a.x - b.x) < SAME && Math.abs(a.y - b.y) < SAME;

/** A path as points with handles; quadratic curves become the cubic ones that are the same. */
export function pathPoints(path: readonly PathCommand[]): PathPoints {
  const subpaths: { points: PathPoint[]; closed: boolean }[] = [];
  let current: { points: PathPoint[]; closed: boolean } | undefined;
  const begin = (x: number, y: number) => subpaths.push((current = { points: [{ x, y }], closed: false }));
  for (const command of path) {
    if (command.kind === 'move') begin(command.x, command.y);
    else if (command.kind === 'close') {
      if (!current || current.closed) continue;
      current.closed = true;
      // The last point that lies on the first one is the first.
      const last = current.points[current.points.length - 1];
      if (current.points.length > 1 && isAt(last, current.points[0])) {
        current.points.pop();
        current.points[0] = { ...current.points[0], arriving: last.arriving };
      }
    } else {
      if (!current) continue;
      // After a close the next piece begins where the closed one did.
      if (current.closed) begin(current.points[0].x, current.points[0].y);
      const { points }: { points: PathPoint[] } = current;
      const from = points[points.length - 1];
      const { x, y } = command;
      if (command.kind === 'line') points.push({ x, y });
      else {
        const [leaving, arriving] =
          command.kind === 'cubic'
            ? [
                { x: command.x1, y: command.y1 },
                { x: command.x2, y: command.y2 },
              ]
            : [
                { x: from.x + (2 / 3) * (command.x1 - from.x), y: from.y + (2 / 3) * (command.y1 - from.y) },
                { x: x + (2 / 3) * (command.x1 - x), y: y + (2 / 3) * (command.y1 - y) },
              ];
        // A handle on its own point bends nothing and is none.
        if (!isAt(leaving, from)) points[points.length - 1] = { ...from, leaving };
        points.push(isAt(arriving, command) ? { x, y } : { x, y, arriving });
      }
    }
  }
  return subpaths.filter(({ points }) => points.length > 1);
}

/** The counterpart of {@link pathPoints}. */
export function pathOfPoints(subpaths: PathPoints): PathCommand[] {
  return subpaths.flatMap(({ points, closed }): PathCommand[] => {
    const [first] = points;
    const out: PathCommand[] = [{ kind: 'move', x: first.x, y: first.y }];
    const edges = closed ? points.length : points.length - 1;
    for (let i = 0; i < edges; i++) {
      const [a, b] = [points[i], points[(i + 1) % points.length]];
      if (a.leaving || b.arriving) {
        const [p, q] = [a.leaving ?? a, b.arriving ?? b];
        out.push({ kind: 'cubic', x1: p.x, y1: p.y, x2: q.x, y2: q.y, x: b.x, y: b.y });
      } else if (i < points.length - 1) out.push({ kind: 'line', x: b.x, y: b.y });
    }
    if (closed) out.push({ kind: 'close' });
    return out;
  });
}

/** Path data of commands, with four decimals. */
export function pathData(path: readonly PathCommand[]): string {
  const figure = (value: number) => String(Number(value.toFixed(4)));
  return path
    .map((command) => {
      switch (command.kind) {
        case 'close':
          return 'Z';
        case 'move':
          return `M${figure(command.x)} ${figure(command.y)}`;
        case 'line':
          return `L${figure(command.x)} ${figure(command.y)}`;
        case 'quadratic':
          return `Q${[command.x1, command.y1, command.x, command.y].map(figure).join(' ')}`;
        case 'cubic':
          return `C${[command.x1, command.y1, command.x2, command.y2, command.x, command.y].map(figure).join(' ')}`;
      }
    })
    .join('');
}

/** Every coordinate of a path brought somewhere else. */
export function mappedPath(path: readonly PathCommand[], to: (x: number, y: number) => readonly [number, number]): PathCommand[] {
  return path.map((command) => {
    if (command.kind === 'close') return command;
    const [x, y] = to(command.x, command.y);
    if (command.kind === 'move' || command.kind === 'line') return { kind: command.kind, x, y };
    const [x1, y1] = to(command.x1, command.y1);
    if (command.kind === 'quadratic') return { kind: 'quadratic', x1, y1, x, y };
    const [x2, y2] = to(command.x2, command.y2);
    return { kind: 'cubic', x1, y1, x2, y2, x, y };
  });
}

/** Which point of a path: its subpath, and its place in it. */
export interface PointAt {
  readonly subpath: number;
  readonly point: number;
}

const withPoints = (
  subpaths: PathPoints,
  at: PointAt,
  change: (points: readonly PathPoint[], closed: boolean) => readonly PathPoint[],
): PathPoints =>
  // prettier-ignore
  subpaths.map((subpath, i) => (i === at.subpath ? { ...subpath, points: change(subpath.points, subpath.closed) } : subpath));

const replaced = (points: readonly PathPoint[], at: number, point: PathPoint): PathPoint[] =>
  points.map((other, i) => (i === at ? point : other));

const moved = (handle: Handle | undefined, dx: number, dy: number): Handle | undefined =>
  handle && { x: handle.x + dx, y: handle.y + dy };

/** A point brought to a place, its handles with it. */
export const movePoint = (subpaths: PathPoints, at: PointAt, x: number, y: number): PathPoints =>
  withPoints(subpaths, at, (points) => {
    const old = points[at.point];
    const [dx, dy] = [x - old.x, y - old.y];
    return replaced(
      points,
      at.point,
      tidied({ x, y, arriving: moved(old.arriving, dx, dy), leaving: moved(old.leaving, dx, dy) }),
    );
  });

/** A handle brought to a place; where the curve runs smoothly through the point the other one turns with it. */
export const moveHandle = (subpaths: PathPoints, at: PointAt, which: 'arriving' | 'leaving', x: number, y: number): PathPoints =>
  withPoints(subpaths, at, (points) => {
    const old = points[at.point];
    const other = which === 'arriving' ? 'leaving' : 'arriving';
    const opposite = old[other];
    const point = { ...old, [which]: { x, y } };
    if (opposite && isSmooth(old)) {
      const reach = Math.hypot(opposite.x - old.x, opposite.y - old.y);
      const length = Math.hypot(x - old.x, y - old.y);
      if (length > SAME)
        return replaced(points, at.point, {
          ...point,
          [other]: { x: old.x - ((x - old.x) / length) * reach, y: old.y - ((y - old.y) / length) * reach },
        });
    }
    return replaced(points, at.point, point);
  });

/** Whether both handles of a point lie on one line through it. */
export function isSmooth({ x, y, arriving, leaving }: PathPoint): boolean {
  if (!arriving || !leaving) return false;
  const [ax, ay, bx, by] = [x - arriving.x, y - arriving.y, leaving.x - x, leaving.y - y];
  const reach = Math.hypot(ax, ay) * Math.hypot(bx, by);
  return reach > SAME && ax * bx + ay * by > 0 && Math.abs(ax * by - ay * bx) / reach < 0.02;
}

/**
 * A point more on the edge after the given one, at a parameter of it from 0 to 1; the shape stays what it was (de Casteljau's
 * subdivision).
 */
export const addPoint = (subpaths: PathPoints, at: PointAt, t = 0.5): PathPoints =>
  withPoints(subpaths, at, (points) => {
    const next = (at.point + 1) % points.length;
    const [a, d] = [points[at.point], points[next]];
    const between = (p: Handle, q: Handle): Handle => ({ x: p.x + t * (q.x - p.x), y: p.y + t * (q.y - p.y) });
    const isCurved = a.leaving !== undefined || d.arriving !== undefined;
    const [b, c] = [a.leaving ?? a, d.arriving ?? d];
    const [ab, bc, cd] = [between(a, b), between(b, c), between(c, d)];
    const [abc, bcd] = [between(ab, bc), between(bc, cd)];
    const middle = isCurved ? between(abc, bcd) : between(a, d);
    const point: PathPoint = isCurved ? { ...middle, arriving: abc, leaving: bcd } : middle;
    const out = points.map((other, i) => {
      if (!isCurved) return other;
      const leaving = i === at.point ? ab : other.leaving;
      const arriving = i === next ? cd : other.arriving;
      return tidied({ x: other.x, y: other.y, arriving, leaving });
    });
    out.splice(at.point + 1, 0, point);
    return out;
  });

/** Without a point; a subpath that has too few left goes with it. */
export const removePoint = (subpaths: PathPoints, at: PointAt): PathPoints =>
  withPoints(subpaths, at, (points) => points.filter((_, i) => i !== at.point)).filter(
    ({ points, closed }) =>
      points.length > (closed ? 2 : 1) || (closed && points.some(({ leaving }) => leaving) && points.length > 1),
  );

/** A point without handles: the outline turns there. */
export const makeCorner = (subpaths: PathPoints, at: PointAt): PathPoints =>
  withPoints(subpaths, at, (points) => replaced(points, at.point, { x: points[at.point].x, y: points[at.point].y }));

/** A point whose handles lie in line, a third of the way to its neighbours, along the line between them. */
export const makeSmooth = (subpaths: PathPoints, at: PointAt): PathPoints =>
  withPoints(subpaths, at, (points, closed) => {
    const n = points.length;
    const { x, y } = points[at.point];
    const before = closed || at.point > 0 ? points[(at.point - 1 + n) % n] : undefined;
    const after = closed || at.point < n - 1 ? points[(at.point + 1) % n] : undefined;
    const [a, b] = [before ?? { x, y }, after ?? { x, y }];
    const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const [ux, uy] = [(b.x - a.x) / length, (b.y - a.y) / length];
    const reach = (p: Handle) => Math.hypot(p.x - x, p.y - y) / 3;
    return replaced(
      points,
      at.point,
      tidied({
        x,
        y,
        arriving: before && { x: x - ux * reach(before), y: y - uy * reach(before) },
        leaving: after && { x: x + ux * reach(after), y: y + uy * reach(after) },
      }),
    );
  });

/** Without the names of handles that are not there. */
const tidied = ({ x, y, arriving, leaving }: PathPoint): PathPoint => ({
  x,
  y,
  ...(arriving ? { arriving } : {}),
  ...(leaving ? { leaving } : {}),
});
