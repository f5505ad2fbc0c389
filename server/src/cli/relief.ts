import { notesOf } from '@plain-relief/core/checks';
import { PlanError } from '@plain-relief/core/cutting';
import { DryRunError } from '@plain-relief/core/dry-run';
import { ShopError } from '@plain-relief/core/shop';
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
import { type Evaluation, Evaluator } from '@plain-relief/core/relief';
import { readSign, type Side, type Sign, SignError, withOption } from '@plain-relief/core/sign';
import { isWatertight, meshBounds, volume } from '@plain-relief/core/mesh';
import { SupportError } from '@plain-relief/core/support';
import { coloured, colouredInSpace, figuresOf, inSpace, inSpaceOrFlat, namedPieces, solidOf } from '@plain-relief/core/solid';
import { openFontBook } from '../modules/fonts/font-files.js';
import { pngFile } from '../modules/production/png.js';
import { PICTURE_PIXELS } from '../modules/production/make-file.js';
import { proofSheet } from '../modules/production/proof-sheet.js';
import { faultReport } from '../modules/production/fault-report.js';
import { viewsOf } from '../modules/production/sign-views.js';
import { readSettings } from '../platform/settings.js';
import { CommandError, dateFrom, readDocument, readArguments } from './command.js';
import { checkCommand } from './check.js';
import { cutsCommand } from './cuts.js';
import { dryRunCommand } from './dry-run.js';
import { runCommand } from './run.js';

const USAGE = `Usage:
  ./relief inspect SIGN.json                 what the sign is, as JSON
  ./relief export SIGN.json [options]        writes any of its files
    --stl FILE    the solid                  --svg FILE   the outlines by level
    --3mf FILE    the solid with finishes    --dxf FILE   the outlines by level
    --glb FILE    the model with finishes    --pdf FILE   the proof
    --png FILE    a picture from the front
    --option ID   of one of the sign's options
    --side back   outlines, picture and solid as seen from behind
    --date DATE   the date on the proof, as 2026-11-25 (today where none is given)
  ./relief dry-run SIGN.json --shop SHOP.json PROGRAM…   what programs make of the sign, as JSON
    --machine ID  whose speeds the time is of (the first of the shop's where none is given)
    --zero X,Y,Z  where the programs' zero lies in the sign, in mm
    --cell MM     how far apart places are looked at (0.1)
    --side back   of the back
    --face ID     of a block, which face
    --choice FILE stock, clamps and pins, as the cuts were asked for with
  ./relief cuts SIGN.json --shop SHOP.json --out DIR      the cuts of a sign as programs, proven by a dry run, as JSON
    --machine ID  on which, the first of the shop's where none is given
    --material ID of the shop's, where the sign's words name none
    --tools IDS   that may be used, by id or number: end-6,end-3; those that suit the sign where none are named
    --date DATE   the date on the setup sheet
    --choice FILE how, as docs/programs.md says
    --cell MM, --side back, --face ID  as above
  ./relief check SIGN.json                   what is measured of a sign, as JSON; exits 1 where something is not as it should be
    --shop SHOP.json  whose tools and material it is measured against
    --distance M      from which it is read
    --standard ID     that it is to meet, clause by clause: ada-703
    --side back       of the back
  ./relief run SIGN.json --list LIST.csv --out DIR   a plate for every row of a list, with a report, as JSON
    --files KINDS     of svg, dxf, stl (svg,stl)
    --rows 3,7-9      those alone
    --column SLOT=COLUMN   where their names differ; as often as needed
    --option NAME     of the sign, that all plates are made as
    --workers N       threads that make rows (1)
    --sheet 1220x610  lays plates on sheets of so many mm, with a map of each, and all maps as a PDF
    --contact         a contact sheet (PDF): a picture of every plate with its number
    --margin MM, --spacing MM   to the sheet's edge (10), between plates (4)
    --turns DEGREES   that plates may be turned by (0,90,180,270)
    --effort N        how often plates that are no rectangles are looked at to lay them closer (30000)
    --order kept      as in the list; free where nothing is said
    --offcuts 600x300,400x200   used first, before whole sheets
    --shop SHOP.json  writes programs of every sheet, tool by tool, and proves them; --machine ID, --material ID, --tools IDS,
                      --choice FILE, --cell MM (0.2) as for cuts
SIGN.json may be - for standard input. Documents: docs/sign-format.md, docs/shop-format.md; programs: docs/programs.md; runs: docs/runs.md.`;

function inspection(evaluation: Evaluation): object {
  const { sign, levels } = evaluation;
  const flat = solidOf(evaluation);
  const { mesh } = inSpaceOrFlat(evaluation, flat);
  const hasMaterial = mesh.triangles.length > 0;
  return {
    version: sign.version,
    title: sign.title,
    unit: sign.unit,
    boundsMm: hasMaterial ? meshBounds(mesh) : null,
    volumeMm3: hasMaterial ? volume(mesh) : 0,
    watertight: isWatertight(mesh),
    triangles: mesh.triangles.length / 3,
    finishes: figuresOf(evaluation, flat).areas.map(({ finish, topMm2, sidesMm2 }) => ({
      name: finish.name,
      topMm2,
      sidesMm2,
    })),
    levels: levels.map(({ z, areaMm2 }) => ({ z, areaMm2 })),
    letters: evaluation.parts.reduce((sum, part) => sum + part.letters, 0),
    notes: notesOf(evaluation).map(({ code, weight, text, part, tier }) => ({ code, weight, text, part, tier })),
  };
}

const FILE_OPTIONS = ['stl', '3mf', 'glb', 'png', 'svg', 'dxf', 'pdf'] as const;

function write(path: string, content: Uint8Array | string): void {
  try {
    writeFileSync(path, content);
  } catch (error) {
    throw new CommandError(`${path} cannot be written: ${(error as Error).message}.`);
  }
}

interface Asked {
  readonly command: 'inspect' | 'export';
  readonly path: string;
  readonly option?: string;
  readonly side: Side;
  readonly date?: string;
  /** Where files are to be written, by their kind. */
  readonly files: Readonly<Partial<Record<(typeof FILE_OPTIONS)[number], string>>>;
}

/** What the arguments ask for; undefined where that is help alone. @throws CommandError */
function askedBy(args: readonly string[]): Asked | undefined {
  const text = { type: 'string' } as const;
  const parsed = readArguments(
    args,
    {
      stl: text,
      '3mf': text,
      glb: text,
      png: text,
      svg: text,
      dxf: text,
      pdf: text,
      date: text,
      option: text,
      side: text,
      help: { type: 'boolean', short: 'h' },
    },
    USAGE,
  );
  const { help, option, side = 'front', date, ...files } = parsed.values;
  if (help) return undefined;
  const [command, path, ...rest] = parsed.positionals;
  if ((command !== 'inspect' && command !== 'export') || path === undefined || rest.length > 0) throw new CommandError(USAGE);
  if (side !== 'front' && side !== 'back') throw new CommandError(`--side ${side} is neither front nor back.`);
  if (command === 'export' && Object.keys(files).length === 0) {
    const kinds = FILE_OPTIONS.map((name) => `--${name}`).join(', ');
    throw new CommandError(`Nothing to write: name at least one of ${kinds}.\n\n${USAGE}`);
  }
  return { command, path, option, side, date, files };
}

async function run(args: readonly string[]): Promise<void> {
  if (args[0] === 'check') {
    const found = await checkCommand(args.slice(1), USAGE);
    console.log(JSON.stringify(found, null, 2));
    if (!found.passes) process.exitCode = 1;
    return;
  }
  const making = { 'dry-run': dryRunCommand, cuts: cutsCommand, run: runCommand }[args[0]];
  if (making) {
    console.log(JSON.stringify(await making(args.slice(1), USAGE), null, 2));
    return;
  }
  const asked = askedBy(args);
  if (!asked) {
    console.log(USAGE);
    return;
  }
  const { fontsDir } = readSettings({ DATABASE_URL: 'none needed', ...process.env });
  const book = openFontBook(fontsDir);
  const document = readSign(readDocument(asked.path), book.catalogue);
  const { option } = asked;
  if (option !== undefined && !document.options?.some(({ id }) => id === option))
    throw new CommandError(
      `--option ${option} is none of the sign's options: ${document.options?.map(({ id }) => id).join(', ') ?? 'it has none'}.`,
    );
  const evaluator = new Evaluator(book);
  const evaluation = await evaluator.evaluate(withOption(document, option), asked.side);
  if (asked.command === 'inspect') {
    console.log(JSON.stringify(inspection(evaluation), null, 2));
    return;
  }
  writeSolids(evaluation, document, asked);
  writeOutlines(evaluation, asked);
  if (asked.files.pdf) {
    const subject = {
      shop: { name: '', contact: '', terms: '' },
      customer: '',
      job: '',
      revision: '—',
      date: dateFrom(asked.date),
    };
    write(asked.files.pdf, await proofSheet([await viewsOf(evaluator, document, option)], subject, book, fontsDir));
  }
}

function writeSolids(evaluation: Evaluation, document: Sign, { files, date }: Asked): void {
  const { stl, '3mf': threeMf, glb, png } = files;
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
    const madeOn = dateFrom(date);
    toFile(threeMf, () => closedThreeMf(pieces, title, madeOn));
  }
  if (glb) toFile(glb, () => closedGlb(colouredInSpace(evaluation, solid), title));
  if (png) {
    const { width, height } = pictureSize(evaluation, PICTURE_PIXELS);
    write(png, pngFile(reliefPicture(coloured(evaluation, solid), width, height)));
  }
}

function writeOutlines(evaluation: Evaluation, { files: { svg, dxf } }: Asked): void {
  if (!svg && !dxf) return;
  const { unit, title } = evaluation.sign;
  const outlines = withBends(productionOutlines(evaluation), evaluation);
  if (svg) write(svg, svgFile(outlines, { unit, title }));
  if (dxf) write(dxf, dxfFile(outlines, unit));
}

run(process.argv.slice(2)).catch((error: unknown) => {
  const isTold = [CommandError, SignError, ShopError, PlanError, DryRunError].some((told) => error instanceof told);
  console.error(isTold ? (error as Error).message : error);
  process.exitCode = 1;
});
