import { degrees, direction } from '@plain-relief/core/geometry';
import { ChangeDetectionStrategy, Component, computed, effect, ElementRef, inject, input, output, signal } from '@angular/core';
import { type NamedSection } from '@plain-relief/core/sign';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { ReliefService } from '../../relief/relief.service';
import type { SectionView, SpaceSectionView } from '../../relief/views';

const AIR = { left: 16, right: 16, top: 12, bottom: 10 };
const CAPTION = 20;
/** mm from the line up to which a place is on it. */
const NEAR = 3;

/** The relief cut along the line, heights as they are or four times as tall, read off at the pointer. */
@Component({
  selector: 'pr-section-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.width]="size().width"
      [attr.height]="size().height"
      (pointermove)="point($event)"
      (pointerleave)="at.set(undefined)"
      role="img"
      [attr.aria-label]="'Section, ' + read()"
    >
      @if (spaceShown(); as space) {
        <g [attr.transform]="spaceTransform()">
          <path class="body" fill-rule="evenodd" [attr.d]="space.d" />
        </g>
        @for (words of space.words; track $index) {
          <text class="figures" [attr.x]="size().width - 12" [attr.y]="top + 16 + 18 * $index" text-anchor="end">
            {{ words }}
          </text>
        }
      }
      <g [attr.transform]="transform()" [attr.visibility]="spaceShown() ? 'hidden' : null">
        @for (body of section().bodies; track $index) {
          <path class="body" [attr.d]="body" />
        }
        @for (surface of section().surfaces; track $index) {
          <line
            class="surface"
            [attr.x1]="surface.from"
            [attr.x2]="surface.to"
            [attr.y1]="-surface.z"
            [attr.y2]="-surface.zEnd"
            [attr.stroke]="surface.z === 0 && surface.zEnd === 0 ? '#2b2a26' : surface.colour"
          />
        }
      </g>
      @if (band(); as mark) {
        <rect class="found" x="0" [attr.width]="size().width" [attr.y]="mark.y" [attr.height]="mark.height" />
      }
      @for (x of crossed(); track $index) {
        <line class="met" [attr.x1]="x" [attr.x2]="x" [attr.y1]="top" [attr.y2]="size().height" />
      }
      @if (!spaceShown() && pointer(); as here) {
        <line class="pointer" [attr.x1]="here.px" [attr.x2]="here.px" y1="0" [attr.y2]="size().height" />
      }
    </svg>
    <div class="caption">
      <span>Section{{ current() ? ' ' + current()!.name : '' }}</span>
      <button
        type="button"
        (click)="times.set(times() === 1 ? 4 : 1)"
        [attr.aria-pressed]="times() === 4"
        title="How tall the heights are drawn"
      >
        heights ×{{ times() }}
      </button>
      @if (isBent()) {
        <button
          type="button"
          (click)="isInSpace.set(!isInSpace())"
          [attr.aria-pressed]="isInSpace()"
          [title]="isBlock() ? 'Of the faces laid flat, or through the block' : 'Laid flat, or as it is bent'"
        >
          {{ isInSpace() ? (isBlock() ? 'through the block' : 'as it is bent') : 'laid flat' }}
        </button>
      }
      @for (each of kept(); track each.id) {
        @if (each.id !== current()?.id) {
          <button type="button" (click)="shown.emit(each.id)" [attr.aria-label]="'Show section ' + each.name">
            {{ each.name }}
          </button>
        }
      }
      @if (!isLooking() && current(); as one) {
        <button type="button" (click)="dropped.emit(one.id)" title="The proof shows it no more">Drop {{ one.name }}</button>
      } @else if (!isLooking()) {
        <button type="button" (click)="keptNow.emit()" title="The proof shows it under a name of its own">
          Keep for the proof
        </button>
      }
      <span class="figure read" aria-live="polite">{{ spaceShown() ? '' : read() }}</span>
    </div>
  `,
  styleUrl: './section-view.scss',
})
export class SectionViewer {
  readonly section = input.required<SectionView>();
  readonly unit = input.required<LengthUnit>();
  /** The sections that the proof shows, and the one among them that this is. */
  readonly kept = input<readonly NamedSection[]>([]);
  readonly current = input<NamedSection>();
  /** Whether the sign is bent around something. */
  readonly isBent = input(false);
  readonly isBlock = input(false);
  /** Whether sections can only be looked at. */
  readonly isLooking = input(false);
  /** Where a finding is that is looked at: places in the plan, and mm above the face between which it is. */
  readonly found = input<readonly { readonly x: number; readonly y: number }[]>([]);
  readonly foundHeights = input<readonly [lowest: number, highest: number]>();
  readonly shown = output<string>();
  readonly dropped = output<string>();
  readonly keptNow = output();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly size = signal({ width: 600, height: 120 });
  protected readonly top = AIR.top + CAPTION;
  protected readonly times = signal<1 | 4>(1);
  protected readonly at = signal<number | undefined>(undefined);

  private readonly relief = inject(ReliefService, { optional: true });
  protected readonly isInSpace = signal(false);
  private readonly space = signal<SpaceSectionView | undefined>(undefined);
  protected readonly spaceShown = computed(() => (this.isBent() && this.isInSpace() ? this.space() : undefined));
  /** As large as there is room under the caption. */
  protected readonly spaceTransform = computed(() => {
    const box = this.spaceShown()?.box;
    if (!box) return null;
    const { width, height } = this.size();
    const [room, high] = [width - AIR.left - AIR.right, height - AIR.top - AIR.bottom - CAPTION];
    const scale = Math.min(room / Math.max(1e-6, box.maxX - box.minX), high / Math.max(1e-6, box.maxY - box.minY));
    const x = width / 2 - (scale * (box.minX + box.maxX)) / 2;
    const y = AIR.top + CAPTION + high / 2 + (scale * (box.minY + box.maxY)) / 2;
    return `translate(${x} ${y}) scale(${scale / 1000})`;
  });

  private readonly scale = computed(() => {
    const { width, height } = this.size();
    const { from, to, top, bottom } = this.section();
    const across = (width - AIR.left - AIR.right) / Math.max(1e-6, to - from);
    const up = (height - AIR.top - AIR.bottom - CAPTION) / ((top - bottom) * this.times());
    return Math.min(across, up);
  });
  private readonly left = computed(() => {
    const { from, to } = this.section();
    return this.size().width / 2 - (this.scale() * (from + to)) / 2;
  });
  /** Pixels a mm up, and where the face lies. */
  private readonly heights = computed(() => {
    const { top, bottom } = this.section();
    const up = this.scale() * this.times();
    // In the middle of the room under the caption.
    const room = this.size().height - AIR.top - AIR.bottom - CAPTION;
    return { up, face: AIR.top + CAPTION + (room - (top - bottom) * up) / 2 + top * up };
  });
  protected readonly transform = computed(() => {
    const { up, face } = this.heights();
    return `translate(${this.left()} ${face}) scale(${this.scale()} ${up})`;
  });
  /** The heights of the finding; a flat one is seen, too. */
  protected readonly band = computed(() => {
    const found = this.foundHeights();
    if (!found) return undefined;
    const { up, face } = this.heights();
    return { y: face - found[1] * up - 1, height: Math.max(3, (found[1] - found[0]) * up + 2) };
  });
  /** Where the line passes places of the finding. */
  protected readonly crossed = computed(() => {
    const { line, from, to } = this.section();
    const { cos, sin } = direction(line.turn);
    return this.found().flatMap(({ x, y }) => {
      const [along, aside] = [(x - line.x) * cos + (y - line.y) * sin, (y - line.y) * cos - (x - line.x) * sin];
      return Math.abs(aside) <= NEAR && along >= from && along <= to ? [this.left() + along * this.scale()] : [];
    });
  });
  protected readonly pointer = computed(() => {
    const px = this.at();
    return px === undefined ? undefined : { px, mm: (px - this.left()) / this.scale() };
  });
  protected readonly read = computed(() => {
    const here = this.pointer();
    if (!here) return this.section().surfaces.length === 0 ? 'the line meets no material' : 'point at it to read the height';
    const surface = this.section().surfaces.find(({ from, to }) => here.mm >= from && here.mm <= to);
    const along = formatLength(here.mm - this.section().from, this.unit());
    if (!surface) return `${along} along: no material`;
    const share = (here.mm - surface.from) / (surface.to - surface.from);
    const z = surface.z + share * (surface.zEnd - surface.z);
    const unit = this.unit();
    const height =
      Math.abs(z) < 1e-9 ? 'the face' : `${z > 0 ? 'raised' : 'carved'} ${formatLength(Number(Math.abs(z).toFixed(3)), unit)}`;
    const width = `${formatLength(Number((surface.to - surface.from).toFixed(3)), unit)} wide`;
    const rise = degrees(Math.atan2(surface.zEnd - surface.z, surface.to - surface.from));
    return `${along} along: ${height}, ${Math.abs(rise) < 0.01 ? width : `a slope of ${Math.abs(rise).toFixed(1)}°, ${width}`}`;
  });

  constructor() {
    effect(() => {
      const { line } = this.section();
      if (this.isBent() && this.isInSpace()) void this.relief?.spaceSection(line).then((found) => this.space.set(found));
    });
    new ResizeObserver(([{ contentRect }]) => {
      if (contentRect.width > 0) this.size.set({ width: contentRect.width, height: contentRect.height });
    }).observe(this.host.nativeElement);
  }

  protected point(event: PointerEvent): void {
    this.at.set(event.clientX - this.host.nativeElement.getBoundingClientRect().left);
  }
}
