import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import type { LadderView, RungView } from '../../relief/views';
import { BREAK_PX, type Break, breakOf, rail, spread } from './ladder-geometry';
import { onSteps } from '../plan/plan-geometry';

export interface RungMove {
  readonly part: string;
  readonly tier: string;
  readonly level: number;
}

/** A rail, and what it leaves out. */
interface Scale {
  readonly rail: ReturnType<typeof rail>;
  readonly gap: Break | undefined;
}

const MARGIN = 22;
const LABEL_GAP = 44;

/** The scale of heights: the blank from face to back, every tier at its level; rungs are dragged or their figure typed. */
@Component({
  selector: 'pr-ladder',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ladder.html',
  styleUrl: './ladder.scss',
  host: { '(window:pointermove)': 'move($event)', '(window:pointerup)': 'drop()' },
})
export class Ladder {
  readonly ladder = input.required<LadderView>();
  readonly unit = input.required<LengthUnit>();
  readonly chosen = input<readonly string[]>([]);
  /** Heights between which a finding is that is looked at, above the face. */
  readonly found = input<readonly [lowest: number, highest: number]>();
  readonly picked = output<{ readonly part: string; readonly isAdding: boolean }>();
  readonly moved = output<RungMove>();
  /** A part to be built just before or after another. */
  readonly ordered = output<{ readonly part: string; readonly other: string }>();
  readonly nudged = output<{ readonly part: string; readonly by: -1 | 1 }>();
  readonly limited = output<number>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly height = signal(400);
  protected readonly held = signal<{ readonly rung: RungView; readonly scale: Scale } | undefined>(undefined);

  /** The rail with what it leaves out; as it was while a rung is dragged. */
  private readonly scale = computed((): Scale => {
    const held = this.held();
    if (held) return held.scale;
    const { top, back, limit = 0, rungs } = this.ladder();
    const levels = rungs.flatMap(({ z, isThrough }) => (isThrough ? [] : [Math.max(z, back)]));
    // Room above the highest rung to drag into: a fifth of the blank or a third of what is relief, at least 2 mm.
    const relief = (top - Math.min(0, ...levels)) / 3;
    const highest = Math.max(top + Math.max(2, Math.min(-back * 0.2, relief)), limit * 1.05);
    const gap = breakOf([highest, 0, back, ...levels]);
    return { rail: rail(highest, back, this.height(), MARGIN, gap), gap };
  });
  private readonly rail = computed(() => this.scale().rail);
  /** Where the bar of the blank is broken off, as a line across it. */
  protected readonly broken = computed(() => {
    const { gap, rail: own } = this.scale();
    if (!gap || gap.upper > 0) return undefined;
    const y = own.toPixel(gap.upper);
    return {
      y,
      height: BREAK_PX,
      says: `${formatLength(gap.upper - gap.lower, this.unit())} of the blank without a level are left out`,
    };
  });
  protected readonly bar = computed(() => {
    const { toPixel } = this.rail();
    return { face: toPixel(0), back: toPixel(this.ladder().back) };
  });
  protected readonly levels = computed(() =>
    this.ladder().levels.map(({ z, colour, areaMm2 }) => ({ z, colour, areaMm2, y: this.rail().toPixel(z) })),
  );
  protected readonly rungs = computed(() => {
    const { rungs, back } = this.ladder();
    const { toPixel } = this.rail();
    const lowest = this.height() - 18;
    const wishes = rungs.map(({ z }) => Math.min(toPixel(Math.max(z, back)), lowest));
    const places = spread(wishes, LABEL_GAP, 18, lowest);
    return rungs.map((rung, i) => ({
      ...rung,
      y: wishes[i],
      labelY: places[i],
      isDeep: !rung.isThrough && rung.z <= back,
      isHigh: rung.z > (this.ladder().limit ?? Infinity) + 1e-6,
    }));
  });
  /** Where the finding is, as a band across the bar; a flat one is seen, too. */
  protected readonly mark = computed(() => {
    const found = this.found();
    if (!found) return undefined;
    const { toPixel } = this.rail();
    const [bottom, top] = [toPixel(Math.max(found[0], this.ladder().back)), toPixel(found[1])];
    const words = found.map((mm) => formatLength(Number(mm.toFixed(3)), this.unit()));
    return { y: top - 1, height: Math.max(3, bottom - top + 2), says: `what is found lies between ${words[0]} and ${words[1]}` };
  });
  /** The limit of heights, a rung that nothing stands on. */
  protected readonly ghost = computed(() => {
    const { limit } = this.ladder();
    return limit === undefined ? undefined : { limit, y: this.rail().toPixel(limit) };
  });
  protected readonly ends = computed(() => (this.ladder().side === 'front' ? ['face', 'back'] : ['back', 'face']));
  /** The part whose name is dragged to another place in the build order. */
  protected readonly carried = signal<string | undefined>(undefined);
  protected readonly over = signal<string | undefined>(undefined);
  protected readonly thickness = computed(() => formatLength(-this.ladder().back, this.unit()));

  constructor() {
    new ResizeObserver(([{ contentRect }]) => this.height.set(Math.max(120, contentRect.height))).observe(
      this.host.nativeElement,
    );
  }

  protected grab(event: PointerEvent, rung: RungView): void {
    event.preventDefault();
    this.picked.emit({ part: rung.part, isAdding: event.shiftKey });
    if (!rung.isThrough) this.held.set({ rung, scale: this.scale() });
  }

  protected move(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    const top = this.host.nativeElement.getBoundingClientRect().top;
    const level = onSteps(held.scale.rail.toHeight(event.clientY - top), this.unit());
    this.moved.emit({ part: held.rung.part, tier: held.rung.tier, level });
  }

  protected carry(part: string): void {
    this.carried.set(part);
  }

  protected carryOver(part: string): void {
    if (this.carried() !== undefined) this.over.set(part === this.carried() ? undefined : part);
  }

  protected drop(): void {
    const [part, other] = [this.carried(), this.over()];
    this.held.set(undefined);
    this.carried.set(undefined);
    this.over.set(undefined);
    if (part !== undefined && other !== undefined) this.ordered.emit({ part, other });
  }

  /** With Alt anywhere on a rung: earlier or later in the build order; on its grip, higher or lower. */
  protected key(event: KeyboardEvent, rung: RungView): void {
    const by = { ArrowUp: 1, ArrowDown: -1 }[event.key] as 1 | -1 | undefined;
    const isOnGrip = event.target instanceof HTMLElement && event.target.classList.contains('grip');
    if (by === undefined || (!event.altKey && (rung.isThrough || !isOnGrip))) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.altKey) return this.nudged.emit({ part: rung.part, by });
    const step = (this.unit() === 'mm' ? 0.5 : 25.4 / 64) * (event.shiftKey ? 10 : 1);
    this.moved.emit({ part: rung.part, tier: rung.tier, level: onSteps(rung.z + by * step, this.unit()) });
  }
}
