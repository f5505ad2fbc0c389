import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** One of several, chosen where it stands in a sentence. */
@Component({
  selector: 'pr-choice-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <select
      #ownField
      [attr.aria-label]="label()"
      [style.--letters]="letters()"
      (pointerdown)="heldByPointer()"
      (keydown)="heldByKeys()"
      (change)="take(ownField)"
    >
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
  private isByPointer = false;
  /** How many letters the chosen text has. */
  protected readonly letters = computed(() => this.choices().find(({ value }) => value === this.value())?.text.length ?? 8);

  protected heldByPointer(): void {
    this.isByPointer = true;
  }

  protected heldByKeys(): void {
    this.isByPointer = false;
  }

  /** Whoever chose with the pointer goes on there: keys are the bench's again. */
  protected take(field: HTMLSelectElement): void {
    this.changed.emit(field.value);
    if (this.isByPointer) field.blur();
  }
}
