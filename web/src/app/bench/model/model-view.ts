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
import { NumberField } from '../../fields/number-field';
import type { ModelView, SectionView } from '../../relief/views';
import type { ModelScene, ViewName } from './model-scene';

const NAMES: readonly ViewName[] = ['three-quarter', 'front', 'left', 'right', 'below', 'back'];

/** The turnable model; its three-dimensional part is loaded when it is first shown. */
@Component({
  selector: 'pr-model-view',
  imports: [NumberField],
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
      <button type="button" class="apart" (click)="turnLight()">light from the {{ light() }}</button>
      <button type="button" [attr.aria-pressed]="isStraight()" (click)="project()">
        {{ isStraight() ? 'straight' : 'in perspective' }}
      </button>
      @if (!isBent()) {
        <button
          type="button"
          [attr.aria-pressed]="isOpen()"
          (click)="isOpen.set(!isOpen())"
          title="Along the cut line of the plan"
        >
          cut open
        </button>
      }
      <button type="button" class="apart" (click)="save()" [disabled]="!scene() || !model()" title="What is seen, as a PNG">
        picture
      </button>
      <pr-number-field
        [value]="pixels()"
        suffix=" px"
        label="width of the picture"
        [min]="100"
        [max]="16000"
        [isWhole]="true"
        (changed)="pixels.set($event)"
      />
    </div>
  `,
  styleUrl: './model-view.scss',
})
export class ModelViewer implements OnDestroy {
  readonly model = input<ModelView>();
  readonly isInFinishes = input(false);
  /** Whether it is bent around something: places of the plan are elsewhere then, and it hangs on no wall. */
  readonly isBent = input(false);
  /** Where it is cut open. */
  readonly section = input<SectionView>();
  /** Places in the plan that are marked, and mm above the face at which they are. */
  readonly found = input<readonly { readonly x: number; readonly y: number }[]>([]);
  readonly foundAt = input<number>();
  /** Of its pictures. */
  readonly title = input('sign');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly names = NAMES;
  protected readonly trouble = signal('');
  protected readonly isStraight = signal(false);
  protected readonly isOpen = signal(false);
  protected readonly pixels = signal(2400);
  protected readonly light = signal<'left' | 'right'>('left');
  protected readonly scene = signal<ModelScene | undefined>(undefined);
  private readonly observer = new ResizeObserver(([{ contentRect }]) =>
    this.scene()?.resize(contentRect.width, contentRect.height),
  );

  constructor() {
    effect(() => {
      const [scene, model] = [this.scene(), this.model()];
      if (scene && model) scene.show(model, this.isInFinishes() ? 'finishes' : 'heights', !this.isBent());
    });
    effect(() => {
      this.model();
      this.scene()?.mark(this.isBent() ? [] : this.found(), this.foundAt());
    });
    effect(() => this.scene()?.cutOpen(this.isOpen() && !this.isBent() ? this.section() : undefined));
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

  protected project(): void {
    this.isStraight.set(!this.isStraight());
    this.scene()?.project(this.isStraight() ? 'straight' : 'perspective');
  }

  /** Hands what is seen to the browser as a file. */
  protected async save(): Promise<void> {
    const scene = this.scene();
    if (!scene) return;
    this.trouble.set('');
    try {
      const address = URL.createObjectURL(await scene.picture(this.pixels()));
      const link = document.createElement('a');
      link.href = address;
      link.download = `${this.title()}.png`;
      link.click();
      setTimeout(() => URL.revokeObjectURL(address), 10_000);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  protected turnLight(): void {
    this.light.set(this.light() === 'left' ? 'right' : 'left');
    this.scene()?.lightFrom(this.light());
  }
}
