import { POINTS_PER_MM } from './pdf-drawing.js';
import type { Paragraph } from './rich-text.js';
import { type Room, type Sheet, stepOf } from './sheet.js';

/** Words that run down columns of a page, and on to the next page where they do not fit. */
export class Columns {
  private column = 0;
  private y: number;

  /**
   * @param rooms the columns of the page that is begun
   * @param more the columns of every further page
   * @param ended called before a further page is begun
   */
  constructor(
    private readonly sheet: Sheet,
    private rooms: readonly Room[],
    private readonly more: readonly Room[],
    private readonly ended: () => void,
  ) {
    this.y = rooms[0].y;
  }

  /** Where the next line goes: its left, and where the last one stood. */
  get at(): { readonly x: number; readonly y: number; readonly width: number } {
    const { x, width } = this.rooms[this.column];
    return { x, y: this.y, width };
  }

  put(paragraph: Paragraph): void {
    // No heading stands alone at the foot of a column.
    if (paragraph.font === 'strong') this.room(3.5 * stepOf(paragraph) + paragraph.before / POINTS_PER_MM);
    for (const [i, line] of this.sheet.lines(paragraph, this.at.width).entries()) {
      const before = i === 0 ? paragraph.before / POINTS_PER_MM : 0;
      this.room(stepOf(paragraph) + before);
      // At the head of a column nothing is held off.
      const step = stepOf(paragraph) + (this.y > this.rooms[this.column].y ? before : 0);
      this.y += step;
      this.sheet.line(line, this.at.x, this.y, paragraph);
    }
  }

  /** Goes on in the next column where less than so many mm are left in this. */
  room(height: number): void {
    const { y, height: whole } = this.rooms[this.column];
    if (this.y + height > y + whole && this.y > y) this.next();
  }

  /** Begins a column of its own for what follows, where the page has one left. */
  fresh(): void {
    if (this.column + 1 < this.rooms.length && this.y > this.rooms[this.column].y) this.next();
  }

  down(mm: number): void {
    this.y += mm;
  }

  private next(): void {
    this.column++;
    if (this.column === this.rooms.length) {
      this.ended();
      this.sheet.start();
      this.rooms = this.more;
      this.column = 0;
    }
    this.y = this.rooms[this.column].y;
  }
}

/** Columns beside each other over the whole body of a page: as many as are read well. */
export function columnsOf({ body }: Sheet, gap: number): Room[] {
  const count = Math.max(2, Math.round(body.width / 95));
  const width = (body.width - (count - 1) * gap) / count;
  return Array.from({ length: count }, (_, i) => ({ ...body, x: body.x + i * (width + gap), width }));
}
