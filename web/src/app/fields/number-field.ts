import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';

/** A plain number with a suffix, edited where it stands in a sentence. */
@Component({
  selector: 'pr-number-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="field">
      <input
        class="figure"
        inputmode="decimal"
        [attr.aria-label]="label()"
        [attr.aria-invalid]="fault() !== ''"
        [value]="shown()"
        [style.width.ch]="shown().length + 1.7"
        (focus)="typed.set(plain(value())); select($any($event.target))"
        (input)="typed.set($any($event.target).value)"
        (blur)="commit()"
        (keydown.enter)="commit()"
        (keydown.escape)="typed.set(undefined); fault.set(''); $any($event.target).blur(); $event.stopPropagation()"
        autocomplete="off"
      />
      @if (fault()) {
        <span class="fault" role="alert">{{ fault() }}</span>
      }
    </span>
  `,
  styleUrl: './field.scss',
})
export class NumberField {
  readonly value = input.required<number>();
  readonly suffix = input('');
  readonly label = input.required<string>();
  readonly min = input(-360);
  readonly max = input(1000);
  readonly changed = output<number>();
  protected readonly typed = signal<string | undefined>(undefined);
  protected readonly fault = signal('');
  protected readonly shown = computed(() => this.typed() ?? `${this.plain(this.value())}${this.suffix()}`);

  protected plain(value: number): string {
    return String(Number(value.toFixed(4))).replace('-', '−');
  }

  protected select(input: HTMLInputElement): void {
    queueMicrotask(() => input.select());
  }

  protected commit(): void {
    const text = this.typed();
    if (text === undefined) return;
    const cleaned = text.replace(/[−–]/u, '-').replace(',', '.').replace(this.suffix().trim(), '').trim();
    const value = Number(cleaned);
    if (cleaned === '' || !Number.isFinite(value)) return this.fault.set(`“${text}” is not a number.`);
    if (value < this.min() || value > this.max())
      return this.fault.set(
        `The ${this.label()} can be from ${this.plain(this.min())} to ${this.plain(this.max())}${this.suffix()}.`,
      );
    this.fault.set('');
    this.typed.set(undefined);
    if (value !== this.value()) this.changed.emit(value);
  }
}
