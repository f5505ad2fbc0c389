import type { FastifyInstance } from 'fastify';
import type { Database } from '../database/database.js';
import type { PostOffice } from './post-office.js';

/** The outbox: what was written to customers. */
export function mailRoutes(app: FastifyInstance, db: Database, post: PostOffice): void {
  app.get('/api/outbox', async () => {
    const mails = await db.Mail.findAll({ order: [['writtenAt', 'DESC']], limit: 200 });
    return {
      isSimulated: post.isSimulated,
      mails: mails.map(({ id, to, subject, text, state, error, writtenAt }) => ({
        id,
        to,
        subject,
        text,
        state,
        error,
        writtenAt,
      })),
    };
  });
}
