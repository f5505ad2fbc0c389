import type { RunMaking } from '@plain-relief/api';
import { numbersInWords } from '@plain-relief/core/runs';
import { minutesWords } from '../make/cut-settings';

const count = (number: number, one: string, many = `${one}s`): string => `${number} ${number === 1 ? one : many}`;

/** How far workers are with the files of a run, in a sentence or two. */
export function makingWords({
  state,
  rows,
  made,
  lots,
  lotsMade,
  workers,
  underWay,
  others,
  held,
  laid,
  programs,
  error,
}: RunMaking): string {
  const done = made < rows ? `${made} of ${count(rows, 'plate')} made` : `${count(rows, 'plate')} made`;
  if (state === 'cancelled') return `Ended after ${made} of ${count(rows, 'plate')}.`;
  if (state === 'paused') return `Paused: ${done}.`;
  if (state === 'running') {
    const parts = programs ? ['sheet, program or page', 'sheets, programs and pages'] : ['sheet or page', 'sheets and pages'];
    const left = made === rows ? `, ${count(lots - lotsMade, parts[0], parts[1])} to go` : '';
    const through = underWay > 0 ? `, ${Math.floor((100 * underWay) / workers)} % through what ${workers === 1 ? 'it has' : 'they have'} in hand` : ''; // prettier-ignore
    const by = workers === 0 ? 'waiting for a worker' : `${count(workers, 'worker')} at it${through}`;
    const beside = others === 0 ? '' : ` It takes turns with ${count(others, 'other run')}.`;
    return `${done}${left}; ${by}.${beside} Files of single signs go first.`;
  }
  const sheets = laid
    ? ` ${count(laid.sheets, 'sheet')}, ${(100 * laid.share).toFixed(0)} % of ${laid.sheets === 1 ? 'it' : 'them'} plates.`
    : '';
  const left = laid && laid.left.length > 0 ? ` No sheet is large enough for plate ${numbersInWords(laid.left)}.` : '';
  const not = held === 0 ? '' : ` ${count(held, 'plate')} ${held === 1 ? 'does' : 'do'} not fit, or ${held === 1 ? 'is' : 'are'} not made: report.csv says why.`; // prettier-ignore
  const cut = programs && programs.minutes > 0 ? ` Programs for ${programs.machine} take ${minutesWords(programs.minutes)}.` : '';
  return [`${done}.`, sheets, left, cut, not, error ? ` ${error}` : ''].join('');
}

/** Of all the work that is known of. */
export const shareMade = ({ lots, lotsMade, underWay }: Pick<RunMaking, 'lots' | 'lotsMade' | 'underWay'>): number =>
  lots === 0 ? 0 : (lotsMade + underWay) / lots;

export const sizeWords = (bytes: number): string =>
  bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1e3))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
