import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Limits, type Measure } from '@plain-relief/core/sign';
import { formatLength, formatLengthExact, type LengthUnit } from '@plain-relief/core/units';
import { FigureField, type FigureFormat, moved, within } from './figure-field';
import { lengthStep, readLength } from './length-field';
import { plainFigure, readNumber } from './number-field';

/** A length in any unit, or percent where a “%” is typed: a margin, a leading. */
@Component({
  selector: 'pr-measure-field',
  imports: [FigureField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<pr-figure-field [value]="value()" [label]="label()" [format]="format()" (changed)="changed.emit($event)" />`,
})
export class MeasureField {
  readonly value = input.required<Measure>();
  readonly unit = input.required<LengthUnit>();
  readonly label = input.required<string>();
  readonly lengths = input<Limits>({ min: 0, max: 4000 });
  readonly percents = input<Limits>({ min: 0, max: 100 });
  readonly changed = output<Measure>();
  protected readonly format = computed((): FigureFormat<Measure> => {
    const [unit, lengths, percents, label] = [this.unit(), this.lengths(), this.percents(), this.label()];
    const percent = (value: number) => `${plainFigure(value)} %`;
    return {
      show: (value) => (value.kind === 'percent' ? percent(value.of) : formatLength(value.length, unit)),
      write: (value) => (value.kind === 'percent' ? percent(value.of) : formatLengthExact(value.length, unit)),
      read: (text) =>
        text.includes('%')
          ? { kind: 'percent', of: within(readNumber(text, '%'), percents, label, percent) }
          : { kind: 'length', length: within(readLength(text, unit), lengths, label, (mm) => formatLength(mm, unit)) },
      stepped: (value, steps) =>
        value.kind === 'percent'
          ? { kind: 'percent', of: moved(value.of, steps, percents) }
          : { kind: 'length', length: moved(value.length, steps * lengthStep(unit), lengths) },
    };
  });
}
