import { describe, expect, it } from '@jest/globals';
import excel from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { type List, LIST_LIMITS, readList } from './index.js';

/** A workbook that another library writes. */
async function written(fill: (sheet: excel.Worksheet, book: excel.Workbook) => void): Promise<List> {
  const book = new excel.Workbook();
  fill(book.addWorksheet('Labels'), book);
  return readList(new Uint8Array((await book.xlsx.writeBuffer()) as ArrayBuffer));
}

/** A workbook of parts that are written here. */
const made = (sheet: string, more: Record<string, Uint8Array> = {}): Uint8Array =>
  zipSync({
    'xl/workbook.xml': strToU8('<workbook xmlns:r="r"><sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>'),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${sheet}</sheetData></worksheet>`),
    ...more,
  });

describe('a list in a workbook', () => {
  it('has what its cells show: words, figures, days, values of formulas, and nothing of empty cells', async () => {
    const { columns, rows, notes } = await written((sheet) => {
      sheet.addRow(['Name', 'No', 'Planted', 'Sum', 'Old', 'Bed', 'Share']);
      sheet.addRow(['Rowan & "Elm" <x>', 2041, new Date(Date.UTC(2026, 3, 5)), { formula: 'B2*2', result: 4082 }, true, undefined, 0.1 + 0.2]); // prettier-ignore
      sheet.addRow([{ richText: [{ text: 'Grey ' }, { font: { bold: true }, text: 'alder' }] }, '007', new Date(Date.UTC(1931, 0, 1)), { formula: 'A1', result: '=danger' }]); // prettier-ignore
      sheet.addRow([]);
      sheet.addRow([undefined, undefined, undefined, undefined, undefined, 'Quarry']);
      sheet.getColumn(3).numFmt = 'd. mmm yyyy';
    });
    expect(columns).toEqual(['Name', 'No', 'Planted', 'Sum', 'Old', 'Bed', 'Share']);
    expect(rows).toEqual([
      ['Rowan & "Elm" <x>', '2041', '2026-04-05', '4082', 'TRUE', '', '0.3'],
      ['Grey alder', '007', '1931-01-01', '=danger', '', '', ''],
      ['', '', '', '', '', 'Quarry', ''],
    ]);
    expect(notes).toEqual([]);
  });

  it('is the first of several sheets, which is said; money is no day', async () => {
    const { rows, notes } = await written((sheet, book) => {
      sheet.addRows([['Price', 'Many'], [12.5, 3]]); // prettier-ignore
      sheet.getColumn(1).numFmt = '[Red]#,##0.00 "days"';
      book.addWorksheet('Other').addRow(['x']);
    });
    expect([rows, notes]).toEqual([[['12.5', '3']], ['The list is the first of 2 sheets, “Labels”.']]);
  });

  it('counts days from 1900 or from 1904 (ECMA-376, section 18.17.4.1: 1 January 2012 is 40909)', () => {
    const styles = {
      'xl/styles.xml': strToU8('<styleSheet><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/></cellXfs></styleSheet>'),
    };
    const sheet = '<row><c t="inlineStr"><is><t>Day</t></is></c></row><row><c s="1"><v>40909</v></c></row><row><c s="1"><v>40909.75</v></c></row>'; // prettier-ignore
    expect(readList(made(sheet, styles)).rows).toEqual([['2012-01-01'], ['2012-01-01 18:00']]);
    const from1904 = { ...styles, 'xl/workbook.xml': strToU8('<workbook><workbookPr date1904="1"/><sheets><sheet name="A"/></sheets></workbook>') }; // prettier-ignore
    expect(readList(made(sheet, from1904)).rows[0]).toEqual(['2016-01-02']);
  });

  const row = (count: number): string => `<row>${'<c t="str"><v>x</v></c>'.repeat(count)}</row>`;
  it.each<[string, () => Uint8Array, string]>([
    ['a zip that is none', () => zipSync({ 'a.txt': strToU8('x') }), 'The file is a zip, and no workbook'],
    ['a torn one', () => made(row(1)).slice(0, 200), 'damaged, or locked'],
    ['broken tags', () => made('<row><c></row>'), 'The workbook is damaged'],
    [
      'too many columns',
      () => made(row(2) + row(LIST_LIMITS.columns + 1)),
      `Row 1 has a value in column ${LIST_LIMITS.columns + 1}`,
    ],
    ['a cell far out', () => made(`${row(1)}<row><c r="XFD2" t="str"><v>x</v></c></row>`), 'Row 1 has a value in column 16384'],
    ['too many rows', () => made(row(1).repeat(LIST_LIMITS.rows + 2)), `more than ${LIST_LIMITS.rows} rows`],
    ['what unpacks to very much', () => made(row(1), { 'xl/sharedStrings.xml': new Uint8Array(130_000_000).fill(32) }), 'unpacks to more than 120 MB'], // prettier-ignore
    ['entities', () => made(`<!DOCTYPE a [<!ENTITY b "c">]>${row(1)}<row><c t="str"><v>&b;</v></c></row>`), 'The workbook is damaged'], // prettier-ignore
    ['nothing', () => made(''), 'The list is empty'],
    ['no sheet', () => made('', { 'xl/workbook.xml': strToU8('<workbook/>') }), 'The workbook has no sheet'],
  ])('that is %s is refused', (_, bytes, message) => expect(() => readList(bytes())).toThrow(message));
});
