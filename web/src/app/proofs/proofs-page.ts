import { SHEET_KINDS } from '@plain-relief/api/states';
import type { Frozen, Job, KeptPlace, ListedRun, NewProof, Proof, ProofRun, ShopRemark, Task } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, type OnDestroy, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { JobsService } from '../jobs/jobs.service';
import { SessionService } from '../session/session.service';
import { Masthead } from '../shell/masthead';
import { dayOf, timeOf } from '../platform/moments';
import { type OpenNotes, openNotesOf, ProofsService } from './proofs.service';
import { PlatesBoard } from './plates-board';
import { RemarkBoard } from './remark-board';
import { SendForm } from './send-form';
import { attempt } from '../platform/attempt';
import { SlotWords } from '../fields/slot-words';

const STATE_WORDS: Readonly<Record<Proof['state'], string>> = {
  open: 'waits for the customer',
  approved: 'approved',
  'changes asked': 'changes asked',
  withdrawn: 'withdrawn',
  replaced: 'replaced by a newer one',
};

/** What customers see of a job, and what came back. */
@Component({
  selector: 'pr-proofs-page',
  imports: [Masthead, PlatesBoard, RouterLink, RemarkBoard, SendForm, SlotWords],
  providers: [ProofsService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './proofs-page.html',
  styleUrl: './proofs-page.scss',
})
export class ProofsPage implements OnDestroy {
  /** Of the job. */
  readonly id = input.required<string>();
  private readonly service = inject(ProofsService);
  private readonly jobs = inject(JobsService);
  protected readonly state = toSignal(this.service.state$, { requireSync: true });
  protected readonly job = signal<Job | undefined>(undefined);
  protected readonly places = signal<readonly KeptPlace[]>([]);
  protected readonly runs = signal<readonly ListedRun[]>([]);
  /** Makers see what was approved, and do not speak with customers. */
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly trouble = signal('');
  protected readonly isBusy = signal(false);
  protected readonly isSending = signal(false);
  protected readonly openNotes = signal<readonly OpenNotes[]>([]);
  /** Signs that the newest proof shows. */
  protected readonly lastSigns = computed(() => this.state().proofs[0]?.signs.map(({ id }) => id) ?? [], {
    equal: (a, b) => a.join() === b.join(),
  });
  protected readonly asked = signal<string | undefined>(undefined);
  /** The proof that was asked for, or the newest. */
  protected readonly shown = computed(() => {
    const { proofs } = this.state();
    return proofs.find(({ id }) => id === this.asked()) ?? proofs[0];
  });
  protected readonly stateWords = STATE_WORDS;
  protected readonly day = dayOf;
  protected readonly time = timeOf;
  protected readonly copied = signal(false);

  constructor() {
    effect(() => void this.open(this.id()));
  }

  ngOnDestroy(): void {
    this.service.close();
  }

  private async open(id: string): Promise<void> {
    await this.attempt(async () => {
      this.job.set(await this.jobs.find(id));
      this.places.set(await this.service.places(id));
      this.runs.set(await this.service.runs(id));
      await this.service.open(id);
    });
  }

  protected async send(proof: Frozen<NewProof>): Promise<void> {
    this.isBusy.set(true);
    await this.attempt(async () => {
      try {
        await this.service.send(proof);
      } catch (error) {
        this.openNotes.set(openNotesOf(error));
        throw error;
      }
      this.openNotes.set([]);
      this.asked.set(undefined);
      this.isSending.set(false);
    });
    this.isBusy.set(false);
  }

  protected withdraw(id: string): Promise<void> {
    return this.attempt(() => this.service.withdraw(id));
  }

  protected remark(id: string, remark: ShopRemark): Promise<void> {
    return this.attempt(() => this.service.remark(id, remark));
  }

  protected again(id: string, kind: Task['kind']): Promise<void> {
    const sheet = SHEET_KINDS.find((each) => each === kind);
    return sheet ? this.attempt(() => this.service.sheet(id, sheet)) : Promise.resolve();
  }

  protected async copy(address: string): Promise<void> {
    await this.attempt(() => navigator.clipboard.writeText(address));
    this.copied.set(true);
    setTimeout(() => this.copied.set(false), 2000);
  }

  protected picture({ id }: Proof, signId: string): string {
    return `/api/proofs/${id}/signs/${signId}/picture.png`;
  }

  /** Proof and sign whose plan is laid over that of now. */
  protected readonly compared = signal('');

  protected compare({ id }: Proof, signId: string): void {
    this.compared.set(this.compared() === id + signId ? '' : id + signId);
  }

  protected comparison({ id, changes }: Proof, signId: string): string {
    // Drawn anew when there is more that has changed.
    return `/api/proofs/${id}/signs/${signId}/comparison.svg?changes=${changes[signId]?.length ?? 0}`;
  }

  /** Whether anything was changed in a sign since it was frozen. */
  protected changesOf({ changes }: Proof, signId: string): readonly string[] {
    return changes[signId] ?? [];
  }

  protected runsOf({ runs }: Proof, sign: string): readonly ProofRun[] {
    return runs.filter(({ signId }) => signId === sign);
  }

  /** Corrections of a run's plates that nobody has answered yet. */
  protected openCorrections({ corrections }: Proof, id: string): number {
    return corrections.filter(({ run, end }) => run === id && end === null).length;
  }

  protected chosen({ choices, signs }: Proof, signId: string): string {
    const options = signs.find(({ id }) => id === signId)?.options ?? [];
    return options.find(({ id }) => id === choices?.[signId])?.name ?? '';
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.trouble, act);
  }
}
