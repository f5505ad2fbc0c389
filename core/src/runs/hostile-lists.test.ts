import { describe, expect, it } from '@jest/globals';
import { strToU8, zipSync } from 'fflate';
import { LIST_LIMITS, type List, ListError, listFile, readList } from './index.js';

const utf8 = (text: string): Uint8Array => strToU8(text);
const latin = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));
const utf16 = (text: string, isLittle: boolean): Uint8Array =>
  Uint8Array.from([...`\ufeff${text}`].flatMap((letter) => { const code = letter.charCodeAt(0); return isLittle ? [code & 255, code >> 8] : [code >> 8, code & 255]; })); // prettier-ignore
const sheet = (rows: string, more: Record<string, Uint8Array> = {}): Uint8Array =>
  zipSync({
    'xl/workbook.xml': utf8('<workbook><sheets><sheet name="A"/></sheets></workbook>'),
    'xl/worksheets/sheet1.xml': utf8(`<worksheet><sheetData>${rows}</sheetData></worksheet>`),
    ...more,
  });
const cell = (words: string): string => `<c t="inlineStr"><is><t>${words}</t></is></c>`;
const row = (...words: string[]): string => `<row>${words.map(cell).join('')}</row>`;
const names = (count: number): string => Array.from({ length: count }, (_, i) => `c${i}`).join(',');

/** Files that are refused, and what is said of them: where there is a row and a column, with them. */
const REFUSED: readonly (readonly [string, () => Uint8Array, string])[] = [
  ['no bytes', () => utf8(''), 'The list is empty'],
  ['a byte order mark alone', () => utf8('\ufeff'), 'The list is empty'],
  ['line ends alone', () => utf8('\r\n\r\n\n\r'), 'The list is empty'],
  ['blanks alone', () => utf8('   \n\t\n  '), 'The list is empty'],
  ['commas alone', () => utf8(',,,\n,,,'), 'The list is empty'],
  ['more bytes than are read', () => new Uint8Array(LIST_LIMITS.bytes + 1).fill(97), `${LIST_LIMITS.bytes / 1e6} MB are read`],
  ['a line of 100 MB', () => new Uint8Array(100_000_000).fill(120), 'The list has 100 MB'],
  ['a line of 19 MB', () => new Uint8Array(19_000_000).fill(120), 'no rows under the names'],
  ['a head alone', () => utf8('a,b\n'), 'no rows under the names'],
  ['a value of 19 MB', () => utf8(`name\n${'x'.repeat(19_000_000)}`), 'Row 1, name: a value has 19000000 characters'],
  ['1,000 columns', () => utf8(`${names(1000)}\n1`), 'The head has 1000 columns: 200 are read.'],
  ['201 columns', () => utf8(`${names(201)}\n1`), 'The head has 201 columns'],
  ['too many rows', () => utf8(`a\n${'1\n'.repeat(LIST_LIMITS.rows + 1)}`), `more than ${LIST_LIMITS.rows} rows`],
  ['a million empty values in a head', () => utf8(`${','.repeat(1_000_000)}a\n1`), 'columns: 200 are read.'],
  ['a value that is too long', () => utf8(`a,b\n1,2\n3,${'x'.repeat(LIST_LIMITS.characters + 1)}`), 'Row 2, b: a value has 4001 characters'], // prettier-ignore
  ['a long value beyond the head', () => utf8(`a\n1,2,${'x'.repeat(5000)}`), 'Row 1, column 3: a value has 5000 characters'],
  ['a NUL in the head', () => utf8('a\0b\n1'), 'The head has a NUL'],
  ['a NUL in a row', () => utf8('a,b\n1,2\n3,\0'), 'Row 2 has a NUL'],
  ['NULs alone', () => new Uint8Array(5000), 'has a NUL'],
  ['a program', () => Uint8Array.of(0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0, 0, 0), 'has a NUL'],
  ['a picture', () => Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 0, 0, 0, 13), 'has a NUL'],
  ['a quote that is not closed', () => utf8('a,b\n1,"2\n3,4'), 'a quotation mark is opened'],
  ['a quote that closes before the end of its value', () => utf8('a,b\n1,"2"x\n'), 'a quotation mark is opened'],
  ['a quote in the head that is not closed', () => utf8('"a,b\n1,2'), 'a quotation mark is opened'],
  ['a zip of something else', () => zipSync({ 'word/document.xml': utf8('<x/>') }), 'no workbook'],
  ['an empty zip', () => zipSync({}), 'has a NUL'],
  ['a zip with nothing behind its head', () => Uint8Array.of(0x50, 0x4b, 3, 4, 0, 0, 0, 0), 'damaged'],
  ['a workbook torn in the middle', () => sheet(row('a')).slice(0, 150), 'damaged'],
  ['a workbook of noise', () => { const bytes = sheet(row('a')); return bytes.map((byte, i) => (i > 60 && i < 140 ? byte ^ 0x55 : byte)); }, 'damaged'], // prettier-ignore
  ['a bomb of spaces', () => sheet(row('a'), { 'xl/sharedStrings.xml': new Uint8Array(125_000_000).fill(32) }), 'unpacks to more than 120 MB'], // prettier-ignore
  ['a bomb in two halves', () => sheet(row('a'), { 'xl/sharedStrings.xml': new Uint8Array(65_000_000).fill(32), 'xl/styles.xml': new Uint8Array(65_000_000).fill(32) }), 'unpacks to more than 120 MB'], // prettier-ignore
  ['entities within entities', () => sheet(`<!DOCTYPE z [<!ENTITY a "b"><!ENTITY c "&a;&a;">]>${row('a')}<row><c t="str"><v>&c;</v></c></row>`), 'damaged'], // prettier-ignore
  ['an entity of a file', () => sheet(`<!DOCTYPE z [<!ENTITY a SYSTEM "file:///etc/passwd">]>${row('&a;')}`), 'damaged'],
  ['tags that cross', () => sheet('<row><c></row></c>'), 'damaged'],
  [
    'a workbook of 201 columns',
    () => sheet(row('a') + row(...Array.from({ length: 201 }, () => 'x'))),
    'column 201: 200 are read',
  ],
  [
    'a workbook with a cell far out',
    () => sheet(`${row('a')}<row><c r="ZZZZ9" t="str"><v>x</v></c></row>`),
    'Row 1 has a value in column',
  ],
  ['a workbook of too many rows', () => sheet(row('a').repeat(LIST_LIMITS.rows + 2)), `more than ${LIST_LIMITS.rows} rows`],
  ['a workbook with a value that is too long', () => sheet(row('a', 'b') + row('1', 'x'.repeat(4001))), 'Row 1, b: a value has 4001 characters'], // prettier-ignore
  ['a workbook without a sheet', () => zipSync({ 'xl/workbook.xml': utf8('<workbook><sheets/></workbook>') }), 'has no sheet'],
  ['a workbook whose sheet is gone', () => zipSync({ 'xl/workbook.xml': utf8('<workbook><sheets><sheet name="B"/></sheets></workbook>') }), 'has no sheet “B”'], // prettier-ignore
];

/** Files that are tamed: what is read of them. */
const TAMED: readonly (readonly [string, () => Uint8Array, (list: List) => unknown, unknown])[] = [
  ['line ends of three kinds', () => utf8('a,b\r\n1,2\r\n3,4\r\n'), ({ rows }) => rows, [['1', '2'], ['3', '4']]], // prettier-ignore
  ['old line ends', () => utf8('a,b\r1,2\r3,4'), ({ rows }) => rows, [['1', '2'], ['3', '4']]], // prettier-ignore
  ['a line break in a value', () => utf8('a,b\n"1\n2",3'), ({ rows }) => rows, [['1\n2', '3']]],
  ['quotes in quotes', () => utf8('a\n"say ""hi"""'), ({ rows }) => rows, [['say "hi"']]],
  ['semicolons', () => utf8('a;b\n1,5;2'), ({ rows }) => rows, [['1,5', '2']]],
  ['tabs', () => utf8('a\tb\n1\t2'), ({ rows }) => rows, [['1', '2']]],
  ['bars', () => utf8('a|b\n1|2'), ({ rows }) => rows, [['1', '2']]],
  ['a byte order mark', () => utf8('\ufeffa\n1'), ({ columns }) => columns, ['a']],
  ['UTF-16, little end first', () => utf16('a\nÄ', true), ({ rows }) => rows, [['Ä']]],
  ['UTF-16, big end first', () => utf16('a\nÄ', false), ({ rows }) => rows, [['Ä']]],
  ['Windows-1252', () => latin('a\n\x80 \x96 \xe9'), ({ rows, notes }) => [rows, notes.length], [[['€ – é']], 1]],
  ['half of a UTF-8 letter', () => Uint8Array.of(97, 10, 0xc3), ({ rows, notes }) => [rows, notes.length], [[['Ã']], 1]],
  ['short and long rows', () => utf8('a,b\n1\n1,2,3'), ({ rows, notes }) => [rows, notes.length], [[['1', ''], ['1', '2']], 1]], // prettier-ignore
  ['names that are there twice', () => utf8('a,a,,a\n1,2,3,4'), ({ columns }) => columns, ['a', 'a 2', 'column 3', 'a 3']],
  ['a name of 500 letters', () => utf8(`${'n'.repeat(500)}\n1`), ({ columns }) => columns[0].length, 80],
  ['empty lines between', () => utf8('a\n\n1\n\n\n2\n'), ({ rows }) => rows, [['1'], ['2']]],
  ['formulas, which are text', () => utf8('a,b\n=1+1,@x\n+2,-3'), ({ rows }) => rows, [['=1+1', '@x'], ['+2', '-3']]], // prettier-ignore
  ['tags, which are text', () => utf8('a\n<script>alert(1)</script>'), ({ rows }) => rows, [['<script>alert(1)</script>']]],
  ['names of what objects have', () => utf8('__proto__,constructor,toString\n1,2,3'), ({ columns, rows }) => [columns, rows], [['__proto__', 'constructor', 'toString'], [['1', '2', '3']]]], // prettier-ignore
  ['names in braces', () => utf8('{a},{{b\n1,2'), ({ columns }) => columns, ['{a}', '{{b']],
  ['as many rows as are read', () => utf8(`a\n${'1\n'.repeat(LIST_LIMITS.rows)}`), ({ rows }) => rows.length, LIST_LIMITS.rows],
  ['as many columns as are read', () => utf8(`${names(200)}\n1`), ({ columns, rows }) => [columns.length, rows[0].length], [200, 200]], // prettier-ignore
  ['a value as long as is read', () => utf8(`a\n${'x'.repeat(4000)}`), ({ rows }) => rows[0][0].length, 4000],
  ['letters from the right, joined and with marks', () => utf8('a\nשלום\u202e👩‍🌾é'), ({ rows }) => rows, [['שלום\u202e👩‍🌾é']]],
  ['a workbook with formulas', () => sheet(`${row('a')}<row><c t="str"><f>1+1</f><v>=cmd</v></c></row>`), ({ rows }) => rows, [['=cmd']]], // prettier-ignore
  ['a workbook with strings that are not there', () => sheet(`${row('a', 'b')}<row><c t="s"><v>99</v></c>${cell('x')}</row>`), ({ rows }) => rows, [['', 'x']]], // prettier-ignore
  ['a workbook with a day that is none', () => sheet(`${row('a')}<row><c s="1"><v>1e300</v></c></row>`, { 'xl/styles.xml': utf8('<s><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></s>') }), ({ rows }) => rows, [['1e+300']]], // prettier-ignore
  ['a workbook with pictures and macros, which stay packed', () => sheet(row('a') + row('1'), { 'xl/vbaProject.bin': new Uint8Array(9_000_000), 'xl/media/x.png': new Uint8Array(9_000_000) }), ({ rows }) => rows, [['1']]], // prettier-ignore
];

describe('hostile lists', () => {
  it('are more than sixty', () => expect(REFUSED.length + TAMED.length).toBeGreaterThan(60));

  it.each(REFUSED)('with %s are refused', (_, bytes, sentence) => {
    let told: unknown;
    try {
      readList(bytes());
    } catch (error) {
      told = error;
    }
    expect([told instanceof ListError, (told as Error | undefined)?.message]).toEqual([true, expect.stringContaining(sentence)]);
  });

  it.each(TAMED)('with %s are read', (_, bytes, of, wanted) => expect(of(readList(bytes()))).toEqual(wanted));

  it('go out again so that no spreadsheet takes cells for formulas', () => {
    const { columns, rows } = readList(utf8('a,b\n=1+1,@x\n+2,-3'));
    expect(listFile(columns, rows)).toBe(`a,b\r\n"'=1+1","'@x"\r\n"'+2","'-3"\r\n`);
  });
});
