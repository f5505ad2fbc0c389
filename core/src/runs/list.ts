import Papa from 'papaparse';

/** A list as it came: the names of its columns, and its rows. */
export interface List {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** What was told of how it was read. */
  readonly notes: readonly string[];
}

/** A list that cannot be read, with the row and the column where there is one. */
export class ListError extends Error {
  override readonly name = 'ListError';
}

/** The most that a list may have. */
export const LIST_LIMITS = { bytes: 20_000_000, columns: 200, rows: 20_000, characters: 4000 } as const;

/** The same of text, such as is pasted from a spreadsheet. */
export function listOf(text: string): List {
  const notes: string[] = [];
  const nul = text.indexOf('\0');
  if (nul >= 0) {
    const row = text.slice(0, nul).split(/\r\n|\r|\n/u).length;
    throw new ListError(`${placeOf(row)} has a NUL character: the file is no list of values, or is damaged.`);
  }
  const { data, errors } = Papa.parse<string[]>(text, { skipEmptyLines: 'greedy', preview: LIST_LIMITS.rows + 2 });
  const broken = errors.find(({ type }) => type === 'Quotes');
  if (broken)
    throw new ListError(`${placeOf((broken.row ?? 0) + 1)}: a quotation mark is opened that is not closed where the value ends.`);
  return listOfRows(data, notes);
}

/** A list of rows of values, the names of columns first. @param told of how they were read @throws ListError as {@link readList} */
export function listOfRows(data: readonly (readonly string[])[], told: readonly string[]): List {
  const notes = [...told];
  const [head, ...rows] = data.filter((row) => row.some((value) => value.trim() !== ''));
  if (!head) throw new ListError('The list is empty: its first row has the names of its columns.');
  if (rows.length > LIST_LIMITS.rows)
    throw new ListError(`The list has more than ${LIST_LIMITS.rows} rows: part it into several.`);
  if (head.length > LIST_LIMITS.columns)
    throw new ListError(`The head has ${head.length} columns: ${LIST_LIMITS.columns} are read.`);
  if (rows.length === 0) throw new ListError('The list has no rows under the names of its columns.');
  const columns = named(head, notes);
  const tidied = rows.map((row, i) => rowOf(row, columns, i + 1, notes));
  return { columns, rows: tidied, notes };
}

/** Rows are counted after the head, as they are made. @param row of the file, from 1 */
const placeOf = (row: number): string => (row === 1 ? 'The head' : `Row ${row - 1}`);

/** Names of columns, each there once. */
function named(head: readonly string[], notes: string[]): string[] {
  const taken = new Set<string>();
  return head.map((given, i) => {
    const name = given.trim().slice(0, 80) || `column ${i + 1}`;
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name} ${n}`;
    if (free !== name) notes.push(`The column “${name}” is there more than once: column ${i + 1} is called “${free}”.`);
    taken.add(free);
    return free;
  });
}

const MOST_NOTES = 20;

function rowOf(row: readonly string[], columns: readonly string[], number: number, notes: string[]): string[] {
  const long = row.findIndex((value) => value.length > LIST_LIMITS.characters);
  if (long >= 0)
    throw new ListError(`Row ${number}, ${columns[long] ?? `column ${long + 1}`}: a value has ${row[long].length} characters; ${LIST_LIMITS.characters} are read.`); // prettier-ignore
  const beyond = row.slice(columns.length).filter((value) => value.trim() !== '');
  if (beyond.length > 0 && notes.length < MOST_NOTES)
    notes.push(`Row ${number} has ${row.length} values and the head ${columns.length}: “${beyond[0].slice(0, 40)}” is left out.`);
  return columns.map((_, i) => row[i] ?? '');
}

/** A table as a list of values (RFC 4180). Cells that a spreadsheet would take for formulas are kept text by an apostrophe before them. */
export const listFile = (columns: readonly string[], rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse({ fields: [...columns], data: rows.map((row) => [...row]) }, { escapeFormulae: true, newline: '\r\n' })}\r\n`;
