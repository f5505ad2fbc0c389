import type { JobRun } from '@plain-relief/api';
import type { MakingState } from '@plain-relief/api/states';
import { QueryTypes } from 'sequelize';
import type { Database } from '../../platform/database/database.js';

interface Row {
  readonly job: string;
  readonly id: string;
  readonly title: string;
  readonly rows: number;
  readonly state: MakingState | null;
  readonly share: number | null;
}

/** The runs of jobs, with how far the files are that were asked for last. */
export async function jobRuns({ sequelize }: Database, jobIds: readonly string[]): Promise<Map<string, JobRun[]>> {
  const found = new Map<string, JobRun[]>();
  if (jobIds.length === 0) return found;
  const rows = await sequelize.query<Row>(
    `SELECT runs.job_id AS job, runs.id, runs.title, runs.row_count AS rows, making.state, making.share
     FROM runs LEFT JOIN LATERAL (
       SELECT state, (lots_made + (SELECT coalesce(sum(part), 0) FROM run_lots WHERE making_id = run_makings.id AND run_lots.state = 'running')) / greatest(1, lots)::float AS share FROM run_makings WHERE run_id = runs.id ORDER BY asked_at DESC LIMIT 1
     ) making ON true
     WHERE runs.job_id IN (:jobIds) ORDER BY runs.created_at`,
    { replacements: { jobIds }, type: QueryTypes.SELECT },
  );
  for (const { job, id, title, rows: count, state, share } of rows) {
    const making = state === null ? null : { state, share: share ?? 0 };
    found.set(job, [...(found.get(job) ?? []), { id, title, rows: count, making }]);
  }
  return found;
}
