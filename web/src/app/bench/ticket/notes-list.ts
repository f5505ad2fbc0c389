import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Note, type Remedy } from '@plain-relief/core/notes';

/** A remedy that is to be applied, to a part or to the blank. */
export interface Mending {
  readonly part?: string;
  readonly remedy: Remedy;
  /** The part after which it is to be built. */
  readonly after?: string;
}

/** What is done where a remedy is taken. */
export const REMEDIES: Readonly<Record<Remedy, string>> = {
  bridges: 'Hold them by bridges',
  backer: 'Put a plate behind them',
  later: 'Build it after that',
};

const ORDER: Readonly<Record<Note['weight'], number>> = { error: 0, warning: 1, said: 2 };

/** What the software decided and what will not work; a click goes to the part. */
@Component({
  selector: 'pr-notes-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Notes</h2>
    <ul>
      @for (note of sorted(); track $index) {
        <li [class]="note.weight">
          @if (note.part; as part) {
            <button type="button" (click)="picked.emit(part)">{{ note.text }}</button>
          } @else {
            <span>{{ note.text }}</span>
          }
          @if (note.remedy) {
            <button
              type="button"
              class="remedy"
              (click)="mended.emit({ part: note.part, remedy: note.remedy, after: note.after })"
            >
              {{ remedies[note.remedy] }}
            </button>
          }
        </li>
      } @empty {
        <li class="clear">Nothing to note: what the ticket says can be made.</li>
      }
    </ul>
  `,
  styleUrl: './notes-list.scss',
})
export class NotesList {
  readonly notes = input.required<readonly Note[]>();
  readonly picked = output<string>();
  readonly mended = output<Mending>();
  protected readonly remedies = REMEDIES;
  protected readonly sorted = computed(() => [...this.notes()].sort((a, b) => ORDER[a.weight] - ORDER[b.weight]));
}
