import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, input, output, signal, viewChild } from '@angular/core'; // prettier-ignore
import { type Choice, isHeld, type ShownRow, stateWords } from './run-rows';
import { windowOf } from './window-of';

/** px of a row. */
const ROW = 34;

export interface CellEdit {
  readonly id: number;
  readonly column: number;
  readonly value: string;
}

/** The rows of a run, of which only those that are seen are in the page. */
@Component({
  selector: 'pr-run-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-table.html',
  styleUrl: './run-table.scss',
})
export class RunTable {
  readonly rows = input.required<readonly ShownRow[]>();
  readonly columns = input.required<readonly string[]>();
  readonly choice = input.required<Choice>();
  /** Letters of every column that are seen, about. */
  readonly widths = input.required<readonly number[]>();
  readonly isLooking = input(false);
  readonly edited = output<CellEdit>();
  readonly marked = output<number>();
  readonly removed = output<number>();
  readonly ordered = output<number | 'list'>();
  readonly opened = output<number>();
  readonly seen = output<readonly number[]>();
  protected readonly stateWords = stateWords;
  protected readonly isHeld = isHeld;
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  private readonly top = signal(0);
  private readonly height = signal(600);
  protected readonly window = computed(() => windowOf(this.rows().length, this.top(), this.height(), ROW));
  protected readonly shown = computed(() => this.rows().slice(this.window().from, this.window().to));
  protected readonly before = computed(() => this.window().from * ROW);
  protected readonly all = computed(() => this.rows().length * ROW);

  constructor() {
    effect(() => this.seen.emit(this.shown().map(({ id }) => id)));
    effect((onCleanup) => {
      const box = this.box().nativeElement;
      const observer = new ResizeObserver(() => this.height.set(box.clientHeight));
      observer.observe(box);
      onCleanup(() => observer.disconnect());
    });
  }

  protected scrolled(): void {
    this.top.set(this.box().nativeElement.scrollTop);
  }

  protected notesOf({ told, remarks }: ShownRow): string {
    return [...remarks, ...(told?.told ?? [])].join(' ');
  }

  protected put(row: ShownRow, column: number, value: string): void {
    if (value !== row.values[column]) this.edited.emit({ id: row.id, column, value });
  }

  /** Down or up a column, as in a sheet of figures. */
  protected key(event: KeyboardEvent, row: ShownRow, column: number): void {
    const field = event.target as HTMLInputElement;
    if (event.key === 'Escape') {
      field.value = row.values[column];
      return;
    }
    const by = event.key === 'Enter' || event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    this.put(row, column, field.value);
    const box = this.box().nativeElement;
    const to = this.rows().findIndex(({ id }) => id === row.id) + by;
    const next = box.querySelector<HTMLInputElement>(`[data-at="${this.rows()[to]?.id} ${column}"]`);
    next?.focus();
    next?.scrollIntoView({ block: 'nearest' });
  }
}
