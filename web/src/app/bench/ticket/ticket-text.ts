import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { sentenceText, type Sign, ticket } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';

/** The ticket for whoever changes nothing: as text, with every part to be found in the plan by a click. */
@Component({
  selector: 'pr-ticket-text',
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: './ticket-text.scss',
  template: `
    <h2>Ticket</h2>
    @if (!isPlate()) {
      <p class="told inside">You see the sign as it is; designers change it. Files of what was approved are under Make.</p>
    }
    <section aria-label="Blank">
      <h3>Blank</h3>
      @for (text of blank(); track $index) {
        <p>{{ text }}</p>
      }
    </section>
    @for (block of blocks(); track block.id) {
      <section [class.selected]="chosen().includes(block.id)" [attr.aria-label]="block.name" [attr.data-part]="block.id">
        <h3>
          <button type="button" (click)="picked.emit(block.id)" title="Show it in the plan">{{ block.name }}</button>
        </h3>
        @for (text of block.texts; track $index) {
          <p>{{ text }}</p>
        }
      </section>
    }
  `,
})
export class TicketText {
  readonly sign = input.required<Sign>();
  readonly fonts = input<readonly FontEntry[]>([]);
  /** Ids of the chosen parts. */
  readonly chosen = input<readonly string[]>([]);
  /** Whether it is a plate of a run: who looks at it may be a designer. */
  readonly isPlate = input(false);
  readonly picked = output<string>();

  private readonly sentences = computed(() =>
    ticket(this.sign(), this.fonts())
      .map((sentence) => ({ part: sentence.part, text: sentenceText(sentence) }))
      .filter(({ text }) => text !== ''),
  );
  protected readonly blank = computed(() => this.textsOf(undefined));
  protected readonly blocks = computed(() => this.sign().parts.map(({ id, name }) => ({ id, name, texts: this.textsOf(id) })));

  private textsOf(part: string | undefined): string[] {
    return this.sentences()
      .filter((sentence) => sentence.part === part)
      .map(({ text }) => text.charAt(0).toUpperCase() + text.slice(1));
  }
}
