import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { radians } from '@plain-relief/core/geometry';
import { type BlockFace, faceNear } from '@plain-relief/core/sign';
import { NumberField } from '../../fields/number-field';
import type { ModelView, SectionView } from '../../relief/views';
import type { ObjectView, TouchedObject } from '../context/context.service';
import type { ModelScene, ViewName } from './model-scene';

/** Pixels by which the pointer may move in a click. */
const STILL = 4;

const NAMES: readonly ViewName[] = ['three-quarter', 'front', 'left', 'right', 'below', 'back'];
const NAMES_OF_BLOCKS: readonly ViewName[] = ['corner', 'above', 'below'];

/** The turnable model; its three-dimensional part is loaded when it is first shown. */
@Component({
  selector: 'pr-model-view',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <canvas
      #canvas
      tabindex="0"
      aria-label="Model of the sign: drag to turn, wheel to come nearer"
      (dblclick)="touch($event)"
      (pointerdown)="pressed = [$event.clientX, $event.clientY]"
      (click)="touchObject($event)"
      [title]="faces().length > 0 ? 'Double-click a face to work on it' : ''"
    ></canvas>
    @if (trouble()) {
      <p class="say" role="alert">{{ trouble() }}</p>
    } @else if (!model()) {
      <p class="say" role="status">Building the model …</p>
    }
    <div class="views" role="group" aria-label="Look from">
      @if (faces().length > 0) {
        <select #faceField aria-label="Face looked at" (change)="faceChosen.emit(faceField.value)">
          <option value="" [selected]="!face()">a face …</option>
          @for (each of faces(); track each.id) {
            <option [value]="each.id" [selected]="each.id === face()">{{ each.name }}</option>
          }
        </select>
      }
      @for (name of names(); track name) {
        <button type="button" (click)="look(name)">{{ name }}</button>
      }
      @if (isBent() && faces().length === 0) {
        <pr-number-field
          [value]="round()"
          suffix="° round"
          label="degrees round that it is looked at from"
          [min]="-360"
          [max]="360"
          (changed)="lookRound($event)"
        />
      }
      @if (object()) {
        <button type="button" (click)="scene()?.lookAtObject()" title="All of the object that the sign is for">
          whole object
        </button>
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
  /** The faces of a block, and the one that is looked at. */
  readonly faces = input<readonly BlockFace[]>([]);
  readonly face = input('');
  readonly faceChosen = output<string>();
  /** The object that the sign is for. */
  readonly object = input<ObjectView>();
  readonly objectTouched = output<TouchedObject>();
  protected pressed: readonly [number, number] = [0, 0];
  /** Of its pictures. */
  readonly title = input('sign');
  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly names = computed(() => (this.faces().length > 0 ? NAMES_OF_BLOCKS : NAMES));
  protected readonly trouble = signal('');
  protected readonly isStraight = signal(false);
  /** Where it was looked at from last, in degrees round from its front to the right. */
  protected readonly round = signal(0);
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
    effect(() => {
      const on = this.faces().find(({ id }) => id === this.face());
      const [scene] = [this.scene(), this.model()];
      // From a little above, as far as it is not looked at from above or below already.
      if (scene && on) scene.look(on.isSide ? [on.out[0], 0.12, on.out[2]] : [on.out[0], on.out[1], on.out[2] + 0.02]);
    });
    effect(() => this.scene()?.showObject(this.object()));
    effect(() => this.scene()?.cutOpen(this.isOpen() && !this.isBent() ? this.section() : undefined));
    effect((onCleanup) => {
      const canvas = this.canvas().nativeElement;
      let isGone = false;
      onCleanup(() => (isGone = true));
      import('./model-scene')
        .then(({ ModelScene }) => {
          if (isGone) return;
          const scene = new ModelScene(canvas);
          if (untracked(this.faces).length > 0) scene.first = 'corner';
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

  /** Chooses the face that is pointed at. */
  protected touch(event: MouseEvent): void {
    const place = this.scene()?.placeAt(...this.pointOf(event));
    const face = place && faceNear(this.faces(), place);
    if (face) this.faceChosen.emit(face.id);
  }

  /** Tells which place of the object was clicked, unless the model was turned by that. */
  protected touchObject(event: MouseEvent): void {
    const [x, y] = this.pressed;
    if (!this.object() || Math.hypot(event.clientX - x, event.clientY - y) > STILL) return;
    const hit = this.scene()?.objectAt(...this.pointOf(event));
    if (hit) this.objectTouched.emit({ triangle: hit.triangle, place: hit.place, isAdding: event.shiftKey });
  }

  /** Across and down the canvas, from −1 to 1. */
  private pointOf({ clientX, clientY }: MouseEvent): readonly [number, number] {
    const { left, top, width, height } = this.canvas().nativeElement.getBoundingClientRect();
    return [(2 * (clientX - left)) / width - 1, (2 * (clientY - top)) / height - 1];
  }

  protected look(name: ViewName): void {
    this.scene()?.look(name);
  }

  /** As a drawing shows it from there: level, and without perspective. */
  protected lookRound(degrees: number): void {
    this.round.set(degrees);
    this.scene()?.look([Math.sin(radians(degrees)), 0, Math.cos(radians(degrees))]);
    if (!this.isStraight()) this.project();
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
