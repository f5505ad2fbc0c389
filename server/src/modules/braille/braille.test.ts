import { execFileSync } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BRAILLE_TABLES, type BrailleTable, brailleTable } from '@plain-relief/core/braille';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { TestServer } from '../../testing/server.js';
import { BrailleTranslator } from './translator.js';

let server: TestServer;
const folder = mkdtempSync(join(tmpdir(), 'braille-'));
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(async () => {
  await server?.stop();
  rmSync(folder, { recursive: true, force: true });
});

const table = (id: string): BrailleTable => brailleTable(id)!;
const translator = new BrailleTranslator();
const ueb = async (words: string): Promise<string> => (await translator.cellsOf(words, table('ueb-2'))).cells;

/** A program in the translator's place. */
function program(name: string, script: string): string {
  const path = join(folder, name);
  writeFileSync(path, `#!/bin/sh\n${script}\n`);
  chmodSync(path, 0o755);
  return path;
}

describe('the translator', () => {
  // The Rules of Unified English Braille (International Council on English Braille), sections 6 and 10: from memory.
  it.each([
    ['the', '⠮'],
    ['and', '⠯'],
    ['for', '⠿'],
    ['of', '⠷'],
    ['with', '⠾'],
    ['people', '⠏'],
    ['knowledge', '⠅'],
    ['about', '⠁⠃'],
    ['braille', '⠃⠗⠇'],
    ['room 204', '⠗⠕⠕⠍⠀⠼⠃⠚⠙'],
    ['Ada', '⠠⠁⠙⠁'],
    ['station', '⠌⠁⠰⠝'],
    ['stairs', '⠌⠁⠊⠗⠎'],
  ])('says “%s” as Unified English has it', async (words, cells) => {
    expect(await ueb(words)).toBe(cells);
  });

  it('agrees with the program run apart on 300 phrases', async () => {
    const words = 'reading room library children map archive staff only press lift stairs north wing garden office quiet please ring for attention no entry exit fire door meeting plant'.split(' '); // prettier-ignore
    const phrases = Array.from({ length: 300 }, (_, i) =>
      Array.from({ length: 1 + (i % 5) }, (__, k) => words[(i * 7 + k * 11 + k * i) % words.length])
        .concat(i % 3 === 0 ? [String(i)] : [])
        .join(' '),
    );
    const apart = execFileSync('lou_translate', ['--forward', 'unicode.dis,en-ueb-g2.ctb'], { input: `${phrases.join('\n')}\n`, encoding: 'utf8' }); // prettier-ignore
    expect((await ueb(phrases.join('\n'))).split('\n')).toEqual(apart.trimEnd().split('\n'));
    // Asked for one by one it is the same.
    for (const at of [0, 17, 123, 299]) expect(await ueb(phrases[at])).toBe(apart.split('\n')[at]);
  });

  it.each(BRAILLE_TABLES)('has the table “$name”, whose cells say the words again', async (each) => {
    const { cells, missing } = await translator.cellsOf('sala 204', each);
    expect([cells.length > 5, /^[\u2800-\u283f]*$/u.test(cells), missing]).toEqual([true, true, []]);
    // Some tables are made for one direction alone.
    if (!['de-2', 'it'].includes(each.id)) expect((await translator.wordsOf(cells, each)).trim().toLowerCase()).toBe('sala 204');
  });

  it('names letters that a table has no cells for, and leaves them out', async () => {
    const { cells, missing } = await translator.cellsOf('één ł 🙂', table('es-1'));
    expect(missing).toEqual(expect.arrayContaining(['ł']));
    expect(cells).toMatch(/^[\u2800-\u283f\n]*$/u);
  });

  it('takes 4,000 letters, lines without words, control characters and halves of letters', async () => {
    const long = 'reading room '.repeat(307).trim();
    const all = await ueb(long);
    expect(all.split('⠀').length).toBe(2 * 307);
    expect(all.split('⠀').slice(0, 2)).toEqual((await ueb('reading room')).split('⠀'));
    expect((await ueb('x'.repeat(4000))).length).toBeGreaterThan(3999);
    expect(await ueb('for\n\nwith')).toBe('⠿\n\n⠾');
    expect(await ueb('for\u0001with\ud800')).toBe(await ueb('for with'));
    expect(await ueb('--help')).not.toBe('');
  });

  it('gives up a program that hangs, one that says too much, and says where there is none', async () => {
    const began = performance.now();
    const hanging = new BrailleTranslator(program('hangs', 'exec sleep 30'), 300);
    await expect(hanging.cellsOf('for', table('ueb-2'))).rejects.toThrow('took longer than 0.3 s and was given up');
    expect(performance.now() - began).toBeLessThan(25_000);
    await expect(new BrailleTranslator(program('talks', 'exec yes'), 5000).cellsOf('for', table('ueb-2'))).rejects.toThrow(
      'given up',
    );
    await expect(new BrailleTranslator(join(folder, 'none')).cellsOf('for', table('ueb-2'))).rejects.toThrow(
      'apt-get install -y liblouis-bin',
    );
    await expect(translator.cellsOf('for', { ...table('ueb-2'), id: 'none', file: 'none.ctb' })).rejects.toThrow('has no table');
    // The next ones are answered.
    expect(await ueb('for')).toBe('⠿');
  });

  it('answers many at once in turn', async () => {
    const own = new BrailleTranslator();
    const all = await Promise.all(Array.from({ length: 40 }, (_, i) => own.cellsOf(`room ${i}`, table('ueb-2'))));
    expect(new Set(all.map(({ cells }) => cells)).size).toBe(40);
  });
});

describe('its addresses', () => {
  it('translate to and fro, and refuse what they do not know by the field', async () => {
    const post = (url: string, payload: object) => server.inject({ method: 'POST', url, payload });
    expect((await post('/api/braille', { words: 'for', table: 'ueb-2' })).json()).toEqual({ cells: '⠿', missing: [] });
    expect((await post('/api/braille/words', { cells: '⠿', table: 'ueb-2' })).json()).toEqual({ words: 'for' });
    const unknown = await post('/api/braille', { words: 'for', table: 'xx' });
    expect([unknown.statusCode, unknown.json().message]).toEqual([
      400,
      expect.stringContaining('“xx” is not a table that is known'),
    ]);
    expect((await post('/api/braille', { words: 'x'.repeat(4001), table: 'ueb-2' })).statusCode).toBe(400);
    expect((await post('/api/braille/words', { cells: 'abc', table: 'ueb-2' })).statusCode).toBe(400);
  });
});
