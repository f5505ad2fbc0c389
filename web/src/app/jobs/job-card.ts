import { JOB_STATES, type JobState } from '@plain-relief/api/states';
import type { Job, JobSign } from '@plain-relief/api';
import { afterNextRender, ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { toSignal } from '@angular/core/rxjs-interop';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { take } from 'rxjs';
import { JobsService } from './jobs.service';
import { proofWords } from './sign-proof';
import { SessionService } from '../session/session.service';
import { ProgressRing } from '../fields/progress-ring';
import { FirstField } from '../fields/first-field';
import { InTurn } from '../platform/in-turn';
import { Notices } from '../platform/notices';
import { due } from './lanes';
import { runWords } from './run-words';
import type { NewSign, NewSignDialog } from './new-sign-dialog';
import { attempt } from '../platform/attempt';
import { SlotWords } from '../fields/slot-words';

/** What a maker may put a job to. */
const MAKERS_STATES: ReadonlySet<JobState> = new Set(['approved', 'in the shop', 'done']);

@Component({
  selector: 'pr-job-card',
  imports: [FirstField, InTurn, ProgressRing, RouterLink, SlotWords],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './job-card.html',
  styleUrl: './job-card.scss',
})
export class JobCard {
  readonly job = input.required<Job>();
  /** It was just made: it asks for its first sign, and the focus there brings it into view. */
  readonly isNew = input(false);
  private readonly jobs = inject(JobsService);
  private readonly router = inject(Router);
  /** Makers move jobs through the shop, and remove nothing. */
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly states = computed(() =>
    this.isLooking ? JOB_STATES.filter((state) => MAKERS_STATES.has(state) || state === this.job().state) : JOB_STATES,
  );
  protected readonly due = computed(() => due(this.job().dueOn, new Date()));
  private readonly modals = inject(NgbModal);
  private readonly notices = inject(Notices);
  protected readonly error = signal('');

  constructor() {
    afterNextRender(() => {
      if (this.isNew() && !this.isLooking) void this.addSign();
    });
  }

  protected pictureOf(id: string, revision: number): string {
    return `/api/signs/${id}/picture.png?revision=${revision}`;
  }

  protected readonly proofWords = proofWords;
  protected readonly runWords = runWords;
  /** The sign that is to be copied or moved, and where to. */
  protected readonly copying = signal<JobSign | undefined>(undefined);
  protected readonly target = signal('');
  private readonly board = toSignal(this.jobs.state$, { requireSync: true });
  /** This job first, then the others by their numbers. */
  protected readonly targets = computed(() => {
    const own = this.job();
    const others = this.board().jobs.filter(({ id }) => id !== own.id);
    return [own, ...[...others].sort((a, b) => a.number.localeCompare(b.number))];
  });

  protected beginCopy(sign: JobSign): void {
    this.error.set('');
    this.target.set(this.job().id);
    this.copying.set(sign);
  }

  protected copy(title: string): void {
    const sign = this.copying();
    if (!sign) return;
    if (title.trim() === '') return this.error.set('Give the copy a name, such as “East gate”.');
    void this.attempt(async () => {
      await this.jobs.copySign(sign.id, this.target(), title.trim());
      this.copying.set(undefined);
    });
  }

  protected move(): void {
    const sign = this.copying();
    if (!sign) return;
    void this.attempt(async () => {
      await this.jobs.moveSign(sign.id, this.target());
      this.copying.set(undefined);
    });
  }

  protected setState(state: string): void {
    void this.attempt(() => this.jobs.change(this.job().id, { state: state as JobState }));
  }

  /** Asks what the sign begins with, makes it, and goes to its bench. */
  protected async addSign(): Promise<void> {
    // Fetched when it is asked for: it knows signs, and the board does not.
    const fetched = await import('./new-sign-dialog').catch(() => undefined);
    if (!fetched)
      return this.error.set('The kinds of signs could not be fetched: see whether the server is there, and try again.');
    const dialog = this.modals.open(fetched.NewSignDialog, { size: 'xl', ariaLabelledBy: 'new-sign' });
    const { number, unit } = this.job();
    (dialog.componentInstance as NewSignDialog).about.set({ number, unit });
    dialog.closed.pipe(take(1)).subscribe(({ title, document }: NewSign) =>
      this.attempt(async () => {
        const id = await this.jobs.addSign(this.job().id, title, document);
        await this.router.navigate(['/signs', id]);
      }),
    );
  }

  /** Into the bin; the notice takes it back. */
  protected remove(): void {
    const { id, number } = this.job();
    void this.attempt(async () => {
      await this.jobs.remove(id);
      this.notices.say(`Job ${number} lies in the bin.`, { words: 'Take it back', run: () => this.jobs.returnJob(id) });
    });
  }

  protected removeSign({ id, title }: JobSign): void {
    void this.attempt(async () => {
      await this.jobs.removeSign(id);
      this.notices.say(`“${title}” lies in the bin.`, { words: 'Take it back', run: () => this.jobs.returnSign(id) });
    });
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.error, act);
  }
}
