import type { JobTurnaround } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { ChartComponent, type ApexOptions } from 'ng-apexcharts';
import { dayOf } from '../platform/moments';
import { Api } from '../platform/api';
import { Masthead } from '../shell/masthead';
import { byRounds, daysToApproval, daysWords, median } from './turnaround';

const SHOWN = 20;
const LOOKS = {
  fontFamily: "'Barlow Condensed', sans-serif",
  foreColor: '#2b2a26',
  toolbar: { show: false },
  zoom: { enabled: false },
  animations: { enabled: false },
} as const;

/** How long customers take to answer, how long until they approve, and in how many rounds. */
@Component({
  selector: 'pr-turnaround-page',
  imports: [ChartComponent, Masthead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <pr-masthead><h1 class="place-name">Turnaround</h1></pr-masthead>
    <main>
      @if (trouble()) {
        <p class="told bad" role="alert">{{ trouble() }}</p>
      }
      @if (jobs(); as jobs) {
        @if (jobs.length === 0) {
          <section>
            <h2>No proof has been sent yet</h2>
            <p>When proofs come back this shows how long customers take, and how many rounds jobs go.</p>
          </section>
        } @else {
          <dl>
            <div>
              <dt>until a proof is answered</dt>
              <dd class="figure">{{ answer() }}</dd>
            </div>
            <div>
              <dt>until a job is approved</dt>
              <dd class="figure">{{ approval() }}</dd>
            </div>
            <div>
              <dt>proofs a job</dt>
              <dd class="figure">{{ rounds() }}</dd>
            </div>
          </dl>
          <div class="charts">
            <section>
              <h2>Days from the first proof to approval</h2>
              @if (days().series) {
                <apx-chart
                  [chart]="days().chart!"
                  [series]="days().series!"
                  [xaxis]="days().xaxis!"
                  [yaxis]="days().yaxis!"
                  [colors]="colours"
                  [plotOptions]="{ bar: { horizontal: true, barHeight: '60%' } }"
                  [dataLabels]="{ enabled: false }"
                  [tooltip]="{ enabled: false }"
                  [grid]="{ borderColor: '#e2d8c0' }"
                />
              } @else {
                <p class="quiet">No job is approved yet.</p>
              }
            </section>
            <section>
              <h2>Jobs by their rounds of proofs</h2>
              <apx-chart
                [chart]="byRounds().chart!"
                [series]="byRounds().series!"
                [xaxis]="byRounds().xaxis!"
                [yaxis]="byRounds().yaxis!"
                [colors]="colours"
                [dataLabels]="{ enabled: false }"
                [tooltip]="{ enabled: false }"
                [grid]="{ borderColor: '#e2d8c0' }"
              />
            </section>
          </div>
          <section>
            <h2>Jobs</h2>
            <table>
              <thead>
                <tr>
                  <th>Job</th>
                  <th>Customer</th>
                  <th>First sent</th>
                  <th>Rounds</th>
                  <th>Approved after</th>
                </tr>
              </thead>
              <tbody>
                @for (job of jobs; track job.number) {
                  <tr>
                    <td>
                      <span class="figure">{{ job.number }}</span> {{ job.title }}
                    </td>
                    <td>{{ job.customer }}</td>
                    <td class="figure">{{ day(job.firstSentAt) }}</td>
                    <td class="figure">{{ job.rounds }}</td>
                    <td class="figure">{{ tookWords(job) }}</td>
                  </tr>
                }
              </tbody>
            </table>
          </section>
        }
      } @else if (!trouble()) {
        <p class="quiet" role="status">Counting …</p>
      }
    </main>
  `,
  styles: `
    section {
      margin-bottom: 1rem;
      padding: 0.8rem 1rem;
      border: 1px solid var(--pr-line);
      background: var(--pr-sheet);
    }
    h2 {
      font-size: 1.08rem;
    }
    dl {
      display: flex;
      gap: 2.5rem;
    }
    dd {
      margin: 0;
      font-size: 1.9rem;
    }
    .charts {
      display: grid;
      grid-template-columns: 3fr 2fr;
      gap: 1rem;
    }
    table {
      width: 100%;
    }
    th,
    td {
      padding: 0.2rem 0.8rem 0.2rem 0;
      border-bottom: 1px solid #e2d8c0;
    }
    @media (max-width: 55rem) {
      .charts {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class TurnaroundPage {
  private readonly api = inject(Api);
  protected readonly jobs = signal<readonly JobTurnaround[] | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly colours = ['#2f6f66'];
  protected readonly day = dayOf;
  private readonly took = computed(() =>
    (this.jobs() ?? []).flatMap((job) => {
      const days = daysToApproval(job);
      return days === undefined ? [] : [{ job, days }];
    }),
  );
  protected readonly answer = computed(() => wordsOf(median((this.jobs() ?? []).flatMap(({ daysToAnswer }) => daysToAnswer))));
  protected readonly approval = computed(() => wordsOf(median(this.took().map(({ days }) => days))));
  protected readonly rounds = computed(() => String(median((this.jobs() ?? []).map(({ rounds }) => rounds)) ?? '—'));
  protected readonly days = computed((): ApexOptions => {
    const shown = this.took().slice(0, SHOWN);
    if (shown.length === 0) return {};
    return {
      chart: { ...LOOKS, type: 'bar', height: 90 + 28 * shown.length },
      series: [{ name: 'days', data: shown.map(({ days }) => Number(days.toFixed(2))) }],
      xaxis: { categories: shown.map(({ job }) => job.number), title: { text: 'days' } },
      yaxis: {},
    };
  });
  protected readonly byRounds = computed((): ApexOptions => {
    const bars = byRounds(this.jobs() ?? []);
    return {
      chart: { ...LOOKS, type: 'bar', height: 240 },
      series: [{ name: 'jobs', data: bars.map(({ jobs }) => jobs) }],
      xaxis: { categories: bars.map(({ words }) => words), title: { text: 'rounds' } },
      yaxis: { labels: { formatter: (value: number) => value.toFixed(0) }, forceNiceScale: true },
    };
  });

  constructor() {
    void this.load();
  }

  protected tookWords(job: JobTurnaround): string {
    return wordsOf(daysToApproval(job));
  }

  private async load(): Promise<void> {
    try {
      this.jobs.set((await this.api.ask('GET /turnaround')).jobs);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }
}

const wordsOf = (days: number | undefined): string => (days === undefined ? '—' : daysWords(days));
