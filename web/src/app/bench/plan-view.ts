import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { SectionLine } from '@plain-relief/core/sign';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import type { PlanView } from '../relief/views';
import { cutLineEnds, fit, onSteps, RULER, ticks, toPlan, turnTowards, type Viewport, zoomed } from './plan-geometry';

export interface PartMove {
  readonly id: string;
  readonly x: number;
  readonly y: number;
}

type Drag =
  | {
      readonly kind: 'part';
      readonly id: string;
      readonly from: readonly [number, number];
      readonly place: readonly [number, number];
    }
  | { readonly kind: 'pan'; readonly px: number; readonly py: number; readonly view: Viewport }
  | { readonly kind: 'line' }
  | { readonly kind: 'turn'; readonly isFarEnd: boolean };

/** The plan to scale, coloured by height, with rulers, the selected part's dimensions and the cut line. */
@Component({
  selector: 'pr-plan-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-view.html',
  styleUrl: './plan-view.scss',
  host: { '(window:pointerup)': 'drop()', '(window:pointercancel)': 'drop()' },
})
export class PlanViewer {
  readonly plan = input.required<PlanView>();
  readonly unit = input.required<LengthUnit>();
  readonly line = input.required<SectionLine>();
  readonly selected = input<string>();
  /** Where the selected part is placed, in mm. */
  readonly place = input<{ readonly x: number; readonly y: number }>();
  readonly picked = output<string | undefined>();
  readonly moved = output<PartMove>();
  readonly lineMoving = output<SectionLine>();
  readonly lineMoved = output<SectionLine>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly ruler = RULER;
  protected readonly size = signal({ width: 600, height: 400 });
  /** Chosen by zooming or panning; undefined while the whole blank is shown. */
  private readonly chosen = signal<Viewport | undefined>(undefined);
  protected readonly view = computed(() => this.chosen() ?? fit(this.plan().blank, this.size().width, this.size().height));
  protected readonly isFitted = computed(() => this.chosen() === undefined);
  protected readonly drag = signal<Drag | undefined>(undefined);
  private readonly liveLine = signal<SectionLine | undefined>(undefined);

  protected readonly transform = computed(() => {
    const { x, y, scale } = this.view();
    return `translate(${x} ${y}) scale(${scale})`;
  });
  protected readonly ticksX = computed(() => ticks(this.view(), 'x', this.size().width, this.unit()));
  protected readonly ticksY = computed(() => ticks(this.view(), 'y', this.size().height, this.unit()));
  protected readonly cut = computed(() => {
    const [x1, y1, x2, y2] = cutLineEnds(this.liveLine() ?? this.line(), this.plan().blank);
    const { x, y, scale } = this.view();
    return { x1: x + x1 * scale, y1: y - y1 * scale, x2: x + x2 * scale, y2: y - y2 * scale };
  });
  protected readonly chosenPart = computed(() => this.plan().parts.find(({ id }) => id === this.selected()));
  /** Size and distances to the blank's edges of the selected part, in pixels with their figures. */
  protected readonly dimensions = computed(() => {
    const ink = this.chosenPart()?.ink;
    if (!ink) return undefined;
    const { blank } = this.plan();
    const { x, y, scale } = this.view();
    const show = (mm: number) => formatLength(mm, this.unit());
    const [left, right, top, bottom] = [x + ink.minX * scale, x + ink.maxX * scale, y - ink.maxY * scale, y - ink.minY * scale];
    const [edgeLeft, edgeRight, edgeTop, edgeBottom] = [
      x + blank.minX * scale,
      x + blank.maxX * scale,
      y - blank.maxY * scale,
      y - blank.minY * scale,
    ];
    const [middleX, middleY] = [(left + right) / 2, (top + bottom) / 2];
    return {
      box: { left, top, width: right - left, height: bottom - top },
      lines: [
        {
          x1: edgeLeft,
          y1: middleY,
          x2: left,
          y2: middleY,
          text: show(ink.minX - blank.minX),
          tx: (edgeLeft + left) / 2,
          ty: middleY - 5,
        },
        {
          x1: right,
          y1: middleY,
          x2: edgeRight,
          y2: middleY,
          text: show(blank.maxX - ink.maxX),
          tx: (right + edgeRight) / 2,
          ty: middleY - 5,
        },
        {
          x1: middleX,
          y1: edgeTop,
          x2: middleX,
          y2: top,
          text: show(blank.maxY - ink.maxY),
          tx: middleX + 6,
          ty: (edgeTop + top) / 2 + 4,
        },
        {
          x1: middleX,
          y1: bottom,
          x2: middleX,
          y2: edgeBottom,
          text: show(ink.minY - blank.minY),
          tx: middleX + 6,
          ty: (bottom + edgeBottom) / 2 + 4,
        },
      ],
      width: show(ink.maxX - ink.minX),
      height: show(ink.maxY - ink.minY),
    };
  });

  constructor() {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      if (width > 0 && height > 0) this.size.set({ width, height });
    });
    observer.observe(this.host.nativeElement);
    // Another sign begins with the whole blank in view.
    let blank = '';
    effect(() => {
      const { minX, minY } = this.plan().blank;
      const now = `${minX} ${minY}`;
      if (now !== blank) this.chosen.set(undefined);
      blank = now;
    });
  }

  fitAll(): void {
    this.chosen.set(undefined);
  }

  zoomBy(factor: number): void {
    const { width, height } = this.size();
    this.chosen.set(zoomed(this.view(), factor, width / 2, height / 2));
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const [px, py] = this.pixel(event);
    this.chosen.set(zoomed(this.view(), Math.exp(-event.deltaY * 0.0015), px, py));
  }

  protected grabPart(event: PointerEvent, id: string): void {
    event.stopPropagation();
    const isSelected = id === this.selected();
    this.picked.emit(id);
    const place = this.place();
    if (isSelected && place) this.drag.set({ kind: 'part', id, from: this.planPoint(event), place: [place.x, place.y] });
  }

  protected grabLine(event: PointerEvent, drag: Drag): void {
    event.stopPropagation();
    event.preventDefault();
    this.drag.set(drag);
  }

  protected grabGround(event: PointerEvent): void {
    const [px, py] = this.pixel(event);
    this.drag.set({ kind: 'pan', px, py, view: this.view() });
    this.picked.emit(undefined);
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    const [x, y] = this.planPoint(event);
    switch (drag.kind) {
      case 'part': {
        const to = [drag.place[0] + x - drag.from[0], drag.place[1] + y - drag.from[1]];
        this.moved.emit({ id: drag.id, x: onSteps(to[0], this.unit()), y: onSteps(to[1], this.unit()) });
        break;
      }
      case 'pan': {
        const [px, py] = this.pixel(event);
        if (Math.hypot(px - drag.px, py - drag.py) > 3)
          this.chosen.set({ ...drag.view, x: drag.view.x + px - drag.px, y: drag.view.y + py - drag.py });
        break;
      }
      case 'line':
        this.moveLine({ ...this.line(), x: onSteps(x, this.unit()), y: onSteps(y, this.unit()) });
        break;
      case 'turn':
        this.moveLine({ ...this.line(), turn: turnTowards(this.line(), x, y, drag.isFarEnd) });
        break;
    }
  }

  protected drop(): void {
    const line = this.liveLine();
    this.drag.set(undefined);
    if (!line) return;
    this.liveLine.set(undefined);
    this.lineMoved.emit(line);
  }

  /** The cut line by keys: arrows move it across itself, with Alt they turn it. */
  protected nudgeLine(event: KeyboardEvent): void {
    const steps: Record<string, readonly [number, number]> = {
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = (this.unit() === 'mm' ? 1 : 25.4 / 16) * (event.shiftKey ? 10 : 1);
    const line = this.line();
    this.lineMoved.emit(
      event.altKey
        ? { ...line, turn: ((line.turn - step[0] + step[1] + 540) % 360) - 180 }
        : { ...line, x: line.x + step[0] * by, y: line.y + step[1] * by },
    );
  }

  private moveLine(line: SectionLine): void {
    this.liveLine.set(line);
    this.lineMoving.emit(line);
  }

  private pixel(event: MouseEvent): readonly [number, number] {
    const box = this.svg().nativeElement.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  }

  private planPoint(event: MouseEvent): readonly [number, number] {
    const [px, py] = this.pixel(event);
    return toPlan(this.view(), px, py);
  }
}
