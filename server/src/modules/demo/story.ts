import { type Sign } from '@plain-relief/core/sign';
import type { Database } from '../../platform/database/database.js';
import { record } from '../history/record.js';
import { PostOffice } from '../mail/post-office.js';
import { ProofService } from '../proofs/service.js';
import type { Settings } from '../../platform/settings.js';
import type { SignService } from '../signs/service.js';

/** Something that happened to a job of the scenario, so many days and hours before today. */
export type StoryStep = { readonly daysAgo: number; readonly hour: number } & (
  | { readonly does: 'freeze'; readonly by: string; readonly signs: readonly number[]; readonly message: string }
  | { readonly does: 'open' | 'withdraw' }
  | {
      readonly does: 'remark';
      /** Of the shop; the customer where nobody is named. */
      readonly by?: string;
      readonly sign: number;
      readonly across?: number;
      readonly down?: number;
      readonly text: string;
    }
  | { readonly does: 'ask changes'; readonly wishes: string }
  | { readonly does: 'approve' }
  | { readonly does: 'thicken'; readonly sign: number; readonly by: number }
  | { readonly does: 'say'; readonly by: string; readonly text: string }
);

const DAY_MS = 86_400_000;

/** Tells what happened to the jobs of the scenario through the services that users' deeds go through, at the time when it happened. */
export class StoryTeller {
  private now = new Date();
  private readonly proofs: ProofService;

  constructor(
    private readonly db: Database,
    settings: Pick<Settings, 'publicUrl' | 'mailFrom'>,
    private readonly signs: SignService,
  ) {
    // Sheets wait in the queue until the worker comes.
    this.proofs = new ProofService(
      db,
      new PostOffice(db, settings),
      settings,
      () => Promise.resolve(),
      () => signs.catalogue(),
      () => this.now,
    );
  }

  /** @param contact of the customer, name and mail address */
  async tell(jobId: string, contact: string, signs: readonly string[], steps: readonly StoryStep[]): Promise<void> {
    const [name, recipient] = contact.split(', ');
    for (const step of steps) {
      const day = new Date(Date.now() - step.daysAgo * DAY_MS);
      this.now = new Date(Date.UTC(day.getUTCFullYear(), day.getUTCMonth(), day.getUTCDate(), step.hour, 12));
      await this.step(jobId, name, recipient, signs, step);
    }
  }

  private async step(jobId: string, name: string, recipient: string, signs: readonly string[], step: StoryStep): Promise<void> {
    const newest = async () => (await this.proofs.ofJob(jobId))[0].proof;
    switch (step.does) {
      case 'freeze': {
        const wanted = { recipient, message: step.message, days: 60, signs: step.signs.map((i) => signs[i]) };
        await this.proofs.freeze(jobId, wanted, step.by);
        return;
      }
      case 'open':
        return this.proofs.seen(await newest());
      case 'withdraw':
        await this.proofs.withdraw((await newest()).id, name);
        return;
      case 'remark': {
        const { sign, across, down, text, by } = step;
        const place = across === undefined || down === undefined ? {} : { across, down };
        await this.proofs.remark(await newest(), { signId: signs[sign], who: by ?? name, text, ...place }, by);
        return;
      }
      case 'ask changes':
        await this.proofs.askChanges(await newest(), { name, wishes: step.wishes });
        return;
      case 'approve': {
        const proof = await newest();
        const choices = proof.contents.flatMap(({ signId, document: { options } }) =>
          options?.length ? [[signId, options[0].id] as const] : [],
        );
        const ticks = { spelling: true, sizes: true, colours: true } as const;
        await this.proofs.approve(proof, { name, ticks, digest: proof.digest, choices: Object.fromEntries(choices) });
        return;
      }
      case 'thicken': {
        const row = await this.signs.find(signs[step.sign]);
        const document: Sign = {
          ...row.document,
          blank: { ...row.document.blank, thickness: row.document.blank.thickness + step.by },
        };
        await this.signs.save(row.id, row.revision, document);
        return;
      }
      case 'say':
        await record(this.db, { jobId, who: step.by, text: step.text, at: this.now });
    }
  }
}
