import { MOST_BYTES, pictureKind } from '@plain-relief/core/artwork';
import type { FastifyInstance } from 'fastify';
import { errors } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { answerWithFile } from '../../platform/http/files.js';
import { IdParams } from '../../platform/http/ids.js';
import { uploadedFile } from '../../platform/http/uploads.js';
import type { FileService } from './service.js';

export function fileRoutes(app: FastifyInstance, files: FileService): void {
  const params = { schema: { params: IdParams }, config: { least: 'maker' as const } };

  endpoint(app, 'GET /jobs/:id/files', { config: { least: 'maker' } }, ({ params: { id } }) => files.list(id));

  endpoint(app, 'POST /jobs/:id/files', { config: { least: 'designer', audit: 'kept a file' } }, async (request) => {
    const { name, bytes } = await uploadedFile(request, MOST_BYTES);
    return files.keep(request.params.id, name, bytes);
  });

  // Never as a page or a picture: an uploaded drawing may carry scripts.
  app.get<{ Params: IdParams }>('/api/files/:id', params, async (request, reply) => {
    const file = await files.find(request.params.id);
    return answerWithFile(reply, { name: file.name, type: null, bytes: file.content });
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

  endpoint(app, 'DELETE /files/:id', { config: { least: 'designer', audit: 'removed a file' } }, ({ params: { id } }) =>
    files.remove(id),
  );
}
