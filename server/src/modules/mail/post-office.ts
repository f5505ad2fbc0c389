import { randomUUID } from 'node:crypto';
import nodemailer, { type Transporter } from 'nodemailer';
import { Op, type Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { Settings } from '../../platform/settings.js';
import type { Mail } from '../../platform/database/models/mail.js';

/** A letter that is being sent for longer than this was left by a crash. */
const SILENT_MS = 120_000;

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
  async write(letter: Letter, transaction: Transaction, at = new Date()): Promise<string> {
    const id = randomUUID();
    await this.db.Mail.create({ id, ...letter, state: 'waiting', error: null, writtenAt: at, sentAt: null }, { transaction });
    return id;
  }

  /** Sends what was written down and not sent yet, also what a crash left half done. Two at once send no letter twice. */
  async send(now = new Date()): Promise<void> {
    const isLeft = { state: 'sending', sentAt: { [Op.lt]: new Date(now.getTime() - SILENT_MS) } } as const;
    const waiting = await this.db.Mail.findAll({
      where: { [Op.or]: [{ state: 'waiting' }, isLeft] },
      order: [['writtenAt', 'ASC']],
      limit: 50,
    });
    for (const mail of waiting) {
      // The change is the claim: of two, one finds the row as it was read.
      const [claimed] = await this.db.Mail.update(
        { state: 'sending', sentAt: now },
        { where: { id: mail.id, state: mail.state, sentAt: mail.sentAt } },
      );
      if (claimed === 1) await this.deliver(mail);
    }
  }

  /** Tries once more what could not be sent. */
  async again(id: string): Promise<void> {
    const [changed] = isUuid(id)
      ? await this.db.Mail.update({ state: 'waiting', sentAt: null, error: null }, { where: { id, state: 'failed' } })
      : [0];
    if (changed !== 1) throw errors.notFound('letter that failed', id);
    await this.send();
  }

  private async deliver(mail: Mail): Promise<void> {
    const { to, subject, text } = mail;
    try {
      await this.transport.sendMail({ from: this.settings.mailFrom, to, subject, text });
      await mail.update({ state: 'sent', sentAt: new Date() });
    } catch (error) {
      await mail.update({ state: 'failed', sentAt: null, error: (error as Error).message });
    }
  }
}
