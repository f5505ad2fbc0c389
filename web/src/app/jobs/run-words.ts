import type { JobRun } from '@plain-relief/api';

/** How many plates a run has, and how far their files are. */
export function runWords({ rows, making }: Pick<JobRun, 'rows' | 'making'>): string {
  const plates = rows === 1 ? 'one plate' : `${rows} plates`;
  switch (making?.state) {
    case 'running':
      return `${plates}, ${Math.floor(100 * making.share)} % made`;
    case 'paused':
      return `${plates}, paused at ${Math.floor(100 * making.share)} %`;
    case 'done':
      return `${plates}, files made`;
    default:
      return plates;
  }
}
