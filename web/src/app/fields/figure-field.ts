import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { type Limits } from '@plain-relief/core/sign';

/** A figure that cannot be taken, in a sentence that says why. */
export class FigureError extends Error {}

/** How a kind of figure is written and read. */
export interface FigureFormat<T> {
  /** As it stands in a sentence. */
  readonly show: (value: T) => string;
  /** Every digit of it: two that are written alike are the same. */
  readonly write: (value: T) => string;
  /** @throws FigureError */
  readonly read: (text: string) => T;
  /** The value so many steps of the arrow keys up or down. */
  readonly stepped: (value: T, steps: number) => T;
}

/** A number within its limits. @throws FigureError that names them */
export function within(value: number, { min, max }: Limits, label: string, show: (value: number) => string): number {
  if (value < min || value > max) throw new FigureError(`The ${label} can be from ${show(min)} to ${show(max)}.`);
  return value;
}

/** A number moved by steps, no further than its limits. */
export const moved = (value: number, by: number, { min, max }: Limits): number =>
  Number(Math.min(max, Math.max(min, value + by)).toFixed(9));

/**
 * A figure edited where it stands in a sentence. Only what was typed is taken; until then the field shows what is true now. What is
 * not understood stays in it with a sentence under it until it is mended or left with Escape.
 */
@Component({
  selector: 'pr-figure-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="field">
      <input
        #ownField
        class="figure"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="fault() !== ''"
        [value]="shown()"
        [style.width.ch]="width()"
        (focus)="begin(ownField)"
        (input)="typed.set(ownField.value)"
        (blur)="commit()"
        (keydown.enter)="commit(); $event.preventDefault()"
        (keydown.escape)="leave(ownField); $event.stopPropagation()"
        (keydown.arrowUp)="step(1, $event)"
        (keydown.arrowDown)="step(-1, $event)"
        (keydown.shift.arrowUp)="step(10, $event)"
        (keydown.shift.arrowDown)="step(-10, $event)"
        spellcheck="false"
        autocomplete="off"
      />
      @if (fault()) {
        <span class="fault" role="alert">{{ fault() }}</span>
      }
    </span>
  `,
  styleUrl: './field.scss',
})
export class FigureField<T extends number | object> {
  readonly value = input.required<T>();
  readonly label = input.required<string>();
  readonly format = input.required<FigureFormat<T>>();
  readonly changed = output<T>();
  /** What is being typed; undefined when the field is at rest. */
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly fault = signal('');
  protected readonly shown = computed(() => this.typed() ?? this.format().show(this.value()));
  protected readonly width = computed(() => Math.max(3, this.shown().length + 1.7));

  protected begin(input: HTMLInputElement): void {
    input.select();
    queueMicrotask(() => input.select());
  }

  protected leave(input: HTMLInputElement): void {
    this.typed.set(undefined);
    this.fault.set('');
    input.blur();
  }

  protected commit(): void {
    const text = this.typed();
    if (text === undefined) return;
    const value = this.read(text);
    if (value === undefined) return;
    this.typed.set(undefined);
    const { write } = this.format();
    if (write(value) !== write(this.value())) this.changed.emit(value);
  }

  protected step(by: number, event: Event): void {
    event.preventDefault();
    const typed = this.typed();
    const value = typed === undefined ? this.value() : this.read(typed);
    if (value === undefined) return;
    this.typed.set(undefined);
    this.changed.emit(this.format().stepped(value, by));
  }

  private read(text: string): T | undefined {
    try {
      const value = this.format().read(text);
      this.fault.set('');
      return value;
    } catch (error) {
      if (!(error instanceof FigureError)) throw error;
      this.fault.set(error.message);
      return undefined;
    }
  }
}
