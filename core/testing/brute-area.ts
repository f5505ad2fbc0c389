/**
 * Areas of the plan by brute force, for tests: every question is asked of every edge in turn, and nothing is shared with what it judges.
 */

export type Ring = readonly (readonly [number, number])[];

/** An area, as its edges: x and y of both ends in turn, outer rings anticlockwise. */
export class Area {
  private readonly edges: Float64Array;
  private readonly bends: readonly Bend[];
  private readonly box: readonly [number, number, number, number];

  constructor(readonly rings: readonly Ring[]) {
    const edges: number[] = [];
    const bends: Bend[] = [];
    for (const ring of rings) {
      const n = ring.length;
      ring.forEach((a, i) => {
        const b = ring[(i + 1) % n];
        if (a[0] === b[0] && a[1] === b[1]) return;
        edges.push(...a, ...b);
        const c = [1, 2, 3].map((k) => ring[(i + 1 + k) % n]).find((p) => p[0] !== b[0] || p[1] !== b[1]) ?? a;
        bends.push(bendAt(a, b, c));
      });
    }
    this.edges = Float64Array.from(edges);
    this.bends = bends;
    this.box = boxOf(rings);
  }

  /** By how often the edges wind around a point; inside where it is not 0. */
  contains(x: number, y: number): boolean {
    const [minX, minY, maxX, maxY] = this.box;
    if (!(x >= minX && x <= maxX && y >= minY && y <= maxY)) return false;
    const { edges } = this;
    let winds = 0;
    for (let e = 0; e < edges.length; e += 4) {
      const [ax, ay, bx, by] = [edges[e], edges[e + 1], edges[e + 2], edges[e + 3]];
      if (ay > y === by > y) continue;
      if (x < ((bx - ax) * (y - ay)) / (by - ay) + ax) winds += by > ay ? 1 : -1;
    }
    return winds !== 0;
  }

  /** Distance from the nearest edge. */
  distance(x: number, y: number): number {
    const { edges } = this;
    let best = Infinity;
    for (let e = 0; e < edges.length; e += 4) {
      const [ax, ay, dx, dy] = [edges[e], edges[e + 1], edges[e + 2] - edges[e], edges[e + 3] - edges[e + 1]];
      const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy)));
      const [px, py] = [ax + t * dx - x, ay + t * dy - y];
      best = Math.min(best, px * px + py * py);
    }
    return Math.sqrt(best);
  }

  /**
   * The least growth by which a place outside is covered, where corners that point outwards are mitred: up to four times the growth,
   * beyond that cut off across.
   */
  mitredGrowth(x: number, y: number): number {
    const { edges } = this;
    let best = Infinity;
    for (let e = 0, i = 0; e < edges.length; e += 4, i++) {
      const [ax, ay, bx, by] = [edges[e], edges[e + 1], edges[e + 2], edges[e + 3]];
      const [dx, dy] = [bx - ax, by - ay];
      const length = Math.hypot(dx, dy);
      const along = ((x - ax) * dx + (y - ay) * dy) / length;
      // Outside lies on the right of an edge.
      const out = ((x - ax) * dy - (y - ay) * dx) / length;
      if (out >= 0 && along >= 0 && along <= length) best = Math.min(best, out);
      const { from, through, normals } = this.bends[i];
      if (through <= 0) continue;
      let angle = Math.atan2(y - by, x - bx) - from;
      angle -= 2 * Math.PI * Math.floor((angle + 1e-9) / (2 * Math.PI));
      if (angle <= through + 1e-9) best = Math.min(best, Math.max(...normals.map(([nx, ny]) => (x - bx) * nx + (y - by) * ny)));
    }
    return best;
  }
}

/** Where two edges meet: the fan of directions that only the corner is nearest to, and the normals that bound its growth. */
interface Bend {
  readonly from: number;
  readonly through: number;
  readonly normals: readonly (readonly [number, number])[];
}

/** Mitres longer than so many times the growth are cut off across. */
export const MITRE_LIMIT = 4;

function bendAt(a: readonly [number, number], b: readonly [number, number], c: readonly [number, number]): Bend {
  const first = Math.atan2(b[1] - a[1], b[0] - a[0]);
  const second = Math.atan2(c[1] - b[1], c[0] - b[0]);
  let through = second - first;
  through -= 2 * Math.PI * Math.round(through / (2 * Math.PI));
  const from = first - Math.PI / 2;
  const angles = [from, from + through];
  if (1 / Math.cos(through / 2) > MITRE_LIMIT || through > Math.PI - 1e-9) angles.push(from + through / 2);
  return { from, through, normals: angles.map((angle) => [Math.cos(angle), Math.sin(angle)] as const) };
}

export const boxOf = (rings: readonly Ring[]): readonly [number, number, number, number] => {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const ring of rings) {
    for (const [x, y] of ring) {
      minX = Math.min(minX, x);
      minY = Math.min(minY, y);
      maxX = Math.max(maxX, x);
      maxY = Math.max(maxY, y);
    }
  }
  return [minX, minY, maxX, maxY];
};
