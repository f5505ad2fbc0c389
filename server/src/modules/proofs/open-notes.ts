import type { NewProof } from '@plain-relief/api';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import type { SignPictures } from '../signs/pictures.js';
import type { SignService } from '../signs/service.js';

/** Notes of a sign that tell of something to be looked at: errors and warnings. */
export interface OpenNotes {
  readonly signId: string;
  readonly title: string;
  readonly notes: readonly string[];
}

/**
 * The notes that are left open on signs which are to be frozen, and plates of their runs that cannot be made as they are.
 * @throws ServerError NOTES_OPEN where somebody has yet to confirm that they go out all the same
 */
export async function confirmedNotes(
  db: Database,
  signs: SignService,
  pictures: SignPictures,
  jobId: string,
  { signs: wanted, runs, confirmed = [] }: NewProof,
): Promise<OpenNotes[]> {
  const all = await db.RunRow.findAll({ where: { jobId } });
  const shown = all.filter(({ id, rowCount }) => rowCount > 0 && (runs?.includes(id) ?? true));
  const found = await Promise.all(
    wanted.map(async (id): Promise<OpenNotes> => {
      const row = await signs.find(id).catch(() => undefined);
      // Freezing itself refuses what is no sign of the job.
      if (row?.jobId !== jobId) return { signId: id, title: '', notes: [] };
      const notes = await pictures.notes(row.id, row.revision, row.document);
      const own = shown.filter(({ sign }) => sign === id);
      const held = await Promise.all(
        own.map(
          async ({ id: runId, revision, title, document }) =>
          (await pictures.heldPlates(`${runId} ${revision} ${row.revision}`, row.document, document)).map((told) => `${title}: ${told}`), // prettier-ignore
        ),
      );
      return { signId: id, title: row.title, notes: [...notes, ...held.flat()] };
    }),
  );
  const open = found.filter(({ notes }) => notes.length > 0);
  const isConfirmed = ({ signId, notes }: OpenNotes): boolean => {
    const seen = confirmed.find((each) => each.signId === signId)?.notes ?? [];
    return notes.every((note) => seen.includes(note));
  };
  if (!open.every(isConfirmed)) throw errors.notesOpen(open);
  return open;
}
