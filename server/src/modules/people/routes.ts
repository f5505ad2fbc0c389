import type { SignIn } from '@plain-relief/api';
import type { RateLimitOptions } from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors, ServerError } from '../../platform/errors.js';
import { endpoint } from '../../platform/http/endpoint.js';
import { type Settings, SIGN_IN_TRIES } from '../../platform/settings.js';
import { caller, COOKIE } from './access.js';
import { recordAuditEntry, recordFailure } from './audit.js';
import type { Person } from '../../platform/database/models/people.js';
import { DEMO_PASSWORD, type PeopleService } from './service.js';

const MOST_ENTRIES = 500;
/** Tries a minute from one address. */
const FEW = { max: 20, timeWindow: '1 minute' };

const toOneAccount = (max: number): RateLimitOptions => ({
  ...FEW,
  max,
  hook: 'preHandler',
  keyGenerator: ({ ip, body }) => `${ip} ${(body as SignIn).email.trim().toLowerCase()}`,
});

const personView = ({ id, name, email, role, hasLeft }: Person) => ({ id, name, email, role, hasLeft });

/** Signing in and out, and passwords. */
export function sessionRoutes(app: FastifyInstance, db: Database, people: PeopleService, settings: Settings): void {
  const tries = settings.signInTries ?? SIGN_IN_TRIES;
  const isSecure = settings.publicUrl.startsWith('https:');
  const cookie = { path: '/', httpOnly: true, sameSite: 'strict', secure: isSecure } as const;
  const admit = (reply: FastifyReply, { token, person }: { token: string; person: Person }) => {
    reply.setCookie(COOKIE, token, { ...cookie, maxAge: 30 * 86_400 });
    return { person: personView(person) };
  };

  endpoint(app, 'GET /session', { config: { least: 'anyone' } }, async (request, reply) => {
    reply.header('cache-control', 'no-store');
    const person = await people.whose(request.cookies[COOKIE]);
    if (person) return { person: personView(person) };
    const demo = await people.demo();
    return {
      isNew: await people.isNew(),
      ...(demo.length > 0 && { demo: { password: DEMO_PASSWORD, people: demo.map(({ name, email, role }) => ({ name, email, role })) } }),
    }; // prettier-ignore
  });

  const byAddress = app.createRateLimit({ max: tries.any, timeWindow: '1 minute' });
  endpoint(
    app,
    'POST /session',
    { config: { least: 'anyone', rateLimit: toOneAccount(tries.account) } },
    async (request, reply) => {
      const tried = await byAddress(request);
      if (!tried.isAllowed && tried.isExceeded) throw errors.tooManyTries(tried.ttlInSeconds);
      try {
        const admitted = await people.signIn(request.body);
        await recordAuditEntry(db, admitted.person, 'signed in', '');
        return admit(reply, admitted);
      } catch (error) {
        if (error instanceof ServerError) await recordFailure(db, request.body.email);
        throw error;
      }
    },
  );

  endpoint(app, 'POST /session/first', { config: { least: 'anyone', rateLimit: FEW } }, async ({ body }, reply) =>
    admit(reply, await people.first(body)),
  );

  endpoint(app, 'DELETE /session', { config: { least: 'maker', audit: 'signed out' } }, async (request, reply) => {
    await people.signOut(request.cookies[COOKIE]);
    reply.clearCookie(COOKIE, cookie);
  });

  endpoint(app, 'DELETE /sessions', { config: { least: 'maker', audit: 'signed out everywhere' } }, async (request, reply) => {
    await people.signOutEverywhere(caller(request).id);
    reply.clearCookie(COOKIE, cookie);
  });

  endpoint(
    app,
    'PUT /session/password',
    { config: { least: 'maker', audit: 'changed their password', rateLimit: FEW } },
    async (request, reply) => {
      const person = caller(request);
      return admit(reply, { token: await people.changePassword(person, request.body), person });
    },
  );
}

/** The people of the shop, and the audit trail. */
export function peopleRoutes(app: FastifyInstance, db: Database, people: PeopleService): void {
  endpoint(app, 'GET /people', { config: { least: 'owner' } }, async () => ({ people: (await people.all()).map(personView) }));

  endpoint(app, 'POST /people', { config: { least: 'owner', audit: 'added somebody' } }, async ({ body }) =>
    personView(await people.add(body)),
  );

  endpoint(app, 'PATCH /people/:id', { config: { least: 'owner', audit: 'changed somebody' } }, async ({ params, body }) =>
    personView(await people.change(params.id, body)),
  );

  endpoint(app, 'GET /audit', { config: { least: 'owner' } }, async () => ({
    entries: await db.AuditEntry.findAll({ order: [['at', 'DESC']], limit: MOST_ENTRIES }),
  }));
}
