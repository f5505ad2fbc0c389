import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Note } from '@plain-relief/core/notes';
import { type Mending, NoteLine } from './note-line';

const ORDER: Readonly<Record<Note['weight'], number>> = { error: 0, warning: 1, said: 2 };

/** What the software decided and what will not work; a click goes to the part. */
@Component({
  selector: 'pr-notes-list',
  imports: [NoteLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Notes</h2>
    <ul>
      @for (note of sorted(); track $index) {
        <li [class]="note.weight">
          <pr-note-line [note]="note" (picked)="picked.emit($event)" (mended)="mended.emit($event)" />
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
  protected readonly sorted = computed(() => [...this.notes()].sort((a, b) => ORDER[a.weight] - ORDER[b.weight]));
}
