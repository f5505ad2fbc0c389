import { contourArea, facetNormals, unitNormals } from '../outline/index.js';
import { type Evaluation, placeOf, type Worn, wornBy } from '../relief/index.js';
import { BARE_FINISH, type Finish, finishNamed, finishOf } from '../sign/index.js';
import type { ReliefMesh } from './mesh.js';

/** What a triangle of a relief is seen as. */
export type Side = 'top' | 'side' | 'back';

export interface Look {
  /** That of a tier or of the blank; of bare material the one that its laminate, or nothing, gives it. */
  readonly finish: Finish;
  readonly side: Side;
}

/** A cap whose normal leans less than this from straight up is level. */
const LEVEL = 1 - 1e-9;

/** How every triangle of a relief's mesh looks: finishes of tiers and blank, level tops and sides apart; slopes are sides. */
export function looksOf(evaluation: Evaluation, mesh: ReliefMesh): Look[] {
  const { positions: p, triangles, belongs } = mesh;
  const known = new Map<string, Look>();
  const look = ({ finish, bare }: Worn, side: Side): Look => {
    const key = `${finish ?? bare} ${side}`;
    let one = known.get(key);
    if (!one) known.set(key, (one = { finish: finishWorn(evaluation, { finish, bare }), side }));
    return one;
  };
  const normals = unitNormals(p, triangles);
  const back = -evaluation.sign.blank.thickness;
  return Array.from(belongs, (label, f) => {
    if (label === 0) return look({ bare: wornBy(evaluation, { layer: -1 }, false, back).bare }, 'back');
    const { surface } = placeOf(evaluation, Math.abs(label))!;
    const isTop = label > 0 && normals[3 * f + 2] > LEVEL;
    const z = (p[3 * triangles[3 * f] + 2] + p[3 * triangles[3 * f + 1] + 2] + p[3 * triangles[3 * f + 2] + 2]) / 3;
    return look(wornBy(evaluation, surface, !isTop, z), isTop ? 'top' : 'side');
  });
}

/** The finish that is seen where this is worn. */
export function finishWorn({ sign }: Evaluation, { finish, bare }: Worn): Finish {
  const { laminate } = sign.blank;
  const chosen = finishOf(sign, finish);
  if (chosen) return chosen;
  if (!laminate || bare === 'bare') return BARE_FINISH;
  return finishNamed(bare === 'cap' ? laminate.capColour : laminate.coreColour);
}

/** Areas that wear a finish. */
export interface FinishArea {
  readonly finish: Finish;
  readonly topMm2: number;
  readonly sidesMm2: number;
}

/** What a relief measures. */
export interface Figures {
  readonly volumeMm3: number;
  /** Taken out of the blank: below the face, and through. */
  readonly removedMm3: number;
  /** Of the face and of every finish; the back is left out. */
  readonly areas: readonly FinishArea[];
}

/** Volume, what is taken out of the blank, and areas by finish. */
export function figuresOf(evaluation: Evaluation, mesh: ReliefMesh): Figures {
  const { positions: p, triangles, belongs } = mesh;
  const { thickness } = evaluation.sign.blank;
  const normals = facetNormals(p, triangles);
  const areas = new Map<Finish, { topMm2: number; sidesMm2: number }>();
  let [volume, removed, covered] = [0, 0, 0];
  looksOf(evaluation, mesh).forEach(({ finish, side }, f) => {
    if (side === 'back') return;
    const size = Math.hypot(normals[3 * f], normals[3 * f + 1], normals[3 * f + 2]) / 2;
    let sum = areas.get(finish);
    if (!sum) areas.set(finish, (sum = { topMm2: 0, sidesMm2: 0 }));
    if (side === 'top') sum.topMm2 += size;
    else sum.sidesMm2 += size;
    if (belongs[f] < 0) return;
    const plan = normals[3 * f + 2] / 2;
    const [za, zb, zc] = [p[3 * triangles[3 * f] + 2], p[3 * triangles[3 * f + 1] + 2], p[3 * triangles[3 * f + 2] + 2]];
    covered += plan;
    volume += plan * ((za + zb + zc) / 3 + thickness);
    removed += plan * meanBelow(za, zb, zc);
  });
  removed += Math.max(0, contourArea(evaluation.blank) - covered) * thickness;
  return {
    volumeMm3: volume,
    removedMm3: removed,
    areas: [...areas].map(([finish, sum]) => ({ finish, ...sum })).sort((a, b) => b.topMm2 + b.sidesMm2 - a.topMm2 - a.sidesMm2),
  };
}

/** Mean of how far a triangle with these heights lies below 0: over its part below by similar triangles. */
function meanBelow(...heights: readonly [number, number, number]): number {
  const [a, b, c] = [...heights].sort((p, q) => p - q);
  if (c <= 0) return -(a + b + c) / 3;
  if (a >= 0) return 0;
  if (b >= 0) return (-a / 3) * (a / (a - b)) * (a / (a - c));
  // The part above is the smaller triangle at c.
  return -(a + b + c) / 3 + (c / 3) * (c / (c - a)) * (c / (c - b));
}

/** A mesh with the finishes that its triangles wear. */
export interface ColouredMesh {
  readonly mesh: ReliefMesh;
  readonly finishes: readonly Finish[];
  /** For every triangle the place of its finish in the list. */
  readonly wears: Int32Array;
}

/** The finishes of a relief's mesh; a material whose name tells a colour is none: bare material is paper-coloured. */
export function coloured(evaluation: Evaluation, mesh: ReliefMesh): ColouredMesh {
  const finishes: Finish[] = [];
  const places = new Map<string, number>();
  const wears = Int32Array.from(looksOf(evaluation, mesh), ({ finish }) => {
    let place = places.get(finish.id);
    if (place === undefined) {
      place = finishes.length;
      places.set(finish.id, place);
      finishes.push(finish);
    }
    return place;
  });
  return { mesh, finishes, wears };
}
