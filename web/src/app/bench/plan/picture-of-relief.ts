import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { ReliefService } from '../../relief/relief.service';
import type { PictureView, ReliefView } from '../../relief/views';

/** Pixels along the longer side: enough for the plan of a screen, and for a first glance at it. */
const LONGEST = 1400;
const FIRST = LONGEST / 4;

/** The sign lit from the upper left, as a picture that the plan can show; drawn when it is asked for. */
@Injectable()
export class PictureOfRelief implements OnDestroy {
  private readonly relief = inject(ReliefService);
  private readonly current = signal<string | undefined>(undefined);
  readonly address = this.current.asReadonly();
  private order = 0;
  private drawn: ReliefView | undefined;

  /** Draws the last sign, roughly at first and then finely, unless that is there already; an older picture that comes later is dropped. */
  async draw(): Promise<void> {
    const view = this.relief.latest;
    if (view && view === this.drawn) return;
    const order = ++this.order;
    for (const longest of [FIRST, LONGEST]) {
      const picture = await this.relief.picture(longest, true);
      if (!picture || order !== this.order) return;
      await this.show(picture, order);
    }
    if (order === this.order) this.drawn = view;
  }

  private async show(picture: PictureView, order: number): Promise<void> {
    const canvas = document.createElement('canvas');
    canvas.width = picture.width;
    canvas.height = picture.height;
    const pixels = new ImageData(new Uint8ClampedArray(picture.rgba), picture.width, picture.height);
    canvas.getContext('2d')?.putImageData(pixels, 0, 0);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve));
    if (order === this.order) this.replace(blob ? URL.createObjectURL(blob) : undefined);
  }

  ngOnDestroy(): void {
    this.order++;
    this.replace(undefined);
  }

  private replace(address: string | undefined): void {
    const before = this.current();
    this.current.set(address);
    if (before) URL.revokeObjectURL(before);
  }
}
