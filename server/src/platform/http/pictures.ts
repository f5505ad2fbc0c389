import type { FastifyReply, FastifyRequest } from 'fastify';

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
