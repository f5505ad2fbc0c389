import { MOST_BYTES, pictureKind } from '@plain-relief/core/artwork';
import { type Static, Type } from '@sinclair/typebox';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { IdParams } from '../../platform/http/ids.js';
import type { FileService } from './service.js';

const NewFile = Type.Object(
  {
    name: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
    /** Of a text file such as a drawing, its text. */
    text: Type.Optional(Type.String({ minLength: 1, maxLength: MOST_BYTES })),
    /** Of any other, its bytes in base 64. */
    base64: Type.Optional(Type.String({ minLength: 4, maxLength: 2 * MOST_BYTES, pattern: '^[A-Za-z0-9+/]+={0,2}$' })),
  },
  { additionalProperties: false },
);

/** JSON writes a character in up to six. */
const LARGEST_BODY = 2 * MOST_BYTES + 1000;

export function fileRoutes(app: FastifyInstance, files: FileService): void {
  const params = { schema: { params: IdParams }, config: { least: 'maker' as const } };

  app.get<{ Params: IdParams }>('/api/jobs/:id/files', params, async (request) => files.list(request.params.id));

  app.post<{ Params: IdParams; Body: Static<typeof NewFile> }>(
    '/api/jobs/:id/files',
    {
      schema: { params: IdParams, body: NewFile },
      bodyLimit: LARGEST_BODY,
      config: { least: 'designer', deed: 'kept a file', largestFile: MOST_BYTES },
    },
    async (request, reply) => {
      const { name, text, base64 } = request.body;
      if ((text === undefined) === (base64 === undefined)) throw errors.oneOf('text', 'base64');
      const content = text === undefined ? Buffer.from(base64!, 'base64') : Buffer.from(text, 'utf8');
      reply.code(201);
      return files.keep(request.params.id, name.trim(), content);
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

  // Only what begins as a picture does is shown as one, by that type and no other.
  app.get<{ Params: IdParams }>('/api/files/:id/picture', params, async (request, reply) => {
    const { name, content } = await files.find(request.params.id);
    const kind = pictureKind(content);
    if (!kind) throw errors.notAPicture(name);
    return reply
      .header('content-type', `image/${kind}`)
      .header('x-content-type-options', 'nosniff')
      .header('cache-control', 'private, max-age=31536000, immutable')
      .send(content);
  });

  app.delete<{ Params: IdParams }>(
    '/api/files/:id',
    { schema: { params: IdParams }, config: { least: 'designer', deed: 'removed a file' } },
    async (request, reply) => {
      await files.remove(request.params.id);
      reply.code(204);
    },
  );
}
