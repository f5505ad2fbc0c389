/** Two solids could not be put together: one of them is not closed, or what they have in common is too fine for figures. */
export class CombineError extends Error {
  constructor(message = 'Solids that meet could not be put together.') {
    super(message);
    this.name = 'CombineError';
  }
}
