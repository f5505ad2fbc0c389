import { create as contentDisposition } from 'content-disposition';
import type { FastifyReply } from 'fastify';

/** Answers with a file to be kept, under its own name, that no browser takes for a page. */
export function answerWithFile(reply: FastifyReply, file: { name: string | null; type: string | null; bytes: Buffer }) {
  reply
    .type(file.type ?? 'application/octet-stream')
    .header('content-disposition', contentDisposition(file.name ?? 'file'))
    .header('x-content-type-options', 'nosniff');
  return reply.send(file.bytes);
}
