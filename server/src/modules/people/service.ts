import type { FirstOwner, NewPerson, PasswordChange, PersonChange, SignIn } from '@plain-relief/api';
import type { Role } from '@plain-relief/api/states';
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { literal, Op, type Transaction, UniqueConstraintError } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import type { Person } from '../../platform/database/models/people.js';
import { hashed, isPassword } from './passwords.js';

/** So many wrong passwords in a row, and an account rests for so long. */
const MOST_FAILURES = 5;
const REST_MS = 15 * 60_000;
/** A session ends when it was not used for a week, and after a month in any case. */
const IDLE_MS = 7 * 86_400_000;
const LONGEST_MS = 30 * 86_400_000;
/** A session is noted as used once in so long. */
const NOTE_MS = 5 * 60_000;

export interface DemoPerson {
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}
/** What the people of the demo sign in with; the sign-in page tells it while they are there. */
export const DEMO_PASSWORD = 'demo-millrace';

const digest = (token: string): string => createHash('sha256').update(token).digest('hex');

/** The people of the shop, and who of them is signed in where. */
export class PeopleService {
  /** By token, what is being looked up. */
  private readonly asked = new Map<string, Promise<Person | undefined>>();

  constructor(private readonly db: Database) {}

  /** Signs somebody in; gives what their browser is to hold. */
  async signIn({ email, password }: SignIn, now = new Date()): Promise<{ token: string; person: Person }> {
    const person = await this.db.Person.findOne({ where: { email: email.trim().toLowerCase(), hasLeft: false } });
    const isRight = await isPassword(password, person?.passwordHash);
    if (!person) throw errors.wrongSignIn();
    const mayTry = { id: person.id, [Op.or]: [{ restsUntil: null }, { restsUntil: { [Op.lte]: now } }] };
    if (!isRight) {
      const rests = `CASE WHEN failures + 1 >= ${MOST_FAILURES} THEN ${this.db.sequelize.escape(new Date(now.getTime() + REST_MS))}::timestamptz END`;
      await this.db.Person.update({ failures: literal('failures + 1'), restsUntil: literal(rests) } as never, { where: mayTry });
      throw errors.wrongSignIn();
    }
    // The right one counts only while the account does not rest: the condition and the change are one statement.
    const [changed] = await this.db.Person.update({ failures: 0, restsUntil: null }, { where: mayTry });
    if (changed !== 1) throw errors.wrongSignIn();
    return { token: await this.open(person.id, now), person };
  }

  /** Whose browser this is; undefined where nobody is signed in with it. Requests that come together, as for a board's pictures, ask once. */
  whose(token: string | undefined, now = new Date()): Promise<Person | undefined> {
    if (!token) return Promise.resolve(undefined);
    let asked = this.asked.get(token);
    if (!asked) {
      asked = this.lookUp(token, now).finally(() => this.asked.delete(token));
      this.asked.set(token, asked);
    }
    return asked;
  }

  private async lookUp(token: string, now: Date): Promise<Person | undefined> {
    const session = await this.db.Session.findOne({ where: { digest: digest(token) }, include: [{ association: 'person' }] });
    if (!session?.person || session.person.hasLeft) return undefined;
    const [age, idle] = [session.createdAt, session.seenAt].map((at) => now.getTime() - at.getTime());
    if (age > LONGEST_MS || idle > IDLE_MS) {
      await session.destroy();
      return undefined;
    }
    if (idle > NOTE_MS) await session.update({ seenAt: now });
    return session.person;
  }

  async signOut(token: string | undefined): Promise<void> {
    if (token) await this.db.Session.destroy({ where: { digest: digest(token) } });
  }

  /** Ends every session of somebody. */
  async signOutEverywhere(personId: string, transaction?: Transaction): Promise<void> {
    await this.db.Session.destroy({ where: { personId }, transaction });
  }

  /** Whether there is nobody yet: the first to come becomes the owner. */
  async isNew(): Promise<boolean> {
    return (await this.db.Person.count()) === 0;
  }

  async first(wanted: FirstOwner): Promise<{ token: string; person: Person }> {
    const row = await this.rowOf({ ...wanted, role: 'owner' });
    const person = await this.db.sequelize.transaction(async (transaction) => {
      // Of two at once the second finds the first.
      await this.db.sequelize.query('LOCK TABLE people IN SHARE ROW EXCLUSIVE MODE', { transaction });
      if ((await this.db.Person.count({ transaction })) > 0) throw errors.notFirst();
      return this.db.Person.create(row, { transaction });
    });
    return { token: await this.open(person.id, new Date()), person };
  }

  all(): Promise<Person[]> {
    // prettier-ignore
    return this.db.Person.findAll({ order: [['hasLeft', 'ASC'], ['name', 'ASC']] });
  }

  /** The people of the demo that still have the password that everybody can read. */
  demo(): Promise<Person[]> {
    return this.db.Person.findAll({ where: { isDemo: true, hasLeft: false }, order: [['createdAt', 'ASC']] });
  }

  async loadDemo(people: readonly DemoPerson[]): Promise<void> {
    if (!(await this.isNew())) return;
    for (const person of people)
      await this.db.Person.create({ ...(await this.rowOf({ ...person, password: DEMO_PASSWORD })), isDemo: true });
  }

  async add(wanted: NewPerson): Promise<Person> {
    try {
      return await this.db.Person.create(await this.rowOf(wanted));
    } catch (error) {
      if (error instanceof UniqueConstraintError) throw errors.emailTaken(wanted.email);
      throw error;
    }
  }

  /** Changes somebody. Whose role or password changes, or who leaves, is signed out everywhere. */
  async change(id: string, wanted: PersonChange): Promise<Person> {
    const { password, ...rest } = wanted;
    const passwordHash = password === undefined ? undefined : await hashed(password);
    return this.db.sequelize.transaction(async (transaction) => {
      // Owners are counted under a lock: of two that leave at once one stays.
      await this.db.sequelize.query('LOCK TABLE people IN SHARE ROW EXCLUSIVE MODE', { transaction });
      const person = isUuid(id) ? await this.db.Person.findByPk(id, { transaction }) : null;
      if (!person) throw errors.notFound('person', id);
      const isOwner = (rest.role ?? person.role) === 'owner' && !(rest.hasLeft ?? person.hasLeft);
      const others = await this.db.Person.count({
        where: { role: 'owner', hasLeft: false, id: { [Op.ne]: id } },
        transaction,
      });
      if (!isOwner && others === 0) throw errors.lastOwner(person.name);
      if (rest.role !== undefined || rest.hasLeft || passwordHash) await this.signOutEverywhere(id, transaction);
      const anew = passwordHash && { passwordHash, failures: 0, restsUntil: null, isDemo: false };
      return person.update({ ...rest, ...anew }, { transaction });
    });
  }

  /** Somebody's own password, by the one before; every other browser of theirs is signed out. Gives a new session. */
  async changePassword(person: Person, { before, password }: PasswordChange): Promise<string> {
    if (!(await isPassword(before, person.passwordHash))) throw errors.wrongPassword();
    await this.change(person.id, { password });
    return this.open(person.id, new Date());
  }

  private async open(personId: string, now: Date): Promise<string> {
    const token = randomBytes(32).toString('base64url');
    await this.db.Session.create({ digest: digest(token), personId, createdAt: now, seenAt: now });
    return token;
  }

  private async rowOf({ name, email, role, password }: NewPerson) {
    return {
      id: randomUUID(),
      name: name.trim(),
      email: email.toLowerCase(),
      role,
      passwordHash: await hashed(password),
      failures: 0,
      restsUntil: null,
      hasLeft: false,
      isDemo: false,
      createdAt: new Date(),
    };
  }
}
