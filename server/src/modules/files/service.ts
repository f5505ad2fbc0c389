import { createHash, randomUUID } from 'node:crypto';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { JobService } from '../jobs/service.js';
import type { JobFile } from '../../platform/database/models/files.js';
import { useOfFile } from './used-files.js';

/** Originals that customers sent, kept with their job byte for byte. */
export class FileService {
  constructor(
    private readonly db: Database,
    private readonly jobs: JobService,
  ) {}

  async list(jobId: string) {
    await this.jobs.find(jobId);
    const rows = await this.db.JobFile.findAll({
      where: { jobId },
      attributes: ['id', 'name', 'size', 'createdAt'],
      order: [['createdAt', 'ASC']],
    });
    return rows.map(({ id, name, size, createdAt }) => ({ id, name, size, createdAt }));
  }

  /** Keeps a file; the same content under the same name is kept once. */
  async keep(jobId: string, name: string, content: Buffer) {
    const job = await this.jobs.find(jobId);
    const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
    const same = await this.db.JobFile.findAll({ where: { jobId: job.id, name, size: content.length } });
    const known = same.find((file) => digest(file.content) === digest(content));
    if (known) return { id: known.id, name, size: known.size, createdAt: known.createdAt };
    const file = { id: randomUUID(), jobId: job.id, name, size: content.length, content, createdAt: new Date() };
    await this.db.JobFile.create(file);
    return { id: file.id, name, size: file.size, createdAt: file.createdAt };
  }

  async find(id: string): Promise<JobFile> {
    const file = isUuid(id) ? await this.db.JobFile.findByPk(id) : null;
    if (!file) throw errors.notFound('file', id);
    return file;
  }

  async remove(id: string): Promise<void> {
    const file = await this.find(id);
    const use = await useOfFile(this.db, id);
    if (use) throw errors.fileInUse(file.name, use);
    await file.destroy();
  }
}
