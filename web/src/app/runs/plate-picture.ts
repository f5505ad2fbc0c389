import { ChangeDetectionStrategy, Component, effect, type ElementRef, inject, input, signal, viewChild } from '@angular/core';
import { type Correction, type Values } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import { PlateDesk } from './plate-desk.service';

/** A plate as it will look. */
@Component({
  selector: 'pr-plate-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas [hidden]="fault() !== ''" role="img" [attr.aria-label]="label()"></canvas>
    @if (fault()) {
      <span class="fault">{{ fault() }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      width: 100%;
      height: 100%;
      place-items: center;
      overflow: hidden;
    }
    canvas {
      max-width: 100%;
      max-height: 100%;
    }
    .fault {
      padding: 0.3rem;
      color: var(--pr-alarm);
      font-size: 0.85rem;
      text-align: center;
    }
  `,
})
export class PlatePictureView {
  readonly sign = input.required<Sign>();
  readonly values = input.required<Values>();
  /** What is otherwise on this plate alone. */
  readonly corrections = input<readonly Correction[] | undefined>(undefined);
  readonly longest = input(160);
  readonly label = input('');
  protected readonly fault = signal('');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly desk = inject(PlateDesk);

  constructor() {
    effect((onCleanup) => {
      const [sign, longest] = [this.sign(), this.longest()];
      const plate = { values: this.values(), corrections: this.corrections() };
      let isOld = false;
      onCleanup(() => (isOld = true));
      this.desk
        .picture(sign, plate, Math.round(longest * devicePixelRatio))
        .then((picture) => {
          if (isOld) return;
          this.fault.set(picture ? '' : 'not made');
          if (!picture) return;
          const canvas = this.canvas().nativeElement;
          [canvas.width, canvas.height] = [picture.width, picture.height];
          canvas.style.width = `${picture.width / devicePixelRatio}px`;
          canvas.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
        })
        .catch((error: Error) => {
          if (!isOld) this.fault.set(error.message);
        });
    });
  }
}
