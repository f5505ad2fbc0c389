import type { FastifyInstance } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { IdParams } from '../../platform/http/ids.js';
import type { PostOffice } from './post-office.js';

/** The outbox: what was written to customers. */
export function mailRoutes(app: FastifyInstance, db: Database, post: PostOffice): void {
  app.get('/api/outbox', { config: { least: 'designer' } }, async () => {
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

  app.post<{ Params: IdParams }>(
    '/api/outbox/:id/again',
    { schema: { params: IdParams }, config: { least: 'designer', deed: 'sent a letter again' } },
    async (request, reply) => {
      await post.again(request.params.id);
      reply.code(204);
    },
  );
}
