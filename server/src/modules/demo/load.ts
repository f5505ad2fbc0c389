import type { ShopCard } from '@plain-relief/api';
import type { JobState } from '@plain-relief/api/states';
import { type Place } from '@plain-relief/core/in-place';
import { newRun, readList, withList } from '@plain-relief/core/runs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from '../../platform/database/database.js';
import { FileService } from '../files/service.js';
import { readCatalogue } from '../fonts/font-files.js';
import { JobService } from '../jobs/service.js';
import { type DemoPerson, PeopleService } from '../people/service.js';
import type { Settings } from '../../platform/settings.js';
import { PlaceService } from '../places/service.js';
import { RunService } from '../runs/service.js';
import { keepShopCard } from '../shop/card.js';
import { keepLibrary } from '../shop/library.js';
import { ShopFonts } from '../fonts/fonts.js';
import { SignService } from '../signs/service.js';
import { type StoryStep, StoryTeller } from './story.js';

const DAY_MS = 86_400_000;

interface DemoShop extends ShopCard {
  readonly library: unknown;
}

interface DemoJob {
  readonly customer: string;
  readonly contact: string;
  readonly title: string;
  readonly state: JobState;
  /** Days from the day of loading until it is due. */
  readonly dueInDays: number | null;
  readonly quantity: number;
  readonly unit: 'mm' | 'in';
  readonly signs: readonly string[];
  /** Where they hang: with a photograph by its file, and signs by their number among those of the job. */
  readonly places?: readonly { readonly title: string; readonly photograph: string; readonly document: Place }[];
  /** Signs with a list each: the files of both. */
  readonly runs?: readonly { readonly title: string; readonly sign: string; readonly list: string }[];
  /** What happened to its proofs. */
  readonly story?: readonly StoryStep[];
}

/**
 * Loads the demo scenario into an empty database, through the same services as users' data. Gives whether it did.
 * @param hasStory whether proofs have been out and answered in the weeks before
 */
export async function loadDemo(
  db: Database,
  settings: Pick<Settings, 'demoDir' | 'fontsDir' | 'publicUrl' | 'mailFrom'>,
  hasStory = false,
): Promise<boolean> {
  const { demoDir, fontsDir } = settings;
  if ((await db.Customer.count()) > 0) return false;
  const people = JSON.parse(await readFile(join(demoDir, 'people.json'), 'utf8')) as DemoPerson[];
  await new PeopleService(db).loadDemo(people);
  const { name, contact, terms, library } = JSON.parse(await readFile(join(demoDir, 'shop.json'), 'utf8')) as DemoShop;
  await keepShopCard(db, { name, contact, terms });
  await keepLibrary(db, 0, library);
  const jobs = new JobService(db);
  const signs = new SignService(db, readCatalogue(fontsDir), new ShopFonts(db));
  const teller = new StoryTeller(db, settings, signs);
  const scenario = JSON.parse(await readFile(join(demoDir, 'jobs.json'), 'utf8')) as DemoJob[];
  for (const { customer, contact, title, state, dueInDays, quantity, unit, signs: files, places, runs, story } of scenario) {
    // What is over is there for its story alone.
    if (state === 'done' && !hasStory) continue;
    const dueOn = dueInDays === null ? null : new Date(Date.now() + dueInDays * DAY_MS).toISOString().slice(0, 10);
    const job = await jobs.create({ customer, title, dueOn, quantity, unit });
    await db.Customer.update({ contact }, { where: { name: customer } });
    const ids: string[] = [];
    for (const file of files) {
      const document = JSON.parse(await readFile(join(demoDir, file), 'utf8')) as { title: string };
      ids.push((await signs.create(job, document.title, document)).id);
    }
    for (const run of runs ?? []) await keepRun(db, jobs, signs, demoDir, job, run);
    for (const place of places ?? []) await keepPlace(db, jobs, demoDir, job.id, ids, place);
    if (hasStory) await teller.tell(job.id, contact, ids, story ?? []);
    await jobs.change(job.id, { state });
  }
  return true;
}

/** Keeps a run of a demo job with its sign and its list. */
async function keepRun(
  db: Database,
  jobs: JobService,
  signs: SignService,
  demoDir: string,
  job: Parameters<SignService['create']>[0],
  { title, sign: file, list }: NonNullable<DemoJob['runs']>[number],
): Promise<void> {
  const document = JSON.parse(await readFile(join(demoDir, file), 'utf8')) as { title: string };
  const { id } = await signs.create(job, document.title.replace(/\{[^}]*\}/gu, '').trim(), document);
  const content = await readFile(join(demoDir, list));
  const name = list.split('/').at(-1)!;
  const kept = await new FileService(db, jobs).keep(job.id, name, content);
  const { run } = withList(newRun(id), readList(new Uint8Array(content)), { name, file: kept.id });
  await new RunService(db).create(job.id, title, run);
}

/** Keeps a place of a demo job with its photograph. @param ids of the job’s signs */
async function keepPlace(
  db: Database,
  jobs: JobService,
  demoDir: string,
  jobId: string,
  ids: readonly string[],
  { title, photograph, document }: NonNullable<DemoJob['places']>[number],
): Promise<void> {
  const content = await readFile(join(demoDir, photograph));
  const { id: file } = await new FileService(db, jobs).keep(jobId, photograph.split('/').at(-1)!, content);
  const signs = document.signs.map((at) => ({ ...at, sign: ids[Number(at.sign)] }));
  const ground = document.ground.kind === 'photograph' ? { ...document.ground, file } : document.ground;
  await new PlaceService(db).create(jobId, title, { ...document, ground, signs });
}
