import { randomBytes } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import type { FastifyInstance, InjectOptions } from 'fastify';
import { Sequelize } from 'sequelize';
import { buildApp } from '../app.js';
import { type Database, openDatabase } from '../database/database.js';
import { migrate } from '../database/migrations.js';
import type { Settings } from '../settings.js';
import type { TaskOrder } from '../tasks/queue.js';

const fromRoot = (path: string): string => fileURLToPath(new URL(`../../../${path}`, import.meta.url));

/** A server on a fresh database of the PostgreSQL that the tests started. */
export class TestServer {
  readonly sent: TaskOrder[] = [];

  private constructor(
    readonly app: FastifyInstance,
    readonly db: Database,
    readonly settings: Settings,
    private readonly drop: () => Promise<void>,
  ) {}

  static async start(): Promise<TestServer> {
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
      mailFrom: 'Millrace Signworks <proofs@millrace.example.org>',
    };
    const sent: TaskOrder[] = [];
    const app = await buildApp(settings, db, async (order) => void sent.push(order));
    const server = new TestServer(app, db, settings, async () => {
      await app.close();
      await db.sequelize.close();
      await admin.query(`DROP DATABASE ${name} WITH (FORCE)`);
      await admin.close();
    });
    server.sent.push(...sent);
    Object.defineProperty(server, 'sent', { value: sent });
    return server;
  }

  async call<T = Record<string, unknown>>(
    method: InjectOptions['method'],
    url: string,
    body?: unknown,
  ): Promise<{ status: number; body: T }> {
    const answer = await this.app.inject({ method, url, ...(body === undefined ? {} : { payload: body as object }) });
    return { status: answer.statusCode, body: (answer.body === '' ? undefined : answer.json()) as T };
  }

  stop(): Promise<void> {
    return this.drop();
  }
}
