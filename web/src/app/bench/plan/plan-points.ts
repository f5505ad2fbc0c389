import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  addPoint,
  isSmooth,
  makeCorner,
  makeSmooth,
  moveHandle,
  movePoint,
  type PathPoints,
  type Placement,
  placePoint,
  type PointAt,
  removePoint,
} from '@plain-relief/core/geometry';
import { pointsOfShape, placementOfPoints, type ShapePart, withPoints } from '@plain-relief/core/sign';
import { type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import { arrowOf, nudgeLength } from './arrow-keys';
import { onSteps, toPlan, type Viewport } from './plan-geometry';

type Held = PointAt & { readonly which: 'point' | 'arriving' | 'leaving'; readonly part: ShapePart };

interface Knob {
  readonly key: string;
  readonly at: PointAt;
  readonly which: Held['which'];
  readonly x: number;
  readonly y: number;
  readonly toX: number;
  readonly toY: number;
  readonly isChosen: boolean;
  readonly isSmooth: boolean;
}

/** The points and curve handles of a plain outline, over the plan: dragged, typed, added, taken out, smoothed, made corners. */
@Component({
  selector: 'pr-plan-points',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg (pointermove)="move($event)" (pointerup)="held.set(undefined)" (pointercancel)="held.set(undefined)">
      @for (knob of knobs(); track knob.key) {
        @if (knob.which !== 'point') {
          <line [attr.x1]="knob.toX" [attr.y1]="knob.toY" [attr.x2]="knob.x" [attr.y2]="knob.y" />
        }
      }
      @for (knob of knobs(); track knob.key) {
        @if (knob.which === 'point') {
          <rect
            [class.chosen]="knob.isChosen"
            [class.smooth]="knob.isSmooth"
            [attr.x]="knob.x - 5"
            [attr.y]="knob.y - 5"
            width="10"
            height="10"
            [attr.rx]="knob.isSmooth ? 5 : 0"
            tabindex="0"
            role="button"
            [attr.aria-label]="'Point ' + (knob.at.point + 1) + ' of outline ' + (knob.at.subpath + 1)"
            (focus)="chosen.set(knob.at)"
            (pointerdown)="grab($event, knob)"
            (keydown)="key($event, knob.at)"
          />
        } @else {
          <circle [attr.cx]="knob.x" [attr.cy]="knob.y" r="4.5" (pointerdown)="grab($event, knob)">
            <title>Drag to bend the curve</title>
          </circle>
        }
      }
    </svg>
    <div class="bar" role="group" aria-label="Points of the outline">
      @if (place(); as at) {
        <span>
          Point at
          <pr-length-field
            [value]="at.x"
            [unit]="unit()"
            label="point across"
            [min]="-4000"
            [max]="4000"
            (changed)="to($event, at.y)"
          />
          across,
          <pr-length-field
            [value]="at.y"
            [unit]="unit()"
            label="point up"
            [min]="-4000"
            [max]="4000"
            (changed)="to(at.x, $event)"
          />
          up
        </span>
        <button type="button" (click)="change(add)">Add after it</button>
        <button type="button" (click)="takeOut()">Take it out</button>
        <button type="button" (click)="change(smooth)">Smooth</button>
        <button type="button" (click)="change(corner)">Corner</button>
      } @else {
        <span>Choose a point, or drag one.</span>
      }
      <button type="button" class="done" (click)="closed.emit()">Done</button>
    </div>
  `,
  styleUrl: './plan-points.scss',
})
export class PlanPoints {
  readonly part = input.required<ShapePart>();
  readonly view = input.required<Viewport>();
  readonly unit = input.required<LengthUnit>();
  readonly changed = output<ShapePart>();
  readonly closed = output();

  protected readonly chosen = signal<PointAt | undefined>(undefined);
  protected readonly held = signal<Held | undefined>(undefined);
  private readonly points = computed((): PathPoints => {
    const { shape } = this.part();
    return shape.kind === 'outline' ? pointsOfShape(shape) : [];
  });
  private readonly put = computed((): Placement => placementOfPoints(this.part()));
  protected readonly add = addPoint;
  protected readonly smooth = makeSmooth;
  protected readonly corner = makeCorner;

  /** Points, and the handles of the chosen one and its neighbours, in pixels. */
  protected readonly knobs = computed((): Knob[] => {
    const chosen = this.chosen();
    const { x: left, y: top, scale } = this.view();
    const pixel = (x: number, y: number): readonly [number, number] => {
      const [px, py] = placePoint(this.put(), x, y);
      return [left + px * scale, top - py * scale];
    };
    return this.points().flatMap(({ points, closed }, subpath) =>
      points.flatMap((point, index): Knob[] => {
        const at = { subpath, point: index };
        const [x, y] = pixel(point.x, point.y);
        const isChosen = chosen?.subpath === subpath && chosen.point === index;
        const apart = Math.abs((chosen?.point ?? NaN) - index);
        const isNear = chosen?.subpath === subpath && (apart <= 1 || (closed && apart === points.length - 1));
        const knob: Knob = {
          key: `${subpath} ${index}`,
          at,
          which: 'point',
          x,
          y,
          toX: x,
          toY: y,
          isChosen,
          isSmooth: isSmooth(point),
        };
        if (!isNear) return [knob];
        const handles = (['arriving', 'leaving'] as const).flatMap((which): Knob[] => {
          const handle = point[which];
          if (!handle) return [];
          const [hx, hy] = pixel(handle.x, handle.y);
          return [{ ...knob, key: `${subpath} ${index} ${which}`, which, x: hx, y: hy }];
        });
        return [...handles, knob];
      }),
    );
  });

  /** Where the chosen point lies in the plan. */
  protected readonly place = computed(() => {
    const at = this.chosen();
    const point = at && this.points()[at.subpath]?.points[at.point];
    if (!point) return undefined;
    const [x, y] = placePoint(this.put(), point.x, point.y);
    return { x, y };
  });

  protected grab(event: PointerEvent, { at, which }: Knob): void {
    event.stopPropagation();
    event.preventDefault();
    (event.currentTarget as Element).closest('svg')?.setPointerCapture(event.pointerId);
    this.chosen.set(at);
    this.held.set({ ...at, which, part: this.part() });
  }

  protected move(event: PointerEvent): void {
    const held = this.held();
    if (!held) return;
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const [x, y] = toPlan(this.view(), event.clientX - box.left, event.clientY - box.top);
    this.bring(held, held.which, onSteps(x, this.unit()), onSteps(y, this.unit()));
  }

  protected to(x: number, y: number): void {
    const at = this.chosen();
    if (at) this.bring(at, 'point', x, y);
  }

  protected key(event: KeyboardEvent, at: PointAt): void {
    const step = arrowOf(event);
    const place = this.place();
    if (step && place) {
      const by = nudgeLength(this.unit(), event) / 2;
      this.bring(at, 'point', place.x + step[0] * by, place.y + step[1] * by);
    } else if (event.key === 'Delete' || event.key === 'Backspace') this.takeOut();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected takeOut(): void {
    const before = this.chosen();
    this.change(removePoint);
    if (before) this.chosen.set(undefined);
  }

  protected change(how: (points: PathPoints, at: PointAt) => PathPoints): void {
    const at = this.chosen();
    if (at) this.hand(how(this.points(), at));
  }

  private bring(at: PointAt, which: Held['which'], x: number, y: number): void {
    const [ownX, ownY] = backPoint(this.put(), x, y);
    const points = this.points();
    this.hand(which === 'point' ? movePoint(points, at, ownX, ownY) : moveHandle(points, at, which, ownX, ownY));
  }

  private hand(points: PathPoints): void {
    const part = withPoints(this.part(), points);
    if (part) this.changed.emit(part);
  }
}

/** The point that a placement brings to (x, y). */
function backPoint({ a, b, c, d, e, f }: Placement, x: number, y: number): readonly [number, number] {
  const determinant = a * d - b * c;
  return [(d * (x - e) - c * (y - f)) / determinant, (a * (y - f) - b * (x - e)) / determinant];
}
