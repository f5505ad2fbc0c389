import { readBlock } from './block.js';
import { Interpreter } from './interpreter.js';
import { type Step } from './motion.js';
import { ProgramError } from './program-error.js';
import { rotarySaid } from './rotary.js';

/** Lines of a program at most. */
export const MOST_LINES = 20_000_000;

/**
 * What a program does, step by step, as the language RS274/NGC, Version 3, says (Kramer, Proctor, Messina, NISTIR 6556, 2000). It is read
 * as it is asked for, so that a long program takes no more memory than its text. What follows its end is not read. Of a program that says in a
 * comment that it turns the work, places are those on the face laid flat.
 * @throws ProgramError with line and column where it cannot be read; steps before that were given
 */
export function* readProgram(text: string): Generator<Step> {
  const interpreter = new Interpreter();
  let line = 0;
  for (let from = 0; from <= text.length;) {
    const end = text.indexOf('\n', from);
    const to = end < 0 ? text.length : end;
    if (++line > MOST_LINES) throw new ProgramError(line, 1, `the program has more than ${MOST_LINES} lines.`);
    const own = text.slice(from, to);
    if (interpreter.rotary === undefined && own.startsWith('(')) interpreter.rotary = rotarySaid(own);
    const block = readBlock(own, line, interpreter.parameters);
    from = to + 1;
    if (!block) continue;
    for (const step of interpreter.run(block)) {
      yield step;
      if (step.kind === 'end') return;
    }
  }
}
