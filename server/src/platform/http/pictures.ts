import { pictureKind } from '@plain-relief/core/artwork';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { errors } from '../errors.js';

/**
 * Answers with a picture whose address says all that it depends on, so that it may be kept for as long as one likes; one that the caller
 * has is neither fetched nor made (RFC 9110, 13.1.2: If-None-Match).
 */
export async function answerWithPicture(
  request: FastifyRequest,
  reply: FastifyReply,
  { tag, bytes, type }: { tag: string; bytes(): Promise<Uint8Array>; type: 'image/png' | 'image/svg+xml; charset=utf-8' },
) {
  const known = request.headers['if-none-match'];
  reply.header('etag', tag).header('cache-control', 'private, max-age=31536000, immutable');
  if (known?.split(',').some((each) => each.trim().replace(/^W\//u, '') === tag)) return reply.code(304).send();
  const picture = await bytes();
  return reply.type(type).send(Buffer.from(picture));
}

/** Answers with a picture that came from outside: only what begins as one is shown as one, by that type and no other. @throws ServerError */
export function answerWithPhotograph(reply: FastifyReply, name: string, content: Buffer) {
  const kind = pictureKind(content);
  if (!kind) throw errors.notAPicture(name);
  return reply
    .header('content-type', `image/${kind}`)
    .header('x-content-type-options', 'nosniff')
    .header('cache-control', 'private, max-age=31536000, immutable')
    .send(content);
}
