import { notesOf } from '../checks/index.js';
import { type Note } from '../notes/index.js';
import { type Evaluation, type Evaluator } from '../relief/index.js';
import { MOST_CODED, MOST_WORDS, type Sign } from '../sign/index.js';
import { wordsOfPart } from './edit-slots.js';
import { type CellsOf, withBraille } from './row-braille.js';
import { type Correction, filled, hasSlots, type Values } from './slots.js';

/** How a row fits: as it is, after its letters were made to, not at all; or it is not made. */
export type PlateState = 'fits' | 'fitted' | 'too large' | 'lacking' | 'refused';

/** A row as it is made. */
export interface Plate {
  readonly sign: Sign;
  /** Not there where it is refused. */
  readonly evaluation?: Evaluation;
  readonly state: PlateState;
  readonly notes: readonly Note[];
  /** Percent of their width that letters were narrowed to at most, where they were. */
  readonly narrowed?: number;
  /** Why it is refused, in sentences. */
  readonly refused: readonly string[];
}

const FITTED: ReadonlySet<string> = new Set(['tightened', 'narrowed', 'reduced', 'wrapped']);
const LARGE: ReadonlySet<string> = new Set(['too-large', 'past-end']);
/** What words of a list may not do; other words may be meant to. */
const OVER: ReadonlySet<string> = new Set(['over-edge', 'off-blank']);

/**
 * A row laid out by itself, as the sign with the same words is; one whose values no sign can have, or that lacks one that it must have, is
 * refused and does not keep others from being made.
 * @param evaluator with the sign's fonts loaded
 * @param corrections of this row alone
 * @param cellsOf cells of what braille says in this row
 */
export function plateOf(
  sign: Sign,
  values: Values,
  evaluator: Evaluator,
  corrections?: readonly Correction[],
  cellsOf: CellsOf = () => undefined,
): Plate {
  const { sign: said, refused, faults: strange } = filled(sign, values, corrections);
  const own = withBraille(said, cellsOf);
  const lacking = [...refused.map((slot) => `${slot} has no value.`), ...strange];
  const faults = lacking.length > 0 ? lacking : faultsOf(own);
  if (faults.length > 0) return { sign: own, state: 'refused', notes: [], refused: faults };
  const evaluation = evaluator.evaluateLoaded(own);
  // A text of which nothing is left is no news.
  const notes = notesOf(evaluation).filter(({ code }) => code !== 'hidden');
  const stretches = evaluation.parts.flatMap(({ text }) => (text?.isFitted ? [text.stretch] : []));
  const narrowed = notes.some(({ code }) => code === 'narrowed') ? Math.min(...stretches) : undefined;
  return { sign: own, evaluation, state: stateBy(sign, notes), notes, refused: [], ...(narrowed !== undefined && { narrowed }) };
}

/** What is put into slots can be too long and nothing else: the sign was judged before. */
function faultsOf(sign: Sign): string[] {
  return sign.parts.flatMap((part) => {
    const words = wordsOfPart(sign, part.id) ?? '';
    const most = part.kind === 'shape' && part.shape.kind === 'code' ? MOST_CODED : MOST_WORDS;
    return words.length > most ? [`${part.name} would have ${words.length} characters of words: ${most} at most.`] : [];
  });
}

function stateBy(sign: Sign, notes: readonly Note[]): PlateState {
  if (notes.some(({ weight }) => weight === 'error')) return 'lacking';
  const isOver = ({ code, part }: Note): boolean => OVER.has(code) && part !== undefined && hasSlots(sign, part);
  if (notes.some((note) => LARGE.has(note.code) || isOver(note))) return 'too large';
  return notes.some(({ code }) => FITTED.has(code)) ? 'fitted' : 'fits';
}
