import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { formatLength, formatLengthExact, LengthError, type LengthUnit, parseLength } from '@plain-relief/core/units';
import { FigureError, FigureField, type FigureFormat, moved, within } from './figure-field';

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
  protected readonly format = computed((): FigureFormat<number> => {
    const [unit, limits] = [this.unit(), { min: this.min(), max: this.max() }];
    const show = (mm: number) => formatLength(mm, unit);
    return {
      show,
      write: (mm) => formatLengthExact(mm, unit),
      read: (text) => within(readLength(text, unit), limits, this.label(), show),
      stepped: (mm, steps) => moved(mm, steps * lengthStep(unit), limits),
    };
  });
}

/** What an arrow key adds to a length: 1 mm or 1/16 in. */
export const lengthStep = (unit: LengthUnit): number => (unit === 'mm' ? 1 : 25.4 / 16);

/** @throws FigureError */
export function readLength(text: string, unit: LengthUnit): number {
  try {
    return parseLength(text, unit);
  } catch (error) {
    if (error instanceof LengthError) throw new FigureError(error.message);
    throw error;
  }
}
