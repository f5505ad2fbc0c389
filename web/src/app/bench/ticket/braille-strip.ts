import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { dotsOf } from '@plain-relief/core/braille';
import { BrailleService } from '../braille.service';

/** Cells and dots of a drawn line, in the units of its picture. */
const CELL = 6.2;
const DOT = 2.4;
const RADIUS = 0.75;

interface DrawnLine {
  readonly width: number;
  readonly dots: readonly { readonly x: number; readonly y: number }[];
}

/** Braille as it will be felt, drawn, with what it says read back from the cells. */
@Component({
  selector: 'pr-braille-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="cells" role="img" [attr.aria-label]="'Braille: ' + (said() ?? 'not read back')">
      @for (line of lines(); track $index) {
        <svg [attr.viewBox]="'-2 -2 ' + (line.width + 2) + ' 9'" [style.width.rem]="(line.width + 2) / 9">
          @for (dot of line.dots; track $index) {
            <circle [attr.cx]="dot.x" [attr.cy]="dot.y" [attr.r]="radius" />
          }
        </svg>
      }
    </div>
    @if (braille.trouble(); as trouble) {
      <p class="trouble" role="alert">
        {{ trouble }} <button type="button" class="plain" (click)="braille.again()">Try again</button>
      </p>
    } @else if (isStale()) {
      <p role="status">The cells are not those of the words yet …</p>
    } @else if (said()) {
      <p>Read back: “{{ said() }}”</p>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 0.2rem 0 0.4rem;
    }
    .cells {
      max-height: 9rem;
      overflow: auto;
      padding: 0.3rem;
      background: var(--pr-paper);
    }
    svg {
      display: block;
      height: 1rem;
      max-width: none;
    }
    circle {
      fill: var(--pr-ink);
    }
    p {
      margin: 0.2rem 0 0;
      color: var(--pr-quiet);
    }
    .trouble {
      color: var(--pr-alarm);
    }
  `,
})
export class BrailleStrip {
  readonly cells = input.required<string>();
  readonly table = input.required<string>();
  readonly isStale = input(false);
  protected readonly braille = inject(BrailleService);
  protected readonly radius = RADIUS;
  protected readonly said = signal<string | undefined>(undefined);
  protected readonly lines = computed((): DrawnLine[] =>
    this.cells()
      .split('\n')
      .filter((line) => line !== '')
      .map((line) => ({
        width: line.length * CELL,
        dots: [...line].flatMap((cell, at) =>
          dotsOf(cell).map(([column, row]) => ({ x: at * CELL + column * DOT, y: row * DOT })),
        ),
      })),
  );

  constructor() {
    effect((onCleanup) => {
      let isOld = false;
      onCleanup(() => (isOld = true));
      void this.braille.readBack(this.cells(), this.table()).then((words) => {
        if (!isOld) this.said.set(words?.split('\n').join(' / '));
      });
    });
  }
}
