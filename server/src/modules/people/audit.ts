import { randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { Person } from '../../platform/database/models/people.js';

/** The same done to the same within this is written down once: a sign is saved with every pause in typing. */
const SAME_MS = 10 * 60_000;

/** Adds a line to the audit trail. */
export async function recordAuditEntry(
  db: Database,
  { id: personId, name: who }: Pick<Person, 'id' | 'name'>,
  action: string,
  url: string,
  now = new Date(),
): Promise<void> {
  const subject = url.split('?')[0].slice(0, 300);
  const same = { personId, action, subject, at: { [Op.gt]: new Date(now.getTime() - SAME_MS) } };
  if ([SAVES, SAVES_PLACE, SAVES_RUN].includes(action) && (await db.AuditEntry.count({ where: same })) > 0) return;
  await db.AuditEntry.create({ id: randomUUID(), at: now, personId, who, action, subject });
}

/** Somebody who could not sign in: the address that was tried, whether it is known or not. */
export async function recordFailure(db: Database, email: string, now = new Date()): Promise<void> {
  const who = email.trim().slice(0, 200) || 'nobody';
  await db.AuditEntry.create({ id: randomUUID(), at: now, personId: null, who, action: 'could not sign in', subject: '' });
}

export const SAVES = 'saved a sign';
export const SAVES_PLACE = 'saved a place';
export const SAVES_RUN = 'saved a run';
