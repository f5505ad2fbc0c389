import type { JobState } from '@plain-relief/api/states';
import type { Job } from '@plain-relief/api';

/** A column of the board: what waits on whom. */
export interface Lane {
  readonly name: string;
  readonly states: readonly JobState[];
  readonly empty: string;
}

export const LANES: readonly Lane[] = [
  { name: 'Waits on us', states: ['brief', 'layout', 'changes asked'], empty: 'Nothing waits on us.' },
  { name: 'Waits on the customer', states: ['proof out'], empty: 'No proof is out.' },
  { name: 'To be made', states: ['approved', 'in the shop'], empty: 'Nothing is in the shop.' },
  { name: 'Done', states: ['done'], empty: 'Nothing is done yet.' },
];

export interface DueView {
  readonly text: string;
  readonly urgency: 'late' | 'soon' | 'later' | 'none';
}

const DAY_MS = 86_400_000;

function daysUntil(dueOn: string, today: Date): number {
  const start = Date.UTC(today.getFullYear(), today.getMonth(), today.getDate());
  return Math.round((Date.parse(`${dueOn}T00:00:00Z`) - start) / DAY_MS);
}

/** Jobs that are due in so many days at most, the late ones too; those that are late with −1; all where no days are given. */
export const dueWithin = (jobs: readonly Job[], days: number | undefined, today: Date): readonly Job[] =>
  days === undefined ? jobs : jobs.filter(({ dueOn }) => dueOn !== null && daysUntil(dueOn, today) <= days);

/** When a job is due, seen from a day: "due in 5 days", "3 days late". */
export function due(dueOn: string | null, today: Date): DueView {
  if (!dueOn) return { text: 'no due date', urgency: 'none' };
  const days = daysUntil(dueOn, today);
  if (days < 0) return { text: days === -1 ? '1 day late' : `${-days} days late`, urgency: 'late' };
  if (days === 0) return { text: 'due today', urgency: 'soon' };
  if (days === 1) return { text: 'due tomorrow', urgency: 'soon' };
  return { text: `due in ${days} days`, urgency: days <= 5 ? 'soon' : 'later' };
}

/** Jobs whose number, customer, title, or signs with their words hold every word of a search. */
export function matching(jobs: readonly Job[], search: string): Job[] {
  const words = search.toLowerCase().split(/\s+/u).filter(Boolean);
  return jobs.filter((job) => {
    const text = [job.number, job.customer, job.title, job.state, ...job.signs.flatMap(({ title, words: own }) => [title, own])]
      .join(' ')
      .toLowerCase();
    return words.every((word) => text.includes(word));
  });
}
