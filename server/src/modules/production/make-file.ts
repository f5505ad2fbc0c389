import type { ProcessChoice } from '@plain-relief/api';
import type { TaskKind } from '@plain-relief/api/states';
import { productionOutlines, withBends } from '@plain-relief/core/drawing';
import { closedGlb, closedStl, closedThreeMf, dxfFile, NothingToWriteError, svgFile } from '@plain-relief/core/format';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type TemplatePaper } from '@plain-relief/core/sheet';
import { USUAL_DRAFT, withDraft } from '@plain-relief/core/processes';
import { type Evaluation, Evaluator } from '@plain-relief/core/relief';
import { coloured, colouredInSpace, inSpace, namedPieces, solidOf, spaceSolid } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import { strToU8, zipSync } from 'fflate';
import { pngFile } from './png.js';
import { type BesideSigns, proofSheet } from './proof-sheet.js';
import type { ProofSubject } from './sheet.js';
import type { Report } from './sign-pages.js';
import { templateSheet } from './template-sheet.js';
import type { SignViews } from './sign-views.js';
import { inlayFiles, laserFiles, maskFiles, patternFiles, printFiles } from './process-files.js';

export interface MadeFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** Pixels along the longer side of a picture of the sign. */
export const PICTURE_PIXELS = 2400;

/** The outlines of one side for production. */
function outlineFile(kind: 'svg' | 'dxf', evaluation: Evaluation): Uint8Array {
  const { unit, title } = evaluation.sign;
  const outlines = withBends(productionOutlines(evaluation), evaluation);
  return strToU8(kind === 'svg' ? svgFile(outlines, { unit, title }) : dxfFile(outlines, unit));
}

/** A name that is safe on any file system, from a job number and a title. */
export function fileStem(job: string, title: string): string {
  const stem = `${job} ${title}`
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/gu, '');
  // By characters: cut by the halves of one, the name is none.
  return Array.from(stem).slice(0, 80).join('') || 'sign';
}

/** What some files are made by besides the sign. */
export interface FileChoice {
  readonly paper?: TemplatePaper;
  readonly process?: ProcessChoice;
}

/** The files of a sign; which is made follows from the kind. */
export class FileMaker {
  constructor(
    private readonly book: FontBook,
    private readonly fontsDir: string,
  ) {}

  async make(
    kind: TaskKind,
    views: SignViews,
    subject: ProofSubject,
    report: Report,
    { paper = 'A4', process = {} }: FileChoice = {},
  ): Promise<MadeFile> {
    const evaluation = views.front;
    const { sign } = evaluation;
    const stem = [fileStem(subject.job.split(' ')[0] ?? '', sign.title), subject.option && fileStem('', subject.option)];
    const name = `${stem.filter(Boolean).join('-')}-r${subject.revision}`;
    switch (kind) {
      case 'proof':
        return {
          name: `${name}-proof.pdf`,
          type: 'application/pdf',
          bytes: await proofSheet([views], subject, this.book, this.fontsDir, report),
        };
      case 'stl':
        await report(0.2, 'building the solid');
        return { name: `${name}.stl`, type: 'model/stl', bytes: closedStl(spaceSolid(evaluation), sign.title) };
      case '3mf': {
        await report(0.2, 'building the solid');
        const pieces = namedPieces(evaluation).map((piece) => ({ ...piece, mesh: colouredInSpace(evaluation, piece.mesh) }));
        await report(0.6, 'writing the file');
        return { name: `${name}.3mf`, type: 'model/3mf', bytes: closedThreeMf(pieces, sign.title, subject.date) };
      }
      case 'glb':
        await report(0.2, 'building the solid');
        return {
          name: `${name}.glb`,
          type: 'model/gltf-binary',
          bytes: closedGlb(colouredInSpace(evaluation, solidOf(evaluation)), sign.title),
        };
      case 'pieces': {
        await report(0.2, 'building the solid');
        const pieces = namedPieces(evaluation);
        if (pieces.length === 0) throw new NothingToWriteError('STL');
        const files = pieces.map((piece) => [
          `${piece.name}.stl`,
          closedStl(inSpace(evaluation, piece.mesh).mesh, `${sign.title}, ${piece.name}`),
        ]);
        return {
          name: `${name}-pieces.zip`,
          type: 'application/zip',
          bytes: zipSync(Object.fromEntries(files), { mtime: subject.date }),
        };
      }
      case 'picture': {
        await report(0.2, 'building the solid');
        const mesh = solidOf(evaluation);
        await report(0.5, 'drawing the picture');
        const { width, height } = pictureSize(evaluation, PICTURE_PIXELS);
        return {
          name: `${name}.png`,
          type: 'image/png',
          bytes: pngFile(reliefPicture(coloured(evaluation, mesh), width, height)),
        };
      }
      case 'svg':
      case 'dxf': {
        await report(0.2, 'drawing the outlines');
        const front = outlineFile(kind, evaluation);
        const type = kind === 'svg' ? 'image/svg+xml' : 'image/vnd.dxf';
        if (!views.back) return { name: `${name}.${kind}`, type, bytes: front };
        const sides = { [`${name}-front.${kind}`]: front, [`${name}-back.${kind}`]: outlineFile(kind, views.back) };
        return { name: `${name}-${kind}.zip`, type: 'application/zip', bytes: zipSync(sides, { mtime: subject.date }) };
      }
      case 'laser':
        return { name: `${name}-laser.zip`, type: 'application/zip', bytes: laserFiles(evaluation, name, process, subject.date) };
      case 'masks':
        return { name: `${name}-masks.zip`, type: 'application/zip', bytes: maskFiles(evaluation, name, process, subject.date) };
      case 'inlays':
        return {
          name: `${name}-inlays.zip`,
          type: 'application/zip',
          bytes: inlayFiles(evaluation, name, process, subject.date),
        };
      case 'print':
        await report(0.2, 'building the solid');
        return { name: `${name}-print.zip`, type: 'application/zip', bytes: printFiles(evaluation, name, process, subject.date) };
      case 'pattern': {
        await report(0.2, 'building the solid');
        const draft = process.draft ?? USUAL_DRAFT;
        const cast =
          process.addsDraft && draft > 0 ? await new Evaluator(this.book).evaluate(withDraft(sign, draft)) : evaluation;
        return {
          name: `${name}-pattern.zip`,
          type: 'application/zip',
          bytes: patternFiles(cast, name, process, subject.date),
        };
      }
      case 'template': {
        const title = [subject.job.split(' ')[0], sign.title].filter(Boolean).join(' ');
        const bytes = await templateSheet(evaluation, { paper, title, date: subject.date }, this.fontsDir, report);
        return { name: `${name}-template-${paper}.pdf`, type: 'application/pdf', bytes };
      }
      case 'package':
        return { name: `${name}.zip`, type: 'application/zip', bytes: await this.package(views, subject, report) };
    }
  }

  /** The sheet of a frozen proof. */
  async sheet(signs: readonly SignViews[], subject: ProofSubject, report: Report, beside: BesideSigns = {}): Promise<MadeFile> {
    const name = `${fileStem(subject.job, '')}-proof-${subject.revision}${subject.frozen?.approval ? '-approved' : ''}.pdf`;
    const bytes = await proofSheet(signs, subject, this.book, this.fontsDir, report, beside);
    return { name, type: 'application/pdf', bytes };
  }

  /** All files and the sign document in one archive, dated by the subject. */
  private async package(views: SignViews, subject: ProofSubject, report: Report): Promise<Uint8Array> {
    const kinds = ['stl', '3mf', 'svg', 'dxf', 'proof'] as const;
    const entries: Record<string, Uint8Array> = {};
    for (const [i, kind] of kinds.entries()) {
      const part: Report = (share, step) => report((i + share) / (kinds.length + 1), step);
      const file = await this.make(kind, views, subject, part);
      entries[file.name] = file.bytes;
    }
    const { sign } = views.front;
    entries[`${fileStem(subject.job.split(' ')[0] ?? '', sign.title)}.sign.json`] = strToU8(`${JSON.stringify(sign, null, 2)}\n`);
    await report(kinds.length / (kinds.length + 1), 'packing');
    return zipSync(entries, { mtime: subject.date });
  }
}
