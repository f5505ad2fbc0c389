import { ChangeDetectionStrategy, Component, forwardRef, input, model } from '@angular/core';
import { type ControlValueAccessor, NG_VALUE_ACCESSOR } from '@angular/forms';
import { FirstField } from './first-field';

/** A line of words, or several, under their name; a control of a form, or by itself. */
@Component({
  selector: 'pr-line-field',
  imports: [FirstField],
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => LineField), multi: true }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      {{ label() }}
      @if (rows() > 1) {
        <textarea
          #areaInput
          class="form-control"
          [rows]="rows()"
          [maxLength]="most()"
          [value]="value()"
          (input)="take(areaInput.value)"
          (blur)="left()"
        ></textarea>
      } @else {
        <input
          #lineInput
          class="form-control"
          [type]="type()"
          [maxLength]="most()"
          [autocomplete]="fill()"
          [prFirst]="isFirst()"
          [value]="value()"
          (input)="take(lineInput.value)"
          (blur)="left()"
        />
      }
    </label>
  `,
  styles: `
    label {
      display: block;
      margin-bottom: 0.7rem;
      font-weight: 500;
    }
  `,
})
export class LineField implements ControlValueAccessor {
  readonly label = input.required<string>();
  readonly value = model('');
  readonly type = input<'text' | 'email' | 'password'>('text');
  /** More than one for words of many lines. */
  readonly rows = input(1);
  /** Characters that it takes. */
  readonly most = input(200);
  /** What the browser may fill it with, by the tokens of the HTML standard. */
  readonly fill = input<'off' | 'name' | 'username' | 'current-password' | 'new-password'>('off');
  /** Whether it has the focus when it is first shown. */
  readonly isFirst = input(false);
  private changed: (value: string) => void = () => undefined;
  protected left: () => void = () => undefined;

  writeValue(value: string): void {
    this.value.set(value);
  }

  registerOnChange(changed: (value: string) => void): void {
    this.changed = changed;
  }

  registerOnTouched(left: () => void): void {
    this.left = left;
  }

  protected take(text: string): void {
    this.value.set(text);
    this.changed(text);
  }
}
