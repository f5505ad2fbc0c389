import type { FastifyRequest } from 'fastify';
import { errors } from '../errors.js';

const LONGEST_NAME = 200;

/**
 * The file of a request that is a form with one.
 * @param most bytes that it may have
 * @throws ServerError where there is none, it has no name or no content, or is larger
 */
export async function uploadedFile(request: FastifyRequest, most: number): Promise<{ name: string; bytes: Buffer }> {
  const refused = (message: string) => errors.badRequest([{ path: 'file', message }]);
  if (!request.isMultipart()) throw refused('is missing: send it as multipart/form-data.');
  const found: { name: string; bytes: Buffer }[] = [];
  try {
    for await (const part of request.files({ limits: { fileSize: most } }))
      found.push({ name: part.filename.trim(), bytes: await part.toBuffer() });
  } catch (error) {
    const { code } = error as { code?: string };
    if (code === 'FST_REQ_FILE_TOO_LARGE') throw errors.tooLarge(most);
    if (code === 'FST_FILES_LIMIT' || code === 'FST_PARTS_LIMIT') throw refused('is not alone: send one file.');
    throw error;
  }
  if (found.length === 0) throw refused('is missing: send one file.');
  const [{ name, bytes }] = found;
  if (name === '' || name.length > LONGEST_NAME) throw refused(`needs a name of 1 to ${LONGEST_NAME} characters.`);
  if (bytes.length === 0) throw refused('is empty.');
  return { name, bytes };
}
