import { area } from '../geometry/index.js';
import { isConeOf, type ShopTool } from '../shop/index.js';
import { type Terrain } from './terrain.js';

/** Part of all slopes that a cone has to cut at once to be taken. */
const MATCHED_PART = 0.02;
/** mm² of slopes for which a tool is taken. */
const LEAST_SLOPED = 0.5;

/** Slopes of a terrain by how they are finished. */
export interface SlopeGroups {
  /** Triangles that a cone is as steep as, by the tool whose cone it is. */
  readonly matched: ReadonlyMap<ShopTool, ReadonlySet<number>>;
  /** Whether a triangle is cut roughly, and finished with a ball. */
  readonly rough: (triangle: number) => boolean;
  readonly hasRough: boolean;
}

/** Tells slopes that a cone cuts at once from those that are cut roughly and finished with a ball. */
export function slopeGroups(terrain: Terrain, tools: readonly ShopTool[]): SlopeGroups {
  const cones = tools.filter(({ form, left }) => (form.kind === 'vee' || form.kind === 'point') && left > 0);
  const matched = new Map<ShopTool, Set<number>>();
  const others = new Set<number>();
  for (let t = 0; t < terrain.slopes.length; t++) {
    if (!terrain.isSlope(t)) continue;
    const degrees = (Math.atan(terrain.slopes[t]) * 180) / Math.PI;
    const tool = cones.find((each) => isConeOf(each, degrees));
    if (!tool) others.add(t);
    else matched.set(tool, (matched.get(tool) ?? new Set()).add(t));
  }
  // A tool change is not worth a few facets that happen to be as steep.
  for (const [tool, slopes] of matched) {
    if (area(terrain.covered((t) => slopes.has(t))) > MATCHED_PART * terrain.slopedMm2) continue;
    matched.delete(tool);
    for (const t of slopes) others.add(t);
  }
  return { matched, rough: (t) => others.has(t), hasRough: area(terrain.covered((t) => others.has(t))) > LEAST_SLOPED };
}
