import type { MessagePort } from 'node:worker_threads';
import type { MadeWith, PlanOrder } from '@plain-relief/api';
import { type CutChoice, PlanError, USUAL } from '@plain-relief/core/cutting';
import { bounds } from '@plain-relief/core/geometry';
import { readCutChoice, signToCut, usualCell } from '@plain-relief/core/making';
import { rotaryWords } from '@plain-relief/core/program';
import { Evaluator } from '@plain-relief/core/relief';
import { rotaryOf } from '@plain-relief/core/shop';
import { facesOf, layingWords, type Sign, signOfFace, withOption } from '@plain-relief/core/sign';
import type { LoadedFont } from '../fonts/fonts.js';
import { ThreadBook } from '../fonts/thread-book.js';
import { laidPlan, type LaidPlan } from './laid-plan.js';
import type { SheetSubject } from './setup-sheet.js';

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

/** What came of it, as it goes from thread to thread. */
export interface PlanAnswer extends Omit<LaidPlan, 'programs'> {
  readonly programs: readonly { readonly name: string; readonly text: string }[];
}

/** A plan that cannot be laid, in a sentence. */
export interface RefusedPlan {
  readonly refused: string;
}

const fonts = new ThreadBook();
let evaluator: Evaluator | undefined;

/** Runs in a thread: lays a plan, writes and proves its programs, and draws what they leave. */
export default async function layPlan(work: PlanWork): Promise<PlanAnswer | RefusedPlan> {
  const { sign, order, madeWith, subject, fontsDir, port } = work;
  const book = fonts.with(fontsDir, work.fonts);
  evaluator ??= new Evaluator(book);
  const whole = withOption(sign, order.option);
  const faces = facesOf(whole.support);
  const face = faces.find(({ id }) => id === order.face);
  const evaluation = await evaluator.evaluate(signToCut(face ? signOfFace(whole, face) : whole), order.side);
  const { rates, ...means } = madeWith;
  const rotary = face ? undefined : rotaryOf(whole, madeWith.machine);
  // A block is there before it is cut, and so is what goes all the way round and is turned.
  const isThere = face !== undefined || (rotary !== undefined && whole.support?.kind === 'cylinder' && whole.support.round);
  const cutsOut = order.side === 'front' && !isThere;
  const choice: CutChoice = { ...USUAL, cutsOut, ...readCutChoice(order.choice ?? {}), ...means, ...(rotary && { rotary }) };
  const cell = order.cell ?? usualCell(bounds([evaluation.blank])!);
  const progress = (share: number, step: string): void => port.postMessage({ share: 0.02 + 0.97 * share, step });
  try {
    const laying = face
      ? `The block lies with its ${layingWords(faces, face)}.`
      : rotary && `${rotaryWords(rotary)}; heights are 0 at the face.`;
    const about = { ...subject, ...(laying && { laying }) };
    const { programs, ...laid } = await laidPlan(evaluation, choice, { cell, rates, subject: about, book, fontsDir, progress });
    return { ...laid, programs: programs.map(({ name, text }) => ({ name, text })) };
  } catch (error) {
    if (error instanceof PlanError) return { refused: error.message };
    throw error;
  }
}
