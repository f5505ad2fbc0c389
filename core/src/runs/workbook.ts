import { unzipSync } from 'fflate';
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { LIST_LIMITS, type List, listOfRows, ListError } from './list.js';

/** Bytes that a part of a workbook may unpack to: a list that may be read is far smaller. */
const MOST_UNPACKED = 120_000_000;

/** Whether a file is a zip, as workbooks are. */
export const isZip = (bytes: Uint8Array): boolean => bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/**
 * The first sheet of a workbook (Office Open XML, ECMA-376 part 1, section 18): what its cells show as values; of formulas what they came to
 * when it was saved, and days as ISO 8601 has them.
 * @throws ListError where it is none, or has more than {@link LIST_LIMITS}
 */
export function readWorkbook(bytes: Uint8Array): List {
  const parts = unpacked(bytes);
  const text = (name: string): string | undefined => parts[name] && new TextDecoder('utf-8').decode(parts[name]);
  const book = text('xl/workbook.xml');
  if (book === undefined) throw new ListError('The file is a zip, and no workbook: save it as .xlsx or as CSV.');
  const first = firstSheet(book, text('xl/_rels/workbook.xml.rels') ?? '');
  const sheet = text(first.path);
  if (sheet === undefined) throw new ListError(`The workbook has no sheet “${first.name}”.`);
  const strings = sharedStrings(text('xl/sharedStrings.xml') ?? '');
  const rows = cellsOf(sheet, strings, dayStyles(text('xl/styles.xml') ?? ''), first.isFrom1904);
  return listOfRows(rows, first.count > 1 ? [`The list is the first of ${first.count} sheets, “${first.name}”.`] : []);
}

/** What a workbook is read from; anything else in it stays packed. */
const NEEDED = /^xl\/(workbook\.xml|_rels\/workbook\.xml\.rels|sharedStrings\.xml|styles\.xml|worksheets\/[^/]+\.xml)$/u;

function unpacked(bytes: Uint8Array): Record<string, Uint8Array> {
  let sum = 0;
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (!NEEDED.test(name)) return false;
        sum += originalSize;
        if (sum > MOST_UNPACKED) throw new ListError(`The workbook unpacks to more than ${MOST_UNPACKED / 1e6} MB: save its list as CSV.`); // prettier-ignore
        return true;
      },
    });
  } catch (error) {
    if (error instanceof ListError) throw error;
    throw new ListError('The workbook is damaged, or locked by a password: save it once more.');
  }
}

/** Reads XML tag by tag. @throws ListError where it is broken */
function parsed(
  xml: string,
  open: (tag: SaxesTagPlain) => void,
  close: (name: string) => void,
  text: (words: string) => void,
): void {
  const parser = new SaxesParser();
  parser.on('opentag', open);
  parser.on('closetag', ({ name }) => close(plain(name)));
  parser.on('text', text);
  parser.on('error', () => {
    throw new ListError('The workbook is damaged: save it once more.');
  });
  parser.write(xml).close();
}

/** The name of a tag without its prefix. */
const plain = (name: string): string => name.slice(name.indexOf(':') + 1);

interface Sheet {
  readonly name: string;
  readonly path: string;
  readonly count: number;
  readonly isFrom1904: boolean;
}

function firstSheet(book: string, relations: string): Sheet {
  const sheets: { readonly name: string; readonly id: string }[] = [];
  let isFrom1904 = false;
  parsed(
    book,
    ({ name, attributes }) => {
      if (plain(name) === 'sheet') sheets.push({ name: attributes.name ?? '', id: attributes['r:id'] ?? '' });
      if (plain(name) === 'workbookPr') isFrom1904 = ['1', 'true'].includes(attributes.date1904 ?? '');
    },
    () => undefined,
    () => undefined,
  );
  const [first] = sheets;
  if (!first) throw new ListError('The workbook has no sheet.');
  let target = 'worksheets/sheet1.xml';
  if (relations !== '')
    parsed(
      relations,
      ({ attributes }) => {
        if (attributes.Id === first.id && attributes.Target) target = attributes.Target;
      },
      () => undefined,
      () => undefined,
    );
  const path = target.startsWith('/') ? target.slice(1) : `xl/${target}`;
  return { name: first.name, path, count: sheets.length, isFrom1904 };
}

function sharedStrings(xml: string): string[] {
  const all: string[] = [];
  if (xml === '') return all;
  let [own, isText, isPhonetic] = ['', false, false];
  parsed(
    xml,
    ({ name }) => {
      if (plain(name) === 'si') own = '';
      if (plain(name) === 't') isText = true;
      if (plain(name) === 'rPh') isPhonetic = true;
    },
    (name) => {
      if (name === 'si') all.push(own);
      if (name === 't') isText = false;
      if (name === 'rPh') isPhonetic = false;
    },
    (words) => {
      if (isText && !isPhonetic) own += words;
    },
  );
  return all;
}

/** Formats of numbers that are days, of those that need not be said (section 18.8.30). */
const isDayFormat = (id: number): boolean => (id >= 14 && id <= 17) || id === 22;

/** Which styles of cells show days. */
function dayStyles(xml: string): boolean[] {
  const all: boolean[] = [];
  if (xml === '') return all;
  const own = new Set<number>();
  let isCells = false;
  parsed(
    xml,
    ({ name, attributes }) => {
      // Days, months and years outside of quoted words and colours.
      if (plain(name) === 'numFmt' && /[dy]/iu.test((attributes.formatCode ?? '').replace(/"[^"]*"|\[[^\]]*\]|\\./gu, ''))) own.add(Number(attributes.numFmtId)); // prettier-ignore
      if (plain(name) === 'cellXfs') isCells = true;
      if (isCells && plain(name) === 'xf') {
        const id = Number(attributes.numFmtId ?? 0);
        all.push(isDayFormat(id) || own.has(id));
      }
    },
    (name) => {
      if (name === 'cellXfs') isCells = false;
    },
    () => undefined,
  );
  return all;
}

/** Column of a cell's name, from 0: A1 is 0, AA7 is 26. */
function columnOf(reference: string): number {
  let column = 0;
  for (const letter of /^[A-Z]+/u.exec(reference)?.[0] ?? '') column = column * 26 + letter.charCodeAt(0) - 64;
  return column - 1;
}

function cellsOf(xml: string, strings: readonly string[], areDays: readonly boolean[], isFrom1904: boolean): string[][] {
  const rows: string[][] = [];
  let row: string[] = [];
  let [kind, style, column, value, isValue] = ['n', 0, 0, '', false];
  parsed(
    xml,
    ({ name, attributes }) => {
      switch (plain(name)) {
        case 'row':
          [row, column] = [[], -1];
          rows.push(row);
          if (rows.length > LIST_LIMITS.rows + 1) throw new ListError(`The list has more than ${LIST_LIMITS.rows} rows: part it into several.`); // prettier-ignore
          break;
        case 'c':
          [kind, style, value] = [attributes.t ?? 'n', Number(attributes.s ?? 0), ''];
          // Without a name it stands after the one before, be that empty.
          column = attributes.r === undefined ? column + 1 : columnOf(attributes.r);
          break;
        case 'v':
        case 't':
          isValue = true;
      }
    },
    (name) => {
      if (name === 'v' || name === 't') isValue = false;
      if (name !== 'c') return;
      const shown = shownValue(kind, value, strings, areDays[style] ?? false, isFrom1904);
      if (shown === '') return;
      if (column >= LIST_LIMITS.columns) throw new ListError(`Row ${rows.length - 1} has a value in column ${column + 1}: ${LIST_LIMITS.columns} are read.`); // prettier-ignore
      while (row.length < column) row.push('');
      row[column] = shown;
    },
    (words) => {
      if (isValue) value += words;
    },
  );
  return rows;
}

function shownValue(kind: string, value: string, strings: readonly string[], isDay: boolean, isFrom1904: boolean): string {
  switch (kind) {
    case 's':
      return strings[Number(value)] ?? '';
    case 'b':
      return value === '1' ? 'TRUE' : value === '0' ? 'FALSE' : '';
    case 'n':
      return value === '' ? '' : isDay ? dayOf(Number(value), isFrom1904) : figureOf(value);
    default:
      return value;
  }
}

/** A number as it is read: 0.1 and not 0.10000000000000001. */
const figureOf = (value: string): string =>
  Number.isFinite(Number(value)) ? String(Number(Number(value).toPrecision(15))) : value;

/**
 * The day of a serial number (section 18.17.4.1): days from 30 December 1899, from 1 March 1900 on, or from 1 January 1904.
 */
function dayOf(serial: number, isFrom1904: boolean): string {
  const from = isFrom1904 ? Date.UTC(1904, 0, 1) : Date.UTC(1899, 11, 30);
  const moment = new Date(from + Math.round(serial * 86_400_000));
  if (Number.isNaN(moment.getTime())) return String(serial);
  const [day, time] = moment.toISOString().split('T');
  return serial % 1 === 0 ? day : `${day} ${time.slice(0, 5)}`;
}
