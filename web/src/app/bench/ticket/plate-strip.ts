import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { ShownPlate } from '../document/plate-of-run';

/** Which plate of a run the bench shows, and the way to others and back. */
@Component({
  selector: 'pr-plate-strip',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let one = plate();
    <p>
      <b>Plate {{ one.at + 1 }}</b> of {{ one.title }}, as it will be made. What all plates have is changed on their sign, what
      this one has alone in the run.
    </p>
    @for (sentence of one.refused; track $index) {
      <p class="refused" role="alert">{{ sentence }} It is not made.</p>
    }
    <p class="acts">
      @for (other of others(); track other.words) {
        @if (other.row === undefined) {
          <span class="quiet">{{ other.words }}</span>
        } @else {
          <a [routerLink]="['/signs', signId()]" [queryParams]="{ run: one.run, row: other.row }" replaceUrl>{{ other.words }}</a>
        }
      }
      <a [routerLink]="['/jobs', jobId(), 'runs']" [queryParams]="{ run: one.run }">Back to the run</a>
      <a [routerLink]="['/signs', signId()]">The sign itself</a>
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 0.5rem 0.9rem;
      background: var(--pr-sheet);
      border-bottom: 1px solid var(--pr-line);
    }
    p {
      margin: 0 0 0.375rem;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 0.25rem 1rem;
    }
    .refused {
      color: var(--pr-alarm);
    }
  `,
})
export class PlateStrip {
  readonly plate = input.required<ShownPlate>();
  readonly signId = input.required<string>();
  readonly jobId = input.required<string>();
  protected readonly others = computed(() => {
    const { before, next } = this.plate();
    return [
      { words: 'Before', row: before },
      { words: 'Next', row: next },
    ];
  });
}
