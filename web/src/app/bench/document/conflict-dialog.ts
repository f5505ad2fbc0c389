import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { timeOf } from '../../platform/moments';

/** Two saves that met. */
export interface Meeting {
  /** The revision that one's own began from, and the one that was saved elsewhere. */
  readonly base: number;
  readonly theirs: number;
  readonly savedAt: string;
  /** What is otherwise in one's own than in theirs, a line each. */
  readonly differences: readonly string[];
}

const MOST_SHOWN = 12;

/** Asks which of two saves that met goes on; both are kept. */
@Component({
  selector: 'pr-conflict-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (meeting(); as met) {
      <header class="modal-header">
        <h2 class="modal-title" id="conflict-title">The sign was saved elsewhere meanwhile</h2>
      </header>
      <div class="modal-body">
        <p>
          Revision {{ met.theirs }} was saved elsewhere on {{ time(met.savedAt) }}; yours began from revision {{ met.base }}. Both
          are kept, whichever goes on.
        </p>
        <h3>Yours against theirs</h3>
        <ul>
          @for (line of shown(met); track $index) {
            <li>{{ line }}</li>
          } @empty {
            <li>Both make the same sign.</li>
          }
        </ul>
      </div>
      <footer class="modal-footer">
        <button type="button" class="btn btn-outline-primary" (click)="modal.close('theirs')">
          Theirs goes on, mine is set aside
        </button>
        <button type="button" class="btn btn-primary" (click)="modal.close('mine')">Mine goes on</button>
      </footer>
    }
  `,
  styles: `
    h3 {
      font-size: 1rem;
    }
    ul {
      max-height: 16rem;
      margin: 0;
      overflow: auto;
      overflow-wrap: anywhere;
    }
  `,
})
export class ConflictDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly meeting = signal<Meeting | undefined>(undefined);
  protected readonly time = timeOf;

  protected shown({ differences }: Meeting): readonly string[] {
    const more = differences.length - MOST_SHOWN;
    return more > 0 ? [...differences.slice(0, MOST_SHOWN), `… and ${more} more`] : differences;
  }
}
