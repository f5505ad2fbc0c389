import { type Static, Type } from '@sinclair/typebox';
import { type NestChoice } from '../nesting/index.js';
import { type Sign, SlotSettingSchema } from '../sign/index.js';
import { LIST_LIMITS, type List } from './list.js';
import { matched, type Matching, rowValues } from './rows.js';
import { type Values } from './slots.js';

const closed = { additionalProperties: false };
const Id = Type.String({ pattern: '^[A-Za-z0-9-]{1,64}$' });
const ColumnName = Type.String({ minLength: 1, maxLength: 90 });
const Length = (least: number, most: number) => Type.Number({ minimum: least, maximum: most });

/** A row of the list as it is made: values by column. */
export const RunRow = Type.Object(
  {
    /** Its own for as long as it is there, whatever the order is. */
    id: Type.Integer({ minimum: 1, maximum: 2 ** 31 - 1 }),
    values: Type.Array(Type.String({ maxLength: LIST_LIMITS.characters }), { maxItems: LIST_LIMITS.columns }),
    /** Chosen to be made, or looked at, apart from the others. */
    isMarked: Type.Optional(Type.Literal(true)),
    /** What is otherwise on this plate alone, whatever becomes of the sign. */
    corrections: Type.Optional(
      Type.Array(Type.Object({ sets: SlotSettingSchema, value: Type.String({ minLength: 1, maxLength: 200 }) }, closed), {
        maxItems: 20,
      }),
    ),
  },
  closed,
);
export type RunRow = Static<typeof RunRow>;

export const RunSheet = Type.Object(
  {
    width: Length(10, 10_000),
    height: Length(10, 10_000),
    margin: Length(0, 200),
    spacing: Length(0, 200),
    /** Whether plates may be turned: not at all, upside down as grain allows, by quarters, or anyhow. */
    turns: Type.Union([Type.Literal('none'), Type.Literal('half'), Type.Literal('quarter'), Type.Literal('any')]),
    keepsOrder: Type.Boolean(),
    /** Whether it may take a minute to lay what is not rectangular closer together. */
    isClose: Type.Optional(Type.Boolean()),
    /** What is left of other sheets: taken first, in this order. */
    offcuts: Type.Optional(
      Type.Array(Type.Object({ width: Length(10, 10_000), height: Length(10, 10_000) }, closed), { maxItems: 20 }),
    ),
    /** Places of every whole sheet, from its lower left corner, that are kept free. */
    clamps: Type.Optional(
      Type.Array(
        Type.Object({ x: Length(0, 10_000), y: Length(0, 10_000), width: Length(1, 10_000), height: Length(1, 10_000) }, closed),
        { maxItems: 20 },
      ),
    ),
    /** Plates that lie where they were put by hand: rows by their ids, sheets from 0, degrees. */
    locked: Type.Optional(
      Type.Array(
        Type.Object(
          {
            row: Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 }),
            sheet: Type.Integer({ minimum: 0, maximum: 999 }),
            x: Length(-20_000, 20_000),
            y: Length(-20_000, 20_000),
            turn: Length(-360, 360),
          },
          closed,
        ),
        { maxItems: 2000 },
      ),
    ),
  },
  closed,
);
export type RunSheet = Static<typeof RunSheet>;

/** A sign of a job with a list: hundreds of plates. Lengths in mm. */
export const Run = Type.Object(
  {
    sign: Id,
    columns: Type.Array(ColumnName, { maxItems: LIST_LIMITS.columns }),
    rows: Type.Array(RunRow, { maxItems: LIST_LIMITS.rows }),
    /** Which column has the values of which slot; those of the same name need not be said. */
    matching: Type.Array(Type.Object({ slot: Type.String({ maxLength: 40 }), column: ColumnName }, closed), { maxItems: 60 }),
    /** The list as it came. */
    came: Type.Optional(Type.Object({ name: Type.String({ maxLength: 200 }), file: Type.Optional(Id) }, closed)),
    sheet: RunSheet,
    /** The option of the sign that plates are made as, where no column chooses it. */
    option: Type.Optional(Id),
  },
  closed,
);
export type Run = Static<typeof Run>;

/** An empty run of a sign. */
export const newRun = (sign: string): Run => ({
  sign,
  columns: [],
  rows: [],
  matching: [],
  sheet: { width: 1220, height: 610, margin: 10, spacing: 4, turns: 'quarter', keepsOrder: false },
});

/** What is wrong with a run beyond its schema, with the field where it is; undefined where nothing is. */
export function runFault({ columns, rows, matching }: Run): { readonly path: string; readonly message: string } | undefined {
  if (new Set(columns).size < columns.length) return { path: 'columns', message: 'Two have the same name: give each its own.' };
  const ids = new Set<number>();
  for (const [i, { id, values }] of rows.entries()) {
    if (values.length !== columns.length) return { path: `rows.${i}.values`, message: `There are ${values.length}, and ${columns.length} columns: give each a value.` }; // prettier-ignore
    if (ids.has(id)) return { path: `rows.${i}.id`, message: `${id} is that of an earlier row: give each its own.` };
    ids.add(id);
  }
  const stray = matching.find(({ column }) => !columns.includes(column));
  return stray && { path: 'matching', message: `The list has no column “${stray.column}”: choose one that it has.` };
}

/** Which column fills which slot: those of the same name, and as the run says. */
export const matchingOf = (sign: Sign, { columns, matching }: Pick<Run, 'columns' | 'matching'>): Matching =>
  new Map([...matched(sign, columns), ...matching.map(({ slot, column }) => [slot, column] as const)]);

/** Whether a column of the list chooses which option a plate is made as. */
export const isOptionOfList = ({ slots = [] }: Pick<Sign, 'slots'>): boolean => slots.some(({ sets }) => sets?.kind === 'option');

/** The sign as the plates of a run are made: as the option that the run names, where its list chooses none. */
export function signOfRun(sign: Sign, { option: id }: Pick<Run, 'option'>): Sign {
  const option = isOptionOfList(sign) ? undefined : sign.options?.find((each) => each.id === id);
  if (!option) return sign;
  const { slots = [] } = sign;
  const name = [OPTION_SLOT, ...slots.map((_, i) => `${OPTION_SLOT} ${i + 2}`)].find((each) => slots.every((slot) => slot.name !== each))!; // prettier-ignore
  return { ...sign, slots: [...slots, { name, empty: 'keep', default: option.name, sets: { kind: 'option' } }] };
}

/** What a slot is called that no column fills. */
const OPTION_SLOT = 'made as';

/** The values of every row of a run. */
export const valuesOfRun = (sign: Sign, run: Run): Values[] =>
  rowValues(sign, { columns: run.columns, rows: run.rows.map(({ values }) => values) }, matchingOf(sign, run));

/**
 * How plates of a run are to lie on sheets.
 * @param rows what is laid, by the rows that locked plates are known by, in its order
 */
export function nestChoiceOf({ sheet }: Pick<Run, 'sheet'>, rows: readonly number[] = []): NestChoice {
  const { width, height, margin, spacing, turns, keepsOrder, isClose = false, offcuts = [], clamps = [], locked = [] } = sheet;
  const itemOf = new Map(rows.map((row, item) => [row, item]));
  const lying = locked.flatMap(({ row, ...where }) => {
    const item = itemOf.get(row);
    return item === undefined ? [] : [{ item, ...where }];
  });
  // Who drags plates about waits for no more than what is laid around them.
  const usual = lying.length > 0 ? 0 : EFFORT.usual;
  const effort = isClose ? EFFORT.close : usual;
  return {
    sheet: { width, height },
    margin,
    spacing,
    turns: TURNS[turns],
    keepsOrder,
    tries: 8,
    effort,
    offcuts,
    clamps,
    locked: lying,
  };
}

/** Degrees by which plates may be turned. */
const TURNS: Readonly<Record<RunSheet['turns'], readonly number[]>> = {
  none: [0],
  half: [0, 180],
  quarter: [0, 90, 180, 270],
  any: Array.from({ length: 72 }, (_, i) => 5 * i),
};

/** How often plates are looked at to lay them closer: for some seconds, and for up to a minute. */
export const EFFORT = { usual: 30_000, close: 150_000 };

/** A run with a list in place of the one before, and what that changed: rows by their ids. */
export interface Renewed {
  readonly run: Run;
  readonly added: readonly number[];
  readonly changed: readonly number[];
  /** How many are gone. */
  readonly removed: number;
}

/**
 * Takes a list in, the first or a newer one. Rows are known again by the first column of both whose values are all there and are all
 * different, such as a number, else by all their values; those that are known keep their ids, so that only what is new is made anew.
 */
export function withList(run: Run, list: Pick<List, 'columns' | 'rows'>, came?: Run['came']): Renewed {
  const key = keyColumn(run, list);
  const keyOf = (columns: readonly string[], values: readonly string[]): string =>
    key === undefined ? JSON.stringify(list.columns.map((name) => values[columns.indexOf(name)] ?? '')) : values[columns.indexOf(key)].trim(); // prettier-ignore
  const before = new Map<string, RunRow[]>();
  for (const row of run.rows) {
    const name = keyOf(run.columns, row.values);
    before.set(name, [...(before.get(name) ?? []), row]);
  }
  let next = 1 + run.rows.reduce((most, { id }) => Math.max(most, id), 0);
  const [added, changed]: [number[], number[]] = [[], []];
  const rows = list.rows.map((values): RunRow => {
    const known = before.get(keyOf(list.columns, values))?.shift();
    if (!known) {
      added.push(next);
      return { id: next++, values: [...values] };
    }
    const isSame = list.columns.every((name, i) => (known.values[run.columns.indexOf(name)] ?? '') === values[i]);
    if (!isSame) changed.push(known.id);
    return { ...known, values: [...values] };
  });
  const removed = [...before.values()].reduce((sum, left) => sum + left.length, 0);
  const matching = run.matching.filter(({ column }) => list.columns.includes(column));
  return { run: { ...run, columns: [...list.columns], rows, matching, ...(came && { came }) }, added, changed, removed };
}

function keyColumn(run: Run, list: Pick<List, 'columns' | 'rows'>): string | undefined {
  const isKey = (rows: readonly (readonly string[])[], at: number): boolean => {
    const values = rows.map((row) => row[at]?.trim() ?? '');
    return values.every((value) => value !== '') && new Set(values).size === values.length;
  };
  const old = run.rows.map(({ values }) => values);
  return list.columns.find((name, at) => run.columns.includes(name) && isKey(list.rows, at) && isKey(old, run.columns.indexOf(name))); // prettier-ignore
}
