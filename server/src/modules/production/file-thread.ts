import type { ProcessChoice } from '@plain-relief/api';
import type { TaskKind } from '@plain-relief/api/states';
import type { MessagePort } from 'node:worker_threads';
import { OpenSolidError } from '@plain-relief/core/format';
import { Evaluator } from '@plain-relief/core/relief';
import { type TemplatePaper } from '@plain-relief/core/sheet';
import { type Sign } from '@plain-relief/core/sign';
import { ThreadBook } from '../fonts/thread-book.js';
import type { LoadedFont } from '../fonts/fonts.js';
import { faultReport } from './fault-report.js';
import { FileMaker, type MadeFile } from './make-file.js';
import { type BesideSigns } from './proof-sheet.js';
import type { ProofSubject } from './sheet.js';
import type { Report } from './sign-pages.js';
import { type SignViews, viewsOf } from './sign-views.js';

/** A file to be made: of a sign, or of one of its options; or the sheet of a proof's signs. */
export interface FileOrder {
  readonly documents: readonly Sign[];
  readonly what:
    | {
        readonly kind: 'file';
        readonly file: TaskKind;
        readonly option?: string;
        readonly paper: TemplatePaper;
        readonly process: ProcessChoice;
      }
    | ({ readonly kind: 'sheet' } & BesideSigns);
  readonly subject: ProofSubject;
  readonly fontsDir: string;
  /** Fonts of the shop's that the signs are set in. */
  readonly fonts: readonly LoadedFont[];
  /** Where it is told how far the work is: {@link Progress}. */
  readonly port: MessagePort;
}

export interface Progress {
  readonly share: number;
  readonly step: string;
}

/** What came of it: the file, or that its solid is open and what is to be sent in. */
export type FileAnswer = { readonly made: MadeFile } | { readonly refused: string; readonly report: string };

const fonts = new ThreadBook();
let tools: { readonly evaluator: Evaluator; readonly maker: FileMaker } | undefined;

/** Runs in a thread: makes a file, whose maker ends the thread where it takes too long or is wanted no longer. */
export default async function makeFile(order: FileOrder): Promise<FileAnswer> {
  const { documents, what, subject, fontsDir, port } = order;
  const book = fonts.with(fontsDir, order.fonts);
  tools ??= { evaluator: new Evaluator(book), maker: new FileMaker(book, fontsDir) };
  const { evaluator, maker } = tools;
  const report: Report = async (share, step) => port.postMessage({ share, step } satisfies Progress);
  try {
    if (what.kind === 'file') {
      const views = await viewsOf(evaluator, documents[0], what.option);
      return { made: await maker.make(what.file, views, subject, report, what) };
    }
    const views: SignViews[] = [];
    for (const document of documents) views.push(await viewsOf(evaluator, document));
    return { made: await maker.sheet(views, subject, report, what) };
  } catch (error) {
    if (!(error instanceof OpenSolidError)) throw error;
    return { refused: error.message, report: faultReport(error, documents[0]) };
  }
}
