/** A program that cannot be read, with the place where that was found. */
export class ProgramError extends Error {
  /**
   * @param line counted from 1
   * @param column counted from 1
   */
  constructor(
    readonly line: number,
    readonly column: number,
    reason: string,
  ) {
    super(`Line ${line}, column ${column}: ${reason}`);
    this.name = 'ProgramError';
  }
}
