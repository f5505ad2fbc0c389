import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Note, type Remedy } from '@plain-relief/core/notes';

/** A remedy that is to be applied, to a part or to the blank. */
export interface Mending {
  readonly part?: string;
  readonly remedy: Remedy;
}

/** What is done where a remedy is taken. */
export function remedyWords(remedy: Remedy): string {
  switch (remedy.kind) {
    case 'bridges':
      return 'Hold them by bridges';
    case 'backer':
      return 'Put a plate behind them';
    case 'later':
      return 'Build it after that';
    case 'font':
      return `Set it in ${remedy.name}`;
  }
}

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
          @if (note.remedy; as remedy) {
            <button type="button" class="remedy" (click)="mended.emit({ part: note.part, remedy })">
              {{ remedyWords(remedy) }}
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
  protected readonly remedyWords = remedyWords;
  protected readonly sorted = computed(() => [...this.notes()].sort((a, b) => ORDER[a.weight] - ORDER[b.weight]));
}
