import type { ManifoldToplevel } from 'manifold-3d';
import { notesOf } from '../src/checks/index.js';
import { productionOutlines } from '../src/drawing/index.js';
import { dxfFile, glbFile, readGlb, readStl, readThreeMf, stlFile, svgFile, threeMfFile } from '../src/format/index.js';
import { area, bounds, perimeter, STEPS_PER_MM } from '../src/geometry/index.js';
import { type Evaluation, Evaluator } from '../src/relief/index.js';
import { fontsOf, hasBack, laidBlock, type Sign, ticket } from '../src/sign/index.js';
import { edgeFaults, type Mesh, type ReliefMesh, volume } from '../src/mesh/index.js';
import { coloured, figuresOf, inSpace, namedPieces, solidOf, volumeOf } from '../src/solid/index.js';
import { surfaceOf, SupportError } from '../src/support/index.js';
import { type FontBook } from '../src/type/index.js';
import { bentVolume } from './bent-volume.js';
import { blockByDefinition } from './block-definition.js';
import { Columns } from './columns.js';
import { Oracle } from './oracle.js';
import { Random } from './random.js';
import { manifoldOf } from './referee.js';

/** Something about a sign that is not as it must be. */
export interface Finding {
  /** Of the same kind of fault the same word. */
  readonly what: string;
  readonly words: string;
}

export interface Judgement {
  readonly findings: readonly Finding[];
  /** ms of processor time that the evaluation of the front took, and its solid. */
  readonly evaluationMs: number;
}

/** mm by which edges and distances may be read aside: chords of curves here and there, chords of what is grown from them, and of lines of equal distance. */
const ASIDE = 0.065;
/** mm by which heights may be off: chords of round edge forms, and lines in which slopes of several parts meet. */
const OFF = 0.02;
const HEIGHTS = 100;
const SAMPLES = 2500;
const DATE = new Date('2026-11-26T12:00:00Z');

/** What is wrong with the relief and the files of a sign, by the definition and by what reads files. */
export async function judged(sign: Sign, book: FontBook, m: ManifoldToplevel, seed = 1): Promise<Judgement> {
  const findings: Finding[] = [];
  const add = (what: string, words: string) => findings.push({ what, words });
  await book.need(fontsOf(sign));
  const began = process.cpuUsage();
  const evaluation = new Evaluator(book).evaluateLoaded(sign);
  const mesh = solidOf(evaluation);
  const { user, system } = process.cpuUsage(began);
  for (const { code, text } of notesOf(evaluation))
    if (/NaN|undefined|Infinity|null/u.test(text)) add('note', `${code}: ${text}`);
  closedFindings('solid', mesh, add);
  const mm3 = volume(mesh);
  const slivers = sliversOf(sign, evaluation);
  if (
    !sign.support &&
    Math.abs(volumeOf(evaluation) - mm3) > Math.max(1e-3, 1e-4 * mm3, mm3 < 10 * slivers ? slivers : 0.02 * slivers)
  )
    add('volumeOf', `${volumeOf(evaluation)} and ${mm3} of the solid`);
  if (!mesh.positions.every(Number.isFinite)) add('bounds', 'corners that are no numbers');
  // What stands for a blank without area is the application's own choice.
  if (notesOf(evaluation).every(({ code }) => code !== 'no-blank')) heightFindings(sign, evaluation, mesh, m, seed, add);
  spaceFindings(evaluation, mesh, m, add);
  if (hasBack(sign)) {
    const behind = new Evaluator(book).evaluateLoaded(sign, 'back');
    const other = solidOf(behind);
    closedFindings('solid from behind', other, add);
    // Edges lie on the grid, and so do the lines of slopes, which puts heights off by less than a step.
    const rounding = (perimeter([evaluation.blank]) * sign.blank.thickness + Math.abs(area([evaluation.blank]))) / STEPS_PER_MM;
    if (Math.abs(volume(other) - mm3) > 1e-4 * mm3 + 0.01 + rounding)
      add('back volume', `${volume(other)} and ${mm3} from the front`);
  }
  fileFindings(sign, evaluation, mesh, add);
  if (/NaN|undefined|Infinity/u.test(JSON.stringify(ticket(sign, [])))) add('ticket', 'a figure of the ticket is no number');
  return { findings, evaluationMs: (user + system) / 1000 };
}

/** mm³ that slivers taken out of a solid can come to: a thousandth of a millimetre along the edge of the blank. */
const sliversOf = ({ blank }: Sign, evaluation: Evaluation): number => 1e-3 * perimeter([evaluation.blank]) * blank.thickness;

type Add = (what: string, words: string) => void;

function closedFindings(name: string, mesh: Mesh, add: Add): void {
  const { count, at } = edgeFaults(mesh);
  if (count > 0) add(`${name} not closed`, `${count} edges, the first at ${at!.map((v) => v.toFixed(4)).join(', ')}`);
}

/** mm by which chords of solids in space may lie beside their surfaces where they are judged. */
const CHORDS = 0.005;

/** The solid in space: closed, and as much as the definition says; or a sentence that says why there is none. */
function spaceFindings(evaluation: Evaluation, flat: ReliefMesh, m: ManifoldToplevel, add: Add): void {
  const { sign } = evaluation;
  const surface = surfaceOf(sign);
  if (!surface || flat.triangles.length === 0) return;
  let mesh: Mesh;
  try {
    ({ mesh } = inSpace(evaluation, flat, CHORDS));
  } catch (error) {
    if (!(error instanceof SupportError)) throw error;
    if (/NaN|undefined|Infinity|null/u.test(error.message)) add('support', error.message);
    return;
  }
  closedFindings('solid in space', mesh, add);
  if (!mesh.positions.every(Number.isFinite)) add('space bounds', 'corners that are no numbers');
  const theirs = manifoldOf(m, mesh);
  if (theirs.status() !== 'NoError') add('solid in space', String(theirs.status()));
  const { support } = sign;
  if (support?.kind === 'block') {
    const [own, expected] = [volume(mesh), blockByDefinition(m, flat, laidBlock(support)).volume()];
    if (Math.abs(own - expected) > 2e-4 * theirs.surfaceArea() + 0.01)
      add('space volume', `${own} and ${expected} by the definition`);
    return;
  }
  if (support && 'round' in support && (support.lid ?? support.floor ?? support.filled)) return;
  // What reaches too far round for its flat level, which is an error, has no height there that could be told.
  if (notesOf(evaluation).some(({ code }) => code === 'support-flat-far')) return;
  const mm3 = volume(mesh);
  // Chords lie beside the surface by a part of the tolerance, in front and behind.
  const { minX, maxX, minY, maxY } = bounds([evaluation.blank])!;
  const beside = 2 * CHORDS * (maxX - minX) * (maxY - minY);
  let expected = 0;
  // Where a line changes its curve within a cell, only small cells are exact enough.
  for (const cell of [10, 1.2]) {
    expected = bentVolume(flat, surface, cell);
    if (Math.abs(mm3 - expected) <= 1e-4 * expected + beside) return;
  }
  add('space volume', `${mm3} and ${expected} by the definition`);
}

function heightFindings(sign: Sign, evaluation: Evaluation, mesh: Mesh, m: ManifoldToplevel, seed: number, add: Add): void {
  const oracle = new Oracle(m, sign, evaluation);
  const columns = new Columns(mesh);
  const random = new Random(seed);
  const xs = evaluation.blank.filter((_, i) => i % 2 === 0);
  const ys = evaluation.blank.filter((_, i) => i % 2 === 1);
  const [minX, maxX, minY, maxY] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  let wrong = 0;
  let first = '';
  // Half of the places where something stands.
  const inks = evaluation.parts.flatMap(({ ink }, i) => (ink ? [{ ink, isBack: sign.parts[i].side === 'back' }] : []));
  const near = (low: number, high: number, from: number, to: number): number =>
    random.between(Math.max(low, from), Math.max(Math.max(low, from), Math.min(high, to)));
  for (let i = 0; i < HEIGHTS; i++) {
    const part = i % 2 === 0 && inks.length > 0 ? random.pick(inks) : undefined;
    const x = part ? near(part.ink.minX, part.ink.maxX, minX, maxX) * (part.isBack ? -1 : 1) : random.between(minX, maxX);
    const y = part ? near(part.ink.minY, part.ink.maxY, minY, maxY) : random.between(minY, maxY);
    const there = oracle.at(x, y, ASIDE);
    if (there === 'unsure') continue;
    const met = columns.at(x, y);
    let words = '';
    if (there === 'none') {
      if (met.length > 0) words = `material from ${met[0].z} to ${met[met.length - 1].z} where there is none`;
    } else if (met.length === 0 && there.front.most - there.back.least < OFF) {
      // What is thinner than heights may be off may be nothing.
      continue;
    } else if (met.length < 2 || met[0].isUp || !met[met.length - 1].isUp)
      words = `met ${met.length} times, and there is material from ${there.back.least} to ${there.front.least} … ${there.front.most}`;
    else {
      const [low, high] = [met[0].z, met[met.length - 1].z];
      if (high < there.front.least - OFF || high > there.front.most + OFF)
        words = `front at ${high} and not ${there.front.least} to ${there.front.most}`;
      else if (low < there.back.least - OFF || low > there.back.most + OFF)
        words = `back at ${low} and not ${there.back.least} to ${there.back.most}`;
    }
    if (!words) continue;
    wrong++;
    first ||= `at ${x.toFixed(3)}, ${y.toFixed(3)}: ${words}`;
  }
  if (wrong > 0) add('height', `${wrong} of ${HEIGHTS} places; ${first}`);
  volumeFindings(oracle, evaluation, [minX, maxX, minY, maxY], volume(mesh), add);
}

/** The volume by summing the definition up over a lattice that is no grid (R2 sequence, M. Roberts, 2018). */
function volumeFindings(oracle: Oracle, evaluation: Evaluation, [minX, maxX, minY, maxY]: number[], mm3: number, add: Add): void {
  const { highest, rearmost } = evaluation;
  let [sum, squares, unsure, thin] = [0, 0, 0, 0];
  for (let i = 1; i <= SAMPLES; i++) {
    const x = minX + (maxX - minX) * ((i * 0.7548776662466927) % 1);
    const y = minY + (maxY - minY) * ((i * 0.5698402909980532) % 1);
    const there = oracle.at(x, y, 0);
    if (there === 'unsure') unsure++;
    const thick =
      there === 'unsure'
        ? (highest - rearmost) / 2
        : there === 'none'
          ? 0
          : (there.front.least + there.front.most - there.back.least - there.back.most) / 2;
    if (thick < OFF) thin += thick;
    sum += thick;
    squares += thick * thick;
  }
  const size = (maxX - minX) * (maxY - minY);
  const mean = sum / SAMPLES;
  // As if one more had met the thickest place: what is small may have been met by none.
  const deviation = Math.sqrt(Math.max(0, (squares + (highest - rearmost) ** 2) / SAMPLES - mean * mean));
  const off =
    (4 * deviation * size) / Math.sqrt(SAMPLES) +
    1e-3 * mm3 +
    1 +
    sliversOf(oracle.sign, evaluation) +
    (thin / SAMPLES) * size +
    (unsure / SAMPLES) * size * ((highest - rearmost) / 2);
  if (Math.abs(mean * size - mm3) > off) add('volume', `${mm3} and ${mean * size} by the definition, which is right to ${off}`);
}

function fileFindings(sign: Sign, evaluation: Evaluation, mesh: ReliefMesh, add: Add): void {
  const outlines = productionOutlines(evaluation);
  const texts = { svg: svgFile(outlines, { unit: sign.unit, title: sign.title }), dxf: dxfFile(outlines, sign.unit) };
  for (const [name, text] of Object.entries(texts)) if (/NaN|undefined|Infinity/u.test(text)) add(name, 'a figure is no number');
  if (mesh.triangles.length === 0) return;
  const figures = JSON.stringify(figuresOf(evaluation, mesh));
  if (/null/u.test(figures)) add('figures', figures);
  closedFindings('STL', readStl(stlFile(mesh, sign.title)), add);
  const package3mf = threeMfFile(
    namedPieces(evaluation).map((piece) => ({ ...piece, mesh: coloured(evaluation, piece.mesh) })),
    sign.title,
    DATE,
  );
  readThreeMf(package3mf).forEach((piece) => closedFindings('3MF', piece, add));
  closedFindings('GLB', readGlb(glbFile(coloured(evaluation, mesh), sign.title)), add);
}
