/** A file that cannot be shown as context, or triangles that nothing can be fitted to, in a sentence that says what would do. */
export class ContextError extends Error {
  override readonly name = 'ContextError';
}

/** Bytes and triangles that a file may have at most. */
export const MOST_BYTES = 40_000_000;
export const MOST_TRIANGLES = 800_000;

/** @throws ContextError where a file is larger than is read */
export function refuseTooLarge(bytes: number): void {
  if (bytes > MOST_BYTES)
    throw new ContextError(`The file has ${(bytes / 1e6).toFixed(1)} MB and may have ${MOST_BYTES / 1e6}: reduce it first.`);
}

/** @throws ContextError where a file has more triangles than are shown */
export function refuseTooMany(triangles: number): void {
  if (triangles > MOST_TRIANGLES)
    throw new ContextError(
      `The file has ${triangles.toLocaleString('en')} triangles and may have ${MOST_TRIANGLES.toLocaleString('en')}: reduce it first.`,
    );
}
