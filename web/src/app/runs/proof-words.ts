import type { RunProof } from '@plain-relief/api';
import { numbersInWords } from '@plain-relief/core/runs';
import { dayOf } from '../platform/moments';

/** What became of the proof of a run, and what is otherwise since, in sentences. */
export function proofWords({
  state,
  answeredBy,
  endedAt,
  createdAt,
  changes,
  option,
}: Omit<RunProof, 'corrections' | 'remarks'>): string {
  const ended = endedAt === null ? '' : ` on ${dayOf(endedAt)}`;
  const answer = {
    open: `of ${dayOf(createdAt)} waits for the customer.`,
    approved: `was approved by ${answeredBy}${ended}${option ? `, as ${option.name}` : ''}.`,
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
  const isOther = option !== null && !option.isMade;
  if (since.length === 0) return state === 'approved' && !isOther ? `${answer} The plates are as approved.` : answer;
  return `${answer} Otherwise since: ${since.join('; ')}.`;
}

/** Whether plates were approved, and are as they were then. */
export const isAsApproved = ({ state, changes, option }: Pick<RunProof, 'state' | 'changes' | 'option'>): boolean =>
  state === 'approved' &&
  option?.isMade !== false &&
  !changes.isSignChanged &&
  changes.changed.length + changes.added.length + changes.removed === 0;
