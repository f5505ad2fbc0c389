import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { ReliefService } from '../relief/relief.service';

/** Pixels along the longer side: enough for the plan of a screen. */
const LONGEST = 1400;

/** The sign lit from the upper left, as a picture that the plan can show; drawn when it is asked for. */
@Injectable()
export class PictureOfRelief implements OnDestroy {
  private readonly relief = inject(ReliefService);
  private readonly current = signal<string | undefined>(undefined);
  readonly address = this.current.asReadonly();
  private order = 0;

  /** Draws the last sign; an older picture that comes later is dropped. */
  async draw(): Promise<void> {
    const order = ++this.order;
    const picture = await this.relief.picture(LONGEST, true);
    if (!picture || order !== this.order) return;
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
