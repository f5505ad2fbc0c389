import { MOST_BYTES } from '@plain-relief/core/artwork';
import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { IdParams } from '../jobs/schema.js';
import type { FileService } from './service.js';

const NewFile = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
    /** Of a text file such as a drawing, its text. */
    text: Type.String({ minLength: 1, maxLength: MOST_BYTES }),
  },
  { additionalProperties: false },
);

/** JSON writes a character in up to six. */
const LARGEST_BODY = 2 * MOST_BYTES;

export function fileRoutes(app: FastifyInstance, files: FileService): void {
  const params = { schema: { params: IdParams } };

  app.get<{ Params: IdParams }>('/api/jobs/:id/files', params, async (request) => files.list(request.params.id));

  app.post<{ Params: IdParams; Body: Static<typeof NewFile> }>(
    '/api/jobs/:id/files',
    { schema: { params: IdParams, body: NewFile }, bodyLimit: LARGEST_BODY },
    async (request, reply) => {
      const { name, text } = request.body;
      reply.code(201);
      return files.keep(request.params.id, name.trim(), Buffer.from(text, 'utf8'));
    },
  );

  // Never as a page or a picture: an uploaded drawing may carry scripts.
  app.get<{ Params: IdParams }>('/api/files/:id', params, async (request, reply) => {
    const file = await files.find(request.params.id);
    const name = encodeURIComponent(file.name).replace(/['()*]/gu, (sign) => `%${sign.charCodeAt(0).toString(16)}`);
    return reply
      .header('content-type', 'application/octet-stream')
      .header('content-disposition', `attachment; filename*=UTF-8''${name}`)
      .send(file.content);
  });

  app.delete<{ Params: IdParams }>('/api/files/:id', params, async (request, reply) => {
    await files.remove(request.params.id);
    reply.code(204);
  });
}
