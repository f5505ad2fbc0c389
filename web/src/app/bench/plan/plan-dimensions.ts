import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { type Box } from '@plain-relief/core/geometry';
import { type Distance } from '@plain-relief/core/sign';
import { type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../../fields/length-field';
import { ALL_MEASURED, dimensionLanes, isDistance, type LaneFigure, nearestTwo } from './dimension-lanes';
import type { Viewport } from './plan-geometry';

/** A distance that was typed: of the box to an edge of the blank, of its middle to that of the blank, or its own size. */
export interface TypedDimension {
  readonly what: Distance | 'width' | 'height';
  readonly mm: number;
}

/** In a pane narrower than this, in pixels, only what is nearest is told. */
const SMALL = 480;

/**
 * Size of what is chosen and its distances to the blank's edges, as dimension lines outside of the blank whose figures can be typed:
 * all of them where the step asks for it or Alt is held, else the nearest edges'.
 */
@Component({
  selector: 'pr-plan-dimensions',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: {
    '(window:keydown)': 'isAltHeld.set($event.altKey)',
    '(window:keyup)': 'isAltHeld.set($event.altKey)',
    '(window:blur)': 'isAltHeld.set(false)',
  },
  template: `
    <svg aria-hidden="true">
      @for (line of lanes().extensions; track $index) {
        <line class="extension" [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2" />
      }
      @for (figure of lanes().figures; track figure.what) {
        <line [attr.x1]="figure.line.x1" [attr.y1]="figure.line.y1" [attr.x2]="figure.line.x2" [attr.y2]="figure.line.y2" />
        @if (figure.leader; as line) {
          <line class="leader" [attr.x1]="line.x1" [attr.y1]="line.y1" [attr.x2]="line.x2" [attr.y2]="line.y2" />
        }
      }
    </svg>
    @for (figure of lanes().figures; track figure.what) {
      <span class="figure" [class.size]="!isDistance(figure.what)" [style.left.px]="figure.x" [style.top.px]="figure.y">
        <pr-length-field
          [value]="figure.mm"
          [unit]="unit()"
          [label]="labelOf(figure)"
          [min]="isDistance(figure.what) ? -4000 : 0.01"
          [max]="8000"
          (changed)="typed.emit({ what: figure.what, mm: $event })"
        />
      </span>
    }
    @if (isAll()) {
      <span class="figure middle" [style.left.px]="lanes().middle.x" [style.top.px]="lanes().middle.y">
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
    }
  `,
  styleUrl: './plan-dimensions.scss',
})
export class PlanDimensions {
  readonly box = input.required<Box>();
  readonly blank = input.required<Box>();
  readonly view = input.required<Viewport>();
  /** In pixels. */
  readonly pane = input.required<{ readonly width: number; readonly height: number }>();
  readonly unit = input.required<LengthUnit>();
  /** Whether all that there is to measure is told, where there is room. */
  readonly isWhole = input(true);
  /** Whether what is chosen has a size that can be typed. */
  readonly hasSize = input(true);
  readonly typed = output<TypedDimension>();
  protected readonly isAltHeld = signal(false);
  protected readonly isDistance = isDistance;

  protected readonly isAll = computed(() => this.isAltHeld() || (this.isWhole() && this.pane().width >= SMALL));
  protected readonly lanes = computed(() => {
    const [box, blank] = [this.box(), this.blank()];
    const shown = (this.isAll() ? ALL_MEASURED : nearestTwo(box, blank)).filter((what) => isDistance(what) || this.hasSize());
    return dimensionLanes(box, blank, this.view(), this.pane(), shown);
  });
  /** From the middle of the blank to that of the box. */
  protected readonly middle = computed(() => {
    const of = (box: Box) => ({ x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 });
    const [own, all] = [of(this.box()), of(this.blank())];
    return { x: own.x - all.x, y: own.y - all.y };
  });

  protected labelOf({ what }: LaneFigure): string {
    return isDistance(what) ? `distance to the ${what} edge` : `${what} of what is chosen`;
  }
}
