import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** One of several, chosen where it stands in a sentence. */
@Component({
  selector: 'pr-choice-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <select [attr.aria-label]="label()" [style.width.ch]="width()" (change)="changed.emit($any($event.target).value)">
      @for (choice of choices(); track choice.value) {
        <option [value]="choice.value" [selected]="choice.value === value()">{{ choice.text }}</option>
      }
    </select>
  `,
  styleUrl: './field.scss',
})
export class ChoiceField {
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  readonly choices = input.required<readonly { readonly value: string; readonly text: string }[]>();
  readonly changed = output<string>();
  protected readonly width = computed(
    () => (this.choices().find(({ value }) => value === this.value())?.text.length ?? 8) * 0.92 + 0.6,
  );
}
