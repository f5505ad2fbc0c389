import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  type OnDestroy,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import type { KeptPlan } from '@plain-relief/api';
import type { TabPlace } from '@plain-relief/core/cutting';
import type { LengthUnit } from '@plain-relief/core/units';
import { clockWords, settingsOf } from './cut-settings';
import type { FilmFacts, Way } from './film-desk';
import { toolColour } from './film-desk';
import { FilmSection, type StandingTool } from './film-section';
import { FilmService } from './film.service';
import type { Followed } from './machine-panel';
import { PlansService } from './plans.service';

/** Times as fast as the machine. */
const SPEEDS = [10, 30, 100, 300, 1000] as const;
/** ms from one picture to the next, at least. */
const FRAME_MS = 60;

/** A plan as a film of what its programs cut, with the ways of a chosen cut over it; or what is left at its end. */
@Component({
  selector: 'pr-plan-film',
  imports: [FilmSection],
  providers: [FilmService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-film.html',
  styleUrl: './plan-film.scss',
})
export class PlanFilm implements OnDestroy {
  readonly plan = input.required<KeptPlan>();
  /** Which of the cuts is looked at. */
  readonly chosen = input<number>();
  /** Where the machine is, while it is looked at: the film is what it has cut so far. */
  readonly followed = input<Followed>();
  /** Whether tabs may be moved. */
  readonly mayMove = input(false);
  /** Where tabs are to be after one was moved or taken away. */
  readonly moved = output<readonly TabPlace[]>();
  /** Seconds that are left of the program that is followed. */
  readonly left = output<number>();
  private readonly film = inject(FilmService);
  private readonly plans = inject(PlansService);
  private readonly canvas = viewChild<ElementRef<HTMLCanvasElement>>('canvas');
  private readonly frame = toSignal(this.film.frame$);
  protected readonly facts = signal<FilmFacts | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly seconds = signal(0);
  protected readonly isPlaying = signal(false);
  protected readonly speed = signal<number>(100);
  protected readonly speeds = SPEEDS;
  protected readonly showsLeft = signal(false);
  readonly unit = input.required<LengthUnit>();
  private readonly ways = signal<readonly Way[]>([]);
  private ticking = 0;
  /** Tabs while one is dragged, or moved and the plan not laid again yet. */
  private readonly placed = signal<readonly TabPlace[] | undefined>(undefined);
  private readonly grabbed = signal<number | undefined>(undefined);
  protected readonly tabs = computed(() => this.placed() ?? this.outcome().tabs ?? []);

  protected readonly clock = clockWords;
  protected readonly outcome = computed(() => this.plan().outcome!);
  protected readonly clamps = computed(() => settingsOf(this.plan().order).clamps);
  protected readonly box = computed(() => this.outcome().stock.box);
  /** The stock with a margin for ways around it, as a view box; y runs down. */
  protected readonly sheet = computed(() => {
    const { minX, minY, maxX, maxY } = this.box();
    const margin = 0.03 * Math.max(maxX - minX, maxY - minY) + 4;
    return { x: minX - margin, y: -maxY - margin, width: maxX - minX + 2 * margin, height: maxY - minY + 2 * margin, margin };
  });
  protected readonly viewBox = computed(() => {
    const { x, y, width, height } = this.sheet();
    return `${x} ${y} ${width} ${height}`;
  });
  protected readonly ratio = computed(() => this.sheet().width / this.sheet().height);
  /** Where pictures of the stock lie on the sheet. */
  protected readonly placing = computed(() => {
    const { width, height, margin } = this.sheet();
    const [across, down] = [(100 * margin) / width, (100 * margin) / height];
    return { left: `${across}%`, top: `${down}%`, width: `${100 - 2 * across}%`, height: `${100 - 2 * down}%` };
  });
  protected readonly pen = computed(() => Math.max(this.box().maxX - this.box().minX, this.box().maxY - this.box().minY) / 1400);
  protected readonly paths = computed(() => {
    const parts = { cut: '', rapid: '' };
    for (const { isRapid, points } of this.ways()) {
      let path = '';
      for (let i = 0; i < points.length; i += 2)
        path += `${i === 0 ? 'M' : 'L'}${points[i].toFixed(2)} ${(-points[i + 1]).toFixed(2)}`;
      if (isRapid) parts.rapid += path;
      else parts.cut += path;
    }
    return parts;
  });
  protected grab(event: PointerEvent, index: number): void {
    if (!this.mayMove()) return;
    (event.target as Element).setPointerCapture(event.pointerId);
    this.grabbed.set(index);
  }

  protected drag({ clientX, clientY, target }: PointerEvent): void {
    const index = this.grabbed();
    const svg = (target as SVGElement).ownerSVGElement;
    const matrix = svg?.getScreenCTM();
    if (index === undefined || !matrix) return;
    const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
    this.place(index, { x, y: -y });
  }

  protected drop(event: PointerEvent): void {
    if (this.grabbed() === undefined) return;
    this.drag(event);
    this.grabbed.set(undefined);
    this.tell();
  }

  protected nudge(event: KeyboardEvent, index: number): void {
    if (!this.mayMove()) return;
    const tab = this.tabs()[index];
    const step = event.shiftKey ? 10 : 1;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key];
    if (by) this.place(index, { x: tab.x + by[0], y: tab.y + by[1] });
    else if (event.key === 'Delete' || event.key === 'Backspace') this.placed.set(this.tabs().filter((_, i) => i !== index));
    else return;
    event.preventDefault();
    this.tell();
  }

  private place(index: number, to: TabPlace): void {
    this.placed.set(this.tabs().map((tab, i) => (i === index ? to : tab)));
  }

  private tell(): void {
    this.moved.emit(this.tabs());
  }

  private readonly followedTool = computed(() => {
    const at = this.followed();
    const reel = at && this.facts()?.reels[at.program];
    return at && reel && { ...at, number: reel.tool };
  });
  protected readonly tool = computed(() => {
    const at = this.followedTool() ?? this.frame()?.scene.tool;
    const reel = at && this.facts()?.reels[at.program];
    return at && reel && { ...at, name: reel.name, diameter: this.outcome().files[at.program]?.tool.diameter ?? 1 };
  });
  protected readonly face = computed(() => this.frame()?.face);
  protected readonly heights = computed(() => ({ ...this.outcome().stock, safe: this.outcome().safe }));
  protected readonly standing = computed((): StandingTool | undefined => {
    const at = this.tool();
    const turning = at && this.facts()?.tools.get(at.number);
    return at && turning && { ...at.place, turning };
  });
  /** Every program's part of the film, with the colour of what it cuts. */
  protected readonly reels = computed(() => {
    const facts = this.facts();
    if (!facts) return [];
    const order: number[] = [];
    return facts.reels.map(({ name, tool, seconds, lasts }) => {
      if (!order.includes(tool)) order.push(tool);
      return { name, tool, seconds, share: lasts / facts.seconds, colour: toolColour(order.indexOf(tool)) };
    });
  });
  protected readonly leftPicture = computed(() => `/api/plans/${this.plan().id}/dry-run.png`);
  protected readonly isDrawn = computed(() => this.frame() !== undefined);
  protected readonly isLoading = computed(() => !this.facts() && this.trouble() === '');

  constructor() {
    let opened = '';
    effect(() => {
      const plan = this.plan();
      if (plan.id === opened || !plan.outcome) return;
      opened = plan.id;
      untracked(() => this.placed.set(undefined));
      void untracked(() => this.open(plan));
    });
    effect(() => {
      const [chosen, facts] = [this.chosen(), this.facts()];
      untracked(() => {
        if (facts) void this.choose(chosen);
      });
    });
    effect(() => {
      const [at, facts] = [this.followed(), this.facts()];
      if (at && facts) void untracked(() => this.follow(at, facts));
    });
    effect(() => {
      const [frame, canvas] = [this.frame(), this.canvas()?.nativeElement];
      if (!frame || !canvas) return;
      canvas.width = frame.width;
      canvas.height = frame.height;
      canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(frame.rgba), frame.width, frame.height), 0, 0);
    });
  }

  ngOnDestroy(): void {
    this.pause();
    this.film.close();
  }

  protected seek(seconds: number, y?: number): void {
    const most = this.facts()?.seconds ?? 0;
    this.seconds.set(Math.min(most, Math.max(0, seconds)));
    this.film.show(this.seconds(), y);
  }

  protected play(): void {
    const facts = this.facts();
    if (!facts) return;
    this.showsLeft.set(false);
    if (this.seconds() >= facts.seconds) this.seek(0);
    this.isPlaying.set(true);
    let before = performance.now();
    const tick = (): void => {
      const now = performance.now();
      // A picture that takes long is waited for: the film does not run ahead of what is seen.
      if (now - before >= FRAME_MS && !this.film.isWaiting) {
        this.seek(this.seconds() + ((now - before) / 1000) * this.speed());
        before = now;
      }
      if (this.seconds() >= facts.seconds) return this.pause();
      this.ticking = requestAnimationFrame(tick);
    };
    this.ticking = requestAnimationFrame(tick);
  }

  protected pause(): void {
    cancelAnimationFrame(this.ticking);
    this.isPlaying.set(false);
  }

  private async open(plan: KeptPlan): Promise<void> {
    this.pause();
    this.facts.set(undefined);
    this.trouble.set('');
    this.ways.set([]);
    try {
      const { programs, madeWith } = await this.plans.programs(plan.id);
      const { stock, zero } = plan.outcome!;
      const facts = await this.film.open({ programs, madeWith, stock, zero });
      this.facts.set(facts);
      this.seek(facts.seconds);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  /** What is shown is how far the machine is. */
  private async follow({ program, line, place }: Followed, facts: FilmFacts): Promise<void> {
    this.pause();
    this.showsLeft.set(false);
    const seconds = await this.film.secondsAt(program, line);
    this.seek(seconds, place.y);
    const { seconds: begin, lasts } = facts.reels[program];
    this.left.emit(Math.max(0, begin + lasts - seconds));
  }

  private async choose(chosen: number | undefined): Promise<void> {
    const cut = chosen === undefined ? undefined : this.outcome().cuts[chosen];
    this.ways.set(cut ? await this.film.ways(cut.file, cut.firstLine, cut.lastLine) : []);
    if (cut) this.showsLeft.set(false);
  }
}
