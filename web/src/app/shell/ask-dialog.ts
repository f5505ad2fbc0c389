import { ChangeDetectionStrategy, Component, inject, Injectable, signal } from '@angular/core';
import { NgbActiveModal, NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';

/** What is asked before something is done that cannot be undone. */
export interface Question {
  readonly title: string;
  /** What becomes of it, in a sentence. */
  readonly says: string;
  /** What stands on the button that does it. */
  readonly verb: string;
}

@Component({
  selector: 'pr-ask-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (question(); as asked) {
      <header class="modal-header">
        <h2 class="modal-title" id="ask-title">{{ asked.title }}</h2>
      </header>
      <p class="modal-body">{{ asked.says }}</p>
      <footer class="modal-footer">
        <button type="button" class="btn btn-link" (click)="modal.dismiss()" ngbAutofocus>Keep it</button>
        <button type="button" class="btn btn-danger" (click)="modal.close()">{{ asked.verb }}</button>
      </footer>
    }
  `,
  styles: `
    p {
      margin: 0;
      overflow-wrap: anywhere;
    }
  `,
})
export class AskDialog {
  protected readonly modal = inject(NgbActiveModal);
  readonly question = signal<Question | undefined>(undefined);
}

/** Asks whether something is really to be done. */
@Injectable({ providedIn: 'root' })
export class Ask {
  private readonly modals = inject(NgbModal);

  /** @returns whether it is to be done */
  async whether(question: Question): Promise<boolean> {
    const dialog = this.modals.open(AskDialog, { ariaLabelledBy: 'ask-title', animation: false });
    (dialog.componentInstance as AskDialog).question.set(question);
    return dialog.result.then(
      () => true,
      () => false,
    );
  }
}
