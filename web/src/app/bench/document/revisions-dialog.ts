import type { Answer } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { changesBetween, type Sign } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { Api } from '../../platform/api';
import { timeOf } from '../../platform/moments';
import { attempt } from '../../platform/attempt';

type Kept = Answer<'GET /signs/:id/revisions'>['revisions'][number];

/** What the dialog is about: the sign as it is now. */
export interface RevisedSign {
  readonly id: string;
  readonly sign: Sign;
  readonly fonts: readonly FontEntry[];
}

/** A document that was chosen to go on with. */
export interface TakenUp {
  readonly document: Sign;
  readonly name: string;
}

/** The revisions of a sign and what was set aside, each compared with the sign as it is now, to be taken up again. */
@Component({
  selector: 'pr-revisions-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="modal-header">
      <h2 class="modal-title" id="revisions-title">Revisions</h2>
      <button type="button" class="btn-close" aria-label="Leave" (click)="modal.dismiss()"></button>
    </header>
    <div class="modal-body both">
      <ul class="list" aria-label="Revisions">
        @for (each of kept(); track each.id) {
          <li>
            <button type="button" [attr.aria-pressed]="each.id === shown()?.kept?.id" (click)="show(each)">
              <b>{{ nameOf(each) }}</b> <span class="figure">{{ time(each.savedAt) }}</span>
            </button>
          </li>
        }
      </ul>
      <section aria-live="polite">
        @if (trouble(); as sentence) {
          <p class="trouble" role="alert">{{ sentence }}</p>
        } @else if (shown(); as seen) {
          <h3>{{ nameOf(seen.kept) }} against now</h3>
          <ul>
            @for (line of seen.differences; track $index) {
              <li>{{ line }}</li>
            } @empty {
              <li>It makes the same sign as it is now.</li>
            }
          </ul>
          <button type="button" class="btn btn-primary" (click)="take(seen.document, seen.kept)">Take it up on the bench</button>
        } @else {
          <p class="quiet">Choose one to see how the sign was otherwise then. What is taken up can be undone.</p>
        }
      </section>
    </div>
  `,
  styles: `
    .both {
      display: grid;
      grid-template-columns: minmax(11rem, 2fr) 3fr;
      gap: 1rem;
      height: 24rem;
    }
    .list,
    section {
      min-height: 0;
      overflow: auto;
      overflow-wrap: anywhere;
    }
    .list {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    .list button {
      display: flex;
      justify-content: space-between;
      width: 100%;
      padding: 0.3rem 0.5rem;
      border: 0;
      border-bottom: 1px solid var(--pr-line);
      background: none;
      color: inherit;
      text-align: left;
    }
    .list [aria-pressed='true'] {
      background: var(--pr-paper);
      box-shadow: inset 3px 0 var(--pr-accent);
    }
    h3 {
      font-size: 1rem;
    }
  `,
})
export class RevisionsDialog {
  protected readonly modal = inject(NgbActiveModal);
  private readonly api = inject(Api);
  private about: RevisedSign | undefined;
  protected readonly kept = signal<readonly Kept[]>([]);
  protected readonly shown = signal<
    { readonly kept: Kept; readonly document: Sign; readonly differences: readonly string[] } | undefined
  >(undefined);
  protected readonly trouble = signal('');
  protected readonly time = timeOf;

  async open(about: RevisedSign): Promise<void> {
    this.about = about;
    await this.attempt(async () => {
      const { revisions } = await this.api.ask('GET /signs/:id/revisions', { params: { id: about.id } });
      this.kept.set(revisions);
    });
  }

  protected nameOf({ kind, revision }: Kept): string {
    return kind === 'aside' ? `set aside, from ${revision}` : `revision ${revision}`;
  }

  protected show(kept: Kept): Promise<void> {
    return this.attempt(async () => {
      const { sign, fonts } = this.about!;
      const { document } = await this.api.ask('GET /revisions/:id', { params: { id: kept.id } });
      this.shown.set({ kept, document, differences: changesBetween(document, sign, fonts) });
    });
  }

  protected take(document: Sign, kept: Kept): void {
    this.modal.close({ document, name: this.nameOf(kept) } satisfies TakenUp);
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.trouble, act);
  }
}
