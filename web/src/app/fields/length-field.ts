import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { formatLength, formatLengthExact, LengthError, type LengthUnit, parseLength } from '@plain-relief/core/units';

/**
 * A length edited where it stands in a sentence: shown short, typed in any unit. What is not understood stays in the
 * field with a sentence under it until it is mended or left with Escape.
 */
@Component({
  selector: 'pr-length-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="field">
      <input
        class="figure"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="fault() !== ''"
        [value]="shown()"
        [style.width.ch]="width()"
        (focus)="begin($any($event.target))"
        (input)="typed.set($any($event.target).value)"
        (blur)="commit()"
        (keydown.enter)="commit()"
        (keydown.escape)="leave($any($event.target)); $event.stopPropagation()"
        (keydown.arrowUp)="step(1, $event)"
        (keydown.arrowDown)="step(-1, $event)"
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
export class LengthField {
  readonly value = input.required<number>();
  readonly unit = input.required<LengthUnit>();
  readonly label = input.required<string>();
  /** Least and greatest length that makes sense, in mm. */
  readonly min = input(-4000);
  readonly max = input(8000);
  readonly changed = output<number>();
  /** What is being typed; undefined when the field is at rest. */
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly fault = signal('');
  protected readonly shown = computed(() => this.typed() ?? formatLength(this.value(), this.unit()));
  protected readonly width = computed(() => Math.max(3, this.shown().length + 1.7));

  protected begin(input: HTMLInputElement): void {
    if (this.typed() === undefined) this.typed.set(formatLengthExact(this.value(), this.unit()));
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
    const mm = this.read(text);
    if (mm === undefined) return;
    this.typed.set(undefined);
    if (Math.abs(mm - this.value()) > 1e-9) this.changed.emit(mm);
  }

  /** One step up or down: 1 mm or 1/16 in, ten times as much with Shift. */
  protected step(by: number, event: Event): void {
    event.preventDefault();
    const mm = this.read(this.typed() ?? '');
    if (mm === undefined) return;
    const step = (this.unit() === 'mm' ? 1 : 25.4 / 16) * ((event as KeyboardEvent).shiftKey ? 10 : 1);
    const next = Math.min(this.max(), Math.max(this.min(), mm + by * step));
    this.typed.set(formatLengthExact(Number(next.toFixed(9)), this.unit()));
    this.changed.emit(Number(next.toFixed(9)));
  }

  private read(text: string): number | undefined {
    try {
      const mm = parseLength(text, this.unit());
      if (mm < this.min() || mm > this.max()) {
        this.fault.set(
          `The ${this.label()} can be from ${formatLength(this.min(), this.unit())} to ${formatLength(this.max(), this.unit())}.`,
        );
        return undefined;
      }
      this.fault.set('');
      return mm;
    } catch (error) {
      if (!(error instanceof LengthError)) throw error;
      this.fault.set(error.message);
      return undefined;
    }
  }
}
