import { ChangeDetectionStrategy, Component, computed, type ElementRef, input, output, signal, viewChild } from '@angular/core'; // prettier-ignore
import { bounds, type Outline } from '@plain-relief/core/geometry';
import { type Clamp, laidOutline, type Size } from '@plain-relief/core/nesting';
import type { LaidPlate } from './run-desk';

/** A plate as it is drawn. */
interface DrawnPlate {
  readonly plate: LaidPlate;
  readonly path: string;
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

const tenth = (mm: number): number => Math.round(10 * mm) / 10;

/** A sheet seen from above, its lower left corner at the origin: plates are chosen, and dragged to where they are to stay. */
@Component({
  selector: 'pr-sheet-map',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #map
      [attr.viewBox]="'-2 -2 ' + (size().width + 4) + ' ' + (size().height + 4)"
      [attr.aria-label]="'Sheet ' + (number() + 1) + ' with the numbers of plates'"
      role="group"
      (pointermove)="move($event)"
      (pointerup)="drop()"
      (pointercancel)="dragged.set(undefined)"
    >
      <rect [attr.width]="size().width" [attr.height]="size().height" class="sheet" (pointerdown)="chosen.emit(undefined)" />
      @for (clamp of clamps(); track $index) {
        <rect
          class="clamp"
          [attr.x]="clamp.x"
          [attr.y]="size().height - clamp.y - clamp.height"
          [attr.width]="clamp.width"
          [attr.height]="clamp.height"
        />
      }
      @for (one of drawn(); track one.plate.id) {
        <g
          class="plate"
          [class.chosen]="one.plate.id === choice()"
          [class.locked]="locked().has(one.plate.id)"
          [class.near]="near().has(one.plate.id)"
          (pointerdown)="take(one.plate, $event)"
        >
          <path [attr.d]="one.path" />
          <text [attr.x]="one.x" [attr.y]="one.y" [attr.font-size]="one.height" text-anchor="middle" dominant-baseline="central">
            {{ one.plate.name }}
          </text>
        </g>
      }
    </svg>
  `,
  styleUrl: './sheet-map.scss',
})
export class SheetMap {
  readonly number = input.required<number>();
  readonly size = input.required<Size>();
  readonly plates = input.required<readonly LaidPlate[]>();
  readonly clamps = input<readonly Clamp[]>([]);
  /** By the ids of rows: which stay where they are, which lie too near to something, which is chosen. */
  readonly locked = input<ReadonlySet<number>>(new Set());
  readonly near = input<ReadonlySet<number>>(new Set());
  readonly choice = input<number | undefined>();
  readonly isLooking = input(false);
  readonly chosen = output<number | undefined>();
  /** A plate as it is dragged, and where it was left. */
  readonly moving = output<LaidPlate>();
  readonly moved = output<LaidPlate>();
  protected readonly dragged = signal<{ readonly plate: LaidPlate; readonly from: DOMPoint; readonly to?: LaidPlate } | undefined>(undefined); // prettier-ignore
  private readonly map = viewChild.required<ElementRef<SVGSVGElement>>('map');
  protected readonly drawn = computed(() => {
    const now = this.dragged()?.to;
    const chosen = this.choice();
    // The chosen one above the others.
    const inOrder = [...this.plates()].sort((a, b) => Number(a.id === chosen) - Number(b.id === chosen));
    return inOrder.map((plate) => this.drawnAt(plate.id === now?.id ? now : plate));
  });

  protected take(plate: LaidPlate, event: PointerEvent): void {
    this.chosen.emit(plate.id);
    if (this.isLooking() || event.button !== 0) return;
    this.map().nativeElement.setPointerCapture(event.pointerId);
    this.dragged.set({ plate, from: this.placeOf(event) });
  }

  protected move(event: PointerEvent): void {
    const drag = this.dragged();
    if (!drag) return;
    const { x, y } = this.placeOf(event);
    const to = { ...drag.plate, x: tenth(drag.plate.x + x - drag.from.x), y: tenth(drag.plate.y - y + drag.from.y) };
    // A hand that trembles moves nothing.
    if (!drag.to && Math.hypot(to.x - drag.plate.x, to.y - drag.plate.y) < this.size().width / 400) return;
    this.dragged.set({ ...drag, to });
    this.moving.emit(to);
  }

  protected drop(): void {
    const to = this.dragged()?.to;
    this.dragged.set(undefined);
    if (to) this.moved.emit(to);
  }

  /** In mm of the drawing. */
  private placeOf({ clientX, clientY }: PointerEvent): DOMPoint {
    return new DOMPoint(clientX, clientY).matrixTransform(this.map().nativeElement.getScreenCTM()!.inverse());
  }

  private drawnAt(plate: LaidPlate): DrawnPlate {
    const outline = laidOutline(plate.edge, plate);
    const { minX, minY, maxX, maxY } = bounds(outline)!;
    const { height } = this.size();
    const letters = Math.min((maxY - minY) / 2, ((maxX - minX) / Math.max(3, plate.name.length)) * 1.5);
    return { plate, path: pathOf(outline, height), x: (minX + maxX) / 2, y: height - (minY + maxY) / 2, height: letters };
  }
}

function pathOf(outline: Outline, height: number): string {
  return outline
    .map((ring) => {
      const points: string[] = [];
      for (let i = 0; i < ring.length; i += 2) points.push(`${ring[i].toFixed(2)} ${(height - ring[i + 1]).toFixed(2)}`);
      return `M${points.join('L')}Z`;
    })
    .join('');
}
