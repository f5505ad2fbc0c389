import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type Slot, wordsPieces } from '@plain-relief/core/sign';

/** Words in which places for a list's values are chips with the names of columns. */
@Component({
  selector: 'pr-slot-words',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (piece of pieces(); track $index) {@if (piece.isSlot) {<span class="chip">{{ piece.text }}</span>} @else {<span>{{ piece.text }}</span>}}`, // prettier-ignore
  styles: `
    .chip {
      padding: 0 0.4em;
      border: 1px solid var(--pr-brass);
      border-radius: 0.6em;
      background: var(--pr-sheet);
    }
  `,
})
export class SlotWords {
  readonly words = input.required<string>();
  /** Those of the sign; where only its words are known, whatever is in braces. */
  readonly slots = input<readonly Slot[] | 'any' | undefined>('any');
  protected readonly pieces = computed(() => wordsPieces(this.words(), this.slots() as Slot[] | 'any' | undefined));
}
