import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  type OnDestroy,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import { NgbDropdownModule } from '@ng-bootstrap/ng-bootstrap/dropdown';
import { densityIn } from '@plain-relief/core/shop';
import { type Box, joinBoxes } from '@plain-relief/core/geometry';
import {
  boxAround,
  facesOf,
  factorsToSize,
  hasBack,
  hasInserts,
  hasSize,
  moveToDistance,
  sectionAt,
  type SectionLine,
  sideOf,
  type Topic,
} from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { ReliefService } from '../relief/relief.service';
import type { SectionView } from '../relief/views';
import { ArtworkPanel, type LaidPicture, type TakenArtwork } from '../artwork/artwork-panel';
import { MakePlace } from '../make/make-place';
import { SessionService } from '../session/session.service';
import { Masthead } from '../shell/masthead';
import { ShopService } from '../shop/shop.service';
import type { Arranging } from './plan/arrange-strip';
import { Arranger } from './plan/arranger';
import { arrowOf, nudgeLength } from './plan/arrow-keys';
import { BriefPanel } from './ticket/brief-panel';
import { CheckPanel } from './ticket/check-panel';
import { ContextPanel } from './context/context-panel';
import { ContextService } from './context/context.service';
import { Clipboard } from './document/clipboard';
import { Earlier } from './document/earlier';
import { Resizer } from './document/resizer';
import { BrailleService } from './braille.service';
import { Measurements } from './measurements';
import { Notices } from '../platform/notices';
import { facts } from './facts';
import { Help } from '../help/help';
import { Tour } from '../help/tour';
import { Ladder } from './ladder/ladder';
import { ModelViewer } from './model/model-view';
import { NotesList } from './ticket/notes-list';
import { OptionsStrip } from './ticket/options-strip';
import { PlateStrip } from './ticket/plate-strip';
import { OutputPanel } from './output/output-panel';
import type { TypedDimension } from './plan/plan-dimensions';
import { PictureOfRelief } from './plan/picture-of-relief';
import { PLAN_PAINTS, type PlanPaint } from './plan/plan-paints';
import { type PartStretch, type PlanMode, PlanViewer } from './plan/plan-view';
import { ProofChoices } from './output/proof-choices';
import { Remedies } from './ticket/remedies';
import { SaveMark } from './document/save-mark';
import { SectionViewer } from './section/section-view';
import type { AddedShape } from './document/added-shape';
import { askedPlate, type AskedPlate } from './document/plate-of-run';
import { SignStore } from './document/sign-store';
import { LastSteps, type StepName, STEPS_OF_PLATE, stepsOf } from './steps';
import { TasksService } from '../tasks/tasks.service';
import { CustomerPins } from './plan/customer-pins';
import { TicketPanel } from './ticket/ticket-panel';
import { TicketText } from './ticket/ticket-text';
import { LibraryService } from '../shop/library.service';
import { oneOf } from '../platform/one-of';
import { isTypedInto } from '../platform/typed-into';
import { SlotWords } from '../fields/slot-words';

type Panel = 'ticket' | 'brief' | 'notes' | 'proof' | 'make' | 'artwork';
type Showing = 'plan' | 'model' | 'both';

const PANELS: Readonly<Record<StepName, Panel>> = {
  Brief: 'brief',
  Layout: 'ticket',
  Heights: 'ticket',
  Check: 'notes',
  Proof: 'proof',
  Make: 'make',
};

@Component({
  selector: 'pr-bench-page',
  imports: [
    RouterLink,
    NgbDropdownModule,
    Masthead,
    ArtworkPanel,
    BriefPanel,
    CheckPanel,
    ContextPanel,
    Ladder,
    ModelViewer,
    NotesList,
    OptionsStrip,
    PlateStrip,
    MakePlace,
    OutputPanel,
    PlanViewer,
    SaveMark,
    SectionViewer,
    TicketPanel,
    TicketText,
    SlotWords,
  ],
  providers: [
    SignStore,
    Resizer,
    Earlier,
    BrailleService,
    Measurements,
    ProofChoices,
    Remedies,
    TasksService,
    Arranger,
    PictureOfRelief,
    CustomerPins,
    ContextService,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-page.html',
  styleUrls: ['../shell/switch.scss', './bench-page.scss'],
  host: { '(window:keydown)': 'key($event)', '(window:beforeunload)': 'store.flush()' },
})
export class BenchPage implements OnDestroy {
  /** From the address, with a run and the id of a row of it where its plate is to be shown in the place of the sign. */
  readonly id = input.required<string>();
  readonly run = input<string>();
  readonly row = input<string>();
  private readonly askedPlate = computed(() => askedPlate(this.run(), this.row()));
  protected readonly store = inject(SignStore);
  protected readonly choices = inject(ProofChoices);
  protected readonly resizer = inject(Resizer);
  protected readonly earlier = inject(Earlier);
  private readonly notices = inject(Notices);
  protected readonly help = inject(Help);
  private readonly tour = inject(Tour);
  protected readonly remedies = inject(Remedies);
  protected readonly context = inject(ContextService);
  protected readonly braille = inject(BrailleService);
  private readonly relief = inject(ReliefService);
  private readonly tasks = inject(TasksService);
  private readonly arranger = inject(Arranger);
  private readonly clipboard = inject(Clipboard);
  private readonly title = inject(Title);
  private readonly customerPins = inject(CustomerPins);
  protected readonly pins = this.customerPins.pins;
  private readonly planViewer = viewChild(PlanViewer);
  private readonly ticketPanel = viewChild(TicketPanel);
  private readonly lastSteps = inject(LastSteps);

  protected readonly state = toSignal(this.store.state$);
  protected readonly view = toSignal(this.relief.view$);
  protected readonly model = toSignal(this.relief.model$);
  private readonly isBusy = toSignal(this.relief.busy$, { initialValue: false });
  private readonly taskList = toSignal(this.tasks.tasks$, { initialValue: [] });
  protected readonly trouble = toSignal(this.relief.trouble$);
  protected readonly fonts = signal<readonly FontEntry[]>([]);
  private readonly shop = inject(ShopService);
  private readonly shopState = toSignal(this.shop.state$, { requireSync: true });
  /** How large one copy of each part is, where it is seen. */
  protected readonly extents = computed(
    () => new Map((this.view()?.plan.parts ?? []).flatMap(({ id, extent }) => (extent ? [[id, extent]] : []))),
  );
  protected readonly shopFinishes = computed(() => this.shopState().finishes);
  private readonly isMaker = inject(SessionService).isMaker;
  /** Makers look, and so does who is shown a plate of a run; they change nothing. */
  protected readonly isLooking = computed(() => this.isMaker || this.state()?.plate !== undefined);
  protected readonly hasInserts = hasInserts;
  protected readonly faces = computed(() => facesOf(this.state()?.sign.support));
  protected readonly hasBack = hasBack;
  protected readonly error = signal('');
  /** The step of the job that the panel beside the plan is about. */
  protected readonly step = signal<StepName>('Layout');
  /** What the ticket speaks of, also when it is come back to. */
  protected readonly topic = linkedSignal<StepName, Topic>({
    source: this.step,
    computation: (step, before) => (step === 'Heights' ? 'heights' : step === 'Layout' ? 'layout' : (before?.value ?? 'layout')),
  });
  /** Artwork is read in the ticket's place. */
  protected readonly isReadingArtwork = signal(false);
  protected readonly panel = computed((): Panel => (this.isReadingArtwork() ? 'artwork' : PANELS[this.step()]));
  protected readonly showing = signal<Showing>('plan');
  protected readonly liveSection = signal<SectionView | undefined>(undefined);
  protected readonly section = computed(() => this.liveSection() ?? this.view()?.section);
  protected readonly namedSection = computed(() => {
    const sign = this.state()?.sign;
    return this.liveSection() || !sign ? undefined : sectionAt(sign, sign.section);
  });
  protected readonly mode = signal<PlanMode>('choose');
  protected readonly chosenParts = computed(() => {
    const { sign, chosen = [] } = this.state() ?? {};
    return chosen.flatMap((id) => sign?.parts.find((part) => part.id === id) ?? []);
  });
  protected readonly steps = computed(() => {
    const [state, findings] = [this.state(), this.measurements.findingCount()];
    const notes = this.view()?.notes ?? [];
    const steps = state ? stepsOf(state.sign, notes, this.taskList(), state.save.revision, state.proof, findings) : [];
    return state?.plate ? steps.filter(({ name }) => STEPS_OF_PLATE.has(name)) : steps;
  });
  protected readonly facts = computed(() => {
    const [state, view] = [this.state(), this.view()];
    if (!state || !view) return [];
    const { unit, blank } = state.sign;
    return facts(view.facts, unit, blank.material, this.measurements.figures()?.figures, this.densityOf());
  });
  /** What stands there is of before, and is being worked out anew. */
  protected readonly areFactsOld = computed(() => this.isBusy() || this.measurements.figures()?.view !== this.view());
  protected readonly areGapsOld = computed(() => this.isBusy() || this.measurements.isReadingGaps());
  protected readonly paints = PLAN_PAINTS;
  protected readonly paint = signal<PlanPaint>('heights');
  protected readonly measurements = inject(Measurements);
  private readonly library = inject(LibraryService);
  private readonly kept = toSignal(this.library.library$);
  /** Names of the shop's materials. */
  protected readonly materials = computed(() => (this.kept()?.library.materials ?? []).map(({ name }) => name));
  private readonly densityOf = computed(() => densityIn({ materials: this.kept()?.library.materials ?? [] }));
  protected readonly gaps = this.measurements.gaps;
  private readonly lit = inject(PictureOfRelief);
  protected readonly picture = this.lit.address;
  protected readonly saved = (): Promise<void> => this.store.saved();

  constructor() {
    effect(() => void this.open(this.id(), this.askedPlate()));
    effect(() => untracked(this.askedPlate) || this.lastSteps.keep(untracked(this.id), this.step()));
    effect(() => this.help.step.set(this.step()));
    this.tour.isPossible.set(true);
    effect(() => this.measurements.isChecking.set(this.panel() === 'notes'));
    effect(() => this.relief.keepModel(this.showing() !== 'plan'));
    effect(() => {
      const state = this.state();
      if (state) this.title.setTitle(`${state.sign.title} · Plain Relief`);
    });
    // A new evaluation brings its own section.
    effect(() => {
      this.view();
      this.liveSection.set(undefined);
    });
    effect(() => {
      if (this.paint() === 'relief' && !this.isBusy() && this.view()) void this.lit.draw();
    });
    void this.shop.load();
    // Without the shop's lists a sign weighs what is typical of its material.
    this.library.load().catch(() => undefined);
    this.relief
      .fonts()
      .then((fonts) => this.fonts.set(fonts))
      .catch((error: Error) => this.error.set(error.message));
  }

  ngOnDestroy(): void {
    this.tasks.close();
    this.help.step.set(undefined);
    this.tour.isPossible.set(false);
    this.relief.keepModel(false);
  }

  private async open(id: string, asked?: AskedPlate): Promise<void> {
    this.error.set('');
    this.step.set(asked ? 'Layout' : this.lastSteps.of(id));
    try {
      await this.store.open(id, asked);
      if (this.state()?.restored)
        this.notices.say('What was typed here before and not saved was found in this browser and taken up.');
      if (!this.isLooking()) this.tour.offer();
      await this.tasks.open(id);
      const job = this.state()?.job;
      // Without them the bench is what it is.
      if (job) await this.customerPins.open(job.id, id).catch(() => undefined);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  /** Spaces a text out until a tool fits between its letters, and says by how much it grew. */
  protected async openUp(part: string, diameter: number): Promise<void> {
    this.notices.say(await this.arranger.openUp(part, diameter));
  }

  /** A shape; of a free outline the points are worked on at once. */
  protected addShape(kind: AddedShape): void {
    this.store.addShape(kind);
    if (kind === 'outline') this.mode.set('points');
  }

  /** A part whose order is entered; what is chosen with it stays so. */
  protected pickFromTicket(part: string | undefined): void {
    if (part === undefined) this.pick(undefined);
    else if (!this.state()?.chosen.includes(part)) this.pick(part);
    else if (this.state()?.selected !== part)
      this.store.choose([...(this.state()?.chosen ?? []).filter((id) => id !== part), part]);
  }

  /** Does something with what is chosen, and says why where it cannot be done. */
  protected async arrange(asked: Arranging): Promise<void> {
    if (asked.kind === 'points') return this.mode.set('points');
    const refusal = await this.arranger.do(asked);
    this.notices.say(refusal ?? '');
  }

  /** A distance or a size that was typed at a dimension line of what is chosen. */
  protected typed({ what, mm }: TypedDimension): void {
    const plan = this.relief.latest?.plan;
    const parts = this.chosenParts();
    const boxes = plan?.parts.filter(({ id }) => parts.some((part) => part.id === id)) ?? [];
    const box = boxes.map(({ ink }) => ink).reduce<Box | undefined>(joinBoxes, undefined);
    if (!plan || !box) return;
    if (what !== 'width' && what !== 'height') {
      const { dx, dy } = moveToDistance(box, boxAround(this.state()?.sign.support, plan.blank, box), what, mm);
      this.store.place(parts.map(({ id, place }) => ({ id, x: place.x + dx, y: place.y + dy })));
      return;
    }
    const [part] = parts;
    if (parts.length > 1) {
      const factor = mm / (what === 'width' ? box.maxX - box.minX : box.maxY - box.minY);
      const about = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
      this.resizer.resizeTogether(parts, factor, about);
    } else if (!hasSize(part)) this.notices.say(`${part.name} follows others and has no size of its own.`);
    else this.resizer.resize(part, factorsToSize(part, box, what, mm));
  }

  protected stretch({ from, factors, x, y }: PartStretch): void {
    const isLying = Math.abs(from.place.turn % 180) === 90;
    this.resizer.resize(from, isLying ? { across: factors.up, up: factors.across } : factors, { x, y });
  }

  /** A guide through the middle of what is chosen, or of the sign. */
  protected addGuide(across: boolean): void {
    const guides = this.state()?.sign.guides ?? [];
    const [part] = this.chosenParts();
    this.store.setGuides([...guides, { across, at: part ? (across ? part.place.y : part.place.x) : 0 }]);
  }

  protected lay({ file, width, height }: LaidPicture): void {
    this.store.setGround({ file, x: 0, y: 0, width, height, shows: 50 });
    this.isReadingArtwork.set(false);
  }

  protected takeArtwork({ name, colours }: TakenArtwork): void {
    this.store.addArtwork(name, colours);
    this.isReadingArtwork.set(false);
  }

  protected setPaint(paint: string): void {
    const paints = this.paints.map(({ value }) => value);
    this.paint.set(oneOf(paints, paint));
  }

  protected retry(): void {
    void this.open(this.id(), this.askedPlate());
  }

  protected goTo(step: StepName): void {
    this.isReadingArtwork.set(false);
    this.step.set(step);
  }

  /** Back to what the ticket spoke of. */
  protected backToTicket(): void {
    this.goTo(this.topic() === 'heights' ? 'Heights' : 'Layout');
  }

  /** A new line, with its words to be typed. */
  protected addText(): void {
    this.store.addText();
    this.goTo('Layout');
  }

  protected pick(part: string | undefined, isAdding = false): void {
    const found = this.state()?.sign.parts.find(({ id }) => id === part);
    if (found) this.store.turnOver(sideOf(found));
    this.store.select(part, isAdding);
    if (part === undefined) this.mode.set('choose');
    if (part !== undefined) {
      if (this.panel() !== 'notes') this.backToTicket();
      // Brings the part's order into view once it is drawn.
      requestAnimationFrame(() => document.querySelector(`.order[data-part="${part}"]`)?.scrollIntoView({ block: 'nearest' }));
    }
  }

  protected async cutMoving(line: SectionLine): Promise<void> {
    this.liveSection.set(await this.relief.section(line));
  }

  protected cutMoved(line: SectionLine): void {
    this.store.setSection(line);
  }

  protected key(event: KeyboardEvent): void {
    // Keys in a dialog or the help are theirs.
    if ((event.target as HTMLElement).closest('ngb-modal-window, ngb-offcanvas-panel')) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
      return;
    }
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k' && !this.isLooking()) {
      event.preventDefault();
      return this.find();
    }
    const target = event.target as HTMLElement;
    // Keys in a field or on an open menu are theirs.
    if (event.altKey || event.defaultPrevented || isTypedInto(target)) return;
    if (target.closest('.dropdown-menu.show, .show[ngbdropdowntoggle]')) return;
    if (event.ctrlKey || event.metaKey ? this.actWithControl(event.key.toLowerCase()) : this.act(event)) event.preventDefault();
  }

  /** Copying, and choosing everything; leaves words that are marked on the page to the browser. */
  private actWithControl(key: string): boolean {
    if (key !== 'a' && (getSelection()?.toString() ?? '') !== '') return false;
    switch (key) {
      case 'a':
        this.store.choose(this.state()?.sign.parts.map(({ id }) => id) ?? []);
        return true;
      case 'c':
        this.clipboard.copy(this.store.chosenParts());
        return true;
      case 'x':
        this.clipboard.copy(this.store.chosenParts());
        this.store.removeChosen();
        return true;
      case 'v':
        this.store.paste(this.clipboard.read());
        return true;
      default:
        return false;
    }
  }

  /** What single keys do, with whether they need something to be chosen. */
  private readonly keys: Readonly<Record<string, () => unknown>> = {
    n: () => this.addText(),
    p: () => this.showing.set('plan'),
    m: () => this.showing.set('model'),
    b: () => this.showing.set('both'),
    '0': () => this.planViewer()?.fitAll(),
    '/': () => this.find(),
    o: () => this.store.turnOver(this.state()?.side === 'back' ? 'front' : 'back'),
    r: () => this.mode.set(this.mode() === 'measure' ? 'choose' : 'measure'),
    Escape: () => this.letGo(),
  };
  private readonly keysOfChosen: Readonly<Record<string, () => unknown>> = {
    d: () => this.store.duplicate(),
    Delete: () => this.store.removeChosen(),
    Backspace: () => this.store.removeChosen(),
    t: () => this.arranger.turn(90),
    T: () => this.arranger.turn(-90),
    x: () => this.arrange({ kind: 'mirror' }),
    g: () => this.arrange({ kind: 'group' }),
    G: () => this.arrange({ kind: 'ungroup' }),
    l: () => this.arrange({ kind: 'lock' }),
    h: () => this.arrange({ kind: 'hide' }),
    c: () => this.arrange({ kind: 'align', at: 'centre', to: 'blank', by: 'capitals' }),
    C: () => this.arrange({ kind: 'align', at: 'middle', to: 'blank', by: 'capitals' }),
    e: () => this.mode.set(this.mode() === 'points' ? 'choose' : 'points'),
  };

  /** Does what a key stands for; gives whether it stands for something. */
  private act(event: KeyboardEvent): boolean {
    const hasChosen = (this.state()?.chosen.length ?? 0) > 0;
    if (event.key.startsWith('Arrow')) return hasChosen && this.nudge(event);
    const action = this.keys[event.key] ?? (hasChosen ? this.keysOfChosen[event.key] : undefined);
    action?.();
    return action !== undefined;
  }

  private find(): void {
    if (this.panel() !== 'ticket') this.backToTicket();
    requestAnimationFrame(() => this.ticketPanel()?.find());
  }

  private letGo(): void {
    if (this.mode() !== 'choose') this.mode.set('choose');
    else this.store.select(undefined);
  }

  private nudge(event: KeyboardEvent): boolean {
    const step = arrowOf(event);
    const unit = this.state()?.sign.unit;
    if (!unit || !step) return false;
    const by = nudgeLength(unit, event);
    this.store.place(this.chosenParts().map(({ id, place }) => ({ id, x: place.x + step[0] * by, y: place.y + step[1] * by })));
    return true;
  }
}
