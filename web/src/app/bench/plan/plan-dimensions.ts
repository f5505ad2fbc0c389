import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Box } from '@plain-relief/core/geometry';
import { type Distance } from '@plain-relief/core/sign';
import { type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import type { Viewport } from './plan-geometry';

/** A distance that was typed: of the box to an edge of the blank, of its middle to that of the blank, or its own size. */
export interface TypedDimension {
  readonly what: Distance | 'width' | 'height';
  readonly mm: number;
}

interface Dimension {
  readonly what: TypedDimension['what'];
  readonly label: string;
  readonly mm: number;
  readonly x1: number;
  readonly y1: number;
  readonly x2: number;
  readonly y2: number;
  readonly x: number;
  readonly y: number;
}

/** Size of what is chosen and its distances to the blank's edges, as dimension lines whose figures can be typed. */
@Component({
  selector: 'pr-plan-dimensions',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg aria-hidden="true">
      @for (line of distances(); track line.what) {
        <line [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2" />
      }
    </svg>
    @for (line of distances(); track line.what) {
      <span class="figure" [style.left.px]="line.x" [style.top.px]="line.y">
        <pr-length-field
          [value]="line.mm"
          [unit]="unit()"
          [label]="line.label"
          [min]="-4000"
          [max]="8000"
          (changed)="typed.emit({ what: line.what, mm: $event })"
        />
      </span>
    }
    <span class="figure size" [style.left.px]="sizeAt().x" [style.top.px]="sizeAt().y">
      <pr-length-field
        [value]="box().maxX - box().minX"
        [unit]="unit()"
        label="width of what is chosen"
        [min]="0.01"
        [max]="8000"
        (changed)="typed.emit({ what: 'width', mm: $event })"
      />
      ×
      <pr-length-field
        [value]="box().maxY - box().minY"
        [unit]="unit()"
        label="height of what is chosen"
        [min]="0.01"
        [max]="8000"
        (changed)="typed.emit({ what: 'height', mm: $event })"
      />
    </span>
    <span class="figure middle" [style.left.px]="sizeAt().x" [style.top.px]="sizeAt().y + 40 + sizeAt().height">
      <pr-length-field
        [value]="middle().x"
        [unit]="unit()"
        label="middle across"
        [min]="-4000"
        [max]="4000"
        (changed)="typed.emit({ what: 'across', mm: $event })"
      />,
      <pr-length-field
        [value]="middle().y"
        [unit]="unit()"
        label="middle up"
        [min]="-4000"
        [max]="4000"
        (changed)="typed.emit({ what: 'up', mm: $event })"
      />
      from middle
    </span>
  `,
  styleUrl: './plan-dimensions.scss',
})
export class PlanDimensions {
  readonly box = input.required<Box>();
  readonly blank = input.required<Box>();
  readonly view = input.required<Viewport>();
  readonly unit = input.required<LengthUnit>();
  readonly typed = output<TypedDimension>();

  private readonly pixels = computed(() => {
    const { x, y, scale } = this.view();
    const of = ({ minX, minY, maxX, maxY }: Box) => ({
      left: x + minX * scale,
      right: x + maxX * scale,
      top: y - maxY * scale,
      bottom: y - minY * scale,
    });
    return { box: of(this.box()), blank: of(this.blank()) };
  });
  protected readonly sizeAt = computed(() => {
    const { right, top, bottom } = this.pixels().box;
    return { x: right, y: top - 20, height: bottom - top };
  });
  /** From the middle of the blank to that of the box. */
  protected readonly middle = computed(() => {
    const of = (box: Box) => ({ x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 });
    const [own, all] = [of(this.box()), of(this.blank())];
    return { x: own.x - all.x, y: own.y - all.y };
  });
  protected readonly distances = computed((): Dimension[] => {
    const { box, blank } = this.pixels();
    const [own, all] = [this.box(), this.blank()];
    const [x, y] = [(box.left + box.right) / 2, (box.top + box.bottom) / 2];
    const across = (what: 'left' | 'right', label: string, mm: number, from: number, to: number): Dimension => ({
      ...{ what, label, mm },
      ...{ x1: from, y1: y, x2: to, y2: y, x: (from + to) / 2, y: y - 21 },
    });
    // The one below stands left of its line: the place from the middle is written to the right.
    const up = (what: 'top' | 'bottom', label: string, mm: number, from: number, to: number): Dimension => ({
      ...{ what, label, mm },
      ...{ x1: x, y1: from, x2: x, y2: to, x: what === 'top' ? x + 28 : x - 34, y: (from + to) / 2 },
    });
    return [
      across('left', 'distance to the left edge', own.minX - all.minX, blank.left, box.left),
      across('right', 'distance to the right edge', all.maxX - own.maxX, box.right, blank.right),
      up('top', 'distance to the top edge', all.maxY - own.maxY, blank.top, box.top),
      up('bottom', 'distance to the bottom edge', own.minY - all.minY, box.bottom, blank.bottom),
    ];
  });
}
