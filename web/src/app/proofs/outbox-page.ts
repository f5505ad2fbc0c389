import type { Mail } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { Api } from '../platform/api';
import { Masthead } from '../shell/masthead';
import { timeOf } from '../platform/moments';

/** The letters that were written to customers. */
@Component({
  selector: 'pr-outbox-page',
  imports: [Masthead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <pr-masthead><h1 class="place-name">Outbox</h1></pr-masthead>
    <main tabindex="0">
      @if (isSimulated()) {
        <p class="told">
          This outbox stands in for a mail server: letters are written and kept here, and nobody outside gets them. Set
          MAIL_SERVER to send them (see the README).
        </p>
      }
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
      @for (mail of mails(); track mail.id) {
        <article>
          <h2>{{ mail.subject }}</h2>
          <p class="quiet figure">
            to {{ mail.to }}, {{ time(mail.writtenAt) }}{{ mail.state === 'sent' ? '' : ', ' + mail.state }}
          </p>
          @if (mail.error) {
            <p class="trouble">{{ mail.error }}</p>
            <button type="button" class="btn btn-sm btn-outline-primary" (click)="again(mail.id)">Send it again</button>
          }
          <pre>{{ mail.text }}</pre>
        </article>
      } @empty {
        @if (isLoaded()) {
          <p class="quiet">Nothing has been sent yet. A proof that is frozen writes the first letter.</p>
        }
      }
    </main>
  `,
  styles: `
    main > * {
      max-width: 46rem;
    }
    article {
      margin-bottom: 1rem;
      padding: 0.8rem 1rem;
      border: 1px solid var(--pr-line);
      background: var(--pr-sheet);
    }
    h2 {
      margin: 0;
      font-size: 1.08rem;
    }
    pre {
      margin: 0.4rem 0 0;
      font: inherit;
      white-space: pre-wrap;
      overflow-wrap: anywhere;
    }
  `,
})
export class OutboxPage {
  private readonly api = inject(Api);
  protected readonly mails = signal<readonly Mail[]>([]);
  protected readonly isSimulated = signal(false);
  protected readonly isLoaded = signal(false);
  protected readonly trouble = signal('');
  protected readonly time = timeOf;

  constructor() {
    void this.load();
  }

  protected async again(id: string): Promise<void> {
    this.trouble.set('');
    try {
      await this.api.ask('POST /outbox/:id/again', { params: { id } });
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
    await this.load();
  }

  private async load(): Promise<void> {
    try {
      const { isSimulated, mails } = await this.api.ask('GET /outbox');
      this.isSimulated.set(isSimulated);
      this.mails.set(mails);
      this.isLoaded.set(true);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }
}
