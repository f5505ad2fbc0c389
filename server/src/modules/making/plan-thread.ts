import { createHash } from 'node:crypto';
import type { MessagePort } from 'node:worker_threads';
import type { MadeWith, PlanOrder } from '@plain-relief/api';
import { type CutChoice, PlanError, USUAL } from '@plain-relief/core/cutting';
import { type Colour, type OverAt, type Stock, stockPicture } from '@plain-relief/core/dry-run';
import { bounds } from '@plain-relief/core/geometry';
import { costOfPlan, outcomeOf, type PlanOutcome, readCutChoice, usualCell, writtenPlan } from '@plain-relief/core/making';
import { Evaluator } from '@plain-relief/core/relief';
import { type Sign, withOption } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import type { LoadedFont } from '../fonts/fonts.js';
import { ThreadBook } from '../fonts/thread-book.js';
import { pngFile } from '../production/png.js';
import { setupSheet, type SheetSubject } from './setup-sheet.js';

/** A plan to be laid. */
export interface PlanWork {
  readonly sign: Sign;
  readonly order: PlanOrder;
  readonly madeWith: MadeWith;
  readonly subject: SheetSubject;
  readonly fontsDir: string;
  readonly fonts: readonly LoadedFont[];
  /** Where it is told how far the work is. */
  readonly port: MessagePort;
}

/** What came of it. */
export interface LaidPlan {
  readonly outcome: PlanOutcome;
  readonly programs: readonly { readonly name: string; readonly text: string }[];
  readonly picture: Uint8Array;
  readonly sheet: Uint8Array;
}

/** A plan that cannot be laid, in a sentence. */
export interface RefusedPlan {
  readonly refused: string;
}

/** Pixels of the longer side of pictures. */
const LONGEST = 1400;
const WOOD: Colour = [214, 196, 160];
const LEFT: Colour = [196, 58, 46];
const GOUGED: Colour = [122, 20, 110];

const fonts = new ThreadBook();
let evaluator: Evaluator | undefined;

/** Runs in a thread: lays a plan, writes and proves its programs, and draws what they leave. */
export default async function layPlan(work: PlanWork): Promise<LaidPlan | RefusedPlan> {
  const { sign, order, madeWith, subject, fontsDir, port } = work;
  const book = fonts.with(fontsDir, work.fonts);
  evaluator ??= new Evaluator(book);
  const evaluation = await evaluator.evaluate(withOption(sign, order.option), order.side);
  const choice: CutChoice = {
    ...USUAL,
    cutsOut: order.side === 'front',
    ...readCutChoice(order.choice ?? {}),
    machine: madeWith.machine,
    material: madeWith.material,
    tools: madeWith.tools,
  };
  const cell = order.cell ?? usualCell(bounds([evaluation.blank])!);
  let picture: Uint8Array | undefined;
  const seen = (stock: Stock, overAt: OverAt): void => {
    const left = -sign.blank.thickness + 1e-3;
    const pixels = stockPicture(stock, LONGEST, (column, row, height) => {
      const over = overAt(column, row);
      if (over !== 0) return over > 0 ? LEFT : GOUGED;
      return height <= left ? undefined : WOOD;
    });
    picture = pngFile(pixels, true);
  };
  try {
    const written = writtenPlan(evaluation, choice, {
      cell,
      seen,
      progress: (share, step) => port.postMessage({ share: 0.02 + 0.95 * share, step }),
    });
    const hash = (text: string): string => createHash('sha256').update(text).digest('hex');
    const outcome = outcomeOf(written, costOfPlan(evaluation, written, madeWith.rates), cell, hash);
    port.postMessage({ share: 0.98, step: 'drawing the setup sheet' });
    const solid = coloured(evaluation, solidOf(evaluation));
    const { width, height } = pictureSize(evaluation, LONGEST / 2);
    const wanted = pngFile(reliefPicture(solid, width, height), true);
    const sheet = await setupSheet({ evaluation, choice, outcome, subject, wanted, made: picture! }, book, fontsDir);
    return { outcome, programs: written.programs.map(({ name, text }) => ({ name, text })), picture: picture!, sheet };
  } catch (error) {
    if (error instanceof PlanError) return { refused: error.message };
    throw error;
  }
}
