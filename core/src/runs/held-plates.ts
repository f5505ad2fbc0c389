import { type Evaluator } from '../relief/index.js';
import { type Sign } from '../sign/index.js';
import { plateOf, type PlateState } from './plates.js';
import { type CellsOf } from './row-braille.js';
import { type Run, signOfRun, valuesOfRun } from './run.js';

/** Numbers that are said one by one; of more only how many they are. */
const MOST_NUMBERS = 8;

/** "3, 7 and 9"; of many the first, and how many more. */
export function numbersInWords(numbers: readonly number[]): string {
  const said = numbers.slice(0, MOST_NUMBERS).map(String);
  const more = numbers.length - said.length;
  if (more > 0) return `${said.join(', ')} and ${more} more`;
  return said.length < 2 ? said.join('') : `${said.slice(0, -1).join(', ')} and ${said[said.length - 1]}`;
}

/** How plates of a state are told of; none of those that can be made as they are. */
const TOLD: Readonly<Partial<Record<PlateState, readonly [string, string]>>> = {
  'too large': ['does not fit', 'do not fit'],
  lacking: ['lacks something', 'lack something'],
  refused: ['is not made', 'are not made'],
};

/**
 * Which plates of a run cannot be made as they are, in sentences; none where all can.
 * @param evaluator with the sign's fonts loaded
 * @param isLate asked before every plate; those after are told as not looked at
 */
export function heldPlates(
  sign: Sign,
  run: Run,
  evaluator: Evaluator,
  isLate: () => boolean = () => false,
  cellsOf?: CellsOf,
): string[] {
  const found = new Map<PlateState, number[]>();
  const values = valuesOfRun(sign, run);
  const own = signOfRun(sign, run);
  let at = 0;
  for (; at < values.length && !isLate(); at++) {
    const { state } = plateOf(own, values[at], evaluator, run.rows[at].corrections, cellsOf);
    found.set(state, [...(found.get(state) ?? []), at + 1]);
  }
  const told = [...found].flatMap(([state, numbers]) => {
    const words = TOLD[state];
    if (!words) return [];
    return numbers.length === 1 ? [`Plate ${numbers[0]} ${words[0]}.`] : [`Plates ${numbersInWords(numbers)} ${words[1]}.`];
  });
  return at < values.length ? [...told, `Plates ${at + 1} to ${values.length} were too many to be looked at here: see their notes under Run.`] : told; // prettier-ignore
}
