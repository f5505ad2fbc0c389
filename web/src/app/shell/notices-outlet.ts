import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NgbToast } from '@ng-bootstrap/ng-bootstrap/toast';
import { type Notice, Notices } from '../platform/notices';

/** ms that a sentence stands; longer where something can be done about it. */
const READ_MS = 8_000;
const ACT_MS = 15_000;

/** The sentences at the lower edge of the page. */
@Component({
  selector: 'pr-notices-outlet',
  imports: [NgbToast],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (notice of notices.all(); track notice.id) {
      <ngb-toast [animation]="false" [delay]="delay(notice)" (hidden)="notices.drop(notice.id)">
        <div class="line">
          <span class="words">{{ notice.text }}</span>
          @if (notice.action; as action) {
            <button type="button" class="btn btn-sm btn-link" (click)="act(notice)">{{ action.words }}</button>
          }
          <button type="button" class="btn-close" aria-label="Dismiss" (click)="notices.drop(notice.id)"></button>
        </div>
      </ngb-toast>
    }
  `,
  styles: `
    :host {
      position: fixed;
      bottom: 5.6rem;
      left: 50%;
      z-index: 1090;
      display: grid;
      gap: 0.4rem;
      width: min(34rem, calc(100vw - 2rem));
      transform: translateX(-50%);
    }
    .line {
      display: flex;
      gap: 0.6rem;
      align-items: center;
    }
    .words {
      flex: 1;
      overflow-wrap: anywhere;
    }
    .btn {
      flex: none;
      padding-block: 0;
      color: #e9cf8f;
      font-weight: 600;
    }
    .btn-close {
      flex: none;
      filter: invert(1);
    }
  `,
})
export class NoticesOutlet {
  protected readonly notices = inject(Notices);

  protected delay({ action }: Notice): number {
    return action ? ACT_MS : READ_MS;
  }

  protected act(notice: Notice): void {
    this.notices.drop(notice.id);
    notice.action?.run();
  }
}
