import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { ProcessChoice } from '@plain-relief/api';
import type { LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import { attempt } from '../../platform/attempt';
import { ReliefService } from '../../relief/relief.service';
import { LibraryService } from '../../shop/library.service';

/** Ways that a sign is split along, with the words for them. */
const WAYS = [
  ['upright', 'upright line at x'],
  ['level', 'level line at y'],
] as const;
type Way = (typeof WAYS)[number][0];
const BED = [
  ['bedWidth', 'width'],
  ['bedDepth', 'depth'],
  ['bedHeight', 'height'],
] as const;
type BedSize = (typeof BED)[number][0];

/** How a sign is printed: lines and layers, the bed, where it is split and what holds the pieces; and what a printer would have trouble with. */
@Component({
  selector: 'pr-print-choice',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './print-choice.html',
  styles: `
    :host {
      display: block;
      color: var(--pr-ink);
      line-height: 1.7;
    }
    p,
    ul {
      margin: 0;
    }
    ul {
      padding-left: 1rem;
      line-height: 1.35;
    }
    select {
      display: inline-block;
      width: auto;
    }
  `,
})
export class PrintChoiceForm {
  readonly process = input.required<Required<ProcessChoice>>();
  readonly unit = input<LengthUnit>('mm');
  readonly changed = output<Partial<ProcessChoice>>();
  private readonly relief = inject(ReliefService);
  private readonly kept = toSignal(inject(LibraryService).library$);
  protected readonly ways = WAYS;
  protected readonly trouble = signal('');
  /** What was found when it was looked for last; undefined before. */
  protected readonly found = signal<readonly string[] | undefined>(undefined);
  protected readonly printers = computed(() => (this.kept()?.library.machines ?? []).filter(({ kind }) => kind === 'printer'));
  /** The printer whose bed it is. */
  protected readonly printer = computed(() => {
    const { bedWidth, bedDepth, bedHeight } = this.process();
    return this.printers().find(
      ({ area, travel }) => area.width === bedWidth && area.height === bedDepth && travel === bedHeight,
    );
  });

  protected readonly bed = BED;

  protected setBed(size: BedSize, mm: number): void {
    this.change({ [size]: mm });
  }

  protected choosePrinter(id: string): void {
    const machine = this.printers().find((each) => each.id === id);
    this.change({
      bedWidth: machine?.area.width ?? 0,
      bedDepth: machine?.area.height ?? 0,
      bedHeight: machine?.travel ?? 0,
    });
  }

  protected setLine(way: Way, index: number, at: number): void {
    this.change({ [way]: this.process()[way].map((each, i) => (i === index ? at : each)) });
  }

  protected dropLine(way: Way, index: number): void {
    this.change({ [way]: this.process()[way].filter((_, i) => i !== index) });
  }

  protected addLine(way: Way): void {
    const known = this.process()[way];
    // None lies where another does.
    let at = 0;
    while (known.includes(at)) at += 10;
    this.change({ [way]: [...known, at] });
  }

  protected async proposeLines(): Promise<void> {
    const { bedWidth, bedDepth } = this.process();
    await attempt(this.trouble, async () => {
      const lines = await this.relief.printLines(bedWidth || Infinity, bedDepth || Infinity);
      if (lines) this.change({ upright: [...lines.upright], level: [...lines.level] });
    });
  }

  protected async look(): Promise<void> {
    const { line, layer, bedWidth, bedDepth, bedHeight, upright, level } = this.process();
    const isSplit = upright.length + level.length > 0;
    const bed = { width: bedWidth || Infinity, depth: bedDepth || Infinity, height: bedHeight || Infinity };
    await attempt(this.trouble, async () =>
      this.found.set(await this.relief.printFindings({ line, layer, ...(!isSplit && { bed }) })),
    );
  }

  protected change(change: Partial<ProcessChoice>): void {
    this.found.set(undefined);
    this.changed.emit(change);
  }
}
