/** What is wrong with a document, where, and what would be right. */
export interface SignFault {
  /** As one would write it in code: "parts[0].capHeight". Empty for the document as a whole. */
  readonly path: string;
  /** One sentence with the value and the remedy. */
  readonly message: string;
}

/** Thrown for a document that is not a sign, with everything that is wrong with it. */
export class SignError extends Error {
  constructor(readonly faults: readonly SignFault[]) {
    super(faults.map(({ path, message }) => (path ? `${path}: ${message}` : message)).join('\n'));
    this.name = 'SignError';
  }
}
