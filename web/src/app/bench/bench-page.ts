import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  type OnDestroy,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Title } from '@angular/platform-browser';
import { RouterLink } from '@angular/router';
import type { SectionLine } from '@plain-relief/core/sign';
import type { FontEntry, LetterGap } from '@plain-relief/core/type';
import { formatLength } from '@plain-relief/core/units';
import { ReliefService } from '../relief/relief.service';
import type { SectionView } from '../relief/views';
import { ArtworkPanel, type TakenArtwork } from '../artwork/artwork-panel';
import { Masthead } from '../shell/masthead';
import { BriefPanel } from './brief-panel';
import { facts } from './facts';
import { KeysHelp } from './keys-help';
import { Ladder } from './ladder';
import { ModelViewer } from './model-view';
import { NotesList } from './notes-list';
import { OutputPanel } from './output-panel';
import { PlanViewer } from './plan-view';
import { SaveMark } from './save-mark';
import { SectionViewer } from './section-view';
import { SignStore } from './sign-store';
import { type StepName, stepsOf } from './steps';
import { TasksService } from './tasks.service';
import { TicketPanel } from './ticket-panel';

type Panel = 'ticket' | 'brief' | 'proof' | 'make' | 'artwork';
type Showing = 'plan' | 'model' | 'both';

const PANELS: Readonly<Partial<Record<StepName, Panel>>> = { Brief: 'brief', Proof: 'proof', Make: 'make' };

@Component({
  selector: 'pr-bench-page',
  imports: [
    RouterLink,
    Masthead,
    ArtworkPanel,
    BriefPanel,
    KeysHelp,
    Ladder,
    ModelViewer,
    NotesList,
    OutputPanel,
    PlanViewer,
    SaveMark,
    SectionViewer,
    TicketPanel,
  ],
  providers: [SignStore, TasksService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './bench-page.html',
  styleUrl: './bench-page.scss',
  host: { '(window:keydown)': 'key($event)', '(window:beforeunload)': 'store.flush()' },
})
export class BenchPage implements OnDestroy {
  /** From the address. */
  readonly id = input.required<string>();
  protected readonly store = inject(SignStore);
  private readonly relief = inject(ReliefService);
  private readonly tasks = inject(TasksService);
  private readonly title = inject(Title);
  private readonly planViewer = viewChild(PlanViewer);

  protected readonly state = toSignal(this.store.state$);
  protected readonly view = toSignal(this.relief.view$);
  protected readonly model = toSignal(this.relief.model$);
  private readonly taskList = toSignal(this.tasks.tasks$, { initialValue: [] });
  protected readonly trouble = toSignal(this.relief.trouble$);
  protected readonly fonts = signal<readonly FontEntry[]>([]);
  protected readonly error = signal('');
  /** What the last command did, where that is not plain to see. */
  protected readonly said = signal('');
  protected readonly panel = signal<Panel>('ticket');
  protected readonly showing = signal<Showing>('plan');
  protected readonly hasHelp = signal(false);
  protected readonly liveSection = signal<SectionView | undefined>(undefined);
  protected readonly section = computed(() => this.liveSection() ?? this.view()?.section);
  protected readonly place = computed(() => {
    const state = this.state();
    return state?.sign.parts.find(({ id }) => id === state.selected)?.place;
  });
  protected readonly steps = computed(() => {
    const state = this.state();
    return state ? stepsOf(state.sign, this.view()?.notes ?? [], this.taskList(), state.save.revision) : [];
  });
  protected readonly facts = computed(() => {
    const [state, view] = [this.state(), this.view()];
    return state && view ? facts(view.facts, state.sign.unit) : [];
  });
  /** Gaps between the letters of the selected text, after every evaluation. */
  protected readonly gaps = signal<readonly LetterGap[]>([]);
  protected readonly flush = (): Promise<void> => this.store.flush();

  constructor() {
    effect(() => void this.open(this.id()));
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
      this.view();
      const state = this.state();
      const part = state?.sign.parts.find(({ id }) => id === state.selected);
      if (part?.kind === 'text') void this.readGaps(part.id);
      else this.gaps.set([]);
    });
    this.relief
      .fonts()
      .then((fonts) => this.fonts.set(fonts))
      .catch((error: Error) => this.error.set(error.message));
  }

  ngOnDestroy(): void {
    this.tasks.close();
    this.relief.keepModel(false);
  }

  private async open(id: string): Promise<void> {
    this.error.set('');
    try {
      await this.store.open(id);
      await this.tasks.open(id);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  private async readGaps(part: string): Promise<void> {
    try {
      const gaps = await this.relief.gaps(part);
      if (this.state()?.selected === part) this.gaps.set(gaps);
    } catch (error) {
      this.said.set((error as Error).message);
    }
  }

  /** Spaces a text out until a tool fits between its letters, and says by how much it grew. */
  protected async openUp(part: string, diameter: number): Promise<void> {
    const state = this.state();
    if (!state) return;
    const { unit } = state.sign;
    const opened = await this.relief.openUp(part, diameter);
    const tool = `a tool of ⌀ ${formatLength(diameter, unit)}`;
    if (!opened) this.said.set(`No gap between these letters can be opened for ${tool}.`);
    else if (opened.grownBy === 0)
      this.said.set(`Every gap already lets ${tool} through: the narrowest is ${formatLength(opened.gap, unit)}.`);
    else {
      this.store.setTracking(part, opened.tracking);
      this.said.set(`Opened up for ${tool}: ${formatLength(opened.grownBy, unit)} longer.`);
    }
  }

  protected takeArtwork({ name, colours }: TakenArtwork): void {
    this.store.addArtwork(name, colours);
    this.panel.set('ticket');
  }

  protected retry(): void {
    void this.open(this.id());
  }

  protected goTo(step: StepName): void {
    this.panel.set(PANELS[step] ?? 'ticket');
  }

  protected isCurrent(step: StepName): boolean {
    return PANELS[step] === this.panel();
  }

  protected pick(part: string | undefined): void {
    this.store.select(part);
    if (part !== undefined) {
      this.panel.set('ticket');
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
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
      return;
    }
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || /^(INPUT|TEXTAREA|SELECT)$/u.test(target.tagName)) return;
    if (this.act(event)) event.preventDefault();
  }

  /** Does what a key stands for; gives whether it stands for something. */
  private act(event: KeyboardEvent): boolean {
    const state = this.state();
    const selected = state?.selected;
    if (event.key.startsWith('Arrow')) return selected !== undefined && this.nudge(selected, event);
    switch (event.key) {
      case 'n':
        this.store.addText();
        this.panel.set('ticket');
        return true;
      case 'd':
        if (selected) this.store.duplicate(selected);
        return selected !== undefined;
      case 'Delete':
      case 'Backspace':
        if (selected) this.store.removePart(selected);
        return selected !== undefined;
      case 'p':
        this.showing.set('plan');
        return true;
      case 'm':
        this.showing.set('model');
        return true;
      case 'b':
        this.showing.set('both');
        return true;
      case 'f':
        this.planViewer()?.fitAll();
        return true;
      case '?':
        this.hasHelp.set(!this.hasHelp());
        return true;
      case 'Escape':
        if (this.hasHelp()) this.hasHelp.set(false);
        else this.store.select(undefined);
        return true;
      default:
        return false;
    }
  }

  private nudge(id: string, event: KeyboardEvent): boolean {
    const state = this.state();
    const place = this.place();
    const steps: Record<string, readonly [number, number]> = {
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
    };
    const step = steps[event.key];
    if (!state || !place || !step) return false;
    const by = (state.sign.unit === 'mm' ? 1 : 25.4 / 16) * (event.shiftKey ? 10 : 1);
    this.store.movePart(id, place.x + step[0] * by, place.y + step[1] * by);
    return true;
  }
}
