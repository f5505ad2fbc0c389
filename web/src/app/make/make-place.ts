import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { NgbProgressbar } from '@ng-bootstrap/ng-bootstrap/progressbar';
import type { Clearance, KeptPlan } from '@plain-relief/api';
import type { TabPlace } from '@plain-relief/core/cutting';
import type { SignRemedy } from '@plain-relief/core/making';
import { followsPrograms, rotaryOf } from '@plain-relief/core/shop';
import type { Shop } from '@plain-relief/core/shop';
import { type BlockFace, layingWords, type Sign, type SignOption, type Side } from '@plain-relief/core/sign';
import type { LengthUnit } from '@plain-relief/core/units';
import { OutputPanel } from '../bench/output/output-panel';
import { attempt } from '../platform/attempt';
import { ReliefService } from '../relief/relief.service';
import { SessionService } from '../session/session.service';
import { LibraryService } from '../shop/library.service';
import { isUnderWay } from '../tasks/tasks.service';
import { type CutSettings, isBehind, minutesWords, orderOf, settingsOf, stillThere, USUAL_SETTINGS } from './cut-settings';
import { type Followed, MachinePanel } from './machine-panel';
import { MachineService } from './machine.service';
import { MakeSetup } from './make-setup';
import { PlanFacts } from './plan-facts';
import { PlanFilm } from './plan-film';
import { PlansService } from './plans.service';

/** Where a sign is made: what it is cut with, the plan and its dry run, programs and cost; and files of other kinds. */
@Component({
  selector: 'pr-make-place',
  imports: [MachinePanel, MakeSetup, NgbProgressbar, OutputPanel, PlanFacts, PlanFilm, RouterLink],
  providers: [MachineService, PlansService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './make-place.html',
  styleUrls: ['../shell/switch.scss', './make-place.scss'],
})
export class MakePlace implements OnDestroy {
  readonly signId = input.required<string>();
  readonly jobId = input.required<string>();
  readonly revision = input.required<number>();
  readonly unit = input.required<LengthUnit>();
  readonly side = input.required<Side>();
  /** Whether anything is made on the back. */
  readonly hasBack = input(false);
  readonly turned = output<Side>();
  /** Back to the ticket. */
  readonly closed = output();
  /** Saves what is not saved yet, so that the plan is of what is seen. */
  readonly beforeAsking = input.required<() => Promise<void>>();
  readonly options = input<readonly SignOption[]>([]);
  readonly option = input<string>();
  readonly hasInserts = input(false);
  /** The faces of a block, which are cut one by one. */
  readonly faces = input<readonly BlockFace[]>([]);
  protected readonly face = signal('');
  protected readonly faceCut = computed(() => this.faces().find(({ id }) => id === this.face()) ?? this.faces().at(0));
  /** What the sign is bent around. */
  readonly support = input<Sign['support']>();
  /** What a plan of cuts is of, where the sign is bent. */
  protected readonly bentWords = computed(() => {
    const [support, face] = [this.support(), this.faceCut()];
    if (!support) return '';
    if (face)
      return `A block is cut face by face, and is there as a whole before: it lies with its ${layingWords(this.faces(), face)}. Of what is cut through, holes that fit a drill are drilled; the rest is left to be sawn.`;
    const machine = this.shop()?.machines.find(({ id }) => id === this.settings()?.machine);
    const rotary = machine && rotaryOf({ support }, machine);
    if (rotary)
      return `The machine turns the piece about its ${rotary.along.toUpperCase()} axis: programs have A, in degrees, for what goes round, and heights are 0 at the face.`;
    return support.kind === 'bent'
      ? 'The sheet is cut flat, and bent afterwards: outlines have the lines of its bends on a layer of their own.'
      : 'Cuts are those of the plan laid flat, at its true size: for letters that are cut flat and bent on, or for a machine that turns the piece by arc lengths.';
  });

  private readonly library = inject(LibraryService);
  private readonly relief = inject(ReliefService);
  private readonly service = inject(PlansService);
  protected readonly isLooking = inject(SessionService).isMaker;
  private readonly kept = toSignal(this.library.library$);
  protected readonly shop = computed(() => this.kept()?.library);
  protected readonly plans = toSignal(this.service.plans$);
  private readonly view = toSignal(this.relief.view$);
  protected readonly settings = signal<CutSettings | undefined>(undefined);
  protected readonly trouble = signal('');
  /** What is shown: cuts for a machine, or files that another program takes. */
  protected readonly showing = signal<'cuts' | 'machine' | 'files'>('cuts');
  private readonly picked = signal<string | undefined>(undefined);
  private readonly planId = computed(() => this.plan()?.id);
  protected readonly chosenCut = signal<number | undefined>(undefined);
  /** Where the machine is, and the seconds that it has to go. */
  protected readonly followed = signal<Followed | undefined>(undefined);
  protected readonly secondsLeft = signal<number | undefined>(undefined);
  protected readonly clearance = signal<Clearance | undefined>(undefined);
  /** The plan that is looked at: the one that was picked, else the newest that is done. */
  protected readonly plan = computed(() => {
    const plans = this.plans() ?? [];
    const made = plans.filter(({ outcome }) => outcome !== null);
    const ofFace = made.find(({ order }) => order.face === this.faceCut()?.id);
    return plans.find(({ id }) => id === this.picked()) ?? ofFace ?? made.at(0);
  });
  /** The newest, where it is not done. */
  protected readonly pending = computed(() => {
    const newest = this.plans()?.[0];
    return newest && newest.state !== 'done' ? newest : undefined;
  });
  protected readonly isBusy = computed(() => this.pending() !== undefined && isUnderWay(this.pending()!));
  protected readonly behind = computed(() => {
    const plan = this.plan();
    return plan
      ? isBehind(plan, { revision: this.revision(), option: this.option(), side: this.side(), face: this.faceCut()?.id })
      : '';
  });
  /** What could be changed of the sign for what the plan leaves: of the very sign that it is of. */
  protected readonly mendings = signal<readonly SignRemedy[]>([]);
  readonly mended = output<SignRemedy>();
  /** The sign was changed for what this plan leaves: what else could be changed is told of the next one. */
  private mendedPlan = '';
  protected readonly done = computed(() => (this.plans() ?? []).filter(({ outcome }) => outcome !== null));
  /** What keeps anything from being planned at all. */
  protected readonly lacks = computed(() => {
    const shop = this.shop();
    if (!shop) return '';
    const missing = [
      shop.machines.some(followsPrograms) ? '' : 'a router or an engraver',
      shop.materials.length > 0 ? '' : 'materials',
      shop.tools.length > 0 ? '' : 'tools',
    ].filter((words) => words !== '');
    return missing.join(' and ');
  });
  protected readonly isUnderWay = isUnderWay;
  /** Whether tabs were moved since the plan was asked for. */
  protected readonly hasMoved = signal(false);

  constructor() {
    effect(() => {
      const id = this.signId();
      untracked(() => void attempt(this.trouble, () => this.service.open(id)));
    });
    void attempt(this.trouble, () => this.library.load());
    effect(() => {
      const [shop, plans, view] = [this.shop(), this.plans(), this.view()];
      if (shop && plans && view && untracked(this.settings) === undefined) void untracked(() => this.begin());
    });
    effect(() => {
      const [plan, shop, view, behind] = [this.plan(), this.shop(), this.view(), this.behind()];
      untracked(() => {
        this.mendings.set([]);
        if (!plan?.outcome || !shop || !view || behind !== '' || this.isLooking || plan.id === this.mendedPlan) return;
        void attempt(this.trouble, () => this.seekMendings(plan, shop));
      });
    });
    effect(() => {
      // Of another plan: the same one told once more keeps the cut that is looked at.
      this.planId();
      this.revision();
      untracked(() => this.chosenCut.set(undefined));
    });
    effect(() => {
      const plan = this.plan();
      this.revision();
      untracked(() => {
        this.clearance.set(undefined);
        if (plan) void this.askClearance(plan.id);
      });
    });
  }

  protected mend(remedy: SignRemedy): void {
    this.mendedPlan = this.plan()?.id ?? '';
    this.mendings.set([]);
    this.mended.emit(remedy);
  }

  private async seekMendings(plan: KeptPlan, shop: Shop): Promise<void> {
    const { turning } = settingsOf(plan.order);
    const left = plan.outcome!.left.map(({ cause, region }) => ({ cause, region }));
    const tools = shop.tools.filter(({ id }) => plan.order.tools.includes(id));
    const found = await this.relief.signRemedies(left, tools, turning);
    if (this.plan()?.id === plan.id) this.mendings.set(found);
  }

  ngOnDestroy(): void {
    this.service.close();
  }

  protected pick(id: string): void {
    this.picked.set(id);
  }

  protected words(plan: KeptPlan): string {
    const at = new Date(plan.askedAt).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' });
    return `revision ${plan.revision}, ${at}, ${minutesWords(plan.outcome?.minutes ?? 0)}${plan.released ? ', let out' : ''}`;
  }

  protected async ask(): Promise<void> {
    const settings = this.settings();
    if (!settings) return;
    await attempt(this.trouble, async () => {
      await this.beforeAsking()();
      const { turning, ...rest } = settings;
      const order = orderOf(
        turning && this.hasBack() ? { ...rest, turning } : rest,
        this.side(),
        this.option(),
        this.faceCut()?.id,
      );
      await this.service.ask(order);
      this.hasMoved.set(false);
      this.picked.set(undefined);
    });
  }

  /** With the very tools and material of the plan that is looked at. */
  protected async again(): Promise<void> {
    const plan = this.plan();
    if (!plan) return;
    await attempt(this.trouble, async () => {
      await this.beforeAsking()();
      await this.service.again(plan.id);
      this.picked.set(undefined);
    });
  }

  /** Ticks a tool besides those of the settings, and plans again. */
  protected async takeAsWell(tool: string): Promise<void> {
    this.settings.update((settings) => settings && { ...settings, tools: [...new Set([...settings.tools, tool])] });
    await this.ask();
  }

  /** Where tabs are from now on: they are cut when the plan is laid again. */
  protected moveTabs(at: readonly TabPlace[]): void {
    this.settings.update((settings) => settings && { ...settings, tabsAt: at });
    this.hasMoved.set(true);
  }

  protected async spreadTabs(): Promise<void> {
    this.settings.update((settings) => settings && { ...settings, tabsAt: undefined });
    await this.ask();
  }

  protected async stop(plan: KeptPlan): Promise<void> {
    await attempt(this.trouble, () => this.service.stop(plan));
  }

  protected async release(override: string | undefined): Promise<void> {
    const plan = this.plan();
    if (plan) await attempt(this.trouble, () => this.service.release(plan.id, override));
  }

  private async askClearance(id: string): Promise<void> {
    await attempt(this.trouble, async () => {
      const state = await this.service.clearance(id);
      if (this.plan()?.id === id) this.clearance.set(state);
    });
  }

  /** Begins with what the last plan was asked for with, else with what is proposed. */
  private async begin(): Promise<void> {
    const shop = this.shop()!;
    const last = this.plans()!.find(({ order }) => order.side === this.side());
    const before = last && stillThere(settingsOf(last.order), shop);
    if (before) return this.settings.set(before);
    const proposed = await this.relief.proposals(shop);
    const machine = proposed?.machine ?? shop.machines[0]?.id;
    const material = proposed?.material ?? shop.materials[0]?.id;
    if (machine === undefined || material === undefined) return;
    // Both sides are cut from one stock, turned in one way.
    const [other] = this.plans()!.flatMap(({ order }) => stillThere(settingsOf(order), shop) ?? []);
    const { turning, stockThickness } = other ?? {};
    this.settings.set({
      ...USUAL_SETTINGS,
      machine: other?.machine ?? machine,
      material: other?.material ?? material,
      tools: proposed?.tools ?? [],
      ...(turning && { turning }),
      ...(stockThickness !== undefined && { stockThickness }),
    });
  }
}
