import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FigureError, FigureField, type FigureFormat, moved, within } from './figure-field';

/** A plain number with a suffix, such as degrees or percent. */
@Component({
  selector: 'pr-number-field',
  imports: [FigureField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<pr-figure-field [value]="value()" [label]="label()" [format]="format()" (changed)="changed.emit($event)" />`,
})
export class NumberField {
  readonly value = input.required<number>();
  readonly suffix = input('');
  readonly label = input.required<string>();
  readonly min = input(-360);
  readonly max = input(1000);
  readonly isWhole = input<boolean | undefined>(false);
  readonly changed = output<number>();
  protected readonly format = computed((): FigureFormat<number> => {
    const [suffix, limits, isWhole] = [this.suffix(), { min: this.min(), max: this.max() }, this.isWhole()];
    const show = (value: number) => `${plainFigure(value)}${suffix}`;
    return {
      show,
      write: plainFigure,
      read: (text) => {
        const value = readNumber(text, suffix);
        if (isWhole && !Number.isInteger(value)) throw new FigureError(`“${text}” is not a whole number.`);
        return within(value, limits, this.label(), show);
      },
      stepped: (value, steps) => moved(value, steps, limits),
    };
  });
}

/** Up to four decimals, with a true minus. */
export const plainFigure = (value: number): string => String(Number(value.toFixed(4))).replace('-', '−');

/** @throws FigureError */
export function readNumber(text: string, suffix: string): number {
  const cleaned = text.replace(/[−–]/u, '-').replace(',', '.').replace(suffix.trim(), '').trim();
  const value = Number(cleaned);
  if (cleaned === '' || !Number.isFinite(value)) throw new FigureError(`“${text}” is not a number.`);
  return value;
}
