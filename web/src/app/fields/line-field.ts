import { ChangeDetectionStrategy, Component, input, model } from '@angular/core';
import { FirstField } from './first-field';

/** A line of words, or several, under their name, in a form. */
@Component({
  selector: 'pr-line-field',
  imports: [FirstField],
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
          (input)="value.set(areaInput.value)"
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
          (input)="value.set(lineInput.value)"
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
export class LineField {
  readonly label = input.required<string>();
  readonly value = model.required<string>();
  readonly type = input<'text' | 'email' | 'password'>('text');
  /** More than one for words of many lines. */
  readonly rows = input(1);
  /** Characters that it takes. */
  readonly most = input(200);
  /** What the browser may fill it with, by the tokens of the HTML standard. */
  readonly fill = input<'off' | 'name' | 'username' | 'current-password' | 'new-password'>('off');
  /** Whether it has the focus when it is first shown. */
  readonly isFirst = input(false);
}
