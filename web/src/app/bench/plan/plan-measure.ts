import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type OnPolyline } from '@plain-relief/core/geometry';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { ReliefService } from '../../relief/relief.service';
import { toPlan, type Viewport } from './plan-geometry';

/** A measured place: on an outline where one is near. */
interface Mark {
  readonly x: number;
  readonly y: number;
  readonly on: OnPolyline | undefined;
}

/** How near the pointer takes hold of outlines, in pixels. */
const REACH = 12;

/** Measures over the plan, from place to place: straight, across, up, and along an outline that both lie on. */
@Component({
  selector: 'pr-plan-measure',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg (pointermove)="hover($event)" (pointerdown)="mark($event)">
      @if (line(); as shown) {
        <line [attr.x1]="shown.x1" [attr.y1]="shown.y1" [attr.x2]="shown.x2" [attr.y2]="shown.y2" />
      }
      @for (spot of spots(); track $index) {
        <circle [attr.cx]="spot.x" [attr.cy]="spot.y" [attr.r]="spot.isHeld ? 5 : 3" [class.held]="spot.isHeld" />
      }
    </svg>
    <div class="bar" role="status">
      @if (said(); as sentence) {
        <span class="figure">{{ sentence }}</span>
      } @else {
        <span>{{ from() ? 'Point at the second place.' : 'Point at the first place: edges and corners hold the mark.' }}</span>
      }
      <button type="button" (click)="closed.emit()">Done</button>
    </div>
  `,
  styleUrl: './plan-measure.scss',
})
export class PlanMeasure {
  readonly view = input.required<Viewport>();
  readonly unit = input.required<LengthUnit>();
  readonly closed = output();
  private readonly relief = inject(ReliefService);

  protected readonly from = signal<Mark | undefined>(undefined);
  private readonly to = signal<Mark | undefined>(undefined);
  private readonly pointed = signal<Mark | undefined>(undefined);
  private asked = 0;

  private readonly end = computed(() => this.to() ?? this.pointed());
  protected readonly spots = computed(() =>
    [this.from(), this.end()].flatMap((spot) => (spot ? [{ ...this.pixel(spot), isHeld: spot.on !== undefined }] : [])),
  );
  protected readonly line = computed(() => {
    const [a, b] = [this.from(), this.end()];
    if (!a || !b) return undefined;
    const [p, q] = [this.pixel(a), this.pixel(b)];
    return { x1: p.x, y1: p.y, x2: q.x, y2: q.y };
  });
  protected readonly said = computed(() => {
    const [a, b] = [this.from(), this.end()];
    if (!a || !b) return undefined;
    const show = (mm: number) => formatLength(mm, this.unit());
    const [dx, dy] = [Math.abs(b.x - a.x), Math.abs(b.y - a.y)];
    const straight = `${show(Math.hypot(dx, dy))} straight, ${show(dx)} across, ${show(dy)} up`;
    if (!a.on || !b.on || a.on.polyline !== b.on.polyline || a.on.length !== b.on.length) return straight;
    const along = Math.abs(a.on.along - b.on.along);
    const other = a.on.length - along;
    return `${straight}; along the outline ${show(Math.min(along, other))} or ${show(Math.max(along, other))}`;
  });

  protected async hover(event: PointerEvent): Promise<void> {
    if (!this.to()) this.pointed.set(await this.near(event));
  }

  /** Marks follow each other as they were made, however long each takes to find its place. */
  private marking: Promise<void> = Promise.resolve();

  protected mark(event: PointerEvent): Promise<void> {
    event.stopPropagation();
    // What was measured is not marked by the way.
    event.preventDefault();
    const spot = this.near(event);
    this.marking = this.marking.then(async () => this.take(await spot));
    return this.marking;
  }

  private take(spot: Mark): void {
    if (!this.from() || this.to()) {
      this.from.set(spot);
      this.to.set(undefined);
      this.pointed.set(undefined);
    } else this.to.set(spot);
  }

  private async near(event: PointerEvent): Promise<Mark> {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const [x, y] = toPlan(this.view(), event.clientX - box.left, event.clientY - box.top);
    const asked = ++this.asked;
    const on = await this.relief.nearest(x, y, REACH / this.view().scale);
    // Of pointings that were overtaken the newest place stands.
    if (asked !== this.asked && event.type === 'pointermove') return this.pointed() ?? { x, y, on: undefined };
    return on ? { x: on.x, y: on.y, on } : { x, y, on: undefined };
  }

  private pixel({ x, y }: { x: number; y: number }): { x: number; y: number } {
    const { x: left, y: top, scale } = this.view();
    return { x: left + x * scale, y: top - y * scale };
  }
}
