import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FigureError, FigureField, type FigureFormat } from './figure-field';

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
  readonly changed = output<number>();
  protected readonly format = computed((): FigureFormat => {
    const suffix = this.suffix();
    return {
      show: (value) => `${plain(value)}${suffix}`,
      write: plain,
      read: (text) => readNumber(text, suffix),
      step: 1,
      min: this.min(),
      max: this.max(),
    };
  });
}

const plain = (value: number): string => String(Number(value.toFixed(4))).replace('-', '−');

function readNumber(text: string, suffix: string): number {
  const cleaned = text.replace(/[−–]/u, '-').replace(',', '.').replace(suffix.trim(), '').trim();
  const value = Number(cleaned);
  if (cleaned === '' || !Number.isFinite(value)) throw new FigureError(`“${text}” is not a number.`);
  return value;
}
