import { type FontEntry } from '../../type/index.js';
import { type Clause, type Standard } from './standard.js';

/** Kinds of letters without serifs, and those that lean. */
const PLAIN = /sans|tactile/u;
const SLANTED = /italic|oblique|script/iu;

/** Whether letters of a font are sans serif and stand upright, by what its entry says. */
export const isPlainFont = ({ class: kind, style }: Pick<FontEntry, 'class' | 'style'>): boolean =>
  PLAIN.test(kind) && !SLANTED.test(`${kind} ${style}`);

/**
 * What a font does not meet of a standard, whatever is done with it: a sentence for every clause that it fails by itself.
 * @param capHeight mm of the capitals that it is set in; sizes are not judged where there is none
 */
export function fontFaults({ clauses }: Standard, entry: FontEntry, capHeight?: number): string[] {
  const { proportions } = entry;
  const beyond = ({ least = -Infinity, most = Infinity }: Clause, value: number): boolean => value < least || value > most;
  return clauses.flatMap((clause): string[] => {
    switch (clause.measure) {
      case 'other-style':
        return isPlainFont(entry) ? [] : [`${entry.class}, not a plain sans serif`];
      case 'round-width': {
        const percent = 100 * (proportions?.roundWidth ?? NaN);
        return beyond(clause, percent) ? [`O is ${percent.toFixed(0)} % as wide as I is high`] : [];
      }
      case 'stroke-share': {
        const percent = 100 * (proportions?.stroke ?? NaN);
        return beyond(clause, percent) ? [`the stroke of I is ${Number(percent.toFixed(2))} % of its height`] : [];
      }
      case 'character-height': {
        const height = capHeight === undefined ? NaN : capHeight / (proportions?.capitals ?? 1);
        return beyond(clause, height) ? [`I is ${height.toFixed(1)} mm high`] : [];
      }
      default:
        return [];
    }
  });
}
