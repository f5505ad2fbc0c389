import type { KeptPlace } from '@plain-relief/api';
import { type Place, PlaceError, wallMap } from '@plain-relief/core/in-place';
import { randomUUID } from 'node:crypto';
import type { Database } from '../../platform/database/database.js';
import type { PlaceRow } from '../../platform/database/models/places.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';

/** Of one job. */
const MOST_PLACES = 20;

const view = ({ id, title, revision, document, savedAt }: PlaceRow): KeptPlace => ({
  id,
  title,
  revision,
  document,
  savedAt: savedAt.toISOString(),
});

/** Signs of jobs as they will hang. */
export class PlaceService {
  constructor(private readonly db: Database) {}

  async list(jobId: string): Promise<KeptPlace[]> {
    const rows = await this.db.PlaceRow.findAll({ where: { jobId }, order: [['createdAt', 'ASC']] });
    return rows.map(view);
  }

  /** @throws ServerError where the place cannot be, or the job has too many */
  async create(jobId: string, title: string, document: Place): Promise<KeptPlace> {
    await this.judge(jobId, document);
    if ((await this.db.PlaceRow.count({ where: { jobId } })) >= MOST_PLACES) throw errors.tooManyPlaces(MOST_PLACES);
    const now = new Date();
    const row = { id: randomUUID(), jobId, title: title.trim(), revision: 1, document, savedAt: now, createdAt: now };
    return view(await this.db.PlaceRow.create(row));
  }

  /** @throws ServerError where it cannot be, or was changed meanwhile */
  async save(id: string, base: number, title: string, document: Place): Promise<KeptPlace> {
    const { jobId } = await this.find(id);
    await this.judge(jobId, document);
    const change = { title: title.trim(), document, revision: base + 1, savedAt: new Date() };
    const [saved] = await this.db.PlaceRow.update(change, { where: { id, revision: base } });
    const row = await this.find(id);
    if (saved !== 1) throw errors.stalePlace({ base, revision: row.revision });
    return view(row);
  }

  async remove(id: string): Promise<void> {
    await (await this.find(id)).destroy();
  }

  private async find(id: string): Promise<PlaceRow> {
    const row = isUuid(id) ? await this.db.PlaceRow.findByPk(id) : null;
    if (!row) throw errors.notFound('place', id);
    return row;
  }

  /** Its photograph and its signs are the job's, and its marks are a wall. */
  private async judge(jobId: string, { ground, signs }: Place): Promise<void> {
    if (ground.kind === 'photograph') {
      const file = isUuid(ground.file)
        ? await this.db.JobFile.findOne({ where: { id: ground.file, jobId }, attributes: ['id'] })
        : null;
      if (!file) throw errors.badRequest([{ path: 'document.ground.file', message: 'The job has no such file: keep the photograph with it first.' }]); // prettier-ignore
      try {
        wallMap(ground.scale);
      } catch (error) {
        if (error instanceof PlaceError) throw errors.badRequest([{ path: 'document.ground.scale', message: error.message }]);
        throw error;
      }
    }
    const own = await this.db.SignRow.findAll({ where: { jobId }, attributes: ['id'] });
    signs.forEach(({ sign }, i) => {
      if (!own.some(({ id }) => id === sign))
        throw errors.badRequest([{ path: `document.signs.${i}.sign`, message: `The job has no sign “${sign}”: hang one of its own, or take this one down.` }]); // prettier-ignore
    });
  }
}
