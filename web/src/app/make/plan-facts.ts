import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { Clearance, KeptPlan } from '@plain-relief/api';
import { troubleOf } from '@plain-relief/core/dry-run';
import { LineField } from '../fields/line-field';
import { minutesWords } from './cut-settings';
import { toolColour } from './film-desk';

const PURPOSES: Readonly<Record<string, string>> = {
  clear: 'Clear',
  rest: 'Clear the rest',
  engrave: 'Engrave',
  slope: 'Finish slopes',
  vee: 'Cut with the vee',
  window: 'Clear windows',
  'cut out': 'Cut out',
};

/** What is known of a plan: whether it is proven, its cuts, what is left, its programs, time and cost. */
@Component({
  selector: 'pr-plan-facts',
  imports: [LineField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-facts.html',
  styleUrl: './plan-facts.scss',
})
export class PlanFacts {
  readonly plan = input.required<KeptPlan>();
  readonly clearance = input<Clearance>();
  /** Whether the one who looks may let out what is not proven or not approved. */
  readonly mayOverride = input(false);
  readonly chosen = model<number>();
  readonly released = output<string | undefined>();
  protected readonly reason = model('');
  protected readonly minutes = minutesWords;

  protected readonly outcome = computed(() => this.plan().outcome!);
  protected readonly trouble = computed(() => troubleOf(this.outcome().run));
  protected readonly cuts = computed(() => {
    const { cuts, files, zero } = this.outcome();
    const tools = [...new Set(files.map(({ tool }) => tool.number))];
    return cuts.map((cut, index) => ({
      ...cut,
      index,
      words: PURPOSES[cut.purpose] ?? cut.purpose,
      colour: toolColour(tools.indexOf(cut.tool)),
      depths: `${(cut.from - zero.z).toFixed(2)} to ${(cut.to - zero.z).toFixed(2)} mm`,
      feedWords: `${cut.feeds.speed}/min (${cut.feeds.speedBy}), ${cut.feeds.feed} mm/min (${cut.feeds.feedBy}), down ${cut.feeds.plunge} (${cut.feeds.plungeBy}), ${cut.depthPerPass.toFixed(2)} mm a pass`,
    }));
  });
  /** What is left, by why. */
  protected readonly left = computed(() => {
    const found = new Map<string, { areaMm2: number; volumeMm3: number; deepestMm: number; places: number }>();
    for (const { reason, areaMm2, volumeMm3, deepestMm } of this.outcome().left) {
      const sum = found.get(reason) ?? { areaMm2: 0, volumeMm3: 0, deepestMm: 0, places: 0 };
      found.set(reason, {
        areaMm2: sum.areaMm2 + areaMm2,
        volumeMm3: sum.volumeMm3 + volumeMm3,
        deepestMm: Math.max(sum.deepestMm, deepestMm),
        places: sum.places + 1,
      });
    }
    return [...found].map(([reason, sums]) => ({ reason, ...sums }));
  });
  protected readonly airShare = computed(() =>
    Math.round((100 * this.outcome().airMinutes) / Math.max(1e-9, this.outcome().minutes)),
  );
  protected readonly isFree = computed(() => this.trouble() === '' && this.clearance()?.isCleared === true);

  protected choose(index: number): void {
    this.chosen.set(this.chosen() === index ? undefined : index);
  }

  protected letOut(): void {
    this.released.emit(this.isFree() ? undefined : this.reason().trim() || undefined);
  }
}
