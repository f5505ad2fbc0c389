import type { FastifyInstance } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { endpoint } from '../../platform/http/endpoint.js';
import type { PostOffice } from './post-office.js';

/** Letters that are told. */
const MOST_LETTERS = 200;

/** The outbox: what was written to customers. */
export function mailRoutes(app: FastifyInstance, db: Database, post: PostOffice): void {
  endpoint(app, 'GET /outbox', { config: { least: 'designer' } }, async () => ({
    isSimulated: post.isSimulated,
    mails: await db.Mail.findAll({ order: [['writtenAt', 'DESC']], limit: MOST_LETTERS }),
  }));

  endpoint(app, 'POST /outbox/:id/again', { config: { least: 'designer', audit: 'sent a letter again' } }, ({ params }) =>
    post.again(params.id),
  );
}
