import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

/** A few words, edited where they stand in a sentence; taken on Enter or when the field is left, and kept if they are empty. */
@Component({
  selector: 'pr-name-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #field
      type="text"
      [attr.aria-label]="label()"
      [style.width.ch]="width()"
      [value]="value()"
      maxlength="80"
      (change)="take(field)"
      (keydown.enter)="field.blur()"
      (keydown.escape)="field.value = value(); field.blur()"
    />
  `,
  styleUrl: './field.scss',
})
export class NameField {
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  readonly changed = output<string>();
  protected readonly width = computed(() => Math.min(24, Math.max(6, this.value().length + 2)));

  protected take(field: HTMLInputElement): void {
    const name = field.value.trim();
    if (name === '') field.value = this.value();
    else if (name !== this.value()) this.changed.emit(name);
  }
}
