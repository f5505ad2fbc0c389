import type { NewProof } from '@plain-relief/api';
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
 * The notes that are left open on signs which are to be frozen.
 * @throws ServerError NOTES_OPEN where somebody has yet to confirm that they go out all the same
 */
export async function confirmedNotes(
  signs: SignService,
  pictures: SignPictures,
  jobId: string,
  { signs: wanted, confirmed = [] }: NewProof,
): Promise<OpenNotes[]> {
  const found = await Promise.all(
    wanted.map(async (id): Promise<OpenNotes> => {
      const row = await signs.find(id).catch(() => undefined);
      // Freezing itself refuses what is no sign of the job.
      if (row?.jobId !== jobId) return { signId: id, title: '', notes: [] };
      return { signId: id, title: row.title, notes: await pictures.notes(row.id, row.revision, row.document) };
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
