import type { JobTurnaround } from '@plain-relief/api';

/** How the proofs of one job went, as the server tells it. */
const DAY_MS = 86_400_000;

/** The value in the middle; of an even count the mean of both; undefined of none. */
export function median(values: readonly number[]): number | undefined {
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  if (sorted.length === 0) return undefined;
  return sorted.length % 2 === 1 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
}

/** Days from the first proof to the approval; undefined where none is approved. */
export const daysToApproval = ({ firstSentAt, approvedAt }: JobTurnaround): number | undefined =>
  approvedAt === null ? undefined : (Date.parse(approvedAt) - Date.parse(firstSentAt)) / DAY_MS;

/** How many jobs took one round, two, three …; the last counts all that took as many or more. */
export function byRounds(jobs: readonly JobTurnaround[], most = 5): { readonly words: string; readonly jobs: number }[] {
  return Array.from({ length: most }, (_, i) => {
    const isLast = i === most - 1;
    const count = jobs.filter(({ rounds }) => (isLast ? rounds >= most : rounds === i + 1)).length;
    return { words: `${i + 1}${isLast ? ' or more' : ''}`, jobs: count };
  });
}

/** "3 hours", "2.5 days". */
export function daysWords(days: number): string {
  if (days < 1 / 24) return `${Math.max(1, Math.round(days * 24 * 60))} min`;
  if (days < 2) return `${Number((days * 24).toFixed(1))} hours`;
  return `${Number(days.toFixed(1))} days`;
}
