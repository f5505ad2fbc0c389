import { Injectable } from '@angular/core';
import { type OnPolyline } from '@plain-relief/core/geometry';
import { costliestPart, effortOfSides, type SectionLine, type Side, type Sign, withUprightSides } from '@plain-relief/core/sign';
import { type Turning } from '@plain-relief/core/cutting';
import { type SignRemedy, type Standing } from '@plain-relief/core/making';
import { type PrintChoice, type SplitLines } from '@plain-relief/core/processes';
import { type Shop, type ShopTool } from '@plain-relief/core/shop';
import { type FontEntry, type LetterGap, type OpenedUp } from '@plain-relief/core/type';
import { type Remote, wrap } from 'comlink';
import { BehaviorSubject, type Observable } from 'rxjs';
import type { ReliefCounter } from './relief.worker';
import type {
  FiguresView,
  ModelView,
  PictureView,
  ProposalsView,
  ReliefView,
  SectionView,
  SpaceSectionView,
  TextPieces,
} from './views';

/** The longest pause between models while a sign keeps changing, in ms. */
const MOST_PAUSE_MS = 150;

/** A sign that takes longer than this, in ms, is given up. */
export const LONGEST_MS = 20_000;

/** Sides that take longer than some tenths of a second are not waited for where nothing is shown yet. */
const MOST_EFFORT_AT_ONCE = 1000;

/** A worker with its side here; what was asked of one that is ended fails. */
interface Counter {
  readonly worker: Pick<Worker, 'terminate'>;
  readonly desk: Remote<ReliefCounter>;
  readonly ended: Promise<never>;
  end(): void;
}

/** The worker was ended, since a sign took too long. */
class Ended extends Error {}

/**
 * The page's side of the worker. Of signs that arrive while one is being worked out only the newest is taken next, so
 * that typing never queues up.
 */
@Injectable({ providedIn: 'root' })
export class ReliefService {
  private counter: Counter | undefined;
  private waiting: { readonly sign: Sign; readonly side: Side } | undefined;
  private isBusy = false;
  private wantsModel = false;

  private readonly views = new BehaviorSubject<ReliefView | undefined>(undefined);
  private readonly models = new BehaviorSubject<ModelView | undefined>(undefined);
  private readonly busy = new BehaviorSubject(false);
  private readonly troubles = new BehaviorSubject<string | undefined>(undefined);

  readonly view$: Observable<ReliefView | undefined> = this.views;
  readonly model$: Observable<ModelView | undefined> = this.models;
  readonly busy$: Observable<boolean> = this.busy;
  /** A sentence about the last evaluation, where it failed as a whole. */
  readonly trouble$: Observable<string | undefined> = this.troubles;

  /** What was worked out last. */
  get latest(): ReliefView | undefined {
    return this.views.value;
  }

  /** The gaps between the letters of a text part of the last sign. */
  gaps(part: string): Promise<readonly LetterGap[]> {
    return this.ask((desk) => desk.gaps(part));
  }

  /** What the last sign is made with where nobody has chosen. */
  proposals(shop: Shop): Promise<ProposalsView | undefined> {
    return this.ask((desk) => desk.proposals(shop));
  }

  /** What a printer would have trouble with, in sentences. */
  printFindings(choice: PrintChoice): Promise<readonly string[]> {
    return this.ask((desk) => desk.printFindings(choice));
  }

  /** Lines that make the last sign into pieces no larger than a bed. */
  printLines(width: number, depth: number): Promise<SplitLines | undefined> {
    return this.ask((desk) => desk.printLines(width, depth));
  }

  /** What could be changed of the last sign for what tools left of it. */
  signRemedies(
    left: readonly Standing[],
    tools: readonly ShopTool[],
    turning: Turning | undefined,
  ): Promise<readonly SignRemedy[]> {
    return this.ask((desk) => desk.signRemedies(left, tools, turning));
  }

  /** What opening a text part of the last sign up for a tool takes; undefined where that cannot be. */
  openUp(part: string, diameter: number): Promise<OpenedUp | undefined> {
    return this.ask((desk) => desk.openUp(part, diameter));
  }

  /** A text part of the last sign as the texts of its lines or words. */
  split(part: string, into: 'lines' | 'words'): Promise<TextPieces> {
    return this.ask((desk) => desk.split(part, into));
  }

  /** The letters of a text part of the last sign as plain outlines. */
  outlined(part: string): Promise<TextPieces> {
    return this.ask((desk) => desk.outlined(part));
  }

  /** The place on the outlines of the last sign nearest to a point of the plan. */
  nearest(x: number, y: number, reach: number): Promise<OnPolyline | undefined> {
    return this.ask((desk) => desk.nearest(x, y, reach));
  }

  fonts(): Promise<readonly FontEntry[]> {
    return this.ask((desk) => desk.fonts());
  }

  /** Nothing is shown until the next sign has been worked out. */
  clear(): void {
    this.views.next(undefined);
    this.models.next(undefined);
  }

  /** Asks for the views of a sign from a side; they come by {@link view$}. */
  show(sign: Sign, side: Side = 'front'): void {
    this.waiting = { sign, side };
    if (!this.isBusy) void this.work();
  }

  /** Whether the model is worked out after every sign. */
  keepModel(isWanted: boolean): void {
    const wasWanted = this.wantsModel;
    this.wantsModel = isWanted;
    if (isWanted && !wasWanted && !this.isBusy && this.views.value) void this.makeModel();
  }

  /** What a plane along the line cuts of the last sign as it is bent; undefined of one that is flat. */
  spaceSection(line: SectionLine): Promise<SpaceSectionView | undefined> {
    return this.ask((desk) => desk.spaceSection(line));
  }

  section(line: SectionLine): Promise<SectionView | undefined> {
    return this.ask((desk) => desk.section(line));
  }

  /** The last sign lit from the upper left. */
  picture(longest: number, isInFinishes: boolean): Promise<PictureView | undefined> {
    return this.ask((desk) => desk.picture(longest, isInFinishes));
  }

  /** What the solid of the last sign measures. */
  figures(): Promise<FiguresView | undefined> {
    return this.ask((desk) => desk.figures());
  }

  private async work(): Promise<void> {
    this.isBusy = true;
    this.busy.next(true);
    while (this.waiting) {
      const { sign, side } = this.waiting;
      this.waiting = undefined;
      const began = performance.now();
      try {
        // Of a sign that is opened the outlines and levels are seen at once, its slopes when they are worked out.
        if (!this.views.value && effortOfSides(sign) > MOST_EFFORT_AT_ONCE) {
          const upright = withUprightSides(sign);
          this.views.next(await this.inTime(sign, (desk) => desk.show(upright, side)));
        }
        this.views.next(await this.inTime(sign, (desk) => desk.show(sign, side)));
        this.troubles.next(undefined);
        if (this.wantsModel) {
          await this.makeModel(sign);
          // While something is dragged there is always a newer sign: as long as this one took, the page has the machine to draw it.
          if (this.waiting) await new Promise((done) => setTimeout(done, Math.min(MOST_PAUSE_MS, performance.now() - began)));
        }
      } catch (error) {
        this.troubles.next((error as Error).message);
      }
    }
    this.isBusy = false;
    this.busy.next(false);
  }

  private async makeModel(sign?: Sign): Promise<void> {
    this.models.next(await (sign ? this.inTime(sign, (desk) => desk.model()) : this.ask((desk) => desk.model())));
  }

  /** Asks the worker, which is begun where there is none. */
  private ask<T>(question: (desk: Remote<ReliefCounter>) => Promise<T>): Promise<T> {
    const { desk, ended } = (this.counter ??= this.begun());
    return Promise.race([question(desk), ended]);
  }

  /** The same; where it takes too long the worker is ended, and another begins with what is asked next. What is shown stays. */
  private async inTime<T>(sign: Sign, question: (desk: Remote<ReliefCounter>) => Promise<T>): Promise<T> {
    const timer = setTimeout(() => {
      this.counter?.end();
      this.counter = undefined;
    }, LONGEST_MS);
    try {
      return await this.ask(question);
    } catch (error) {
      if (!(error instanceof Ended)) throw error;
      const part = costliestPart(sign);
      throw new Error(
        `This sign takes longer than ${LONGEST_MS / 1000} s to work out, and the plan shows it as it was before. ` +
          (part ? `Most of that is “${part.name}”: plainer sides, fewer copies or fewer tiers make it quicker.` : ''),
      );
    } finally {
      clearTimeout(timer);
    }
  }

  private begun(): Counter {
    const worker = this.startWorker();
    let end = (): void => {};
    const ended = new Promise<never>((_, fail) => {
      end = () => {
        worker.terminate();
        fail(new Ended());
      };
    });
    // Whoever asked hears of it; where nobody did it is no trouble.
    ended.catch(() => {});
    return { worker, desk: wrap<ReliefCounter>(worker), ended, end };
  }

  protected startWorker(): Worker {
    return new Worker(new URL('./relief.worker', import.meta.url), { type: 'module' });
  }
}
