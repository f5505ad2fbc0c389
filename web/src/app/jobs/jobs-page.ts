import { JOB_STATES } from '@plain-relief/api/states';
import type { Job } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { SessionService } from '../session/session.service';
import { Masthead } from '../shell/masthead';
import { JobCard } from './job-card';
import { JobsService } from './jobs.service';
import { dueWithin, LANES, matching } from './lanes';
import { NewJobForm } from './new-job-form';

/** ms between two questions how far files of runs are. */
const ASK_MS = 3000;

@Component({
  selector: 'pr-jobs-page',
  imports: [Masthead, JobCard, NewJobForm, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './jobs-page.html',
  styleUrl: './jobs-page.scss',
})
export class JobsPage {
  private readonly service = inject(JobsService);
  protected readonly state = toSignal(this.service.state$, { requireSync: true });
  /** What the address asks to be found, such as a job's number. */
  readonly find = input<string>();
  protected readonly search = linkedSignal(() => this.find() ?? '');
  /** The one state that is shown; all where it is empty. */
  protected readonly stateShown = signal('');
  protected readonly days = signal<number | undefined>(undefined);
  protected readonly states = JOB_STATES;
  protected readonly isMaking = signal(false);
  /** Id of the job that was made last. */
  protected readonly fresh = signal('');
  /** Makers begin no jobs. */
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly lanes = computed(() => {
    const found = matching(dueWithin(this.state().jobs, this.days(), new Date()), this.search()).filter(
      ({ state }) => this.stateShown() === '' || state === this.stateShown(),
    );
    return LANES.map((lane) => ({ ...lane, jobs: found.filter((job) => lane.states.includes(job.state)) }));
  });
  protected readonly hasMatches = computed(() => this.lanes().some(({ jobs }) => jobs.length > 0));

  constructor() {
    void this.service.load();
    // How far the files of runs are that workers make.
    const isMade = computed(() => this.state().jobs.some(({ runs }) => runs.some(({ making }) => making?.state === 'running')));
    effect((whenOver) => {
      if (!isMade()) return;
      const timer = setInterval(() => void this.service.load(), ASK_MS);
      whenOver(() => clearInterval(timer));
    });
  }

  /** A job that was just made is shown, whatever was looked for, and asks for its first sign. */
  protected open({ id }: Job): void {
    this.isMaking.set(false);
    this.showAll();
    this.fresh.set(id);
  }

  protected setDays(value: string): void {
    this.days.set(value === '' ? undefined : Number(value));
  }

  protected showAll(): void {
    this.search.set('');
    this.stateShown.set('');
    this.days.set(undefined);
  }

  protected reload(): void {
    void this.service.load();
  }
}
