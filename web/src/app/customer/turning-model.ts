import {
  ChangeDetectionStrategy,
  Component,
  effect,
  type ElementRef,
  input,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import type { TurningScene } from './turning-scene';

/** A model to turn with the finger, the mouse or the arrow keys. */
@Component({
  selector: 'pr-turning-model',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      [attr.aria-label]="'Model of ' + title() + ', turned with the arrow keys'"
      (keydown)="turn($event)"
    ></canvas>
    @if (words()) {
      <p role="status">{{ words() }}</p>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: min(56vh, 30rem);
      background: #e9e1cf;
    }
    canvas {
      display: block;
      width: 100%;
      height: 100%;
      touch-action: none;
    }
    p {
      position: absolute;
      inset: auto 0 0.8rem;
      margin: 0;
      text-align: center;
    }
  `,
})
export class TurningModel implements OnDestroy {
  /** Address of a GLB file. */
  readonly address = input.required<string>();
  readonly title = input.required<string>();
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly words = signal('Fetching the model …');
  private scene: TurningScene | undefined;
  private isGone = false;

  constructor() {
    effect(() => void this.show(this.address(), this.canvas().nativeElement));
  }

  ngOnDestroy(): void {
    this.isGone = true;
    this.scene?.dispose();
  }

  protected turn(event: KeyboardEvent): void {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!step) return;
    event.preventDefault();
    this.scene?.turn(step[0] * 0.15, step[1] * 0.1);
  }

  private async show(address: string, canvas: HTMLCanvasElement): Promise<void> {
    this.words.set('Fetching the model …');
    try {
      const { TurningScene } = await import('./turning-scene');
      if (this.isGone) return;
      this.scene ??= new TurningScene(canvas);
      await this.scene.show(address);
      this.words.set('');
    } catch {
      this.words.set('The model cannot be shown here. The picture and the sheet show the whole sign.');
    }
  }
}
