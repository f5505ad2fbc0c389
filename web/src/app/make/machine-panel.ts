import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  type OnDestroy,
  output,
  signal,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { KeptPlan, MachineView } from '@plain-relief/api';
import type { MachineCommand } from '@plain-relief/api/states';
import { attempt } from '../platform/attempt';
import type { ApiError } from '../platform/api';
import { clockWords } from './cut-settings';
import { MachineService } from './machine.service';

/** Where the machine is on the film of a plan. */
export interface Followed {
  readonly program: number;
  readonly line: number;
  readonly place: { readonly x: number; readonly y: number; readonly z: number };
}

const STATE_WORDS: Readonly<Record<NonNullable<MachineView['report']>['state'], string>> = {
  idle: 'at rest',
  running: 'running',
  held: 'held',
  tool: 'waits for a tool',
  alarm: 'in alarm',
  off: 'without power',
};
const SPEEDS = [1, 5, 20, 100, 500] as const;

/** The machine at work: what it does, what comes next, and what it can be told. The one that ships is a stand-in, and says so. */
@Component({
  selector: 'pr-machine-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './machine-panel.html',
  styleUrl: './machine-panel.scss',
})
export class MachinePanel implements OnDestroy {
  /** The plan that programs are sent of. */
  readonly plan = input<KeptPlan>();
  /** Seconds that are left of the program, by the estimate. */
  readonly secondsLeft = input<number>();
  readonly followed = output<Followed | undefined>();
  private readonly service = inject(MachineService);
  protected readonly view = toSignal(this.service.view$);
  protected readonly trouble = signal('');
  /** Who has a program in the machine that would be taken out. */
  protected readonly taken = signal<{ readonly file: number; readonly words: string } | undefined>(undefined);
  protected readonly speeds = SPEEDS;
  protected readonly clock = clockWords;

  protected readonly report = computed(() => this.view()?.report);
  protected readonly run = computed(() => this.view()?.run ?? undefined);
  protected readonly stateWords = computed(() => {
    const report = this.report();
    return report ? STATE_WORDS[report.state] : 'not there';
  });
  /** Whether the program that was sent last is of this plan. */
  protected readonly isOurs = computed(() => this.run()?.planId === this.plan()?.id);
  /** The cut of the plan that the line is in, and the one after it. */
  protected readonly now = computed(() => {
    const [plan, run, report] = [this.plan(), this.run(), this.report()];
    if (!plan?.outcome || !run || !this.isOurs()) return undefined;
    const line = report?.job?.line ?? run.line;
    const cuts = plan.outcome.cuts;
    const at = cuts.findIndex(({ file, firstLine, lastLine }) => file === run.file && line >= firstLine && line <= lastLine);
    const words = (index: number): string => {
      const cut = cuts[index];
      return cut ? `${cut.purpose} with ${cut.toolName}` : '';
    };
    const next = at >= 0 ? at + 1 : cuts.findIndex(({ file }) => file === run.file);
    return { line, words: at >= 0 ? words(at) : '', next: words(next), left: this.secondsLeft() };
  });
  protected readonly share = computed(() => {
    const job = this.report()?.job;
    return job ? Math.round((100 * job.line) / Math.max(1, job.lines)) : 0;
  });
  /** The tool that is waited for. */
  protected readonly wanted = computed(() => {
    const { state, why = '' } = this.report() ?? {};
    return state === 'tool' ? Number(/T(\d+)/u.exec(why)?.[1] ?? 0) : undefined;
  });
  /** From which line it is gone on with. */
  protected readonly fromLine = linkedSignal(() => Math.max(1, this.run()?.line ?? 1));
  /** Depth of the tip and of the stock, from the bottom of a gauge to its top. */
  protected readonly gauge = computed(() => {
    const [outcome, report] = [this.plan()?.outcome, this.report()];
    if (!outcome || !report) return undefined;
    const { top, bottom } = outcome.stock;
    const [low, high] = [bottom - 2, outcome.safe + 2];
    const at = (z: number): number => (100 * (Math.min(high, Math.max(low, z)) - low)) / (high - low);
    return { top: at(top), bottom: at(bottom), tip: at(report.place.z + outcome.zero.z), z: report.place.z };
  });

  constructor() {
    this.service.open();
    this.service.view$.subscribe((view) => this.follow(view));
  }

  ngOnDestroy(): void {
    this.service.close();
  }

  protected tell(command: MachineCommand, value?: number): Promise<boolean> {
    return attempt(this.trouble, () => this.service.tell(command, value));
  }

  protected async send(file: number, instead = false): Promise<void> {
    const plan = this.plan();
    if (!plan) return;
    this.taken.set(undefined);
    await attempt(this.trouble, async () => {
      try {
        await this.service.send(plan.id, file, instead);
      } catch (error) {
        const { body, message } = error as ApiError;
        if ((body as { code?: string } | null)?.code !== 'MACHINE_TAKEN') throw error;
        this.taken.set({ file, words: message });
      }
    });
  }

  private follow(view: MachineView | undefined): void {
    const { report, run } = view ?? {};
    const outcome = this.plan()?.outcome;
    const isSeen = report?.job !== undefined && run?.planId === this.plan()?.id && outcome;
    if (!isSeen || !run || !report?.job) return this.followed.emit(undefined);
    const { x, y, z } = report.place;
    const { zero } = outcome;
    this.followed.emit({ program: run.file, line: report.job.line, place: { x: x + zero.x, y: y + zero.y, z: z + zero.z } });
  }
}
