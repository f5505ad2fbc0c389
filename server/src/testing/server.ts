import type { Role } from '@plain-relief/api/states';
import { randomBytes } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance, InjectOptions, LightMyRequestResponse as Response } from 'fastify';
import { Sequelize } from 'sequelize';
import { buildApp } from '../app.js';
import { type Database, openDatabase } from '../platform/database/database.js';
import { migrate } from '../platform/database/migrations.js';
import { COOKIE, OWN_PAGE } from '../modules/people/access.js';
import { PeopleService } from '../modules/people/service.js';
import type { Settings } from '../platform/settings.js';
import type { LotOrder, TaskOrder } from '../platform/queue/queue.js';

const fromRoot = (path: string): string => fileURLToPath(new URL(`../../../${path}`, import.meta.url));

/** The owner of the shop in the tests. */
export const OWNER = 'Runa Aldous';

/** A server on a fresh database of the PostgreSQL that the tests started. */
export class TestServer {
  readonly sent: (TaskOrder | LotOrder)[] = [];
  /** Of the owner, who calls where nobody else is named. */
  cookie = '';

  private constructor(
    readonly app: FastifyInstance,
    readonly db: Database,
    readonly settings: Settings,
    private readonly drop: () => Promise<void>,
  ) {}

  static async start(others: Partial<Settings> = {}): Promise<TestServer> {
    const base = process.env.TEST_DATABASE_URL;
    if (!base) throw new Error('TEST_DATABASE_URL is not set: run ./test, which starts a PostgreSQL for the tests.');
    const name = `test_${randomBytes(6).toString('hex')}`;
    const admin = new Sequelize(base, { logging: false });
    await admin.query(`CREATE DATABASE ${name}`);
    const databaseUrl = base.replace(/\/[^/]+$/u, `/${name}`);
    const db = openDatabase(databaseUrl);
    await migrate(db.sequelize);
    const settings: Settings = {
      databaseUrl,
      port: 0,
      webDir: fromRoot('web/no-such-folder'),
      fontsDir: fromRoot('fonts'),
      demoDir: fromRoot('demo'),
      publicUrl: 'http://127.0.0.1',
      lotSilence: 2,
      mailFrom: 'Millrace Signworks <proofs@millrace.example.org>',
      ...others,
    };
    const sent: (TaskOrder | LotOrder)[] = [];
    const app = await buildApp(settings, db, async (order) => void sent.push(order));
    const server = new TestServer(app, db, settings, async () => {
      await app.close();
      await db.sequelize.close();
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await admin.close();
    });
    server.sent.push(...sent);
    Object.defineProperty(server, 'sent', { value: sent });
    const people = new PeopleService(db);
    const { token } = await people.first({ name: OWNER, email: 'runa@example.org', password: 'a long password' });
    server.cookie = `${COOKIE}=${token}`;
    return server;
  }

  /** A request as a page of the application sends it. @param cookie of who calls: the owner, or '' for nobody */
  inject(options: InjectOptions, cookie = this.cookie): Promise<Response> {
    const headers = { [OWN_PAGE]: 'test', ...(cookie && { cookie }), ...options.headers };
    return this.app.inject({ ...options, headers });
  }

  async call<T = Record<string, unknown>>(
    method: InjectOptions['method'],
    url: string,
    body?: unknown,
    cookie = this.cookie,
  ): Promise<{ status: number; body: T }> {
    const answer = await this.inject({ method, url, ...(body === undefined ? {} : { payload: body as object }) }, cookie);
    return { status: answer.statusCode, body: (answer.body === '' ? undefined : answer.json()) as T };
  }

  /** Sends a file as a form does. */
  upload<T = Record<string, unknown>>(
    url: string,
    name: string,
    content: Uint8Array | string,
  ): Promise<{ status: number; body: T }> {
    const form = new FormData();
    form.append('file', new Blob([content as BlobPart]), name);
    return this.call('POST', url, form);
  }

  /** Adds somebody and signs them in; gives their cookie. */
  async signIn(name: string, role: Role): Promise<string> {
    const people = new PeopleService(this.db);
    const who = { email: `${name.toLowerCase()}@example.org`, password: 'a long password' };
    await people.add({ name, role, ...who });
    return `${COOKIE}=${(await people.signIn(who)).token}`;
  }

  stop(): Promise<void> {
    return this.drop();
  }
}
