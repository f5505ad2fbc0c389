import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { TurningTool } from '@plain-relief/core/dry-run';
import { rise } from '@plain-relief/core/tooling';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import type { CutFace } from './film-desk';

/** A tool where it is. */
export interface StandingTool {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly turning: TurningTool;
}

/** What of a stock stands between which heights. */
export interface Heights {
  readonly top: number;
  readonly bottom: number;
  readonly safe: number;
}

/** Height of the drawing as part of its width, at least, and times that heights are drawn as. */
const LEAST_HEIGHT = 0.1;
const TIMES = [20, 10, 5, 2, 1] as const;
/** Points of a tool's profile from its axis outwards. */
const PROFILE = 12;

/** The stock and the tool, cut through level where the tool is: how deep it goes, and what stands beside it. */
@Component({
  selector: 'pr-film-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let seen = drawing();
    <svg [attr.viewBox]="seen.viewBox" role="img" [attr.aria-label]="words()">
      <rect
        class="bed"
        [attr.x]="seen.x"
        [attr.y]="-heights().bottom * seen.times"
        [attr.width]="seen.width"
        [attr.height]="seen.under"
      />
      <path class="stock" [attr.d]="stock()" />
      <path class="face" [attr.d]="face()" />
      @if (toolPath(); as path) {
        <path class="holder" [attr.d]="path.holder" />
        <path class="tool" [attr.d]="path.cutter" />
      }
    </svg>
    <span class="figure" aria-hidden="true">{{ words() }}</span>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      padding: 0.2rem 0.7rem 0;
      background: #f4eee0;
      border-top: 1px solid var(--pr-line, #cdbf9f);
    }
    svg {
      display: block;
      width: 100%;
      max-height: 7rem;
    }
    path,
    rect {
      vector-effect: non-scaling-stroke;
    }
    .bed {
      fill: #b9b09b;
    }
    .stock {
      fill: #d8c39a;
    }
    .face {
      fill: none;
      stroke: var(--pr-ink);
      stroke-width: 1.2;
    }
    .holder {
      fill: rgb(120 120 120 / 35%);
    }
    .tool {
      fill: rgb(255 255 255 / 75%);
      stroke: var(--pr-ink);
      stroke-width: 1.2;
    }
    span {
      position: absolute;
      top: 0.15rem;
      right: 0.7rem;
      font-size: 0.8rem;
      color: var(--pr-quiet);
    }
  `,
})
export class FilmSection {
  readonly cut = input.required<CutFace>();
  readonly heights = input.required<Heights>();
  readonly unit = input.required<LengthUnit>();
  readonly tool = input<StandingTool>();

  protected readonly drawing = computed(() => {
    const { from, cell, heights } = this.cut();
    const { bottom, safe } = this.heights();
    const width = heights.length * cell;
    const margin = 0.03 * width + 4;
    const [across, tall] = [width + 2 * margin, safe - bottom];
    const times = TIMES.find((each) => tall * each <= LEAST_HEIGHT * across) ?? 1;
    // Room for a tool that is up.
    const [above, under] = [(safe + 0.6 * tall) * times, 0.15 * tall * times];
    const box = [from - cell / 2 - margin, -above, across, above - bottom * times + under];
    return { viewBox: box.join(' '), x: box[0], width: across, above, under, times };
  });
  protected readonly words = computed(() => {
    const { y } = this.cut();
    const { times } = this.drawing();
    const at = formatLength(Number(y.toFixed(2)), this.unit());
    return `Section at y ${at}${times > 1 ? `, heights ${times} times` : ''}`;
  });
  protected readonly face = computed(() => {
    const { from, cell, heights } = this.cut();
    const { times } = this.drawing();
    let path = '';
    for (let i = 0; i < heights.length; i++) {
      const z = (-Math.max(heights[i], this.heights().bottom) * times).toFixed(2);
      path += `${i === 0 ? 'M' : 'L'}${(from + (i - 0.5) * cell).toFixed(2)} ${z}H${(from + (i + 0.5) * cell).toFixed(2)}`;
    }
    return path;
  });
  protected readonly stock = computed(() => {
    const { from, cell } = this.cut();
    const down = (-this.heights().bottom * this.drawing().times).toFixed(2);
    return `${this.face()}V${down}H${(from - cell / 2).toFixed(2)}Z`;
  });
  protected readonly toolPath = computed(() => {
    const tool = this.tool();
    if (!tool) return undefined;
    const { times, above } = this.drawing();
    const { form, cuttingLength, shank, holder } = tool.turning;
    const radius = form.diameter / 2;
    const right = Array.from({ length: PROFILE + 1 }, (_, i): [number, number] => {
      const r = (radius * i) / PROFILE;
      return [r, tool.z + rise(form, r)];
    });
    right.push([radius, tool.z + cuttingLength], [shank / 2, tool.z + cuttingLength], [shank / 2, tool.z + holder.standOut]);
    const line = [...[...right].reverse().map(([r, z]) => [-r, z]), ...right];
    const at = ([r, z]: readonly number[]): string => `${(tool.x + r).toFixed(2)} ${Math.max(-above, -z * times).toFixed(2)}`;
    const nose = Math.max(-above, -(tool.z + holder.standOut) * times);
    const half = holder.diameter / 2;
    return {
      cutter: `M${line.map(at).join('L')}Z`,
      holder: `M${tool.x - half} ${nose}H${tool.x + half}V${-above}H${tool.x - half}Z`,
    };
  });
}
