import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatLength, formatLengthExact, LengthError, type LengthUnit, parseLength } from '@plain-relief/core/units';
import { FigureError, FigureField, type FigureFormat } from './figure-field';

/** A length in mm, shown in the sign's unit and typed in any. */
@Component({
  selector: 'pr-length-field',
  imports: [FigureField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<pr-figure-field [value]="value()" [label]="label()" [format]="format()" (changed)="changed.emit($event)" />`,
})
export class LengthField {
  readonly value = input.required<number>();
  readonly unit = input.required<LengthUnit>();
  readonly label = input.required<string>();
  /** Least and greatest length that makes sense, in mm. */
  readonly min = input(-4000);
  readonly max = input(8000);
  readonly changed = output<number>();
  protected readonly format = computed((): FigureFormat => {
    const unit = this.unit();
    return {
      show: (mm) => formatLength(mm, unit),
      write: (mm) => formatLengthExact(mm, unit),
      read: (text) => readLength(text, unit),
      step: unit === 'mm' ? 1 : 25.4 / 16,
      min: this.min(),
      max: this.max(),
    };
  });
}

function readLength(text: string, unit: LengthUnit): number {
  try {
    return parseLength(text, unit);
  } catch (error) {
    if (error instanceof LengthError) throw new FigureError(error.message);
    throw error;
  }
}
