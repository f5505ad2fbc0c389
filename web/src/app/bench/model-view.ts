import {
  ChangeDetectionStrategy,
  Component,
  effect,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import type { ModelView } from '../relief/views';
import type { ModelScene, ViewName } from './model-scene';

const NAMES: readonly ViewName[] = ['three-quarter', 'front', 'left', 'right', 'below', 'back'];

/** The turnable model; its three-dimensional part is loaded when it is first shown. */
@Component({
  selector: 'pr-model-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas #canvas tabindex="0" aria-label="Model of the sign: drag to turn, wheel to come nearer"></canvas>
    @if (trouble()) {
      <p class="say" role="alert">{{ trouble() }}</p>
    } @else if (!model()) {
      <p class="say" role="status">Building the model …</p>
    }
    <div class="views" role="group" aria-label="Look from">
      @for (name of names; track name) {
        <button type="button" (click)="look(name)">{{ name }}</button>
      }
      <button type="button" class="light" (click)="turnLight()">light from the {{ light() }}</button>
    </div>
  `,
  styleUrl: './model-view.scss',
})
export class ModelViewer implements OnDestroy {
  readonly model = input<ModelView>();
  readonly isInFinishes = input(false);
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly names = NAMES;
  protected readonly trouble = signal('');
  protected readonly light = signal<'left' | 'right'>('left');
  private readonly scene = signal<ModelScene | undefined>(undefined);
  private readonly observer = new ResizeObserver(([{ contentRect }]) =>
    this.scene()?.resize(contentRect.width, contentRect.height),
  );

  constructor() {
    effect(() => {
      const [scene, model] = [this.scene(), this.model()];
      if (scene && model) scene.show(model, this.isInFinishes());
    });
    effect((onCleanup) => {
      const canvas = this.canvas().nativeElement;
      let isGone = false;
      onCleanup(() => (isGone = true));
      import('./model-scene')
        .then(({ ModelScene }) => {
          if (isGone) return;
          const scene = new ModelScene(canvas);
          const { clientWidth, clientHeight } = this.host.nativeElement;
          scene.resize(clientWidth, clientHeight);
          this.scene.set(scene);
          this.observer.observe(this.host.nativeElement);
        })
        .catch(() =>
          this.trouble.set('This browser cannot show the model (it has no WebGL). Plan and section are complete without it.'),
        );
    });
  }

  ngOnDestroy(): void {
    this.observer.disconnect();
    this.scene()?.dispose();
  }

  protected look(name: ViewName): void {
    this.scene()?.look(name);
  }

  protected turnLight(): void {
    this.light.set(this.light() === 'left' ? 'right' : 'left');
    this.scene()?.lightFrom(this.light());
  }
}
