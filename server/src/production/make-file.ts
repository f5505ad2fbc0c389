import { productionOutlines } from '@plain-relief/core/drawing';
import { dxfFile, glbFile, stlFile, svgFile, threeMfFile } from '@plain-relief/core/format';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import type { Evaluation } from '@plain-relief/core/relief';
import { coloured, piecesOf, solidOf } from '@plain-relief/core/solid';
import type { FontBook } from '@plain-relief/core/type';
import { strToU8, zipSync } from 'fflate';
import type { TaskKind } from '../tasks/model.js';
import { pngFile } from './png.js';
import { type ProofSubject, proofSheet, type Report } from './proof-sheet.js';

export interface MadeFile {
  readonly name: string;
  readonly type: string;
  readonly bytes: Uint8Array;
}

/** Pixels along the longer side of a picture of the sign. */
export const PICTURE_PIXELS = 2400;

/** A name that is safe on any file system, from a job number and a title. */
export function fileStem(job: string, title: string): string {
  const stem = `${job} ${title}`
    .normalize('NFKD')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/gu, '')
    .slice(0, 80);
  return stem || 'sign';
}

/** The files of a sign; which is made follows from the kind. */
export class FileMaker {
  constructor(
    private readonly book: FontBook,
    private readonly fontsDir: string,
  ) {}

  async make(kind: TaskKind, evaluation: Evaluation, subject: ProofSubject, report: Report): Promise<MadeFile> {
    const { sign } = evaluation;
    const name = `${fileStem(subject.job.split(' ')[0] ?? '', sign.title)}-r${subject.revision}`;
    switch (kind) {
      case 'proof':
        return {
          name: `${name}-proof.pdf`,
          type: 'application/pdf',
          bytes: await proofSheet(evaluation, subject, this.book, this.fontsDir, report),
        };
      case 'stl':
        await report(0.2, 'building the solid');
        return { name: `${name}.stl`, type: 'model/stl', bytes: stlFile(solidOf(evaluation), sign.title) };
      case '3mf': {
        await report(0.2, 'building the solid');
        const pieces = piecesOf(solidOf(evaluation)).map((piece) => coloured(evaluation, piece));
        await report(0.6, 'writing the file');
        return { name: `${name}.3mf`, type: 'model/3mf', bytes: threeMfFile(pieces, sign.title, subject.date) };
      }
      case 'glb':
        await report(0.2, 'building the solid');
        return {
          name: `${name}.glb`,
          type: 'model/gltf-binary',
          bytes: glbFile(coloured(evaluation, solidOf(evaluation)), sign.title),
        };
      case 'pieces': {
        await report(0.2, 'building the solid');
        const pieces = piecesOf(solidOf(evaluation));
        const width = String(pieces.length).length;
        const files = pieces.map((piece, i) => [
          `${name}-piece-${String(i + 1).padStart(width, '0')}.stl`,
          stlFile(piece, `${sign.title}, piece ${i + 1}`),
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
      case 'svg': {
        await report(0.2, 'drawing the outlines');
        const text = svgFile(productionOutlines(evaluation), { unit: sign.unit, title: sign.title });
        return { name: `${name}.svg`, type: 'image/svg+xml', bytes: strToU8(text) };
      }
      case 'dxf':
        await report(0.2, 'drawing the outlines');
        return {
          name: `${name}.dxf`,
          type: 'image/vnd.dxf',
          bytes: strToU8(dxfFile(productionOutlines(evaluation), sign.unit)),
        };
      case 'package':
        return { name: `${name}.zip`, type: 'application/zip', bytes: await this.package(evaluation, subject, report) };
    }
  }

  /** All files and the sign document in one archive, dated by the subject. */
  private async package(evaluation: Evaluation, subject: ProofSubject, report: Report): Promise<Uint8Array> {
    const kinds = ['stl', '3mf', 'svg', 'dxf', 'proof'] as const;
    const entries: Record<string, Uint8Array> = {};
    for (const [i, kind] of kinds.entries()) {
      const part: Report = (share, step) => report((i + share) / (kinds.length + 1), step);
      const file = await this.make(kind, evaluation, subject, part);
      entries[file.name] = file.bytes;
    }
    const { sign } = evaluation;
    entries[`${fileStem(subject.job.split(' ')[0] ?? '', sign.title)}.sign.json`] = strToU8(`${JSON.stringify(sign, null, 2)}\n`);
    await report(kinds.length / (kinds.length + 1), 'packing');
    return zipSync(entries, { mtime: subject.date });
  }
}
