import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const RADIUS = 7;
const ROUND = 2 * Math.PI * RADIUS;

/** How much of something is done, as a ring that closes. */
@Component({
  selector: 'pr-progress-ring',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      width="18"
      height="18"
      viewBox="-9 -9 18 18"
      role="progressbar"
      [attr.aria-label]="label()"
      aria-valuemin="0"
      aria-valuemax="100"
      [attr.aria-valuenow]="percent()"
    >
      <circle [attr.r]="radius" class="all" />
      <circle [attr.r]="radius" class="done" transform="rotate(-90)" [attr.stroke-dasharray]="dashes()" />
    </svg>
  `,
  styles: `
    circle {
      fill: none;
      stroke-width: 3;
    }
    .all {
      stroke: var(--pr-line);
    }
    .done {
      stroke: var(--pr-accent);
    }
  `,
})
export class ProgressRing {
  /** 0 to 1. */
  readonly share = input.required<number>();
  readonly label = input.required<string>();
  protected readonly radius = RADIUS;
  protected readonly percent = computed(() => Math.floor(100 * this.share()));
  protected readonly dashes = computed(() => `${(ROUND * this.share()).toFixed(2)} ${ROUND.toFixed(2)}`);
}
