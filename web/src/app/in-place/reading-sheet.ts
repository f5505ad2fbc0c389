import { ChangeDetectionStrategy, Component, effect, type ElementRef, input, viewChild, computed } from '@angular/core';
import { LEAST_MINUTES, minutesOf, type Place } from '@plain-relief/core/in-place';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import type { ReadingPicture } from './place-desk';

/** Minutes of arc of capitals that are read without an effort: twice what good eyes just read (common practice, no source). */
const EASY_MINUTES = 2 * LEAST_MINUTES;

/** A sign as large as it is seen from where it is read, on a screen at arm’s length. */
@Component({
  selector: 'pr-reading-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      role="img"
      [attr.aria-label]="title() + ' as it is seen from where it is read'"
      [style.width.px]="picture().shownWidth"
      [style.height.px]="picture().shownHeight"
    ></canvas>
    <p class="words">
      Look at this from an arm’s length, 60 cm: so large is “{{ title() }}” from {{ picture().away.toFixed(1) }} m{{ aside() }}.
    </p>
    @if (lowest(); as letters) {
      <p class="told" [class.good]="letters.verdict === 'easy'" [class.bad]="letters.verdict === 'unread'">{{ letters.text }}</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      align-items: center;
      justify-content: center;
      gap: 1.2rem;
      min-height: 0;
      overflow: auto;
      background: var(--pr-sheet);
    }

    canvas {
      flex: none;
      background: #efe9dc;
    }

    .words {
      margin: 0;
      max-width: 34rem;
      text-align: center;
    }
  `,
})
export class ReadingSheet {
  readonly picture = input.required<ReadingPicture>();
  readonly place = input.required<Place>();
  readonly title = input.required<string>();
  readonly unit = input.required<LengthUnit>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');

  protected readonly aside = computed(() => {
    const up = Math.round(this.picture().lookUp);
    return up === 0 ? '' : up > 0 ? `, looking up by ${up}°` : `, looking down by ${-up}°`;
  });

  /** What the smallest letters are read like. */
  protected readonly lowest = computed(() => {
    const lowest = this.picture().capitals[0] as ReadingPicture['capitals'][number] | undefined;
    if (!lowest) return undefined;
    const minutes = minutesOf(this.place(), lowest.height);
    const length = formatLength(Number(lowest.height.toFixed(1)), this.unit());
    const seen = `The smallest capitals, of “${lowest.name}”, are ${length} tall and stand under ${minutes.toFixed(0)} minutes of arc`;
    if (minutes >= EASY_MINUTES) return { verdict: 'easy', text: `${seen}: they are read easily.` } as const;
    if (minutes >= LEAST_MINUTES) return { verdict: 'just', text: `${seen}: good eyes read them, others hardly.` } as const;
    return { verdict: 'unread', text: `${seen}: below ${LEAST_MINUTES} nobody reads them.` } as const;
  });

  constructor() {
    effect(() => {
      const { width, height, rgba } = this.picture();
      const { nativeElement } = this.canvas();
      nativeElement.width = width;
      nativeElement.height = height;
      nativeElement.getContext('2d')?.putImageData(new ImageData(rgba, width, height), 0, 0);
    });
  }
}
