import { degrees, radians } from '../geometry/index.js';
import { ProgramError } from './program-error.js';

/** Numbered parameters of a program: 1 to 5399. Those that were never set are 0. */
export type Parameters = Map<number, number>;

/** RS274/NGC, Version 3, section 3.2.1. */
const MOST_PARAMETERS = 5400;

/** Unary operations (RS274/NGC, table 3 and section 3.3.2.4); angles are in degrees. */
const UNARY: Readonly<Record<string, (value: number) => number>> = {
  abs: Math.abs,
  acos: (value) => degrees(Math.acos(value)),
  asin: (value) => degrees(Math.asin(value)),
  cos: (value) => Math.cos(radians(value)),
  exp: Math.exp,
  fix: Math.floor,
  fup: Math.ceil,
  ln: Math.log,
  round: Math.round,
  sin: (value) => Math.sin(radians(value)),
  sqrt: Math.sqrt,
  tan: (value) => Math.tan(radians(value)),
};

/** Binary operations by how tightly they bind (RS274/NGC, section 3.3.2.3): power, then products, then sums and logic. */
const BINARY: readonly (readonly [string, number, (a: number, b: number) => number])[] = [
  ['**', 3, (a, b) => a ** b],
  ['*', 2, (a, b) => a * b],
  ['/', 2, (a, b) => a / b],
  ['mod', 2, (a, b) => ((a % b) + Math.abs(b)) % Math.abs(b)],
  ['+', 1, (a, b) => a + b],
  ['-', 1, (a, b) => a - b],
  ['and', 1, (a, b) => Number(a !== 0 && b !== 0)],
  ['xor', 1, (a, b) => Number((a !== 0) !== (b !== 0))],
  ['or', 1, (a, b) => Number(a !== 0 || b !== 0)],
];

const MOST_DEPTH = 50;

/**
 * Reads real values out of a line in which there is no white space and no capital letter: a number, `[an expression]`, a parameter
 * `#3`, or a function `sin[30]` (RS274/NGC, section 3.3.2).
 */
export class ValueReader {
  at = 0;
  private depth = 0;

  constructor(
    readonly text: string,
    private readonly parameters: Parameters,
    private readonly line: number,
    /** Columns of the characters in the line as it was written. */
    private readonly columns: readonly number[],
  ) {}

  /** @throws ProgramError where there is no value */
  value(): number {
    if (++this.depth > MOST_DEPTH) throw this.fault(`brackets lie more than ${MOST_DEPTH} deep in each other.`);
    const value = this.read();
    this.depth--;
    if (!Number.isFinite(value)) throw this.fault('this has no finite value.');
    return value;
  }

  /** The number of a parameter, after its `#`. */
  parameter(): number {
    const index = this.value();
    if (!Number.isInteger(index) || index < 1 || index >= MOST_PARAMETERS)
      throw this.fault(`#${index} is no parameter: they are numbered from 1 to ${MOST_PARAMETERS - 1}.`);
    return index;
  }

  fault(reason: string, at = this.at): ProgramError {
    return new ProgramError(this.line, this.columns[Math.min(at, this.columns.length - 1)] ?? 1, reason);
  }

  private read(): number {
    const { text, at } = this;
    if (text[at] === '[') return this.bracketed();
    if (text[at] === '#') {
      this.at++;
      return this.parameters.get(this.parameter()) ?? 0;
    }
    const number = /^[+-]?(?:\d+\.?\d*|\.\d+)/u.exec(text.slice(at, at + 40));
    if (number) {
      this.at += number[0].length;
      return Number(number[0]);
    }
    const name = /^[a-z]+(?=\[)/u.exec(text.slice(at, at + 10))?.[0] ?? '';
    if (name === 'atan') return this.arcTangent();
    const operation = Object.hasOwn(UNARY, name) ? UNARY[name] : undefined;
    if (!operation) throw this.fault('a number is missing here.');
    this.at += name.length;
    return operation(this.bracketed());
  }

  /** `atan[y]/[x]` */
  private arcTangent(): number {
    this.at += 'atan'.length;
    const y = this.bracketed();
    if (this.text[this.at] !== '/') throw this.fault('“atan” takes two values: atan[1]/[2].');
    this.at++;
    return degrees(Math.atan2(y, this.bracketed()));
  }

  private bracketed(): number {
    if (this.text[this.at] !== '[') throw this.fault('“[” is missing here.');
    const from = this.at++;
    const value = this.sum(1);
    if (this.text[this.at] !== ']') throw this.fault('this “[” is not closed.', from);
    this.at++;
    return value;
  }

  /** Operations that bind at least so tightly, from left to right. */
  private sum(least: number): number {
    let value = this.value();
    for (;;) {
      const found = BINARY.find(([name, binds]) => binds >= least && this.text.startsWith(name, this.at));
      if (!found) return value;
      const [name, binds, operate] = found;
      this.at += name.length;
      value = operate(value, binds === 3 ? this.value() : this.sum(binds + 1));
    }
  }
}
