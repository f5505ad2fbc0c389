import { ROLES, type Role } from '@plain-relief/api/states';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import type { Database } from '../../platform/database/database.js';
import { errors } from '../../platform/errors.js';
import { recordAuditEntry } from './audit.js';
import { type Person } from '../../platform/database/models/people.js';
import type { PeopleService } from './service.js';

declare module 'fastify' {
  interface FastifyContextConfig {
    /** The least that a caller must be. Every address below /api says it. */
    least?: Role | 'anyone';
    /** What is done here, for the audit trail: of whatever changes something. */
    audit?: string;
    /** Asks only, though with more than an address holds. */
    isQuestion?: true;
  }
  interface FastifyRequest {
    person?: Person;
  }
}

export const COOKIE = 'plain-relief';
/** A page of another origin cannot send it without being asked first, and is then refused (OWASP, CSRF by custom headers). */
export const OWN_PAGE = 'x-plain-relief';

const READING = new Set(['GET', 'HEAD', 'OPTIONS']);

/** Whether a role is enough. */
export const isEnough = (role: Role, least: Role): boolean => ROLES.indexOf(role) >= ROLES.indexOf(least);

/** The one who calls an address that asks for somebody. */
export function caller({ person }: FastifyRequest): Person {
  if (!person) throw errors.notSignedIn();
  return person;
}

/** Guards all addresses that are added after it: who is not enough is turned away before anything is read. */
export function guard(app: FastifyInstance, db: Database, people: PeopleService): void {
  app.addHook('onRoute', ({ url, method, config }) => {
    if (!url.startsWith('/api/')) return;
    const what = `${String(method)} ${url}`;
    if (!config?.least) throw new Error(`${what} does not say who may call it.`);
    if (config.least !== 'anyone' && !READING.has(String(method)) && !config.audit && !config.isQuestion)
      throw new Error(`${what} has no words for it.`);
  });
  app.addHook('onRequest', async (request) => {
    const { least } = request.routeOptions.config;
    if (!least) return;
    if (!READING.has(request.method) && request.headers[OWN_PAGE] === undefined) throw errors.otherSite();
    if (least === 'anyone') return;
    const person = await people.whose(request.cookies[COOKIE]);
    if (!person) throw errors.notSignedIn();
    if (!isEnough(person.role, least)) throw errors.notForRole(person.role, least);
    request.person = person;
  });
  app.addHook('onResponse', async ({ person, routeOptions, url, log }, { statusCode }) => {
    const { audit } = routeOptions.config;
    if (!person || !audit || statusCode >= 400) return;
    await recordAuditEntry(db, person, audit, url).catch((error: Error) => log.error(error));
  });
}
