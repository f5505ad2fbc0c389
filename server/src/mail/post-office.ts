import { randomUUID } from 'node:crypto';
import nodemailer, { type Transporter } from 'nodemailer';
import type { Transaction } from 'sequelize';
import type { Database } from '../database/database.js';
import type { Settings } from '../settings.js';

export interface Letter {
  readonly jobId: string;
  readonly to: string;
  readonly subject: string;
  readonly text: string;
}

/**
 * Sends letters. Without a mail server in the settings they go to the outbox that ships with the application: they are composed
 * like any other, kept, and can be read there; nobody outside gets them.
 */
export class PostOffice {
  private readonly transport: Transporter;
  readonly isSimulated: boolean;

  constructor(
    private readonly db: Database,
    private readonly settings: Pick<Settings, 'mailServer' | 'mailFrom'>,
  ) {
    this.isSimulated = settings.mailServer === undefined;
    this.transport = this.isSimulated
      ? (nodemailer.createTransport({ jsonTransport: true }) as unknown as Transporter)
      : (nodemailer.createTransport(settings.mailServer!) as unknown as Transporter);
  }

  /** Writes a letter down, in the transaction of what it tells; gives its id. */
  async write(letter: Letter, transaction: Transaction): Promise<string> {
    const id = randomUUID();
    await this.db.Mail.create(
      { id, ...letter, state: 'waiting', error: null, writtenAt: new Date(), sentAt: null },
      { transaction },
    );
    return id;
  }

  /** Sends what was written down and not sent yet, also after a crash. Two at once send no letter twice. */
  async send(): Promise<void> {
    const waiting = await this.db.Mail.findAll({ where: { state: 'waiting' }, order: [['writtenAt', 'ASC']], limit: 50 });
    for (const mail of waiting) {
      // The change of state is the claim.
      const [claimed] = await this.db.Mail.update(
        { state: 'sent', sentAt: new Date() },
        { where: { id: mail.id, state: 'waiting' } },
      );
      if (claimed !== 1) continue;
      try {
        await this.transport.sendMail({ from: this.settings.mailFrom, to: mail.to, subject: mail.subject, text: mail.text });
      } catch (error) {
        await mail.update({ state: 'failed', sentAt: null, error: (error as Error).message });
      }
    }
  }
}
