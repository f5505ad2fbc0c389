import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { attempt } from '../platform/attempt';
import { LibraryService } from './library.service';

/** Words that a shop can keep, and characters of one. */
const MOST_WORDS = 5000;
const LONGEST = 60;

/** Words that are right whatever dictionaries say. */
@Component({
  selector: 'pr-own-words',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 id="own-words">Own words</h2>
    <p class="quiet">
      Names that are right whatever the dictionaries say, one to a line. The check of spelling takes words on in one click.
    </p>
    <textarea
      #field
      class="form-control"
      rows="5"
      aria-labelledby="own-words"
      spellcheck="false"
      [readOnly]="isLooking()"
      [value]="shown()"
      (input)="typed.set(field.value)"
    ></textarea>
    @if (trouble()) {
      <p class="trouble" role="alert">{{ trouble() }}</p>
    }
    @if (typed() !== undefined) {
      <button type="button" class="btn btn-sm btn-primary" (click)="keep()">Keep the words</button>
      <button type="button" class="btn btn-sm btn-link" (click)="leave()">Leave</button>
    }
  `,
  styles: `
    textarea {
      max-width: 30rem;
      margin-bottom: 0.5rem;
    }

    h2 {
      margin: 0 0 0.4rem;
      font-size: 1.2rem;
    }

    .quiet {
      color: var(--pr-quiet);
    }
  `,
})
export class OwnWords {
  readonly isLooking = input(false);
  private readonly service = inject(LibraryService);
  private readonly library = toSignal(this.service.library$);
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly shown = computed(() => this.typed() ?? (this.library()?.library.words ?? []).join('\n'));

  protected leave(): void {
    this.typed.set(undefined);
    this.trouble.set('');
  }

  protected async keep(): Promise<void> {
    const words = [...new Set((this.typed() ?? '').split(/\s+/u).filter(Boolean))];
    const long = words.find((word) => word.length > LONGEST);
    if (long) return this.trouble.set(`“${long.slice(0, 20)}…” has ${long.length} characters: a word has ${LONGEST} at most.`);
    if (words.length > MOST_WORDS) return this.trouble.set(`These are ${words.length} words: ${MOST_WORDS} can be kept.`);
    const isKept = await attempt(this.trouble, async () => {
      const { library } = await this.service.load();
      await this.service.keep({ ...library, words });
    });
    if (isKept) this.typed.set(undefined);
  }
}
