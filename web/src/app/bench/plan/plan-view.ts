import { type SupportLine } from '@plain-relief/core/drawing';
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
  untracked,
  viewChild,
} from '@angular/core';
import { lineSeenFrom } from '@plain-relief/core/drawing';
import { bounds, type Box, joinBoxes } from '@plain-relief/core/geometry';
import {
  type BlockFace,
  boxAround,
  type Factors,
  type Guide,
  hasSize,
  type Part,
  type SectionLine,
  type ShapePart,
  type Side,
  type Sign,
  sizesApart,
  withGroup,
} from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';
import type { PlanView } from '../../relief/views';
import { arrowOf, nudgeLength } from './arrow-keys';
import type { CustomerPin } from './customer-pins';
import { PlanDimensions, type TypedDimension } from './plan-dimensions';
import { cutLineEnds, fit, onSteps, RULER, ticks, toPlan, turnTowards, type Viewport, zoomed } from './plan-geometry';
import type { PlanPaint } from './plan-paints';
import { HANDLES, type Handle, handlePlaces, sideOfHandle, stretchedBy } from './plan-handles';
import { PlanMeasure } from './plan-measure';
import { PlanPoints } from './plan-points';
import { type Snappable, snapped, type SnapReason } from './snapping';

export interface PartPlace {
  readonly id: string;
  readonly x: number;
  readonly y: number;
}

/** A part drawn larger or smaller from what it was when its handle was taken. */
export interface PartStretch {
  readonly from: Part;
  readonly factors: Factors;
  /** Where its place comes to lie. */
  readonly x: number;
  readonly y: number;
}

/** Parts made larger or smaller together about a point that stays. */
export interface StretchTogether {
  readonly from: readonly Part[];
  readonly factor: number;
  readonly about: { readonly x: number; readonly y: number };
}

export type PlanMode = 'choose' | 'points' | 'measure';

type Drag =
  | { readonly kind: 'parts'; readonly isMoving: boolean; readonly from: readonly [number, number]; readonly places: readonly PartPlace[]; readonly moving: Snappable; readonly others: readonly Snappable[] } // prettier-ignore
  /** `off`: from the place that is moved to the pointer. */
  | { readonly kind: 'handle'; readonly handle: Handle; readonly box: Box; readonly parts: readonly Part[]; readonly off: readonly [number, number] } // prettier-ignore
  | { readonly kind: 'pan'; readonly px: number; readonly py: number; readonly view: Viewport }
  | { readonly kind: 'around'; readonly from: readonly [number, number]; readonly to: readonly [number, number] }
  | { readonly kind: 'guide'; readonly index: number; readonly guide: Guide }
  | { readonly kind: 'line' }
  | { readonly kind: 'turn'; readonly isFarEnd: boolean };

/** A pointer that moves less than this, in pixels, clicks. */
const CLICK = 3;

/** How near in pixels a dragged part is held to what lies near. */
const HOLD = 7;

/** The plan to scale, coloured by height, with rulers, guides, what is chosen with its dimensions, and the cut line. */
@Component({
  selector: 'pr-plan-view',
  imports: [PlanDimensions, PlanMeasure, PlanPoints],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-view.html',
  styleUrl: './plan-view.scss',
  host: { '(window:pointerup)': 'drop()', '(window:pointercancel)': 'drop()' },
})
export class PlanViewer {
  readonly plan = input.required<PlanView>();
  readonly sign = input.required<Sign>();
  /** The side that is seen: the cut line is given as it lies in the sign. */
  readonly side = input<Side>('front');
  readonly chosen = input<readonly string[]>([]);
  readonly paint = input<PlanPaint>('heights');
  /** Address of the picture of the relief, for that paint. */
  readonly picture = input<string>();
  readonly mode = input<PlanMode>('choose');
  /** Whoever looks changes nothing: sizes are text, and nothing is to be dragged. */
  readonly isLooking = input(false);
  /** The faces of a block, and the one that is shown. */
  readonly faces = input<readonly BlockFace[]>([]);
  readonly face = input('');
  readonly faceChosen = output<string>();
  protected readonly boxAround = boxAround;
  /** Whether every dimension of what is chosen is told. */
  readonly isMeasured = input(true);
  /** What was said in a proof about places of the front. */
  readonly pins = input<readonly CustomerPin[]>([]);
  /** Places of something that was measured, as the sign is seen. */
  readonly found = input<readonly { readonly x: number; readonly y: number }[]>([]);
  readonly picked = output<{ readonly id: string | undefined; readonly isAdding: boolean }>();
  readonly pickedAll = output<readonly string[]>();
  readonly placed = output<readonly PartPlace[]>();
  readonly stretched = output<PartStretch>();
  readonly stretchedTogether = output<StretchTogether>();
  readonly typed = output<TypedDimension>();
  readonly guidesSet = output<readonly Guide[]>();
  readonly pointsSet = output<ShapePart>();
  readonly modeLeft = output();
  readonly lineMoving = output<SectionLine>();
  readonly lineMoved = output<SectionLine>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly ruler = RULER;
  protected readonly size = signal({ width: 600, height: 400 });
  /** Chosen by zooming or panning; undefined while the whole blank is shown. */
  private readonly ownView = signal<Viewport | undefined>(undefined);
  protected readonly view = computed(() => this.ownView() ?? fit(this.plan().blank, this.size().width, this.size().height));
  protected readonly isFitted = computed(() => this.ownView() === undefined);
  protected readonly drag = signal<Drag | undefined>(undefined);
  protected readonly isDragging = computed(() => {
    const drag = this.drag();
    return drag !== undefined && (drag.kind !== 'parts' || drag.isMoving);
  });
  protected readonly reasons = signal<readonly SnapReason[]>([]);
  private readonly liveLine = signal<SectionLine | undefined>(undefined);

  /** What the map of stretch says in words. */
  protected readonly stretchWords = computed(() => {
    const shares = this.plan().stretch.map(({ share }) => share);
    if (shares.length === 0) return 'Nothing is stretched: the plan is laid on as it is.';
    const percent = (share: number): string => `${Number((100 * share).toFixed(2))} %`.replace('-', '−');
    const [least, most] = [Math.min(0, ...shares), Math.max(0, ...shares)];
    return `The surface is as long as the plan, ${percent(least)} to +${percent(most)}: blue where shorter, red where longer.`;
  });
  protected readonly topOf = ({ from, to }: SupportLine): readonly [number, number] => (to[1] >= from[1] ? to : from);
  protected readonly litPicture = computed(() => (this.paint() === 'relief' ? this.picture() : undefined));
  /** Until the first picture is there, the plan shows its finishes. */
  protected readonly isLighting = computed(() => this.paint() === 'relief' && this.picture() === undefined);
  protected readonly unit = computed(() => this.sign().unit);
  private readonly line = computed(() => lineSeenFrom(this.sign().section, this.side()));
  protected readonly turn = computed(() => this.line().turn);
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
  protected readonly pinned = computed(() => {
    if (this.side() === 'back') return [];
    const { minX, maxX, minY, maxY } = this.plan().blank;
    const { x, y, scale } = this.view();
    return this.pins().map((pin) => ({
      ...pin,
      x: x + (minX + pin.across * (maxX - minX)) * scale,
      y: y - (maxY - pin.down * (maxY - minY)) * scale,
    }));
  });
  protected readonly rings = computed(() => {
    const { x, y, scale } = this.view();
    return this.found().map((place) => ({ x: x + place.x * scale, y: y - place.y * scale }));
  });
  /** The pin whose words are shown. */
  protected readonly shownPin = signal('');
  protected readonly chosenViews = computed(() => this.plan().parts.filter(({ id }) => this.chosen().includes(id)));
  /** All that is chosen, as one box. */
  protected readonly chosenBox = computed(
    () =>
    this.chosenViews().map(({ ink }) => ink).reduce<Box | undefined>(joinBoxes, undefined), // prettier-ignore
  );
  private readonly onePart = computed(() => {
    const [id, more] = this.chosen();
    return more === undefined ? this.sign().parts.find((part) => part.id === id) : undefined;
  });
  protected readonly frames = computed(() => this.chosenViews().filter(({ isFramed }) => isFramed));
  /** What the handles of the only chosen part stretch: its frame, or what is seen of it. */
  private readonly stretchBox = computed((): Box | undefined => {
    const part = this.onePart();
    if (this.chosen().length > 1)
      return this.mode() === 'choose' && this.freeParts().some(hasSize) ? this.chosenBox() : undefined;
    if (!part || part.locked || !hasSize(part) || this.mode() !== 'choose') return undefined;
    if (part.kind === 'text' && part.frame && part.place.turn === 0) {
      const { x, y } = part.place;
      const [w, h] = [part.frame.width / 2, part.frame.height / 2];
      return { minX: x - w, minY: y - h, maxX: x + w, maxY: y + h };
    }
    return this.chosenBox();
  });
  protected readonly handles = computed(() => {
    const [box, part] = [this.stretchBox(), this.onePart()];
    if (!box) return [];
    // Several are stretched as one.
    const isApart = part !== undefined && sizesApart(part) && part.place.turn % 90 === 0;
    return handlePlaces(box, this.view(), HANDLES.filter(({ linked }) => linked || isApart)); // prettier-ignore
  });
  /** Those of the chosen parts that are not held. */
  private readonly freeParts = computed(() =>
    this.sign().parts.filter(({ id, locked }) => this.chosen().includes(id) && !locked),
  );
  /** Whether what is chosen has a size that can be set. */
  protected readonly hasSize = computed(() => this.freeParts().some(hasSize));
  /** What is being stretched measures this, told at the pointer. */
  protected readonly sizeHeld = signal<{ readonly x: number; readonly y: number; readonly text: string } | undefined>(undefined);
  protected readonly outlinePart = computed(() => {
    const part = this.onePart();
    return this.mode() === 'points' && part?.kind === 'shape' && part.shape.kind === 'outline' ? part : undefined;
  });
  /** Id of the part whose points are worked on; other points do not change it. */
  private readonly pointsOf = computed(() => this.outlinePart()?.id);
  protected readonly guides = computed(() => {
    const { x, y, scale } = this.view();
    const drag = this.drag();
    const stored = this.sign().guides ?? [];
    const shown = stored.map((guide, index) => (drag?.kind === 'guide' && drag.index === index ? drag.guide : guide));
    if (drag?.kind === 'guide' && drag.index >= stored.length) shown.push(drag.guide);
    return shown.map(({ across, at }) => ({ across, at, pixel: across ? y - at * scale : x + at * scale }));
  });
  protected readonly held = computed(() => {
    const { x, y, scale } = this.view();
    return this.reasons().map(({ across, at, text }) => ({ across, text, pixel: across ? y - at * scale : x + at * scale }));
  });
  protected readonly around = computed(() => {
    const drag = this.drag();
    if (drag?.kind !== 'around') return undefined;
    const [[ax, ay], [bx, by]] = [drag.from, drag.to];
    return { x: Math.min(ax, bx), y: Math.min(ay, by), width: Math.abs(bx - ax), height: Math.abs(by - ay) };
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
      if (now !== blank) this.ownView.set(undefined);
      blank = now;
    });
    effect(() => {
      const on = this.faces().find(({ id }) => id === this.face());
      const box = on && bounds([on.outline]);
      this.ownView.set(box && fit(box, untracked(this.size).width, untracked(this.size).height));
    });
    // Points are worked on from near by.
    effect(() => {
      const id = this.pointsOf();
      const ink = id === undefined ? undefined : untracked(() => this.chosenBox());
      if (ink) this.ownView.set(fit(ink, untracked(this.size).width, untracked(this.size).height));
    });
  }

  fitAll(): void {
    this.ownView.set(undefined);
    if (this.face()) this.faceChosen.emit('');
  }

  zoomBy(factor: number): void {
    const { width, height } = this.size();
    this.ownView.set(zoomed(this.view(), factor, width / 2, height / 2));
  }

  protected wheel(event: WheelEvent): void {
    event.preventDefault();
    const [px, py] = this.pixel(event);
    this.ownView.set(zoomed(this.view(), Math.exp(-event.deltaY * 0.0015), px, py));
  }

  /** Chooses a part, or what it is chosen with, and takes hold of it. */
  protected grabPart(event: PointerEvent, id: string): void {
    event.stopPropagation();
    const isAdding = event.shiftKey;
    const isNew = !this.chosen().includes(id);
    if (isAdding || isNew) this.picked.emit({ id, isAdding });
    if (isAdding) return;
    const { parts } = this.sign();
    const chosen = isNew ? withGroup(this.sign(), id) : this.chosen();
    const free = parts.filter((part) => chosen.includes(part.id) && !part.locked);
    const views = this.plan().parts;
    const moving = views.filter((view) => free.some((part) => part.id === view.id));
    const ink = moving.map((view) => view.ink).reduce<Box | undefined>(joinBoxes, undefined);
    if (!ink) return;
    this.drag.set({
      kind: 'parts',
      isMoving: false,
      from: this.planPoint(event),
      places: free.map((part) => ({ id: part.id, x: part.place.x, y: part.place.y })),
      moving: { name: '', ink, caps: moving.length === 1 ? moving[0].caps : undefined },
      others: views.flatMap((view) =>
        view.ink && !chosen.includes(view.id) ? [{ name: view.name, ink: view.ink, caps: view.caps }] : [],
      ),
    });
  }

  /** The hold keeps its distance from the side that is stretched. */
  protected grabHandle(event: PointerEvent, handle: Handle): void {
    const box = this.stretchBox();
    if (!box) return;
    const [x, y] = this.planPoint(event);
    const [sideX, sideY] = sideOfHandle(handle, box);
    this.grab(event, { kind: 'handle', handle, box, parts: this.freeParts(), off: [x - sideX, y - sideY] });
  }

  /** The cut line, but for parts under it, which are what is meant. */
  protected grabLine(event: PointerEvent): void {
    const part = document
      .elementsFromPoint(event.clientX, event.clientY)
      .find((element) => element.matches('rect.grab[data-part]'));
    const id = part?.getAttribute('data-part');
    if (id) this.grabPart(event, id);
    else this.grab(event, { kind: 'line' });
  }

  protected grab(event: PointerEvent, drag: Drag): void {
    event.stopPropagation();
    event.preventDefault();
    this.drag.set(drag);
  }

  /** From a ruler a new guide is drawn, across from the upper and up from the left one. */
  protected grabRuler(event: PointerEvent, across: boolean): void {
    const [x, y] = this.planPoint(event);
    this.grab(event, { kind: 'guide', index: this.sign().guides?.length ?? 0, guide: { across, at: across ? y : x } });
  }

  protected grabGuide(event: PointerEvent, index: number): void {
    const guide = this.sign().guides?.[index];
    if (guide) this.grab(event, { kind: 'guide', index, guide });
  }

  protected grabGround(event: PointerEvent): void {
    const [px, py] = this.pixel(event);
    if (event.shiftKey) return this.drag.set({ kind: 'around', from: [px, py], to: [px, py] });
    this.drag.set({ kind: 'pan', px, py, view: this.view() });
    this.picked.emit({ id: undefined, isAdding: false });
  }

  protected move(event: PointerEvent): void {
    const drag = this.drag();
    if (!drag) return;
    const [x, y] = this.planPoint(event);
    switch (drag.kind) {
      case 'parts':
        return this.moveParts(drag, x, y, event.altKey);
      case 'handle':
        return this.stretch(drag, x - drag.off[0], y - drag.off[1], this.pixel(event));
      case 'pan': {
        const [px, py] = this.pixel(event);
        if (Math.hypot(px - drag.px, py - drag.py) > 3)
          this.ownView.set({ ...drag.view, x: drag.view.x + px - drag.px, y: drag.view.y + py - drag.py });
        return;
      }
      case 'around':
        return this.drag.set({ ...drag, to: this.pixel(event) });
      case 'guide':
        return this.drag.set({ ...drag, guide: { ...drag.guide, at: onSteps(drag.guide.across ? y : x, this.unit()) } });
      case 'line':
        return this.moveLine({ ...this.line(), x: onSteps(x, this.unit()), y: onSteps(y, this.unit()) });
      case 'turn':
        return this.moveLine({ ...this.line(), turn: turnTowards(this.line(), x, y, drag.isFarEnd) });
    }
  }

  private stretch(
    { handle, box, parts }: Extract<Drag, { kind: 'handle' }>,
    x: number,
    y: number,
    [px, py]: readonly [number, number],
  ): void {
    const to = [onSteps(x, this.unit()), onSteps(y, this.unit())] as const;
    const about = { x: box.minX, y: box.minY };
    const { factors } = stretchedBy(handle, box, about, ...to);
    const size = [(box.maxX - box.minX) * factors.across, (box.maxY - box.minY) * factors.up];
    this.sizeHeld.set({ x: px + 14, y: py - 12, text: size.map((mm) => formatLength(mm, this.unit())).join(' × ') });
    if (parts.length === 1) {
      const [from] = parts;
      return this.stretched.emit({ from, ...stretchedBy(handle, box, from.place, ...to) });
    }
    const stays = { x: handle.x > 0 ? box.minX : box.maxX, y: handle.y > 0 ? box.minY : box.maxY };
    this.stretchedTogether.emit({ from: parts, factor: factors.across, about: stays });
  }

  private moveParts(drag: Extract<Drag, { kind: 'parts' }>, x: number, y: number, isFree: boolean): void {
    // A click is no move.
    if (!drag.isMoving && Math.hypot(x - drag.from[0], y - drag.from[1]) * this.view().scale < CLICK) return;
    if (!drag.isMoving) this.drag.set({ ...drag, isMoving: true });
    const [dx, dy] = [onSteps(x - drag.from[0], this.unit()), onSteps(y - drag.from[1], this.unit())];
    const { minX, maxX, minY, maxY } = drag.moving.ink;
    const there = { minX: minX + dx, maxX: maxX + dx, minY: minY + dy, maxY: maxY + dy };
    const blank = boxAround(this.sign().support, this.plan().blank, there);
    const around = { blank, others: drag.others, guides: this.sign().guides ?? [] };
    const held = isFree ? { dx, dy, reasons: [] } : snapped(drag.moving, dx, dy, around, HOLD / this.view().scale);
    this.reasons.set(held.reasons);
    this.placed.emit(drag.places.map((place) => ({ id: place.id, x: place.x + held.dx, y: place.y + held.dy })));
  }

  protected drop(): void {
    const drag = this.drag();
    const line = this.liveLine();
    this.drag.set(undefined);
    this.sizeHeld.set(undefined);
    this.reasons.set([]);
    if (drag?.kind === 'guide') this.dropGuide(drag);
    if (drag?.kind === 'around') this.pickAround(drag);
    if (!line) return;
    this.liveLine.set(undefined);
    this.lineMoved.emit(lineSeenFrom(line, this.side()));
  }

  /** A guide that is put back on its ruler is gone. */
  private dropGuide({ index, guide }: Extract<Drag, { kind: 'guide' }>): void {
    const guides = [...(this.sign().guides ?? [])];
    const { x, y, scale } = this.view();
    const isOnRuler = guide.across ? y - guide.at * scale < RULER : x + guide.at * scale < RULER;
    guides.splice(index, 1, ...(isOnRuler ? [] : [guide]));
    this.guidesSet.emit(guides);
  }

  protected nudgeGuide(event: KeyboardEvent, index: number): void {
    const guides = [...(this.sign().guides ?? [])];
    const guide = guides[index];
    const step = arrowOf(event);
    if (event.key === 'Delete' || event.key === 'Backspace') guides.splice(index, 1);
    else if (!step) return;
    else guides[index] = { ...guide, at: guide.at + (step[0] + step[1]) * nudgeLength(this.unit(), event) };
    event.preventDefault();
    event.stopPropagation();
    this.guidesSet.emit(guides);
  }

  private pickAround({ from, to }: Extract<Drag, { kind: 'around' }>): void {
    const [ax, ay] = toPlan(this.view(), ...from);
    const [bx, by] = toPlan(this.view(), ...to);
    const inside = ({ minX, minY, maxX, maxY }: Box) =>
      minX >= Math.min(ax, bx) && maxX <= Math.max(ax, bx) && minY >= Math.min(ay, by) && maxY <= Math.max(ay, by);
    const ids = this.plan().parts.flatMap(({ id, ink }) => (ink && inside(ink) ? [id] : []));
    if (ids.length > 0) this.pickedAll.emit(ids);
  }

  /** The cut line by keys: arrows move it across itself, with Alt they turn it. */
  protected nudgeLine(event: KeyboardEvent): void {
    const step = arrowOf(event);
    if (!step) return;
    event.preventDefault();
    event.stopPropagation();
    const by = nudgeLength(this.unit(), event);
    const line = this.line();
    const moved = event.altKey
      ? { ...line, turn: ((line.turn - step[0] + step[1] + 540) % 360) - 180 }
      : { ...line, x: line.x + step[0] * by, y: line.y + step[1] * by };
    this.lineMoved.emit(lineSeenFrom(moved, this.side()));
  }

  private moveLine(line: SectionLine): void {
    this.liveLine.set(line);
    this.lineMoving.emit(lineSeenFrom(line, this.side()));
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
