/** A uniform grid of square cells, by which what lies near is found. */
export class Cells {
  readonly columns: number;
  readonly rows: number;

  /**
   * @param box that the grid covers, grown by the margin
   * @param cell side of a cell in the unit of the coordinates
   * @param margin by which a segment reaches over its line on either side
   */
  constructor(
    private readonly box: { readonly minX: number; readonly minY: number; readonly maxX: number; readonly maxY: number },
    readonly cell: number,
    private readonly margin: number,
  ) {
    this.columns = Math.floor((box.maxX - box.minX + 2 * margin) / cell) + 1;
    this.rows = Math.floor((box.maxY - box.minY + 2 * margin) / cell) + 1;
  }

  columnOf(x: number): number {
    return Math.max(0, Math.min(this.columns - 1, Math.floor((x - this.box.minX + this.margin) / this.cell)));
  }

  rowOf(y: number): number {
    return Math.max(0, Math.min(this.rows - 1, Math.floor((y - this.box.minY + this.margin) / this.cell)));
  }

  /** Calls `visit` for the cells along a segment, row by row, so that a long diagonal costs its length and not its box. */
  along(ax: number, ay: number, bx: number, by: number, visit: (cell: number) => void): void {
    const { box, cell, margin, columns } = this;
    const isUp = ay <= by;
    const x0 = isUp ? ax : bx;
    const y0 = isUp ? ay : by;
    const x1 = isUp ? bx : ax;
    const y1 = isUp ? by : ay;
    const row0 = this.rowOf(y0 - margin);
    const row1 = this.rowOf(y1 + margin);
    for (let row = row0; row <= row1; row++) {
      let left = x0;
      let right = x1;
      if (row0 !== row1 && y1 !== y0) {
        // Where the segment enters and leaves this row.
        const slope = (x1 - x0) / (y1 - y0);
        const low = box.minY - margin + row * cell - margin;
        left = x0 + slope * (Math.max(y0, low) - y0);
        right = x0 + slope * (Math.min(y1, low + cell + 2 * margin) - y0);
      }
      const last = this.columnOf(Math.max(left, right) + margin);
      for (let column = this.columnOf(Math.min(left, right) - margin); column <= last; column++) visit(row * columns + column);
    }
  }
}
