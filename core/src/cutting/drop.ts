import { lowestAlong, rise, type ToolForm, touchingPlane } from '../tooling/index.js';
import { TerrainCells } from './terrain-cells.js';
import { type Terrain } from './terrain.js';

/** mm that a slope may be touched less than what else is, and still be what the tool is led by. */
export const LED = 0.02;

/** How far down a tool comes. */
export interface Dropped {
  /** Height of its tip, −Infinity where nothing is below it. */
  readonly z: number;
  /** The highest that it would come to on slopes alone, where that is within {@link LED} of its height; else anything less. */
  readonly onSlopes: number;
}

/**
 * How far down a tool of any form comes over a place before it touches the terrain, exactly: over a triangle the height less the tool's
 * profile is concave, so that its greatest value lies at a corner, on an edge, or where the profile is as steep as the plane.
 */
export class DropCutter {
  /** Box and greatest height of every triangle: five numbers each. */
  private readonly boxes: Float64Array;
  private readonly isOwnEdge: Uint8Array;
  private readonly cells: TerrainCells;
  /** For every triangle the last drop that it was judged for. */
  private readonly judgedFor: Int32Array;
  private drops = 0;

  constructor(
    private readonly terrain: Terrain,
    private readonly form: ToolForm,
  ) {
    const { positions: p, triangles } = terrain;
    this.isOwnEdge = Uint8Array.from(triangles, (_, h) => Number(terrain.isOwnEdge(h)));
    this.boxes = new Float64Array((5 * triangles.length) / 3);
    for (let t = 0; t < triangles.length / 3; t++) {
      const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
      const [minX, minY] = [Math.min(p[a], p[b], p[c]), Math.min(p[a + 1], p[b + 1], p[c + 1])];
      const [maxX, maxY] = [Math.max(p[a], p[b], p[c]), Math.max(p[a + 1], p[b + 1], p[c + 1])];
      this.boxes.set([minX, minY, maxX, maxY, Math.max(p[a + 2], p[b + 2], p[c + 2])], 5 * t);
    }
    this.judgedFor = new Int32Array(triangles.length / 3);
    this.cells = new TerrainCells(terrain, this.boxes, form.diameter / 2);
  }

  at(x: number, y: number): Dropped {
    const { terrain, form, cells, judgedFor } = this;
    const { size, tops, start, members, around, minX, minY } = cells;
    const radius = form.diameter / 2;
    const drop = ++this.drops;
    const [column, row] = [cells.columnOf(x), cells.rowOf(y)];
    let [z, onSlopes] = [-Infinity, -Infinity];
    // From the axis outwards: hardly anything farther off stands higher than what lies there lets it.
    for (let k = 0; k < around.length; k += 2) {
      const cell = cells.at(column + around[k], row + around[k + 1]);
      if (cell < 0 || tops[cell] <= z - LED) continue;
      const left = minX + (column + around[k]) * size;
      const low = minY + (row + around[k + 1]) * size;
      const dx = x < left ? left - x : x > left + size ? x - left - size : 0;
      const dy = y < low ? low - y : y > low + size ? y - low - size : 0;
      const apart = Math.sqrt(dx * dx + dy * dy);
      if (apart > radius || tops[cell] - rise(form, apart) <= z - LED) continue;
      for (let at = start[cell]; at < start[cell + 1]; at++) {
        const t = members[at];
        if (judgedFor[t] === drop) continue;
        judgedFor[t] = drop;
        const isSlope = terrain.isSlope(t);
        if (this.mostOver(t, x, y) <= (isSlope ? Math.max(onSlopes, z - LED) : z)) continue;
        const over = this.over(t, x, y);
        if (over > z) z = over;
        if (isSlope && over > onSlopes) onSlopes = over;
      }
    }
    return { z, onSlopes };
  }

  /** What the tip cannot stand higher than by a triangle: as if the nearest place of its box were as high as its highest. */
  private mostOver(t: number, x: number, y: number): number {
    const { boxes } = this;
    const i = 5 * t;
    const dx = x < boxes[i] ? boxes[i] - x : x > boxes[i + 2] ? x - boxes[i + 2] : 0;
    const dy = y < boxes[i + 1] ? boxes[i + 1] - y : y > boxes[i + 3] ? y - boxes[i + 3] : 0;
    return boxes[i + 4] - rise(this.form, Math.sqrt(dx * dx + dy * dy));
  }

  /** The triangle that lies under a place; undefined where there is none. */
  triangleUnder(x: number, y: number): number | undefined {
    const { positions: p, triangles } = this.terrain;
    return this.cells.under(x, y).find((t) => {
      const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
      const side = (i: number, j: number) => (p[j] - p[i]) * (y - p[i + 1]) - (p[j + 1] - p[i + 1]) * (x - p[i]);
      return side(a, b) >= 0 && side(b, c) >= 0 && side(c, a) >= 0;
    });
  }

  /** The height at which the tip stands when the tool touches a triangle; −Infinity where it does not come to it. */
  private over(t: number, x: number, y: number): number {
    const { positions: p, triangles } = this.terrain;
    const [a, b, c] = [3 * triangles[3 * t], 3 * triangles[3 * t + 1], 3 * triangles[3 * t + 2]];
    const ax = p[a] - x, ay = p[a + 1] - y, az = p[a + 2]; // prettier-ignore
    const bx = p[b] - x, by = p[b + 1] - y, bz = p[b + 2]; // prettier-ignore
    const cx = p[c] - x, cy = p[c + 1] - y, cz = p[c + 2]; // prettier-ignore
    let most = this.inside(ax, ay, az, bx, by, bz, cx, cy, cz);
    if (this.isOwnEdge[3 * t]) most = Math.max(most, this.onEdge(ax, ay, az, bx, by, bz));
    if (this.isOwnEdge[3 * t + 1]) most = Math.max(most, this.onEdge(bx, by, bz, cx, cy, cz));
    if (this.isOwnEdge[3 * t + 2]) most = Math.max(most, this.onEdge(cx, cy, cz, ax, ay, az));
    return most;
  }

  /** Along an edge whose ends are given from the tool's axis. */
  private onEdge(ax: number, ay: number, az: number, bx: number, by: number, bz: number): number {
    const { form } = this;
    const length = Math.hypot(bx - ax, by - ay);
    if (length < 1e-9) return Math.max(az, bz) - rise(form, Math.hypot(ax, ay));
    const [ux, uy] = [(bx - ax) / length, (by - ay) / length];
    const foot = -(ax * ux + ay * uy);
    const aside = Math.abs(ux * ay - uy * ax);
    const radius = form.diameter / 2;
    if (aside > radius) return -Infinity;
    const reach = Math.sqrt(radius ** 2 - aside ** 2);
    const [low, high] = [Math.max(0, foot - reach), Math.min(length, foot + reach)];
    if (low > high) return -Infinity;
    const slope = (bz - az) / length;
    const s = Math.min(high, Math.max(low, foot + lowestAlong(form, -slope, aside)));
    return az + slope * s - rise(form, Math.min(radius, Math.hypot(aside, s - foot)));
  }

  /** Where the plane of a triangle, its corners given from the tool's axis, touches the profile, if that lies within the triangle. */
  private inside(
    ax: number,
    ay: number,
    az: number,
    bx: number,
    by: number,
    bz: number,
    cx: number,
    cy: number,
    cz: number,
  ): number {
    const [ux, uy, uz] = [bx - ax, by - ay, bz - az];
    const [vx, vy, vz] = [cx - ax, cy - ay, cz - az];
    const twice = ux * vy - uy * vx;
    const [gx, gy] = [(uz * vy - vz * uy) / twice, (vz * ux - uz * vx) / twice];
    const steep = Math.hypot(gx, gy);
    const off = steep > 1e-12 ? touchingPlane(this.form, steep) : 0;
    const part = off > 0 ? off / steep : 0;
    const [wx, wy] = [part * gx - ax, part * gy - ay];
    const [s, t] = [(wx * vy - wy * vx) / twice, (ux * wy - uy * wx) / twice];
    return s < 0 || t < 0 || s + t > 1 ? -Infinity : az + s * uz + t * vz - rise(this.form, off);
  }
}
