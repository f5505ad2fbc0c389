import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Note } from '@plain-relief/core/notes';
import { type Sign } from '@plain-relief/core/sign';
import { FindingsList } from './findings-list';
import { type Mending, NoteLine } from './note-line';
import { StandardTable } from './standard-table';

interface Group {
  readonly title: string;
  readonly weight: Note['weight'];
  readonly notes: readonly Note[];
}

const TITLES: readonly (readonly [Note['weight'], string])[] = [
  ['error', 'Cannot be made as it stands'],
  ['warning', 'To look at'],
  ['said', 'Good to know'],
];

/** All notes of a sign by their weight, each with the way to its place and what mends it; what is measured; and the standard that it is to meet. */
@Component({
  selector: 'pr-check-panel',
  imports: [FindingsList, NoteLine, StandardTable],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrls: ['./panel.scss', './check-panel.scss'],
  template: `
    <header>
      <h2>Check</h2>
      <button type="button" class="btn btn-sm btn-link" (click)="closed.emit()">Back to the ticket</button>
    </header>
    <div class="all">
      @for (group of groups(); track group.weight) {
        <section [class]="group.weight">
          <h3>
            {{ group.title }} <span class="figure">{{ group.notes.length }}</span>
          </h3>
          <ul>
            @for (note of group.notes; track $index) {
              <li [class.chosen]="note.part !== undefined && note.part === chosen()">
                <pr-note-line [note]="note" (picked)="picked.emit($event)" (mended)="mended.emit($event)" />
              </li>
            }
          </ul>
        </section>
      } @empty {
        <p class="clear">Nothing to note: what the ticket says can be made.</p>
      }
      <pr-findings-list [sign]="sign()" (picked)="picked.emit($event)" />
      <pr-standard-table [sign]="sign()" (picked)="picked.emit($event)" />
    </div>
  `,
})
export class CheckPanel {
  readonly notes = input.required<readonly Note[]>();
  readonly sign = input.required<Sign>();
  /** The selected part. */
  readonly chosen = input<string>();
  readonly picked = output<string>();
  readonly mended = output<Mending>();
  readonly closed = output();

  protected readonly groups = computed((): Group[] =>
    TITLES.map(([weight, title]) => ({ weight, title, notes: this.notes().filter((note) => note.weight === weight) })).filter(
      ({ notes }) => notes.length > 0,
    ),
  );
}
