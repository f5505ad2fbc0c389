import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, input, output, signal, viewChild } from '@angular/core'; // prettier-ignore
import { type Values } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { PlatePictureView } from './plate-picture';
import { isHeld, type ShownRow, stateWords } from './run-rows';
import { windowOf } from './window-of';

/** px of a plate with its caption: across at least, and down. */
const WIDE = 190;
const HIGH = 176;

/** Every plate as a small picture, of which only those that are seen are drawn. */
@Component({
  selector: 'pr-contact-sheet',
  imports: [PlatePictureView],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #box class="box" (scroll)="scrolled()" tabindex="0" role="region" aria-label="Contact sheet">
      <div [style.height.px]="before()"></div>
      <div class="grid" [style.grid-template-columns]="'repeat(' + across() + ', 1fr)'">
        @for (row of shown(); track row.id) {
          <button
            type="button"
            class="plate"
            [class.is-held]="isHeld(row.told)"
            [class.is-marked]="row.isMarked"
            (click)="opened.emit(row.id)"
          >
            <span class="seen">
              <pr-plate-picture
                [sign]="sign()"
                [values]="values()[row.row]"
                [corrections]="row.corrections"
                [longest]="150"
                [label]="'Plate ' + (row.row + 1)"
              />
            </span>
            <span class="caption"
              ><b>{{ row.row + 1 }}</b> {{ stateWords(row.told) }}</span
            >
          </button>
        }
      </div>
      <div [style.height.px]="after()"></div>
    </div>
  `,
  styleUrl: './contact-sheet.scss',
})
export class ContactSheet {
  readonly sign = input.required<Sign>();
  readonly rows = input.required<readonly ShownRow[]>();
  /** In the order of the list. */
  readonly values = input.required<readonly Values[]>();
  readonly opened = output<number>();
  readonly seen = output<readonly number[]>();
  protected readonly stateWords = stateWords;
  protected readonly isHeld = isHeld;
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  private readonly top = signal(0);
  private readonly size = signal({ width: 800, height: 600 });
  protected readonly across = computed(() => Math.max(1, Math.floor(this.size().width / WIDE)));
  private readonly lines = computed(() => Math.ceil(this.rows().length / this.across()));
  private readonly window = computed(() => windowOf(this.lines(), this.top(), this.size().height, HIGH));
  protected readonly shown = computed(() => this.rows().slice(this.window().from * this.across(), this.window().to * this.across())); // prettier-ignore
  protected readonly before = computed(() => this.window().from * HIGH);
  protected readonly after = computed(() => (this.lines() - this.window().to) * HIGH);

  constructor() {
    effect(() => this.seen.emit(this.shown().map(({ id }) => id)));
    effect((onCleanup) => {
      const box = this.box().nativeElement;
      const observer = new ResizeObserver(() => this.size.set({ width: box.clientWidth, height: box.clientHeight }));
      observer.observe(box);
      onCleanup(() => observer.disconnect());
    });
  }

  protected scrolled(): void {
    this.top.set(this.box().nativeElement.scrollTop);
  }
}
