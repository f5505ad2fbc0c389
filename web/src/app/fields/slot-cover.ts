import { afterRenderEffect, ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, linkedSignal, viewChild } from '@angular/core'; // prettier-ignore
import { type Slot, type WordsPiece, wordsPieces } from '@plain-relief/core/sign';

type Field = HTMLTextAreaElement | HTMLInputElement;

/** What the cover takes from the field so that its letters lie on those of the field. */
const COPIED = ['padding', 'border-width', 'font', 'letter-spacing', 'line-height', 'text-align', 'direction'] as const;

/**
 * Lies over a field of words, which stays what is typed into: places for a list's values are covered by chips with their names, gone over
 * by the arrow keys in one step and taken out as one.
 */
@Component({
  selector: 'pr-slot-cover',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-content />
    @if (hasSlots()) {
      <div #cover class="cover" [class.line]="isLine()" aria-hidden="true">
        @for (piece of pieces(); track $index) {@if (piece.isSlot) {<span class="chip"><i>&#123;</i>{{ piece.text }}<i>&#125;</i></span>} @else {<span>{{ piece.source }}</span>}}
      </div>
    }
  `, // prettier-ignore
  styles: `
    :host {
      display: block;
      position: relative;
    }
    .cover {
      position: absolute;
      inset: 0;
      overflow: hidden;
      border: solid transparent;
      color: transparent;
      pointer-events: none;
      white-space: pre-wrap;
      overflow-wrap: break-word;
    }
    .cover.line {
      white-space: pre;
    }
    .chip {
      padding: 0.1em 0;
      border-radius: 0.25em;
      background: var(--pr-sheet);
      box-shadow: inset 0 0 0 1px var(--pr-brass);
      box-decoration-break: clone;
      color: var(--pr-ink);
    }
    i {
      color: transparent;
      font-style: inherit;
    }
  `,
  host: {
    '(input)': 'typed.set(field()?.value ?? "")',
    '(keydown)': 'key($event)',
    '(click)': 'settle()',
    '(scroll.capture)': 'follow()',
  },
})
export class SlotCover {
  /** What the field says where nothing is being typed. */
  readonly words = input.required<string>();
  readonly slots = input<readonly Slot[] | undefined>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly cover = viewChild<ElementRef<HTMLElement>>('cover');
  protected readonly typed = linkedSignal(() => this.words());
  protected readonly pieces = computed(() => wordsPieces(this.typed(), this.slots() as Slot[] | undefined));
  protected readonly hasSlots = computed(() => this.pieces().some(({ isSlot }) => isSlot));
  protected readonly isLine = computed(() => this.hasSlots() && this.field() instanceof HTMLInputElement);

  constructor() {
    afterRenderEffect(() => {
      this.pieces();
      const [field, cover] = [this.field(), this.cover()?.nativeElement];
      if (!field || !cover) return;
      const styles = getComputedStyle(field);
      for (const name of COPIED) cover.style.setProperty(name, styles.getPropertyValue(name));
      // A bar to scroll by takes room from the words.
      cover.style.width = `${field.clientWidth + parseFloat(styles.borderLeftWidth) + parseFloat(styles.borderRightWidth)}px`;
      this.follow();
    });
  }

  protected field(): Field | null {
    return this.host.querySelector<Field>('textarea, input');
  }

  protected follow(): void {
    const [field, cover] = [this.field(), this.cover()?.nativeElement];
    if (!field || !cover) return;
    [cover.scrollLeft, cover.scrollTop] = [field.scrollLeft, field.scrollTop];
  }

  /** Marks all of a slot before a key takes some of it away, and sets the cursor at its end before an arrow goes over it. */
  protected key({ key, shiftKey }: KeyboardEvent): void {
    const field = this.field();
    if (!field || field.selectionStart === null || field.selectionStart !== field.selectionEnd) return;
    const at = field.selectionStart;
    if (key === 'Backspace' || key === 'Delete') {
      const slot = key === 'Backspace' ? this.slotAbout(at - 0.5) : this.slotAbout(at + 0.5);
      if (slot) field.setSelectionRange(slot.at, endOf(slot));
    } else if (!shiftKey && (key === 'ArrowLeft' || key === 'ArrowRight')) {
      const slot = this.slotAbout(key === 'ArrowLeft' ? at - 0.5 : at + 0.5);
      const before = key === 'ArrowLeft' ? slot && slot.at + 1 : slot && endOf(slot) - 1;
      if (before !== undefined) field.setSelectionRange(before, before);
    }
  }

  /** A cursor that was set into a slot goes to its nearer end. */
  protected settle(): void {
    const field = this.field();
    const at = field?.selectionStart;
    if (!field || at === null || at === undefined || at !== field.selectionEnd) return;
    const slot = this.slotAbout(at);
    if (!slot) return;
    const end = endOf(slot);
    const nearer = at - slot.at < end - at ? slot.at : end;
    field.setSelectionRange(nearer, nearer);
  }

  private slotAbout(at: number): WordsPiece | undefined {
    return this.pieces().find((piece) => piece.isSlot && piece.at < at && at < endOf(piece));
  }
}

const endOf = ({ at, source }: WordsPiece): number => at + source.length;
