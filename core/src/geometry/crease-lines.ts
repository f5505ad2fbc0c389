/**
 * Lines of the plan along which a solid is creased, none of which crosses another: those on which a function has one of these values. Straight ones
 * are crossed once by an edge.
 */
export interface CreaseLines {
  /** Ascending values of the function on the lines. */
  readonly values: Float64Array;
  /** What is the same everywhere on a line, and between two lines lies between theirs. */
  valueAt(x: number, y: number): number;
  /** Share of the way from a to b at which the line of this number is crossed by what lies on both sides of it. */
  shareAt(line: number, ax: number, ay: number, bx: number, by: number): number;
}
