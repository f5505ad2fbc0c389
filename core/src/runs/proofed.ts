import { type Sign } from '../sign/index.js';
import { type CellsOf, withBraille } from './row-braille.js';
import { matchingOf, type Run, type RunRow, signOfRun, valuesOfRun } from './run.js';
import { filled, slotsInWords, type Values } from './slots.js';

/** A value of a row that a customer would have otherwise. */
export interface ValueCorrection {
  /** Id of the row. */
  readonly row: number;
  readonly column: string;
  readonly was: string;
  readonly value: string;
}

/** A slot whose words customers read, and the column that has them; none where it counts or is always the same. */
export interface ReadSlot {
  readonly slot: string;
  readonly column?: string;
}

/** The slots of a sign's words in the order in which they are read, with the columns of a run that fill them. */
export function readSlots(sign: Sign, run: Run): ReadSlot[] {
  const matching = matchingOf(sign, run);
  return slotsInWords(sign).map((slot) => {
    const column = matching.get(slot);
    const isOfList = column !== undefined && run.columns.includes(column) && !sign.slots?.some(({ name, counter }) => name === slot && counter); // prettier-ignore
    return { slot, ...(isOfList && { column }) };
  });
}

/** A plate as it is read in a list. */
export interface ReadPlate {
  /** Id of the row. */
  readonly row: number;
  /** In the list, from 1. */
  readonly number: number;
  readonly title: string;
  /** By the order of the slots that are read. */
  readonly values: readonly string[];
}

/** Some plates of a run, and of how many. */
export interface ReadPlates {
  readonly of: number;
  readonly plates: readonly ReadPlate[];
}

export interface ReadChoice {
  /** How many of those that match are passed over, and how many are wanted. */
  readonly from: number;
  readonly most: number;
  /** Only those that have these words in a value, or this number. */
  readonly words?: string;
  /** Only these rows, by their ids. */
  readonly rows?: ReadonlySet<number>;
}

/**
 * Plates of a run in the order of its list, to be read by who has no run: customers.
 * @param all the values of its rows, where they are known
 */
export function readPlates(
  sign: Sign,
  run: Run,
  { from, most, words = '', rows }: ReadChoice,
  all: readonly Values[] = valuesOfRun(sign, run),
): ReadPlates {
  const slots = slotsInWords(sign);
  const sought = words.trim().toLowerCase();
  const isSought = ({ id }: RunRow, i: number): boolean =>
    (rows?.has(id) ?? true) &&
    (sought === '' || sought === String(i + 1) || slots.some((slot) => all[i].get(slot)?.toLowerCase().includes(sought)));
  const found = run.rows.flatMap((row, i) => (isSought(row, i) ? [i] : []));
  const plates = found.slice(from, from + most).map((i): ReadPlate => {
    const { id, corrections } = run.rows[i];
    const values = slots.map((slot) => all[i].get(slot) ?? '');
    return { row: id, number: i + 1, title: filled(sign, all[i], corrections).sign.title, values };
  });
  return { of: found.length, plates };
}

/** The document of one plate of a run, as it is made; undefined where there is no such row. */
export function plateDocument(
  sign: Sign,
  run: Run,
  id: number,
  all: readonly Values[] = valuesOfRun(sign, run),
  cellsOf: CellsOf = () => undefined,
): Sign | undefined {
  const at = run.rows.findIndex((row) => row.id === id);
  return at < 0 ? undefined : withBraille(filled(signOfRun(sign, run), all[at], run.rows[at].corrections).sign, cellsOf);
}

/** A run with corrections taken in. */
export interface Corrected {
  readonly run: Run;
  /** Those that are not: their row or column is gone, or says neither what it said nor what it should. */
  readonly stale: readonly ValueCorrection[];
}

export function withValues(run: Run, corrections: readonly ValueCorrection[]): Corrected {
  const stale: ValueCorrection[] = [];
  let isChanged = false;
  const rows = new Map(run.rows.map((row) => [row.id, row]));
  for (const correction of corrections) {
    const row = rows.get(correction.row);
    const at = run.columns.indexOf(correction.column);
    const is = row?.values[at];
    if (row && is === correction.was)
      rows.set(row.id, { ...row, values: row.values.map((value, i) => (i === at ? correction.value : value)) });
    else if (is !== correction.value) stale.push(correction);
    isChanged ||= row !== undefined && is === correction.was;
  }
  if (!isChanged) return { run, stale };
  return { run: { ...run, rows: run.rows.map((row) => rows.get(row.id)!) }, stale };
}

/** What of a run is otherwise than it was. */
export interface RunChanges {
  /** Whether the sign is, and with it every plate. */
  readonly isSignChanged: boolean;
  /** Numbers in the list as it is now, from 1, of plates that say something else, or are new. */
  readonly changed: readonly number[];
  readonly added: readonly number[];
  readonly removed: number;
}

/**
 * How the plates of a run differ from those of an earlier state of it. Rows are known by their ids, so that their order does not matter; as
 * which option they are made is not looked at, since whoever approves them chooses it.
 */
export function runChanges(
  was: { readonly sign: Sign; readonly run: Run },
  is: { readonly sign: Sign; readonly run: Run },
): RunChanges {
  const before = platesOf(was);
  const now = platesOf(is);
  const [changed, added]: [number[], number[]] = [[], []];
  is.run.rows.forEach(({ id }, i) => {
    if (!before.has(id)) added.push(i + 1);
    else if (before.get(id) !== now.get(id)) changed.push(i + 1);
  });
  const removed = was.run.rows.filter(({ id }) => !now.has(id)).length;
  return { isSignChanged: JSON.stringify(was.sign) !== JSON.stringify(is.sign), changed, added, removed };
}

/** What the plate of every row says, by the ids of rows: the values of all slots and what is otherwise on it alone. */
function platesOf({ sign, run }: { readonly sign: Sign; readonly run: Run }): Map<number, string> {
  const names = (sign.slots ?? []).map(({ name }) => name);
  const said = (values: Values): (string | undefined)[] => names.map((name) => values.get(name)?.trim());
  return new Map(
    valuesOfRun(sign, run).map((values, i) => {
      const { id, corrections = [] } = run.rows[i];
      return [id, JSON.stringify([said(values), corrections])];
    }),
  );
}
