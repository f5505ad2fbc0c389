import type { RunMaking as MakingView, NewMaking } from '@plain-relief/api';
import type { MakingState } from '@plain-relief/api/states';
import { repeatedValues, reportFile, type ReportedRow, rowRemarks, type Run, sheetTroubles, signOfRun, takesLists, unfilled, matchingOf, valuesOfRun } from '@plain-relief/core/runs'; // prettier-ignore
import { type AskedMeans, type KeptMeans, keptMeans, MeansError } from '@plain-relief/core/making';
import { type Sign } from '@plain-relief/core/sign';
import { randomUUID } from 'node:crypto';
import { Op, QueryTypes } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { OrderedRow, RunMaking } from '../../platform/database/models/lots.js';
import { errors } from '../../platform/errors.js';
import { isUuid } from '../../platform/http/ids.js';
import { LOT_QUEUE, type Send } from '../../platform/queue/queue.js';
import { releaseFiles } from '../proofs/frozen-runs.js';
import { shopLibrary } from '../shop/library.js';
import { packedText, type PackedFiles } from './archive.js';

/** Rows of a lot: so few that a file of a single sign waits for no more than a moment. */
const LOT = 12;
/** Of one run, at once, and kept. */
const MOST_OPEN = 3;
const MOST_KEPT = 5;

/** Where each may go on from. */
const FROM = { paused: ['running'], running: ['paused'], cancelled: ['running', 'paused'] } as const satisfies Partial<Record<MakingState, readonly MakingState[]>>; // prettier-ignore

/** Files of runs that workers make: asked for, followed, and given out. */
export class LotService {
  constructor(
    private readonly db: Database,
    private readonly send: Send,
  ) {}

  /** Has files of plates made, of the run as it was saved last. @throws ServerError where they are not approved and nobody says why, or cannot be made */
  async ask(
    runId: string,
    { plates, kinds, onSheets, hasContact, programs, override }: NewMaking,
    who: string,
  ): Promise<MakingView> {
    const run = isUuid(runId) ? await this.db.RunRow.findByPk(runId) : null;
    if (!run) throw errors.notFound('run', runId);
    const sign = await this.db.SignRow.findByPk(run.sign);
    if (!sign) throw errors.notFound('sign', run.sign);
    const rows = orderedRows(sign.document, run.document, plates);
    if (programs && !onSheets) throw errors.badRequest([{ path: 'programs', message: 'Programs are made by sheet: have the plates laid on sheets.' }]); // prettier-ignore
    const cutting = programs ? await this.means(sign.document, programs) : null;
    const open = await this.db.RunMaking.count({ where: { runId, state: ['running', 'paused'] } });
    if (open >= MOST_OPEN) throw errors.tooManyMakings(MOST_OPEN);
    const what = [...kinds.map((kind) => kind.toUpperCase()), ...(onSheets ? ['sheets'] : []), ...(hasContact ? ['contact sheet'] : []), ...(cutting ? [`programs for ${cutting.machine.name}`] : [])]; // prettier-ignore
    await releaseFiles(this.db, runId, { plates: rows.map(({ row }) => row + 1), what: what.join(', ') || 'A report', ...(override !== undefined && { override }) }, who); // prettier-ignore
    const id = randomUUID();
    const lots = Math.ceil(rows.length / LOT);
    const now = new Date();
    await this.db.sequelize.transaction(async (transaction) => {
      const counts = { rows: rows.length, made: 0, rowLots: lots, lots, lotsMade: 0 };
      const { title } = run;
      const { columns } = run.document;
      await this.db.RunMaking.create(
        { id, runId, title, sign: signOfRun(sign.document, run.document), columns, kinds, sheet: onSheets ? sheetByNumbers(run.document) : null, hasContact, cutting, who, state: 'running', ...counts, askedAt: now, beatAt: now },
        { transaction },
      ); // prettier-ignore
      const own = Array.from({ length: lots }, (_, i) => rows.slice(i * LOT, (i + 1) * LOT));
      await this.db.RunLot.bulkCreate(
        own.map((each, position) => ({
          makingId: id,
          position,
          kind: 'rows',
          number: 0,
          state: 'waiting',
          rows: each,
          tries: 0,
        })),
        { transaction },
      );
    });
    await this.send({ makingId: id }, LOT_QUEUE);
    await this.forget(runId);
    return this.told(await this.find(id));
  }

  async ofRun(runId: string): Promise<MakingView[]> {
    if (!isUuid(runId)) throw errors.notFound('run', runId);
    const all = await this.db.RunMaking.findAll({ where: { runId }, attributes: SMALL, order: [['askedAt', 'DESC']], limit: MOST_KEPT }); // prettier-ignore
    return Promise.all(all.map((making) => this.told(making)));
  }

  async read(id: string): Promise<MakingView> {
    return this.told(await this.find(id));
  }

  /** Pauses, goes on, or ends; what is made of it stays while it is paused and goes when it is ended. */
  async turn(id: string, state: keyof typeof FROM): Promise<MakingView> {
    await this.find(id);
    const change = { state, beatAt: new Date(), ...(state === 'cancelled' && { finishedAt: new Date() }) };
    const [turned] = await this.db.RunMaking.update(change, { where: { id, state: [...FROM[state]] } });
    if (turned === 1 && state === 'running') await this.send({ makingId: id }, LOT_QUEUE);
    if (turned === 1 && state === 'cancelled') await this.db.RunLot.destroy({ where: { makingId: id } });
    return this.told(await this.find(id));
  }

  /** The files in the order of the list, those of sheets after them, and a report; read from the database a lot at a time. */
  async archive(id: string): Promise<{ readonly name: string; readonly parts: AsyncGenerator<PackedFiles> }> {
    const making = await this.find(id);
    if (making.state !== 'done') throw errors.notReady(making.state);
    return { name: `${making.title.replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`, parts: this.parts(id) };
  }

  private async *parts(id: string): AsyncGenerator<PackedFiles> {
    const { columns, lots } = (await this.db.RunMaking.findByPk(id, { attributes: ['columns', 'lots'] }))!;
    const reported: ReportedRow[] = [];
    for (let position = 0; position < lots; position++) {
      const lot = await this.db.RunLot.findOne({
        where: { makingId: id, position },
        attributes: ['files', 'data', 'made', 'rows'],
      });
      // It was taken away meanwhile: a file that breaks off is known to be none.
      if (!lot) throw errors.notFound('files of', id);
      const rows = new Map(lot.rows?.map((row) => [row.row, row]));
      for (const made of lot.made ?? []) {
        const { values, remarks } = rows.get(made.row)!;
        reported.push({ ...made, told: [...made.told, ...remarks], values });
      }
      yield { files: lot.files ?? [], data: lot.data ?? new Uint8Array() };
    }
    yield packedText('report.csv', `\ufeff${reportFile(columns, reported)}`);
  }

  private async find(id: string): Promise<RunMaking> {
    const making = isUuid(id) ? await this.db.RunMaking.findByPk(id, { attributes: SMALL }) : null;
    if (!making) throw errors.notFound('files of a run', id);
    return making;
  }

  private async means(sign: Sign, asked: AskedMeans): Promise<KeptMeans> {
    const { library } = await shopLibrary(this.db);
    try {
      return keptMeans(library, sign, asked);
    } catch (error) {
      if (!(error instanceof MeansError)) throw error;
      throw errors.badRequest([{ path: `programs.${error.path}`, message: error.message }]);
    }
  }

  /** What is older than those that are kept goes, whatever is open stays. */
  private async forget(runId: string): Promise<void> {
    const old = await this.db.RunMaking.findAll({ where: { runId, state: { [Op.notIn]: ['running', 'paused'] } }, attributes: ['id'], order: [['askedAt', 'DESC']], offset: MOST_KEPT - MOST_OPEN }); // prettier-ignore
    await this.db.RunMaking.destroy({ where: { id: old.map(({ id }) => id) } });
  }

  private async told(making: RunMaking): Promise<MakingView> {
    const { id, title, state, who, rows, made, error, kinds, hasContact, minutes, troubles, askedAt, finishedAt } = making;
    // What is under way and what is done in one statement: a lot that is kept meanwhile is in one of them.
    const [{ workers, lots, lotsMade, underWay, held, bytes, sheets, share, left, machine }] = await this.db.sequelize.query<Counted>(
      `SELECT (SELECT count(*) FROM run_lots WHERE making_id = :id AND state = 'running')::int AS workers, lots, lots_made AS "lotsMade",
              (SELECT coalesce(sum(part), 0) FROM run_lots WHERE making_id = :id AND state = 'running')::float AS "underWay",
              (SELECT count(*) FROM run_lots, jsonb_array_elements(CASE WHEN jsonb_typeof(made) = 'array' THEN made ELSE '[]' END) AS own WHERE making_id = :id AND own->>'state' NOT IN ('fits', 'fitted'))::int AS held,
              (SELECT coalesce(sum(octet_length(data)), 0) FROM run_lots WHERE making_id = :id)::float AS bytes,
              (laid->>'count')::int AS sheets, (laid->>'share')::float AS share, laid->'left' AS "left",
              cutting->'machine'->>'name' AS machine
       FROM run_makings WHERE id = :id`,
      { replacements: { id }, type: QueryTypes.SELECT },
    ); // prettier-ignore
    const ahead = state === 'running' ? await this.db.RunMaking.count({ where: { state: 'running', id: { [Op.ne]: id } } }) : 0;
    const laid = sheets === null ? null : { sheets, share: share!, left: left! };
    const programs = machine === null ? null : { machine, minutes };
    const wrong = [error, sheetTroubles(troubles)].filter(Boolean).join(' ') || null;
    return { id, title, state, who, rows, made, lots, lotsMade, workers, underWay, held, others: ahead, bytes, laid, error: wrong, kinds: [...kinds], hasContact, programs, askedAt: askedAt.toISOString(), finishedAt: finishedAt?.toISOString() ?? null }; // prettier-ignore
  }
}

/** All but what is long. */
const SMALL = { exclude: ['sign', 'columns', 'laid', 'cutting'] };

interface Counted {
  readonly workers: number;
  readonly lots: number;
  readonly lotsMade: number;
  readonly underWay: number;
  readonly held: number;
  readonly bytes: number;
  readonly sheets: number | null;
  readonly share: number | null;
  readonly left: number[] | null;
  readonly machine: string | null;
}

/** How plates lie, with those that are locked by the numbers of their rows, from 0, instead of their ids. */
function sheetByNumbers({ sheet, rows }: Run): Run['sheet'] {
  if (!sheet.locked) return sheet;
  const numberOf = new Map(rows.map(({ id }, row) => [id, row]));
  const locked = sheet.locked.flatMap(({ row, ...where }) => {
    const number = numberOf.get(row);
    return number === undefined ? [] : [{ row: number, ...where }];
  });
  return { ...sheet, locked };
}

/** The rows that are wanted, with what is put into the sign for each. @param plates numbers from 1; all where none are named */
function orderedRows(sign: Sign, run: Run, plates: readonly number[] | undefined): OrderedRow[] {
  if (!takesLists(sign)) throw errors.badRequest([{ path: 'run', message: 'No words of its sign have a column in them yet.' }]);
  const lacking = unfilled(sign, matchingOf(sign, run));
  if (lacking.length > 0) throw errors.badRequest([{ path: 'run.matching', message: `Nothing fills ${lacking.join(', ')}: choose a column for it.` }]); // prettier-ignore
  const values = valuesOfRun(sign, run);
  const remarks = rowRemarks(values);
  const twice = repeatedValues(sign, values);
  const chosen = plates && new Set(plates.map((number) => number - 1));
  const strange = plates?.find((number) => number > run.rows.length);
  if (strange !== undefined) throw errors.badRequest([{ path: 'plates', message: `The list has ${run.rows.length} rows, and no plate ${strange}.` }]); // prettier-ignore
  const rows = run.rows.flatMap(({ values: own, corrections }, row): OrderedRow[] => {
    if (chosen && !chosen.has(row)) return [];
    const told = [...remarks[row].map(({ text }) => text), ...(twice.get(row) ?? [])];
    return [{ row, slots: [...values[row]], values: own, remarks: told, ...(corrections && { corrections }) }];
  });
  if (rows.length === 0) throw errors.badRequest([{ path: 'plates', message: 'The list has no rows yet.' }]);
  return rows;
}
