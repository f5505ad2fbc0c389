import { Matrix, solve } from 'ml-matrix';

/** Linear least squares as they are summed up: A x ≈ b, row by row. */
export class NormalEquations {
  private readonly squares: Float64Array;
  private readonly right: Float64Array;

  constructor(private readonly count: number) {
    this.squares = new Float64Array(count * count);
    this.right = new Float64Array(count);
  }

  /** One row, so many times; numbers beyond the count are left out. */
  add(row: readonly number[], value: number, weight: number): void {
    const { count, squares, right } = this;
    for (let j = 0; j < count; j++) {
      const share = weight * row[j];
      right[j] += share * value;
      for (let k = 0; k < count; k++) squares[j * count + k] += share * row[k];
    }
  }

  /** What solves them best; its steps shorter the more they are damped. */
  solved(damping = 0): number[] {
    const { count, squares, right } = this;
    const matrix = Matrix.from1DArray(count, count, squares);
    for (let j = 0; j < count; j++) matrix.set(j, j, matrix.get(j, j) * (1 + damping) + Number.MIN_VALUE);
    return solve(matrix, Matrix.columnVector(right), true).to1DArray();
  }
}
