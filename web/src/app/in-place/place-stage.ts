import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  type Camera,
  cameraOfPlace,
  MOST_SIGNS,
  type Place,
  type PlacedSign,
  PlaceError,
  type Point,
  sizeOfPlace,
} from '@plain-relief/core/in-place';
import { direction } from '@plain-relief/core/geometry';
import { type LengthUnit } from '@plain-relief/core/units';
import { arrowOf, nudgeLength } from '../bench/plan/arrow-keys';
import type { PlacePicture } from './place-desk';
import { handlesOf, movedHandle } from './place-marks';

/** Pixels of a picture without a photograph: what is drawn over it is measured in them. */
const PLAIN_PIXELS = 1600;

/** Something that is dragged over the picture. */
type Dragged =
  | { readonly kind: 'handle'; readonly index: number }
  | { readonly kind: 'sign'; readonly index: number; readonly from: Point; readonly at: PlacedSign; readonly camera: Camera };

/** What an edit is called, and what it does to the place as it is by then. */
export interface PlaceEdit {
  readonly label: string;
  readonly change: (place: Place) => Place;
}

/** The picture of a place, with the marks on its wall and the signs that can be dragged over it. */
@Component({
  selector: 'pr-place-stage',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './place-stage.html',
  styleUrl: './place-stage.scss',
})
export class PlaceStage {
  readonly place = input.required<Place>();
  readonly picture = input<PlacePicture | undefined>();
  /** Names of its signs, in their order. */
  readonly names = input.required<readonly string[]>();
  readonly unit = input.required<LengthUnit>();
  readonly isLooking = input(false);
  /** Whether marks are shown, or only what will be seen. */
  readonly isMarked = input(true);
  readonly edited = output<PlaceEdit>();
  readonly settled = output<string>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  private readonly dragged = signal<Dragged | undefined>(undefined);

  protected readonly size = computed(() => {
    const { ground } = this.place();
    return ground.kind === 'photograph'
      ? { width: ground.width, height: ground.height }
      : sizeOfPlace(this.place(), PLAIN_PIXELS);
  });
  protected readonly photograph = computed(() => {
    const { ground } = this.place();
    return ground.kind === 'photograph' ? `/api/files/${ground.file}/picture` : undefined;
  });
  protected readonly handles = computed(() => handlesOf(this.place().ground));
  protected readonly lines = computed(() => {
    const points = this.handles().map(({ x, y }) => `${x},${y}`);
    if (points.length === 0) return [];
    const { ground } = this.place();
    const isCorners = ground.kind === 'photograph' && ground.scale.kind === 'corners';
    return isCorners ? [[...points, points[0]].join(' ')] : [points.slice(0, 2).join(' '), points.slice(2).join(' ')];
  });
  private readonly camera = computed(() => this.cameraNow());
  /** The outlines of the signs’ fronts as they are seen. */
  protected readonly outlines = computed(() => {
    const camera = this.camera();
    const { sizes } = this.picture() ?? { sizes: [] };
    if (!camera) return [];
    return this.place().signs.flatMap((at, index) => {
      const size = sizes[index];
      if (!size) return [];
      const { cos, sin } = direction(at.turn);
      const corners = [
        [-1, 1],
        [1, 1],
        [1, -1],
        [-1, -1],
      ].map(([i, j]) => {
        const [x, y] = [(i * size.width) / 2, (j * size.height) / 2];
        const [across, down, nearness] = camera.seen(
          at.x + cos * x - sin * y,
          at.y + sin * x + cos * y,
          at.standOff + size.depth,
        );
        return nearness > 0 ? `${across.toFixed(1)},${down.toFixed(1)}` : '';
      });
      return corners.includes('') ? [] : [{ index, points: corners.join(' '), name: this.names()[index] ?? '' }];
    });
  });
  protected readonly isDragged = computed(() => this.dragged() !== undefined);

  constructor() {
    effect(() => {
      const picture = this.picture();
      const { nativeElement } = this.canvas();
      if (!picture) return;
      nativeElement.width = picture.width;
      nativeElement.height = picture.height;
      nativeElement.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
    });
  }

  protected begin(kind: Dragged['kind'], index: number, event: PointerEvent): void {
    if (this.isLooking() || event.button !== 0) return;
    event.preventDefault();
    (event.target as SVGElement).focus();
    this.svg().nativeElement.setPointerCapture(event.pointerId);
    if (kind === 'handle') return this.dragged.set({ kind, index });
    const camera = this.camera();
    const pixel = this.pixelOf(event);
    const from = camera?.onWall(pixel.x, pixel.y);
    if (camera && from) this.dragged.set({ kind, index, from, at: this.place().signs[index], camera });
  }

  protected move(event: PointerEvent): void {
    const dragged = this.dragged();
    if (!dragged) return;
    const pixel = this.pixelOf(event);
    if (dragged.kind === 'handle') return this.setHandle(dragged.index, pixel);
    const to = dragged.camera.onWall(pixel.x, pixel.y);
    if (!to) return;
    const { at, from } = dragged;
    const moved = { x: Math.round(at.x + to.x - from.x), y: Math.round(at.y + to.y - from.y) };
    this.setSign(dragged.index, () => moved);
  }

  protected end(): void {
    const dragged = this.dragged();
    if (!dragged) return;
    this.dragged.set(undefined);
    this.settled.emit(this.labelOf(dragged.kind, dragged.index));
  }

  protected nudge(kind: Dragged['kind'], index: number, event: KeyboardEvent): void {
    const arrow = arrowOf(event);
    if (!arrow || this.isLooking()) return;
    event.preventDefault();
    if (kind === 'handle') {
      const { x, y } = this.handles()[index];
      const by = event.shiftKey ? 10 : 1;
      this.setHandle(index, { x: x + by * arrow[0], y: y - by * arrow[1] });
    } else {
      const by = nudgeLength(this.unit(), event);
      this.setSign(index, ({ x, y }) => ({ x: x + by * arrow[0], y: y + by * arrow[1] }));
    }
    this.settled.emit(this.labelOf(kind, index));
  }

  private setHandle(index: number, to: Point): void {
    const change = (place: Place): Place => {
      const { ground } = place;
      return ground.kind === 'photograph'
        ? { ...place, ground: { ...ground, scale: movedHandle(ground.scale, index, to) } }
        : place;
    };
    this.edited.emit({ label: `moving ${this.labelOf('handle', index)}`, change });
  }

  private setSign(index: number, to: (at: Point) => Point): void {
    const change = (place: Place): Place => ({
      ...place,
      signs: place.signs.map((at, i) => (i === index ? { ...at, ...to(at) } : at)),
    });
    this.edited.emit({ label: `moving ${this.labelOf('sign', index)}`, change });
  }

  private labelOf(kind: Dragged['kind'], index: number): string {
    return kind === 'handle' ? 'mark' : (this.names()[index] ?? `sign ${Math.min(index, MOST_SIGNS) + 1}`);
  }

  /** Where a pointer is on the picture. */
  private pixelOf({ clientX, clientY }: PointerEvent): Point {
    const box = this.svg().nativeElement.getBoundingClientRect();
    const { width, height } = this.size();
    return { x: ((clientX - box.left) / box.width) * width, y: ((clientY - box.top) / box.height) * height };
  }

  private cameraNow(): Camera | undefined {
    const { width, height } = this.size();
    const { sizes } = this.picture() ?? { sizes: [] };
    try {
      return cameraOfPlace(this.place(), this.place().signs.map((_, i) => sizes[i] ?? { width: 0, height: 0, depth: 0 }), width, height); // prettier-ignore
    } catch (error) {
      if (error instanceof PlaceError) return undefined;
      throw error;
    }
  }
}
