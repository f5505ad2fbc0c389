import { createHash } from 'node:crypto';
import { type CutChoice } from '@plain-relief/core/cutting';
import { type Colour, type OverAt, type Stock, stockPicture } from '@plain-relief/core/dry-run';
import { costOfPlan, outcomeOf, type PlanOutcome, writtenPlan, type WrittenPlan } from '@plain-relief/core/making';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { type Evaluation } from '@plain-relief/core/relief';
import { type Shop } from '@plain-relief/core/shop';
import { coloured } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import { pngFile } from '../production/png.js';
import { setupSheet, type SheetSubject } from './setup-sheet.js';

/** A plan with everything that is kept of it. */
export interface LaidPlan {
  readonly outcome: PlanOutcome;
  readonly programs: WrittenPlan['programs'];
  /** What the programs leave, seen from above, as PNG. */
  readonly picture: Uint8Array;
  /** The setup sheet, as PDF. */
  readonly sheet: Uint8Array;
}

/** What a plan is laid and drawn with. */
export interface Laying {
  /** mm between the places at which the dry run looks. */
  readonly cell: number;
  readonly rates: Shop['rates'];
  readonly subject: SheetSubject;
  readonly book: FontBook;
  readonly fontsDir: string;
  /** Hears how far it is, 0 to 1, and may end it by throwing. */
  readonly progress?: (part: number, words: string) => void;
}

/** Pixels of the longer side of pictures. */
const LONGEST = 1400;
const WOOD: Colour = [214, 196, 160];
const LEFT: Colour = [196, 58, 46];
const GOUGED: Colour = [122, 20, 110];

/** Lays the cuts of a sign, proves their programs, and draws what they leave and the setup sheet. @throws PlanError, DryRunError */
export async function laidPlan(evaluation: Evaluation, choice: CutChoice, laying: Laying): Promise<LaidPlan> {
  const { cell, rates, subject, book, fontsDir, progress } = laying;
  let picture: Uint8Array | undefined;
  const floor = 1e-3 - evaluation.sign.blank.thickness;
  const seen = (stock: Stock, overAt: OverAt): void => {
    const pixels = stockPicture(stock, LONGEST, (column, row, height) => {
      const over = overAt(column, row);
      if (over !== 0) return over > 0 ? LEFT : GOUGED;
      return height <= floor ? undefined : WOOD;
    });
    picture = pngFile(pixels, true);
  };
  const written = writtenPlan(evaluation, choice, { cell, seen, progress: (part, words) => progress?.(0.97 * part, words) });
  const hash = (text: string): string => createHash('sha256').update(text).digest('hex');
  const outcome = outcomeOf(written, costOfPlan(evaluation, written, rates), cell, hash);
  progress?.(0.98, 'Drawing the setup sheet');
  const { width, height } = pictureSize(evaluation, LONGEST / 2);
  const { work } = written.plan;
  const wanted = pngFile(reliefPicture(coloured(evaluation, work.mesh), width, height), true);
  const sheet = await setupSheet({ evaluation, work, choice, outcome, subject, wanted, made: picture! }, book, fontsDir);
  return { outcome, programs: written.programs, picture: picture!, sheet };
}
