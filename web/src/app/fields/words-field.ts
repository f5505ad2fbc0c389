import { ChangeDetectionStrategy, Component, computed, type ElementRef, effect, input, output, viewChild } from '@angular/core';
import { type Slot } from '@plain-relief/core/sign';
import { SlotCover } from './slot-cover';

/** The words of a text part, edited as they stand; every stroke takes effect at once. */
@Component({
  selector: 'pr-words-field',
  imports: [SlotCover],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <pr-slot-cover [words]="value()" [slots]="slots()">
      <textarea
        #area
        dir="auto"
        [attr.aria-label]="label()"
        [rows]="rows()"
        [value]="value()"
        (input)="changed.emit(area.value)"
        placeholder="Words of this line …"
        maxlength="4000"
      ></textarea>
    </pr-slot-cover>
  `,
  styleUrl: './field.scss',
  styles: `
    :host {
      display: block;
    }
    textarea {
      display: block;
      width: 100%;
      min-height: 0;
      padding: 0.15rem 0.35rem;
      background: var(--pr-paper);
      color: var(--pr-ink);
      font-size: 1.08rem;
      resize: vertical;
    }
  `,
})
export class WordsField {
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  /** Places for a list's values that the sign has. */
  readonly slots = input<readonly Slot[] | undefined>();
  readonly changed = output<string>();
  /** Takes the cursor when the part is new and has no words yet. */
  readonly wantsFocus = input(false);
  private readonly area = viewChild.required<ElementRef<HTMLTextAreaElement>>('area');
  protected readonly rows = computed(() => Math.min(8, this.value().split('\n').length));

  constructor() {
    effect(() => {
      if (this.wantsFocus()) this.area().nativeElement.focus();
    });
  }
}
