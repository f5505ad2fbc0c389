import { type Evaluation, placeOf, type Worn, wornBy } from '../relief/index.js';
import { BARE_FINISH, type Finish, finishNamed, finishOf } from '../sign/index.js';
import type { ReliefMesh } from './mesh.js';

/** What a triangle of a relief is seen as. */
export type Side = 'top' | 'side' | 'back';

export interface Look {
  /** Id of the finish; of bare material one that its laminate, or nothing, gives it. */
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
  const back = -evaluation.sign.blank.thickness;
  return Array.from(belongs, (label, f) => {
    if (label === 0) return look({ bare: wornBy(evaluation, -1, false, back).bare }, 'back');
    const { surface } = placeOf(evaluation, Math.abs(label))!;
    const [a, b, c] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
    const z = (p[a + 2] + p[b + 2] + p[c + 2]) / 3;
    if (label < 0) return look(wornBy(evaluation, surface.layer, true, z), 'side');
    if (surface.kind === 'level') return look(wornBy(evaluation, surface.layer, false, z), 'top');
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const isLevel = normal[2] / Math.hypot(...normal) > LEVEL;
    return look(wornBy(evaluation, surface.layer, !isLevel, z), isLevel ? 'top' : 'side');
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
export function figuresOf(evaluation: Evaluation, mesh: ReliefMesh, blankAreaMm2: number): Figures {
  const { positions: p, triangles } = mesh;
  const { thickness } = evaluation.sign.blank;
  const looks = looksOf(evaluation, mesh);
  const areas = new Map<Finish, { topMm2: number; sidesMm2: number }>();
  let [volume, removed, covered] = [0, 0, 0];
  looks.forEach(({ finish, side }, f) => {
    const [a, b, c] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const plan = (ux * vy - uy * vx) / 2;
    if (side === 'back') return;
    const size = Math.hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) / 2;
    let sum = areas.get(finish);
    if (!sum) areas.set(finish, (sum = { topMm2: 0, sidesMm2: 0 }));
    if (side === 'top') sum.topMm2 += size;
    else sum.sidesMm2 += size;
    if (mesh.belongs[f] < 0) return;
    covered += plan;
    volume += plan * ((p[a + 2] + p[b + 2] + p[c + 2]) / 3 + thickness);
    removed += plan * meanBelow(p[a + 2], p[b + 2], p[c + 2]);
  });
  removed += Math.max(0, blankAreaMm2 - covered) * thickness;
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
