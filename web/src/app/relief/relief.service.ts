import { Injectable } from '@angular/core';
import type { OnRun } from '@plain-relief/core/outline';
import type { SectionLine, Side, Sign } from '@plain-relief/core/sign';
import type { FontEntry, LetterGap, OpenedUp } from '@plain-relief/core/type';
import { type Remote, wrap } from 'comlink';
import { BehaviorSubject, type Observable, Subject } from 'rxjs';
import type { ReliefCounter } from './relief.worker';
import type { FiguresView, ModelView, PictureView, ReliefView, SectionView, TextPieces } from './views';

/** The longest pause between models while a sign keeps changing, in ms. */
const MOST_PAUSE_MS = 150;

/**
 * The page's side of the worker. Of signs that arrive while one is being worked out only the newest is taken next, so
 * that typing never queues up.
 */
@Injectable({ providedIn: 'root' })
export class ReliefService {
  private readonly worker = new Worker(new URL('./relief.worker', import.meta.url), { type: 'module' });
  private readonly desk: Remote<ReliefCounter> = wrap<ReliefCounter>(this.worker);
  private waiting: { readonly sign: Sign; readonly side: Side } | undefined;
  private isBusy = false;
  private wantsModel = false;

  private readonly views = new BehaviorSubject<ReliefView | undefined>(undefined);
  private readonly models = new BehaviorSubject<ModelView | undefined>(undefined);
  private readonly busy = new BehaviorSubject(false);
  private readonly troubles = new Subject<string>();

  readonly view$: Observable<ReliefView | undefined> = this.views;
  readonly model$: Observable<ModelView | undefined> = this.models;
  readonly busy$: Observable<boolean> = this.busy;
  /** Sentences about evaluations that failed as a whole. */
  readonly trouble$: Observable<string> = this.troubles;

  /** What was worked out last. */
  get latest(): ReliefView | undefined {
    return this.views.value;
  }

  /** The gaps between the letters of a text part of the last sign. */
  gaps(part: string): Promise<readonly LetterGap[]> {
    return this.desk.gaps(part);
  }

  /** What opening a text part of the last sign up for a tool takes; undefined where that cannot be. */
  openUp(part: string, diameter: number): Promise<OpenedUp | undefined> {
    return this.desk.openUp(part, diameter);
  }

  /** A text part of the last sign as the texts of its lines or words. */
  split(part: string, into: 'lines' | 'words'): Promise<TextPieces> {
    return this.desk.split(part, into);
  }

  /** The letters of a text part of the last sign as plain outlines. */
  outlined(part: string): Promise<TextPieces> {
    return this.desk.outlined(part);
  }

  /** The place on the outlines of the last sign nearest to a point of the plan. */
  nearest(x: number, y: number, reach: number): Promise<OnRun | undefined> {
    return this.desk.nearest(x, y, reach);
  }

  fonts(): Promise<readonly FontEntry[]> {
    return this.desk.fonts();
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

  section(line: SectionLine): Promise<SectionView | undefined> {
    return this.desk.section(line);
  }

  /** The last sign lit from the upper left. */
  picture(longest: number, isInFinishes: boolean): Promise<PictureView | undefined> {
    return this.desk.picture(longest, isInFinishes);
  }

  /** What the solid of the last sign measures. */
  figures(): Promise<FiguresView | undefined> {
    return this.desk.figures();
  }

  private async work(): Promise<void> {
    this.isBusy = true;
    this.busy.next(true);
    while (this.waiting) {
      const { sign, side } = this.waiting;
      this.waiting = undefined;
      const began = performance.now();
      try {
        this.views.next(await this.desk.show(sign, side));
        if (this.wantsModel) {
          await this.makeModel();
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

  private async makeModel(): Promise<void> {
    this.models.next(await this.desk.model());
  }
}
