import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { Masthead } from '../shell/masthead';
import { JobCard } from './job-card';
import { JobsService } from './jobs.service';
import { LANES, matching } from './lanes';
import { NewJobForm } from './new-job-form';

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
  protected readonly search = signal('');
  protected readonly isMaking = signal(false);
  protected readonly lanes = computed(() => {
    const found = matching(this.state().jobs, this.search());
    return LANES.map((lane) => ({ ...lane, jobs: found.filter((job) => lane.states.includes(job.state)) }));
  });
  protected readonly hasMatches = computed(() => this.lanes().some(({ jobs }) => jobs.length > 0));

  constructor() {
    void this.service.load();
  }

  protected reload(): void {
    void this.service.load();
  }
}
