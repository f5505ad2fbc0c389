import { writeFileSync } from 'node:fs';
import { productionOutlines, withBends } from '@plain-relief/core/drawing';
import {
  closedGlb,
  closedStl,
  closedThreeMf,
  dxfFile,
  NothingToWriteError,
  OpenSolidError,
  svgFile,
} from '@plain-relief/core/format';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type Evaluation } from '@plain-relief/core/relief';
import { type Sign } from '@plain-relief/core/sign';
import { coloured, colouredInSpace, inSpace, namedPieces, solidOf } from '@plain-relief/core/solid';
import { SupportError } from '@plain-relief/core/support';
import { faultReport } from '../modules/production/fault-report.js';
import { PICTURE_PIXELS } from '../modules/production/make-file.js';
import { pngFile } from '../modules/production/png.js';
import { proofSheet } from '../modules/production/proof-sheet.js';
import { viewsOf } from '../modules/production/sign-views.js';
import { CommandError, dateFrom, readArguments } from './command.js';
import { OF_SIGN, signFrom } from './one-sign.js';

const text = { type: 'string' } as const;
const FILE_OPTIONS = { stl: text, '3mf': text, glb: text, png: text, svg: text, dxf: text, pdf: text };

/** Where files are to be written, by their kind. */
type Files = Readonly<Partial<Record<keyof typeof FILE_OPTIONS, string>>>;

/** Writes files of a sign. @throws CommandError and what the core throws */
export async function exportCommand(args: readonly string[], usage: string): Promise<void> {
  const parsed = readArguments(args, { ...FILE_OPTIONS, ...OF_SIGN, date: text }, usage);
  const { option, side, date, ...files } = parsed.values;
  const [path, ...rest] = parsed.positionals;
  if (path === undefined || rest.length > 0) throw new CommandError(usage);
  if (Object.keys(files).length === 0) {
    const kinds = Object.keys(FILE_OPTIONS)
      .map((name) => `--${name}`)
      .join(', ');
    throw new CommandError(`Nothing to write: name at least one of ${kinds}.\n\n${usage}`);
  }
  const madeOn = dateFrom(date);
  const { sign, evaluation, evaluator, book, fontsDir } = await signFrom(path, { option, side });
  writeSolids(evaluation, sign, files, madeOn);
  writeOutlines(evaluation, files);
  if (files.pdf) {
    const shop = { name: '', contact: '', terms: '' };
    const subject = { shop, customer: '', job: '', revision: '—', date: madeOn };
    write(files.pdf, await proofSheet([await viewsOf(evaluator, sign, option)], subject, book, fontsDir));
  }
}

function write(path: string, content: Uint8Array | string): void {
  try {
    writeFileSync(path, content);
  } catch (error) {
    throw new CommandError(`${path} cannot be written: ${(error as Error).message}.`);
  }
}

function writeSolids(evaluation: Evaluation, document: Sign, { stl, '3mf': threeMf, glb, png }: Files, madeOn: Date): void {
  if (!stl && !threeMf && !glb && !png) return;
  const { title } = evaluation.sign;
  const solid = solidOf(evaluation);
  const toFile = (path: string, make: () => Uint8Array): void => {
    try {
      write(path, make());
    } catch (error) {
      if (error instanceof NothingToWriteError || error instanceof SupportError) throw new CommandError(error.message);
      if (!(error instanceof OpenSolidError)) throw error;
      const report = `${path}.report.json`;
      write(report, faultReport(error, document));
      throw new CommandError(`${error.message} The report is in ${report}.`);
    }
  };
  if (stl) toFile(stl, () => closedStl(inSpace(evaluation, solid).mesh, title));
  if (threeMf) {
    const pieces = namedPieces(evaluation).map((piece) => ({ ...piece, mesh: colouredInSpace(evaluation, piece.mesh) }));
    toFile(threeMf, () => closedThreeMf(pieces, title, madeOn));
  }
  if (glb) toFile(glb, () => closedGlb(colouredInSpace(evaluation, solid), title));
  if (png) {
    const { width, height } = pictureSize(evaluation, PICTURE_PIXELS);
    write(png, pngFile(reliefPicture(coloured(evaluation, solid), width, height)));
  }
}

function writeOutlines(evaluation: Evaluation, { svg, dxf }: Files): void {
  if (!svg && !dxf) return;
  const { unit, title } = evaluation.sign;
  const outlines = withBends(productionOutlines(evaluation), evaluation);
  if (svg) write(svg, svgFile(outlines, { unit, title }));
  if (dxf) write(dxf, dxfFile(outlines, unit));
}
