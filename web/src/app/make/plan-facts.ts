import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { Clearance, KeptPlan } from '@plain-relief/api';
import { troubleOf } from '@plain-relief/core/dry-run';
import type { SignRemedy, ToldLeft } from '@plain-relief/core/making';
import type { ShopTool } from '@plain-relief/core/shop';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
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
  /** What could be changed of the sign for what is left. */
  readonly mendings = input<readonly SignRemedy[]>([]);
  readonly unit = input<LengthUnit>('mm');
  readonly mended = output<SignRemedy>();
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
    for (const { reason, areaMm2, volumeMm3, deepestMm, needs, needsLength, cause } of this.outcome().left) {
      const sum = found.get(reason) ?? { areaMm2: 0, volumeMm3: 0, deepestMm: 0 };
      found.set(reason, {
        areaMm2: sum.areaMm2 + areaMm2,
        volumeMm3: sum.volumeMm3 + volumeMm3,
        deepestMm: Math.max(sum.deepestMm, deepestMm),
        needs: needs ?? sum.needs,
        needsLength: needsLength ?? sum.needsLength,
        cause,
      });
    }
    return [...found].map(([reason, sums]) => ({ reason, ...sums, remedy: this.remedy(sums) }));
  });
  protected readonly airShare = computed(() =>
    Math.round((100 * this.outcome().airMinutes) / Math.max(1e-9, this.outcome().minutes)),
  );
  protected readonly isFree = computed(() => this.trouble() === '' && this.clearance()?.isCleared === true);

  protected choose(index: number): void {
    this.chosen.set(this.chosen() === index ? undefined : index);
  }

  /** A tool of the shop that was not among those of the plan and helps: one that is longer, a ball, or the largest that fits. */
  private remedy({ needs, needsLength, cause }: Pick<ToldLeft, 'needs' | 'needsLength' | 'cause'>): ShopTool | undefined {
    const taken = new Set(this.plan().order.tools);
    const others = this.tools().filter(({ id, left }) => left > 0 && !taken.has(id));
    if (needsLength !== undefined)
      return others
        .filter(({ form, cuttingLength }) => form.kind === 'end' && cuttingLength >= needsLength)
        .sort((a, b) => a.form.diameter - b.form.diameter)[0];
    if (cause === 'slope') return others.find(({ form }) => form.kind === 'ball' || form.kind === 'taper');
    if (needs === undefined) return undefined;
    const width = ({ form }: ShopTool): number => (form.kind === 'point' || form.kind === 'vee' ? form.tip : form.diameter);
    return others
      .filter((tool) => ['end', 'point', 'vee'].includes(tool.form.kind))
      .filter((tool) => width(tool) > 0 && width(tool) <= needs)
      .sort((a, b) => Number(b.form.kind === 'end') - Number(a.form.kind === 'end') || width(b) - width(a))[0];
  }

  protected mendingWords(remedy: SignRemedy): string {
    const name = `“${remedy.name}”`;
    const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), this.unit());
    if (remedy.kind === 'open up')
      return `Open ${name} up for a tool of ⌀ ${length(remedy.diameter)}: ${length(remedy.grownBy)} longer`;
    const { edge, tool } = remedy;
    if (edge?.kind === 'ridged') return `Carve ${name} as the ${tool} does: a groove of ${edge.angle}°`;
    if (edge?.kind === 'sloped') return `Slope the sides of ${name} by ${edge.angle}°, as the ${tool} cuts them`;
    return `Make the sides of ${name} upright`;
  }

  protected letOut(): void {
    this.released.emit(this.isFree() ? undefined : this.reason().trim() || undefined);
  }
}
