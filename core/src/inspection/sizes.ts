import { bounds, direction } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { type Part } from '../sign/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm by which a sheet may be thicker or thinner than is asked. */
const SAME_THICKNESS = 0.05;
/** mm between a curve and the line that stands for it. */
const SAGITTA = 0.1;
/** Degrees that a corner of a curve turns by; more is a corner that is meant, less is hardly any. */
const LEAST_TURN = 3;
const MOST_TURN = 40;
/** So many of them in a row are a curve. */
const IN_A_ROW = 4;

/** What machines and sheets are too small for, and curves that are too coarse for their size. */
export function sizeFindings(evaluation: Evaluation, limits: Limits): Finding[] {
  return [
    ...noMachine(evaluation, limits),
    ...noSheet(evaluation, limits),
    ...evaluation.sign.parts.flatMap((part) => coarse(evaluation, part)),
  ];
}

const fits = (width: number, height: number, room: { readonly width: number; readonly height: number }): boolean =>
  (width <= room.width && height <= room.height) || (height <= room.width && width <= room.height);

function extentOf({ blank }: Evaluation): { readonly width: number; readonly height: number } {
  const { minX, maxX, minY, maxY } = bounds([blank])!;
  return { width: maxX - minX, height: maxY - minY };
}

function noMachine(evaluation: Evaluation, { machines = [] }: Limits): Finding[] {
  const { width, height } = extentOf(evaluation);
  if (machines.length === 0 || machines.some((machine) => fits(width, height, machine))) return [];
  const length = (mm: number): string => formatLength(Number(mm.toFixed(1)), evaluation.sign.unit);
  const largest = [...machines].sort((a, b) => b.width * b.height - a.width * a.height)[0];
  const text = `The sign is ${length(width)} by ${length(height)}; the largest machine, ${largest.name}, reaches ${length(largest.width)} by ${length(largest.height)}.`;
  return [
    { check: 'no-machine', text, measured: Math.max(width, height), limit: Math.max(largest.width, largest.height), places: [] },
  ];
}

function noSheet(evaluation: Evaluation, { sheets = [] }: Limits): Finding[] {
  const { width, height } = extentOf(evaluation);
  const { thickness } = evaluation.sign.blank;
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), evaluation.sign.unit);
  if (sheets.length === 0) return [];
  const thick = sheets.filter((sheet) => Math.abs(sheet.thickness - thickness) <= SAME_THICKNESS);
  if (thick.some((sheet) => fits(width, height, sheet))) return [];
  const kept = [...new Set(sheets.map((sheet) => sheet.thickness))].sort((a, b) => a - b);
  const nearest = kept.reduce((a, b) => (Math.abs(b - thickness) < Math.abs(a - thickness) ? b : a));
  const text =
    thick.length > 0
      ? `No sheet of ${length(thickness)} that the shop keeps is ${length(width)} by ${length(height)} large.`
      : `The shop keeps no sheet of ${length(thickness)}; it has ${kept.map(length).join(', ')}.`;
  return [{ check: 'no-sheet', text, measured: thickness, limit: nearest, places: [], about: thick.length > 0 ? 'size' : 'thickness' }]; // prettier-ignore
}

/** Outlines drawn in lines that turn a little at every corner, as a drawing that was made larger does. */
function coarse({ sign: { unit }, parts }: Evaluation, part: Part): Finding[] {
  if (part.kind !== 'shape' || part.hidden || part.shape.kind !== 'outline' || /[csqtahv]/iu.test(part.shape.path)) return [];
  const rings = parts.find(({ id }) => id === part.id)?.area.contours ?? [];
  let worst: { sagitta: number; x: number; y: number } | undefined;
  for (const ring of rings) {
    const count = ring.length / 2;
    let row = 0;
    for (let i = 0; i < count + IN_A_ROW; i++) {
      const [a, b, c] = [i, i + 1, i + 2].map((k) => 2 * (k % count));
      const [ux, uy, vx, vy] = [ring[b] - ring[a], ring[b + 1] - ring[a + 1], ring[c] - ring[b], ring[c + 1] - ring[b + 1]];
      const turn = (Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy) * 180) / Math.PI;
      row = Math.abs(turn) >= LEAST_TURN && Math.abs(turn) <= MOST_TURN ? row + 1 : 0;
      if (row < IN_A_ROW) continue;
      // A chord that turns by φ lies L/2 · tan(φ/4) from its circle.
      const { cos, sin } = direction(Math.abs(turn) / 4);
      const sagitta = (Math.min(Math.hypot(ux, uy), Math.hypot(vx, vy)) / 2) * (sin / cos);
      if (sagitta > (worst?.sagitta ?? SAGITTA)) worst = { sagitta, x: ring[b], y: ring[b + 1] };
    }
  }
  if (!worst) return [];
  const { sagitta, x, y } = worst;
  const text = `${part.name} is a curve of lines that are up to ${formatLength(Number(sagitta.toFixed(2)), unit)} off it: its corners are seen.`;
  return [{ check: 'coarse-curve', text, measured: sagitta, limit: SAGITTA, places: [{ x, y }], part: part.id }];
}
