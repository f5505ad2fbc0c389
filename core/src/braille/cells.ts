/** Cells of braille as characters (Unicode, "Braille Patterns": U+2800 and a bit for each dot), of six dots each. */

/** The cell without dots. */
export const BLANK_CELL = '\u2800';
/** What signs keep: cells of six dots, in lines. */
export const CELLS_PATTERN = '^[\\u2800-\\u283f\\n]*$';

/** Column and row of the dots 1 to 6 in their cell. */
const DOTS = [
  [0, 0],
  [0, 1],
  [0, 2],
  [1, 0],
  [1, 1],
  [1, 2],
] as const;

/** The dots of a cell: their column from the left and their row from the top. */
export function dotsOf(cell: string): readonly (readonly [column: number, row: number])[] {
  const bits = (cell.codePointAt(0) ?? 0) - 0x2800;
  return DOTS.filter((_, i) => bits >= 0 && (bits & (1 << i)) !== 0);
}

/** Cells in lines of at most so many, broken where words end; a word that is longer than a line is a line of its own. */
export function linesOf(cells: string, most = Infinity): string[] {
  return cells.split('\n').flatMap((line) => {
    const out: string[] = [];
    let last = '';
    for (const word of line.split(BLANK_CELL).filter((each) => each !== '')) {
      const longer = last === '' ? word : last + BLANK_CELL + word;
      if (last !== '' && longer.length > most) {
        out.push(last);
        last = word;
      } else last = longer;
    }
    return [...out, last];
  });
}

/**
 * What of lettering is said in braille. Words in capitals alone are so for their look, and capitals are not indicated (2010 ADA Standards
 * for Accessible Design, 703.3.1: only before proper nouns, initials and the like, which whoever sets a sign asks for).
 */
export function saidWords(words: string, hasCapitals: boolean): string {
  const tidy = words
    .split('\n')
    .map((line) => line.replace(/\s+/gu, ' ').trim())
    .filter((line) => line !== '')
    .join('\n');
  const isAllCapitals = tidy === tidy.toUpperCase();
  return !hasCapitals && isAllCapitals ? tidy.toLowerCase() : tidy;
}
