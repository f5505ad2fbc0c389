import { type Parameters, ValueReader } from './expression.js';
import { ProgramError } from './program-error.js';

/** A word: a letter and its value. */
export interface Word {
  readonly letter: string;
  readonly value: number;
  readonly column: number;
}

/** A line of a program. */
export interface Block {
  /** Counted from 1. */
  readonly line: number;
  /** Without line numbers. */
  readonly words: readonly Word[];
  /** Of parameters, which hold from the next line on. */
  readonly settings: readonly (readonly [number, number])[];
  readonly comment: string;
}

/** RS274/NGC, section 3.3: 256 characters. Writers of long comments are not refused for them. */
const LONGEST_LINE = 4096;
const LETTERS = 'afghijklmnpqrstxyz';

/**
 * Reads a line: block delete, line number, words, parameter settings and comments, in parentheses or after a semicolon. White space and
 * the case of letters mean nothing outside of comments (RS274/NGC, section 3.3).
 * @param parameters as they are before the line
 * @returns undefined where there is nothing on it, or it is deleted by “/”
 * @throws ProgramError
 */
export function readBlock(text: string, line: number, parameters: Parameters): Block | undefined {
  if (text.length > LONGEST_LINE)
    throw new ProgramError(line, LONGEST_LINE + 1, `the line has ${text.length} characters and may have ${LONGEST_LINE}.`);
  const { bare, columns, comment } = withoutComments(text, line);
  if (bare === '' || bare === '%' || bare.startsWith('/')) return undefined;
  const reader = new ValueReader(bare, parameters, line, columns);
  const words: Word[] = [];
  const settings: (readonly [number, number])[] = [];
  while (reader.at < bare.length) {
    const from = reader.at;
    const letter = bare[reader.at++];
    if (letter === '#') {
      const parameter = reader.parameter();
      if (bare[reader.at++] !== '=') throw reader.fault('“=” is missing after this parameter.', from);
      settings.push([parameter, reader.value()]);
    } else if (letter === 'n' && from === 0) reader.value();
    else if (LETTERS.includes(letter)) words.push({ letter, value: reader.value(), column: columns[from] });
    else throw reader.fault(`“${letter.toUpperCase()}” begins no word that is read here.`, from);
  }
  return { line, words, settings, comment };
}

/** A line without white space and comments, in small letters, with the columns of what is left. */
function withoutComments(text: string, line: number): { bare: string; columns: number[]; comment: string } {
  let bare = '';
  const columns: number[] = [];
  const comments: string[] = [];
  for (let i = 0; i < text.length; i++) {
    const character = text[i];
    if (character === ';') {
      comments.push(text.slice(i + 1).trim());
      break;
    }
    if (character === '(') {
      const end = text.indexOf(')', i);
      if (end < 0) throw new ProgramError(line, i + 1, 'this comment is not closed: “)” is missing.');
      comments.push(text.slice(i + 1, end).trim());
      i = end;
    } else if (!/\s/u.test(character)) {
      bare += character.toLowerCase();
      columns.push(i + 1);
    }
  }
  return { bare, columns, comment: comments.join(' ') };
}
