import type { Job, JobChange, KeptFile } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { type Sign } from '@plain-relief/core/sign';
import { RouterLink } from '@angular/router';
import { DayField } from '../../fields/day-field';
import { ArtworkService } from '../../artwork/artwork.service';
import { JobsService } from '../../jobs/jobs.service';
import { ShopService } from '../../shop/shop.service';
import { SlotCover } from '../../fields/slot-cover';

/** What the job is for: its words, due date, quantity; and the sign's own title, unit and material. */
@Component({
  selector: 'pr-brief-panel',
  imports: [DayField, RouterLink, SlotCover],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './brief-panel.html',
  styleUrls: ['./panel.scss', '../output/output-panel.scss'],
  styles: `
    label,
    .label {
      display: block;
      margin-top: 0.7rem;
      font-weight: 700;
    }
    .kind {
      margin: 0.9rem 0 0;
      input {
        display: inline-block;
        width: 10rem;
        margin: 0 0.4rem 0 0;
      }
    }
    .files {
      margin: 0.3rem 0 0;
      padding: 0;
      list-style: none;
    }
    .quiet {
      color: var(--pr-quiet);
    }
    .unit label {
      display: inline-block;
      margin-right: 1rem;
      font-weight: 500;
    }
  `,
})
export class BriefPanel {
  readonly jobId = input.required<string>();
  readonly sign = input.required<Sign>();
  /** Names of the shop's, to choose from. */
  readonly materials = input<readonly string[]>([]);
  readonly closed = output();
  readonly revisionsAsked = output();
  readonly titled = output<string>();
  readonly unitChosen = output<'mm' | 'in'>();
  readonly materialNamed = output<string>();
  private readonly jobs = inject(JobsService);
  protected readonly job = signal<Job | undefined>(undefined);
  protected readonly error = signal('');
  protected readonly files = signal<readonly KeptFile[]>([]);
  private readonly artwork = inject(ArtworkService);
  private readonly shop = inject(ShopService);
  protected readonly said = signal('');

  constructor() {
    effect(() => void this.load(this.jobId()));
  }

  private async load(id: string): Promise<void> {
    try {
      this.job.set(await this.jobs.find(id));
      this.files.set(await this.artwork.files(id));
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  /** Offers the sign as a beginning for others. */
  protected async keepAsKind(name: string): Promise<void> {
    this.error.set('');
    if (name.trim() === '') return this.error.set('Give the kind a name, such as “Gate sign, oak”.');
    try {
      await this.shop.addKind(name.trim(), this.sign());
      this.said.set(`New signs can be begun from “${name.trim()}” now.`);
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }

  protected size(bytes: number): string {
    return bytes < 1e6 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1e6).toFixed(1)} MB`;
  }

  protected setTitle(text: string): void {
    if (text.trim() === '') return this.error.set('The sign needs a title.');
    this.error.set('');
    this.titled.emit(text.trim());
  }

  protected async change(change: JobChange): Promise<void> {
    this.error.set('');
    try {
      this.job.set(await this.jobs.change(this.jobId(), change));
    } catch (error) {
      this.error.set((error as Error).message);
    }
  }
}
