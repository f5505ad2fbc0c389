import type { ProcessChoice } from '@plain-relief/api';
import { TASK_KINDS, type TaskKind } from '@plain-relief/api/states';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { expect, it } from '@jest/globals';
import { readThreeMf } from '@plain-relief/core/format';
import { volume } from '@plain-relief/core/mesh';
import { Evaluator } from '@plain-relief/core/relief';
import { newShape, newSign, newText, readSign, type Sign } from '@plain-relief/core/sign';
import { unzipSync } from 'fflate';
import { openFontBook } from '../fonts/font-files.js';
import { FileMaker } from './make-file.js';
import { viewsOf } from './sign-views.js';

const fontsDir = join(fileURLToPath(new URL('../../../../', import.meta.url)), 'fonts');
const book = openFontBook(fontsDir);
const maker = new FileMaker(book, fontsDir);
const subject = {
  shop: { name: 'Millrace Signworks', contact: '', terms: '' },
  customer: 'Quill Street Library',
  job: 'QS-0102 Reading garden',
  revision: '3',
  date: new Date('2026-11-26T10:00:00Z'),
};

/** With everything that files are made of in another way: lonely sloped letters, woven ones, holes, an insert, a back, finishes. */
function signOfAll(): Sign {
  const sign = newSign('Reading garden', 'mm');
  sign.blank.edge = { kind: 'rounded', radius: 3 };
  const panel = newShape(sign, 'rectangle');
  const edge = { kind: 'sloped', angle: 10, sized: 'foot' } as const;
  const line = (id: string, words: string, y: number, by: number) => {
    const text = { ...newText(sign, 'barlow-semibold'), id, name: id, words, sitsOn: { kind: 'part', part: panel.id, at: 'floor' } as const }; // prettier-ignore
    return { ...text, place: { ...text.place, y }, tiers: [{ ...text.tiers[0], action: { kind: 'raise', by } as const, edge, finish: { top: 'gold-leaf' } }] }; // prettier-ignore
  };
  const pane = { ...newShape(sign, 'circle'), id: 'pane', name: 'Pane' };
  pane.place = { ...pane.place, y: -60 };
  pane.tiers[0].action = { kind: 'insert', material: 'acrylic', thickness: 3, below: 1, clearance: 0.1 };
  const behind = { ...newShape(sign, 'rectangle'), id: 'behind', name: 'Behind', side: 'back' as const };
  sign.parts.push(panel, line('garden', 'Garden', 25, 5), line('over', 'der', 20, 4), pane, newShape(sign, 'fixings'), behind);
  sign.hardware = [{ quantity: 4, what: 'standoffs' }];
  sign.finishes = [{ id: 'gold-leaf', name: 'gold leaf', colour: '#d3a93f', gloss: 'metal' }];
  return readSign(JSON.parse(JSON.stringify(sign)));
}

const STARTS: Readonly<Record<TaskKind, string>> = {
  ...{ proof: '%PDF', template: '%PDF', stl: 'Binary STL', '3mf': 'PK', glb: 'glTF', pieces: 'PK', package: 'PK' },
  ...{ picture: '\u0089PNG', svg: 'PK', dxf: 'PK', laser: 'PK', masks: 'PK', inlays: 'PK', print: 'PK', pattern: 'PK' },
};

it.each(TASK_KINDS)('makes %s of a sign that has everything', async (kind) => {
  const views = await viewsOf(new Evaluator(book), signOfAll());
  const steps: number[] = [];
  const file = await maker.make(kind, views, subject, async (share) => void steps.push(share));
  expect(Buffer.from(file.bytes.subarray(0, 12)).toString('latin1')).toContain(STARTS[kind]);
  expect(file.name).toMatch(/^QS-0102-Reading-garden-r3/u);
  expect(steps.every((share) => share >= 0 && share <= 1)).toBe(true);
  // The blank, and the pane in its window.
  if (kind === 'laser')
    expect(Object.keys(unzipSync(file.bytes))).toEqual([
      'QS-0102-Reading-garden-r3-laser.svg',
      'QS-0102-Reading-garden-r3-laser.dxf',
      'read-me.txt',
    ]);
  if (kind === 'pieces') expect(Object.keys(unzipSync(file.bytes)).sort()).toEqual(['blank.stl', 'pane-acrylic.stl']);
});

it('splits a print where it is asked, each piece closed, with its pegs and what would not print', async () => {
  const views = await viewsOf(new Evaluator(book), signOfAll());
  const made = async (process: ProcessChoice) => unzipSync((await maker.make('print', views, subject, async () => {}, { process })).bytes); // prettier-ignore
  const whole = await made({});
  expect(Object.keys(whole)).toEqual(['QS-0102-Reading-garden-r3.3mf', 'read-me.txt']);
  const files = await made({ upright: [-7.3], level: [3.1], peg: 3, pegDeep: 6, bedWidth: 90, bedDepth: 20, line: 0.5 });
  const pieces = ['A1', 'A2', 'B1', 'B2'].map((piece) => `QS-0102-Reading-garden-r3-${piece}.3mf`);
  expect(Object.keys(files)).toEqual([...pieces, 'QS-0102-Reading-garden-r3-peg.stl', 'read-me.txt']);
  const text = Buffer.from(files['read-me.txt']).toString();
  expect(text).toMatch(/A1: [\d.]+ × [\d.]+ × [\d.]+ mm, larger than the bed\./u);
  expect(text).toMatch(/Print \d+ pegs ⌀ 3 mm, 12 mm long: their sockets are 0\.2 mm wider all round\./u);
  const volumeOf = (bytes: Uint8Array): number => readThreeMf(bytes).reduce((sum, mesh) => sum + volume(mesh), 0);
  const sum = pieces.reduce((all, name) => all + volumeOf(files[name]), 0);
  const pegs = Number(/Print (\d+) pegs/u.exec(text)![1]);
  const sockets = pegs * 2 * Math.PI * 1.7 ** 2 * 6.2;
  expect((volumeOf(whole['QS-0102-Reading-garden-r3.3mf']) - sum) / sockets).toBeCloseTo(1, 1);
  await expect(made({ upright: [900] })).rejects.toThrow(/line at x = 900 mm cuts nothing off/u);
});

it('makes a laser’s files and patterns as is asked', async () => {
  const views = await viewsOf(new Evaluator(book), signOfAll());
  const text = async (kind: TaskKind, process: ProcessChoice): Promise<string> => {
    const { bytes } = await maker.make(kind, views, subject, async () => {}, { process });
    return Buffer.from(unzipSync(bytes)['read-me.txt']).toString();
  };
  expect(await text('laser', { kerf: 0.35 })).toMatch(/^Kerf 0\.35 mm, lead-in 2 mm/u);
  expect(await text('pattern', { shrinkage: 2, draft: 3 })).toMatch(/102\.00 %.*\n.*lean less than 3° from upright/u);
  expect(await text('inlays', { gap: 0.2 })).toMatch(/^Straight sides; plugs are 0\.2 mm smaller/u);
  expect(await text('inlays', { gap: 1, angle: 60, depth: 4, radius: 1 })).toMatch(/vee bit of 60°.*\n.*1 mm radius/u);
  // With draft added only what cannot lean lacks it.
  const lacking = async (process: ProcessChoice): Promise<number> => Number(/([\d.]+) cm² of its sides/u.exec(await text('pattern', process))![1]); // prettier-ignore
  expect(await lacking({ draft: 2, addsDraft: true })).toBeLessThan(await lacking({ draft: 2 }));
  const bare = await viewsOf(new Evaluator(book), { ...signOfAll(), parts: [], finishes: [] });
  await expect(maker.make('masks', bare, subject, async () => {})).rejects.toThrow(/wears a finish/u);
  await expect(maker.make('inlays', bare, subject, async () => {})).rejects.toThrow(/make a window an insert/u);
});
