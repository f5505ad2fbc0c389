import { MOST_BYTES as MOST_DRAWN } from '@plain-relief/core/artwork';
import { MOST_BYTES as MOST_OBJECT } from '@plain-relief/core/context';
import type { FastifyInstance } from 'fastify';
import { endpoint } from '../../platform/http/endpoint.js';
import { answerWithPhotograph } from '../../platform/http/pictures.js';
import { answerWithFile } from '../../platform/http/files.js';
import { IdParams } from '../../platform/http/ids.js';
import { errors } from '../../platform/errors.js';
import { uploadedFile } from '../../platform/http/uploads.js';
import type { FileService } from './service.js';

export function fileRoutes(app: FastifyInstance, files: FileService): void {
  const params = { schema: { params: IdParams }, config: { least: 'maker' as const } };

  endpoint(app, 'GET /jobs/:id/files', { config: { least: 'maker' } }, ({ params: { id } }) => files.list(id));

  endpoint(app, 'POST /jobs/:id/files', { config: { least: 'designer', audit: 'kept a file' } }, async (request) => {
    const { name, bytes } = await uploadedFile(request, MOST_OBJECT);
    if (bytes.length > MOST_DRAWN && !/\.(?:glb|stl)$/iu.test(name)) throw errors.tooLarge(MOST_DRAWN);
    return files.keep(request.params.id, name, bytes);
  });

  // Never as a page or a picture: an uploaded drawing may carry scripts.
  app.get<{ Params: IdParams }>('/api/files/:id', params, async (request, reply) => {
    const file = await files.find(request.params.id);
    return answerWithFile(reply, { name: file.name, type: null, bytes: file.content });
  });

  app.get<{ Params: IdParams }>('/api/files/:id/picture', params, async (request, reply) => {
    const { name, content } = await files.find(request.params.id);
    return answerWithPhotograph(reply, name, content);
  });

  endpoint(app, 'DELETE /files/:id', { config: { least: 'designer', audit: 'removed a file' } }, ({ params: { id } }) =>
    files.remove(id),
  );
}
