import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname } from 'node:path';
import { implausible } from '@plain-relief/core/sign';
import compress from '@fastify/compress';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import multipart from '@fastify/multipart';
import rateLimit from '@fastify/rate-limit';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyError, type FastifyInstance } from 'fastify';
import type { Database } from './platform/database/database.js';
import { isDatabaseAway } from './platform/database/trouble.js';
import { errors, type Fault, ServerError } from './platform/errors.js';
import { readCatalogue } from './modules/fonts/font-files.js';
import { guard } from './modules/people/access.js';
import { brailleRoutes } from './modules/braille/routes.js';
import { BrailleTranslator } from './modules/braille/translator.js';
import { peopleRoutes, sessionRoutes } from './modules/people/routes.js';
import { PeopleService } from './modules/people/service.js';
import { jobRoutes } from './modules/jobs/routes.js';
import { fileRoutes } from './modules/files/routes.js';
import { FileService } from './modules/files/service.js';
import { Bin } from './modules/jobs/bin.js';
import { JobService } from './modules/jobs/service.js';
import type { Settings } from './platform/settings.js';
import { FontDoor, ShopFonts } from './modules/fonts/fonts.js';
import { kindRoutes } from './modules/shop/kinds.js';
import { shopRoutes } from './modules/shop/routes.js';
import { SignPictures } from './modules/signs/pictures.js';
import { signRoutes } from './modules/signs/routes.js';
import { PostOffice } from './modules/mail/post-office.js';
import { mailRoutes } from './modules/mail/routes.js';
import { customerRoutes } from './modules/proofs/customer-routes.js';
import { proofRoutes } from './modules/proofs/routes.js';
import { ProofService } from './modules/proofs/service.js';
import { SignService } from './modules/signs/service.js';
import { taskRoutes } from './modules/tasks/routes.js';
import { TaskService } from './modules/tasks/service.js';
import type { Send } from './platform/queue/queue.js';
import { libraryRoutes } from './modules/shop/library.js';
import { driverFor } from './modules/machine/practice-driver.js';
import { lotRoutes } from './modules/lots/routes.js';
import { LotService } from './modules/lots/service.js';
import { machineRoutes } from './modules/machine/routes.js';
import { MachineService } from './modules/machine/service.js';
import { placeRoutes } from './modules/places/routes.js';
import { PlaceService } from './modules/places/service.js';
import { runRoutes } from './modules/runs/routes.js';
import { RunService } from './modules/runs/service.js';
import { planRoutes } from './modules/making/routes.js';
import { PlanService } from './modules/making/service.js';

/** What addresses need that say nothing else. */
const LARGEST_BODY = 256 * 1024;
const MOST_FAULTS = 20;
const UPKEEP_MS = 30_000;
const require = createRequire(import.meta.url);
const DICTIONARIES = { en: 'dictionary-en', 'en-au': 'dictionary-en-au' } as const;

/** The server, not yet listening. `send` hands long work to the queue. */
export async function buildApp(settings: Settings, db: Database, send: Send): Promise<FastifyInstance> {
  const app = Fastify({
    bodyLimit: LARGEST_BODY,
    ...(settings.trustedProxy && { trustProxy: settings.trustedProxy }),
    logger: { level: process.env.LOG_LEVEL ?? 'warn' },
    // Every field is judged as it came: "3" is not made 3, and nothing is dropped in silence.
    ajv: {
      customOptions: {
        coerceTypes: false,
        removeAdditional: false,
        allErrors: true,
        discriminator: true,
        verbose: true,
        code: { optimize: false },
      },
    },
  });
  await addProtection(app);
  const people = new PeopleService(db);
  guard(app, db, people);
  app.addHook('preValidation', async ({ body }) => {
    const faults = implausible(body);
    if (faults.length > 0) throw errors.badRequest(faults);
  });
  addRefusals(app, settings);
  addFeatures(app, settings, db, people, send);
  app.get('/api/health', { config: { least: 'anyone' } }, async () => {
    await db.sequelize.query('SELECT 1');
    return { database: 'answers' };
  });
  await app.register(fastifyStatic, { root: settings.fontsDir, prefix: '/fonts/', maxAge: '30d', immutable: false });
  // English as it is written in America, and elsewhere.
  for (const [place, name] of Object.entries(DICTIONARIES)) {
    const root = dirname(require.resolve(name));
    const allowedPath = (path: string): boolean => /^\/index\.(?:aff|dic)$/u.test(path);
    await app.register(fastifyStatic, {
      root,
      prefix: `/dictionaries/${place}/`,
      decorateReply: false,
      allowedPath,
      maxAge: '30d',
    });
  }
  if (existsSync(settings.webDir))
    await app.register(fastifyStatic, { root: settings.webDir, prefix: '/', decorateReply: false, wildcard: true, maxAge: 0 });
  return app;
}

/** What browsers are told to allow, how often anybody may ask, and how bodies are packed. */
async function addProtection(app: FastifyInstance): Promise<void> {
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        // WebAssembly is compiled in the page's worker; style attributes come from the framework.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        workerSrc: ["'self'", 'blob:'],
        upgradeInsecureRequests: null,
      },
    },
    // Served on loopback without TLS.
    strictTransportSecurity: false,
  });
  // People of a shop may share an address: who is signed in has a limit of their own.
  await app.register(rateLimit, { max: 1200, timeWindow: '1 minute', keyGenerator: ({ person, ip }) => person?.id ?? ip });
  await app.register(compress, { threshold: 1024 });
  await app.register(cookie);
  await app.register(multipart, { limits: { files: 1, fields: 0, parts: 1 } });
}

/** How what cannot be answered is refused. */
function addRefusals(app: FastifyInstance, settings: Settings): void {
  app.setNotFoundHandler((request, reply) => {
    // Addresses of places in the application are the page's own business.
    const path = request.url.split('?')[0];
    const isPage =
      request.method === 'GET' &&
      !path.startsWith('/api/') &&
      !path.split('/').at(-1)!.includes('.') &&
      /text\/html|\*\/\*/u.test(request.headers.accept ?? '*/*');
    if (isPage && existsSync(settings.webDir)) return reply.sendFile('index.html', settings.webDir);
    return answer(reply, errors.noSuchAddress(path));
  });
  app.setErrorHandler((error: FastifyError, request, reply) => {
    const told = toServerError(error, request.routeOptions.bodyLimit ?? LARGEST_BODY);
    if (told.status >= 500) request.log.error(error);
    return answer(reply, told);
  });
}

/** The features, each with its services and routes. */
function addFeatures(app: FastifyInstance, settings: Settings, db: Database, people: PeopleService, send: Send): void {
  const jobs = new JobService(db);
  const shipped = readCatalogue(settings.fontsDir);
  const shopFonts = new ShopFonts(db);
  const signs = new SignService(db, shipped, shopFonts);
  const pictures = new SignPictures(settings.fontsDir, shopFonts);
  const door = new FontDoor(db, settings.fontsDir, shipped);
  app.addHook('onClose', async () => {
    await Promise.all([pictures.close(), door.close()]);
  });
  sessionRoutes(app, db, people, settings);
  peopleRoutes(app, db, people);
  const bin = new Bin(db);
  jobRoutes(app, jobs, bin);
  signRoutes(app, signs, jobs, pictures);
  fileRoutes(app, new FileService(db, jobs));
  placeRoutes(app, new PlaceService(db), jobs);
  runRoutes(app, new RunService(db), jobs);
  shopRoutes(app, db, shopFonts, door, signs);
  kindRoutes(app, db, signs, pictures);
  lotRoutes(app, new LotService(db, send));
  const tasks = new TaskService(db, signs, send);
  taskRoutes(app, tasks);
  libraryRoutes(app, db);
  const plans = new PlanService(db, signs, send);
  planRoutes(app, plans);
  const machine = new MachineService(db, plans, driverFor(settings));
  machineRoutes(app, machine);
  brailleRoutes(app, new BrailleTranslator(settings.brailleTranslator));
  app.addHook('onClose', () => machine.close());
  const post = new PostOffice(db, settings);
  const proofs = new ProofService(db, post, settings, send, () => signs.catalogue());
  proofRoutes(app, db, { jobs, proofs, pictures, signs });
  customerRoutes(app, db, proofs, tasks, pictures);
  mailRoutes(app, db, post);
  const keepUp = async (): Promise<void> => {
    await proofs.upkeep();
    await bin.empty(new Date());
  };
  const upkeep = setInterval(() => void keepUp().catch((error: Error) => app.log.error(error)), UPKEEP_MS);
  upkeep.unref();
  app.addHook('onClose', () => clearInterval(upkeep));
}

function answer(reply: { code(status: number): { send(body: unknown): unknown } }, error: ServerError) {
  return reply.code(error.status).send({ code: error.code, message: error.message, ...error.details });
}

/** A value as a few characters of JSON; lists and objects only by what they are. */
function shown(value: unknown): string {
  if (typeof value === 'object' && value !== null) return Array.isArray(value) ? `a list of ${value.length}` : 'an object';
  return JSON.stringify(typeof value === 'string' ? value.slice(0, 60) : value) ?? String(value);
}

function toServerError(error: FastifyError, bodyLimit: number): ServerError {
  if (error instanceof ServerError) return error;
  if (error.validation) {
    const faults = error.validation.slice(0, MOST_FAULTS).map((fault): Fault => {
      const { additionalProperty, missingProperty } = fault.params as Record<string, string | undefined>;
      const keys = fault.instancePath.split('/').slice(1);
      if (missingProperty ?? additionalProperty) keys.push((missingProperty ?? additionalProperty)!);
      const value = 'data' in fault && !missingProperty && !additionalProperty ? ` (it is ${shown(fault.data)})` : '';
      return { path: keys.join('.'), message: `${fault.message ?? 'is not valid'}${value}` };
    });
    return errors.badRequest(faults);
  }
  if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE') return errors.tooLarge(bodyLimit);
  if (isDatabaseAway(error)) return errors.databaseAway();
  // SQLSTATE 53100: disk_full.
  if ((error as { original?: { code?: string } }).original?.code === '53100') return errors.diskFull();
  const status = error.statusCode ?? 500;
  if (status < 500)
    return new ServerError(status, error.code ?? 'REFUSED', error.message, { faults: [{ path: '', message: error.message }] });
  return new ServerError(
    500,
    'UNEXPECTED',
    'Something went wrong on the server; what happened is in its log. Nothing was changed.',
  );
}
