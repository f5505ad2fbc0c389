import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import { CHECKS, type Finding } from '@plain-relief/core/inspection';
import { type Note } from '@plain-relief/core/notes';
import { NumberField } from '../../fields/number-field';
import { type Mending, NoteLine } from './note-line';

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

/** All notes of a sign by their weight, each with the way to its place and what mends it. */
@Component({
  selector: 'pr-check-panel',
  imports: [NoteLine, NumberField],
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
      <section class="warning measured">
        <h3>
          Measured
          @if (findings(); as found) {
            <span class="figure">{{ found.length }}</span>
          }
        </h3>
        <p class="quiet">
          Read from
          <pr-number-field
            label="distance that it is read from, 0 where nobody says"
            suffix=" m"
            [value]="distance()"
            [min]="0"
            [max]="1000"
            (changed)="distance.set($event)"
          />
        </p>
        @if (findings(); as found) {
          <ul>
            @for (finding of found; track $index) {
              <li [class.chosen]="finding === chosenFinding()">
                <button
                  type="button"
                  [attr.aria-pressed]="finding === chosenFinding()"
                  [title]="'Limit: ' + sourceOf(finding)"
                  (click)="choose(finding)"
                >
                  {{ finding.text }}
                </button>
              </li>
            } @empty {
              <li class="clear">Gaps, strokes, walls, steps and letters are as they should be.</li>
            }
          </ul>
        } @else {
          <p class="quiet" role="status">Measuring …</p>
        }
      </section>
    </div>
  `,
})
export class CheckPanel {
  readonly notes = input.required<readonly Note[]>();
  /** The selected part. */
  readonly chosen = input<string>();
  /** What is beyond its limits; undefined while it is measured for the first time. */
  readonly findings = input<readonly Finding[]>();
  readonly chosenFinding = model<Finding>();
  /** From which it is read, in m. */
  readonly distance = model(0);
  readonly picked = output<string>();
  readonly mended = output<Mending>();
  readonly closed = output();
  protected sourceOf({ check }: Finding): string {
    return CHECKS[check].source;
  }

  /** Its places are marked on the plan; chosen once more they are not. */
  protected choose(finding: Finding): void {
    const isOff = finding === this.chosenFinding();
    this.chosenFinding.set(isOff ? undefined : finding);
    if (!isOff && finding.part !== undefined) this.picked.emit(finding.part);
  }

  protected readonly groups = computed((): Group[] =>
    TITLES.map(([weight, title]) => ({ weight, title, notes: this.notes().filter((note) => note.weight === weight) })).filter(
      ({ notes }) => notes.length > 0,
    ),
  );
}
