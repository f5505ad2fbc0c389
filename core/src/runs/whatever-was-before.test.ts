import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { Workshop } from '../../testing/workshop.js';
import { Evaluator } from '../relief/index.js';
import { readSign } from '../sign/index.js';
import { matched, plateOf, readList, rowValues, type Values, writtenPlate } from './index.js';

const workshop = new Workshop();
const DEMO = new URL('../../../demo/runs/', import.meta.url);
const signs = readdirSync(DEMO).filter((name) => name.endsWith('.sign.json'));
const ROWS = 8;

describe('files of a plate', () => {
  // Evaluators remember letters, and what they remember was worked out for other plates.
  it.each(signs)('are the same to the byte, whichever plates were made before: %s', (file) => {
    const sign = readSign(JSON.parse(readFileSync(new URL(file, DEMO), 'utf8')), workshop.book.catalogue);
    const list = readList(new Uint8Array(readFileSync(new URL(file.replace('.sign.json', '.csv'), DEMO))));
    const values = rowValues(sign, list, matched(sign, list.columns)).slice(0, ROWS);
    const files = (evaluator: Evaluator, row: number, own: Values) =>
      writtenPlate(plateOf(sign, own, evaluator), row, ['svg', 'stl']).files.map(({ content }) => Buffer.from(content as string));
    const [forwards, backwards] = [new Evaluator(workshop.book), new Evaluator(workshop.book)];
    const made = values.map((own, row) => files(forwards, row, own));
    for (let row = values.length - 1; row >= 0; row--) {
      const again = files(backwards, row, values[row]);
      expect(again.length).toBe(made[row].length);
      again.forEach((bytes, i) => expect(bytes.equals(made[row][i])).toBe(true));
    }
  });
});
