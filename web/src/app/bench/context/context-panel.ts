import type { KeptFile } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { type Fit } from '@plain-relief/core/context';
import { degrees } from '@plain-relief/core/geometry';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { NumberField } from '../../fields/number-field';
import { ContextService } from './context.service';
import type { FitAnswer } from './context.worker';

type Fitted = Extract<FitAnswer, { readonly fit: Fit }>;

/** A fit of fewer numbers is taken as long as it is off by no more than so many times the best, or so many mm. */
const AS_GOOD = 1.5;
const HARDLY = 0.01;
/** mm below which nothing is told more closely. */
const LEAST_TOLD = 0.01;

/** The object that the sign is for: its file, and how the sign is laid on it. */
@Component({
  selector: 'pr-context-panel',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './context-panel.html',
  styleUrl: './context-panel.scss',
})
export class ContextPanel {
  readonly unit = input.required<LengthUnit>();
  protected readonly context = inject(ContextService);
  protected readonly isOpen = signal(false);
  protected readonly files = signal<readonly KeptFile[]>([]);
  protected readonly lies = signal<'back' | 'face'>('back');
  protected readonly units = [
    { mm: 1, name: 'mm' },
    { mm: 10, name: 'cm' },
    { mm: 25.4, name: 'in' },
    { mm: 1000, name: 'm' },
  ];
  protected readonly sizes = computed(() => {
    const object = this.context.object();
    return object ? object.max.map((most, axis) => formatLength(most - object.min[axis], this.unit())).join(' × ') : '';
  });
  /** An STL file does not say; one that could not be read in a unit may be in another. */
  protected readonly isUnitAsked = computed(() => !/\.glb$/iu.test(this.context.context()?.name ?? ''));
  protected readonly answers = computed((): readonly FitAnswer[] => this.context.face()?.answers ?? []);
  /** What the sign is laid on, where nobody says: the simplest that comes about as near as the best. */
  protected readonly kind = linkedSignal(() => {
    const fits = this.answers().filter((answer): answer is Fitted => 'fit' in answer);
    const least = Math.min(...fits.map(({ fit }) => fit.rms));
    return fits.find(({ fit }) => fit.rms <= Math.max(AS_GOOD * least, HARDLY))?.kind;
  });

  protected async open(): Promise<void> {
    this.isOpen.set(!this.isOpen());
    if (!this.isOpen()) return;
    try {
      this.files.set(await this.context.files());
    } catch (error) {
      this.context.trouble.set((error as Error).message);
    }
  }

  protected async take(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (file) await this.context.take(file);
  }

  protected setUnit(field: HTMLSelectElement): void {
    this.context.setUnit(Number(field.value));
  }

  /** What was fitted in words, with how far it is off. */
  protected wordsOf(answer: FitAnswer): string {
    if ('refusal' in answer) return answer.refusal;
    const { fit } = answer;
    const shown = (mm: number): string =>
      mm < LEAST_TOLD ? `less than ${formatLength(LEAST_TOLD, this.unit())}` : formatLength(mm, this.unit());
    const off = `, off by ${shown(fit.rms)}, at most ${shown(fit.most)}`;
    if (fit.kind === 'plane') return `a plane${off}`;
    if (fit.kind === 'cylinder') return `a cylinder of radius ${shown(fit.radius)}, seen from ${fit.facing}${off}`;
    const leaning = degrees(Math.atan(Math.abs(fit.slope))).toFixed(2);
    return `a cone of radius ${shown(fit.radius)} there, ${leaning}° to its axis, seen from ${fit.facing}${off}`;
  }

  protected lay(): void {
    const answer = this.answers().find(({ kind }) => kind === this.kind());
    if (!answer || !('fit' in answer)) return;
    try {
      this.context.trouble.set('');
      this.context.lay(answer.fit, this.lies(), answer.height);
      this.isOpen.set(false);
    } catch (error) {
      this.context.trouble.set((error as Error).message);
    }
  }
}
