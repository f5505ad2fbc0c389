import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { Clearance, KeptPlan } from '@plain-relief/api';
import { troubleOf } from '@plain-relief/core/dry-run';
import type { ToldLeft } from '@plain-relief/core/making';
import type { ShopTool } from '@plain-relief/core/shop';
import { LineField } from '../fields/line-field';
import { minutesWords } from './cut-settings';
import { toolColour } from './film-desk';

const PURPOSES: Readonly<Record<string, string>> = {
  pins: 'Holes for pins',
  face: 'Face the stock',
  drill: 'Drill',
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
  /** Of the shop, to mend what is left by. */
  readonly tools = input<readonly ShopTool[]>([]);
  /** Id of a tool that is to be taken as well, and the plan laid again. */
  readonly remedied = output<string>();
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
    const found = new Map<string, Omit<ToldLeft, 'region' | 'reason'>>();
    for (const { reason, areaMm2, volumeMm3, deepestMm, needs } of this.outcome().left) {
      const sum = found.get(reason) ?? { areaMm2: 0, volumeMm3: 0, deepestMm: 0 };
      found.set(reason, {
        areaMm2: sum.areaMm2 + areaMm2,
        volumeMm3: sum.volumeMm3 + volumeMm3,
        deepestMm: Math.max(sum.deepestMm, deepestMm),
        needs: needs ?? sum.needs,
      });
    }
    return [...found].map(([reason, sums]) => ({ reason, ...sums, remedy: this.remedy(sums.needs) }));
  });
  protected readonly airShare = computed(() =>
    Math.round((100 * this.outcome().airMinutes) / Math.max(1e-9, this.outcome().minutes)),
  );
  protected readonly isFree = computed(() => this.trouble() === '' && this.clearance()?.isCleared === true);

  protected choose(index: number): void {
    this.chosen.set(this.chosen() === index ? undefined : index);
  }

  /** The largest tool of the shop that fits where one of this diameter does, and was not among those of the plan. */
  private remedy(needs: number | undefined): ShopTool | undefined {
    if (needs === undefined) return undefined;
    const taken = new Set(this.plan().order.tools);
    const width = ({ form }: ShopTool): number => (form.kind === 'point' || form.kind === 'vee' ? form.tip : form.diameter);
    return this.tools()
      .filter((tool) => ['end', 'point', 'vee'].includes(tool.form.kind) && tool.left > 0 && !taken.has(tool.id))
      .filter((tool) => width(tool) > 0 && width(tool) <= needs)
      .sort((a, b) => Number(b.form.kind === 'end') - Number(a.form.kind === 'end') || width(b) - width(a))[0];
  }

  protected letOut(): void {
    this.released.emit(this.isFree() ? undefined : this.reason().trim() || undefined);
  }
}
