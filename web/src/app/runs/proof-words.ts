import type { RunProof } from '@plain-relief/api';
import { dayOf } from '../platform/moments';

/** Numbers that are said one by one; of more only how many they are. */
const MOST_NUMBERS = 8;

/** "3, 7 and 9"; of many the first, and how many more. */
export function numbersInWords(numbers: readonly number[]): string {
  const said = numbers.slice(0, MOST_NUMBERS).map(String);
  const more = numbers.length - said.length;
  if (more > 0) return `${said.join(', ')} and ${more} more`;
  return said.length < 2 ? said.join('') : `${said.slice(0, -1).join(', ')} and ${said[said.length - 1]}`;
}

/** What became of the proof of a run, and what is otherwise since, in sentences. */
export function proofWords({
  state,
  answeredBy,
  endedAt,
  createdAt,
  changes,
}: Omit<RunProof, 'corrections' | 'remarks'>): string {
  const ended = endedAt === null ? '' : ` on ${dayOf(endedAt)}`;
  const answer = {
    open: `of ${dayOf(createdAt)} waits for the customer.`,
    approved: `was approved by ${answeredBy}${ended}.`,
    'changes asked': `came back${ended}: ${answeredBy} asks for changes.`,
    withdrawn: 'was withdrawn.',
    replaced: 'was replaced.',
  }[state];
  const { isSignChanged, changed, added, removed } = changes;
  const since = [
    isSignChanged ? 'the sign, and with it every plate' : '',
    changed.length === 0 ? '' : `${changed.length === 1 ? 'plate' : 'plates'} ${numbersInWords(changed)}`,
    added.length === 0 ? '' : `new: ${numbersInWords(added)}`,
    removed === 0 ? '' : `${removed} gone`,
  ].filter((words) => words !== '');
  if (since.length === 0) return state === 'approved' ? `${answer} The plates are as approved.` : answer;
  return `${answer} Otherwise since: ${since.join('; ')}.`;
}
