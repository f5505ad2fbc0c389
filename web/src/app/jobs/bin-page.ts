import type { Binned } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { timeOf } from '../platform/moments';
import { Notices } from '../platform/notices';
import { Masthead } from '../shell/masthead';
import { JobsService } from './jobs.service';
import { attempt } from '../platform/attempt';

/** Removed jobs and signs, until they are gone for good. */
@Component({
  selector: 'pr-bin-page',
  imports: [Masthead, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <pr-masthead>
      <h1 class="place-name">Bin</h1>
      <a routerLink="/jobs" class="btn btn-link jobs">Jobs</a>
    </pr-masthead>
    <main tabindex="0">
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
      @if (days(); as limit) {
        <p class="told">Removed jobs and signs lie here for {{ limit }} days, and are then gone for good.</p>
      }
      <ul>
        @for (thing of things(); track thing.id) {
          <li>
            <span>
              <b>{{ thing.what === 'job' ? thing.job : thing.title }}</b>, {{ said(thing) }}
              <span class="quiet figure">removed {{ time(thing.removedAt) }}</span>
            </span>
            <button type="button" class="btn btn-sm btn-outline-primary" (click)="takeBack(thing)">Take it back</button>
          </li>
        } @empty {
          @if (days()) {
            <li class="quiet">Nothing lies here.</li>
          }
        }
      </ul>
    </main>
  `,
  styles: `
    main > * {
      max-width: 52rem;
    }
    ul {
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 1rem;
      align-items: center;
      justify-content: space-between;
      padding: 0.5rem 0.2rem;
      border-bottom: 1px solid var(--pr-line);
      overflow-wrap: anywhere;
    }
    .btn {
      flex: none;
    }
  `,
})
export class BinPage {
  private readonly jobs = inject(JobsService);
  private readonly notices = inject(Notices);
  protected readonly things = signal<readonly Binned[]>([]);
  /** For how many days things lie here; unknown until they are fetched. */
  protected readonly days = signal<number | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly time = timeOf;

  constructor() {
    void this.load();
  }

  protected said({ what, customer, job, signs }: Binned): string {
    if (what === 'sign') return `a sign of ${job}, ${customer}`;
    return `${customer}, ${signs === 0 ? 'without a sign' : signs === 1 ? 'with its sign' : `with its ${signs} signs`}`;
  }

  protected async takeBack(thing: Binned): Promise<void> {
    const isBack = await attempt(this.trouble, () =>
      thing.what === 'job' ? this.jobs.returnJob(thing.id) : this.jobs.returnSign(thing.id),
    );
    if (!isBack) return;
    this.notices.say(thing.what === 'job' ? `${thing.job} is on the board again.` : `“${thing.title}” is in ${thing.job} again.`);
    await this.load();
  }

  private async load(): Promise<void> {
    await attempt(this.trouble, async () => {
      const { days, things } = await this.jobs.bin();
      this.days.set(days);
      this.things.set(things);
    });
  }
}
