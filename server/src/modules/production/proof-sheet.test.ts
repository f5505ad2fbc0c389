import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { Evaluator } from '@plain-relief/core/relief';
import { newRun, plateDocument, withList } from '@plain-relief/core/runs';
import { type Block, EVERYTHING } from '@plain-relief/core/sheet';
import { fontsOf, newShape, newSign, newText, readSign, type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { openFontBook } from '../fonts/font-files.js';
import { proofSheet } from './proof-sheet.js';
import { type ProofSubject, scaleName } from './sheet.js';
import { type SignViews, viewsOf } from './sign-views.js';

const ROOT = fileURLToPath(new URL('../../../../', import.meta.url));
const fontsDir = join(ROOT, 'fonts');
const demo = (name: string): unknown =>
  JSON.parse(readFileSync(new URL(`../../../../demo/${name}.sign.json`, import.meta.url), 'utf8'));
const book = openFontBook(fontsDir);
const subject: ProofSubject = {
  shop: { name: 'Millrace Signworks', contact: '3 Race Lane', terms: 'Half is due with the approval.' },
  customer: 'Fernhollow Arboretum',
  job: 'FA-0101 Entrance',
  revision: '7',
  date: new Date('2026-11-25T10:00:00Z'),
};
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'proof-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const seen = (sign: Sign): Promise<SignViews> => viewsOf(new Evaluator(book), sign);

async function proofOf(sign: Sign, more: Partial<ProofSubject> = {}): Promise<string> {
  const path = join(folder, `${sign.title.replace(/\W/gu, '-')}.pdf`);
  writeFileSync(path, await proofSheet([await seen(sign)], { ...subject, ...more }, book, fontsDir));
  return path;
}

// poppler-utils reads PDF independently of what wrote it.
const poppler = (program: string, ...args: string[]): string => spawnSync(program, args, { encoding: 'utf8' }).stdout;
const textOf = (path: string): string => poppler('pdftotext', path, '-').replace(/\s+/gu, ' ');

/** Pixels of one row or column in which a colour stands, first and last. */
function extent(png: PNG, colour: readonly number[], along: 'x' | 'y'): [number, number] {
  let [first, last] = [Infinity, -Infinity];
  for (let y = 0; y < png.height; y++) {
    for (let x = 0; x < png.width; x++) {
      const at = 4 * (y * png.width + x);
      if (colour.some((value, c) => Math.abs(png.data[at + c] - value) > 3)) continue;
      const here = along === 'x' ? x : y;
      [first, last] = [Math.min(first, here), Math.max(last, here)];
    }
  }
  return [first, last];
}

describe('the proof', () => {
  it('is A4 across and says sign, job, revision, date, dimensions and ticket', async () => {
    const path = await proofOf(readSign(demo('west-gate')));
    expect(poppler('pdfinfo', path)).toMatch(/Page size:\s+841\.89 x 595\.27\d* pts \(A4\)/u);
    const text = textOf(path);
    for (const words of [
      'West gate sign', 'FA-0101 Entrance', 'Fernhollow Arboretum', '2026-11-25', '600 mm', '320 mm', '19 mm',
      '“FERNHOLLOW” set in Cinzel Bold', 'Raised by 6 mm from the floor of Panel', 'raised 2 mm', 'carved 4 mm', 'Section',
    ]) expect(text).toContain(words); // prettier-ignore
    expect(poppler('pdffonts', path)).not.toMatch(/\bno\s+(yes|no)\s+(yes|no)\s+\d/u);
  });

  it('has the standard of a sign as a page of its own, clause by clause, and for the shop what was checked', async () => {
    const draft = readSign(demo('map-store'));
    draft.checks = { ...draft.checks, off: [{ check: 'low-contrast', reason: 'brass on ochre is wanted' }] };
    const customers = textOf(await proofOf(draft));
    for (const words of [
      '2010 ADA Standards, section 703:',
      'clauses fail',
      '703.2.5',
      'I is from 5/8 in (16 mm) to 2 in (51 mm) high.',
      '14.2 mm',
      '703.3.2',
      'two recollections',
    ])
      // prettier-ignore
      expect(customers).toContain(words);
    expect(customers).not.toContain('brass on ochre is wanted');
    const shops = textOf(await proofOf(draft, { layout: { ...EVERYTHING, shows: ['ticket', 'checks'] } }));
    expect(shops).toContain('Checks, for the shop');
    expect(shops).toContain('Reason: brass on ochre is wanted.');
    expect(shops).not.toContain('703.2.5');
    expect(textOf(await proofOf(readSign(demo('quiet-study'))))).toContain('section 703: nothing of it fails');
  });

  it('draws 100 mm 100 mm long at full size', async () => {
    const sign = newSign('Full size', 'mm');
    sign.blank.outline = { kind: 'rectangle', width: 120, height: 60, cornerRadius: 0 };
    const panel = newShape(sign, 'rectangle');
    panel.shape = { kind: 'rectangle', width: 100, height: 40, cornerRadius: 0 };
    sign.parts.push(panel);
    const path = await proofOf(sign, { layout: { ...EVERYTHING, isInFinishes: false } });
    expect(textOf(path)).toContain('Plan, full size (1 : 1)');
    // 254 dots an inch are 10 a millimetre; only the left side, where the plan is and the picture is not.
    const made = spawnSync('pdftoppm', [
      '-r',
      '254',
      '-x',
      '0',
      '-y',
      '0',
      '-W',
      '1950',
      '-H',
      '1300',
      '-png',
      '-singlefile',
      path,
      join(folder, 'page'),
    ]);
    expect(made.status).toBe(0);
    const png = PNG.sync.read(readFileSync(join(folder, 'page.png')));
    // The sunk panel in slate blue is 100 × 40 mm, its edge lines half a width over it.
    const carved = [0x3b, 0x55, 0x6b];
    const [left, right] = extent(png, carved, 'x');
    const [top, bottom] = extent(png, carved, 'y');
    expect(Math.abs((right - left + 1) / 10 - 100)).toBeLessThan(0.2);
    expect(Math.abs((bottom - top + 1) / 10 - 40)).toBeLessThan(0.2);
  });

  it('shows words of every script, on as many pages as they take', async () => {
    const welcome = textOf(await proofOf(readSign(demo('welcome'))));
    for (const words of ['Welcome', 'Salvete']) expect(welcome).toContain(words);
    // 1398 letters: by the command line, since the test runner's sandbox is ten times slower.
    const plaque = join(folder, 'plaque.pdf');
    const made = spawnSync(join(ROOT, 'relief'), ['export', join(ROOT, 'demo/donor-plaque.sign.json'), '--pdf', plaque]);
    expect(made.status).toBe(0);
    const { parts } = readSign(demo('donor-plaque'));
    const text = textOf(plaque);
    const names = parts.flatMap((part) => (part.kind === 'text' ? part.words.split('\n') : []));
    for (const name of names) expect(text).toContain(name);
    expect(Number(/Pages:\s+(\d+)/u.exec(poppler('pdfinfo', plaque))![1])).toBeGreaterThan(1);
  });

  it('carries the notes', async () => {
    const sign = newSign('Loose', 'mm');
    sign.parts.push({
      ...newText(sign, 'montserrat-bold'),
      words: 'O漢',
      tiers: [{ id: 't', on: true, area: { kind: 'outline' }, action: { kind: 'cut-through' } }],
    });
    const text = textOf(await proofOf(sign));
    expect(text).toContain('One piece of');
    expect(text).toContain('has no “');
  });

  it('shows the back, every named section with its marks, and every option with what it says otherwise', async () => {
    const sign = newSign('Two faces', 'mm');
    sign.finishes = [{ id: 'red', name: 'signal red', colour: '#a5281f', gloss: 'gloss' }];
    const [front, back] = [newShape(sign, 'rectangle'), { ...newShape(sign, 'circle'), id: 'behind', name: 'Behind' }];
    back.tiers[0].action = { kind: 'carve', by: 3 };
    sign.parts.push(front, { ...back, side: 'back' });
    sign.sections = [
      { id: 'a', name: 'A–A', x: 0, y: 0, turn: 0 },
      { id: 'b', name: 'B–B', x: 10, y: 0, turn: 90 },
    ];
    sign.options = [
      { id: 'plain', name: 'Plain', tiers: [] },
      { id: 'deep', name: 'Deep and red', tiers: [{ part: front.id, tier: 'tier-1', amount: -4, finish: { top: 'red' } }] },
    ];
    const path = await proofOf(readSign(sign));
    const text = textOf(path);
    for (const words of [
      'Section A–A',
      'Section B–B',
      'Back, seen from behind',
      'Plain',
      'Deep and red',
      'carved by 4 mm',
      'floor signal red',
      'As the ticket says.',
    ])
      expect(text).toContain(words);
    expect(Number(/Pages:\s+(\d+)/u.exec(poppler('pdfinfo', path))![1])).toBe(4);
    // The floor of the option is a level of its own, the sign's stays.
    expect((await seen(readSign(sign))).options.map(({ front: each }) => each.lowest)).toEqual([-2, -4]);
  });

  it('calls every finish out by a number, and says what hardware comes with the sign', async () => {
    const gate = readSign(demo('west-gate'));
    const plain = textOf(await proofOf(gate));
    expect(plain).toContain('Finishes oak, bare');
    expect(plain).toContain('4 × resin anchors for brick, M8.');
    // Every finish stands in the list once, its number there and at the plan.
    const room = textOf(await proofOf(readSign(demo('map-room'))));
    const list = /Finishes (.*?) Ticket/u.exec(room)![1];
    for (const words of ['moss green, matt', 'oak, oiled, matt', 'gold leaf, metallic', 'ivory, matt'])
      expect(list.split(words)).toHaveLength(2);
    const alone = room.split(' ').filter((word) => /^[1-5]$/u.test(word));
    for (const number of ['1', '2', '3', '4']) expect(alone.filter((word) => word === number).length).toBeGreaterThanOrEqual(2);
    const without = await proofOf(readSign(demo('map-room')), { layout: { ...EVERYTHING, shows: ['ticket'] } });
    expect(textOf(without)).not.toContain('Finishes');
  });

  it('has every plate of a run with its number, and how it fits', async () => {
    const sign = readSign(demo('runs/tree-labels'), book.catalogue);
    const names = Array.from({ length: 20 }, (_, i) =>
      i === 7 ? 'Chamaecyparis lawsoniana of many letters and more' : `Quercus ${i}`,
    );
    const list = { columns: ['Latin name', 'accession'], rows: names.map((name, i) => [name, String(1000 + i)]) };
    const named = { ...sign, title: 'Label of {Latin name}' };
    const run = withList(newRun('s'), list).run;
    const path = join(folder, 'plates.pdf');
    const first = plateDocument(named, run, 1)!;
    await book.need(fontsOf(named));
    writeFileSync(path, await proofSheet([await seen(first)], subject, book, fontsDir, undefined, { runs: [{ title: 'Spring', sign: named, run }] })); // prettier-ignore
    const text = textOf(path);
    expect(text).toContain('Spring: plates 1 to 15 of 20');
    expect(text).toContain('Spring: plates 16 to 20 of 20');
    expect(text).toContain('20 Label of Quercus 19');
    expect(text.match(/too large/gu)).toHaveLength(1);
  });

  it('is the same bytes for the same sign, job and date', async () => {
    const views = await seen(readSign(demo('bilge-pump')));
    const [one, two] = [await proofSheet([views], subject, book, fontsDir), await proofSheet([views], subject, book, fontsDir)];
    expect(Buffer.from(one).equals(Buffer.from(two))).toBe(true);
  });

  it('names its scale as drawings do', () => {
    expect([2, 1, 0.5, 0.4, 1 / 3, 0.1].map(scaleName)).toEqual([
      '2 : 1',
      'full size (1 : 1)',
      '1 : 2',
      '1 : 2.5',
      '1 : 3',
      '1 : 10',
    ]);
  });

  it.each([
    // ISO 216; ANSI/ASME Y14.1. In points of 1/72 in.
    ['A4', 595.28, 841.89],
    ['A3', 841.89, 1190.55],
    ['Letter', 612, 792],
    ['Tabloid', 792, 1224],
  ] as const)('comes on %s, upright and across, with what the layout shows and nothing else', async (paper, short, long) => {
    const sign = newSign(`On ${paper}`, 'mm');
    sign.parts.push({ ...newShape(sign, 'fixings') });
    for (const isUpright of [true, false]) {
      const shows: Block[] = isUpright ? ['ticket', 'fixing'] : ['section', 'picture'];
      const path = await proofOf(sign, { layout: { paper, isUpright, isInBothUnits: isUpright, shows } });
      const [, across, up] = /Page size:\s+([\d.]+) x ([\d.]+)/u.exec(poppler('pdfinfo', path))!.map(Number);
      const [wide, tall] = isUpright ? [short, long] : [long, short];
      expect(Math.abs(across - wide) + Math.abs(up - tall)).toBeLessThan(0.1);
      const text = textOf(path);
      expect([text.includes('Ticket'), text.includes('Four fixing holes of 5 mm (')]).toEqual([isUpright, isUpright]);
      expect(text.includes('Section')).toBe(!isUpright);
      expect(text.includes('(11 13/16 in)') || /\d in\)/u.test(text)).toBe(isUpright);
      expect(poppler('pdfimages', '-list', path).split('\n').length > 3).toBe(!isUpright);
    }
  });

  it('lies as the plan becomes largest, each sign on paper of its own', async () => {
    const path = join(folder, 'turned.pdf');
    const views = [await seen(readSign(demo('donor-plaque'))), await seen(readSign(demo('west-gate')))];
    writeFileSync(path, await proofSheet(views, subject, book, fontsDir));
    const text = textOf(path);
    // 480 × 640 mm stand at 1 : 8 on A4 across.
    expect([text.includes('Plan, 1 : 5, in its finishes'), text.includes('Plan, 1 : 4, in its finishes')]).toEqual([true, true]);
    const pages = poppler('pdfinfo', '-f', '1', '-l', '9', path);
    expect(pages).toMatch(/Page\s+1 size:\s+595\.\d+ x 841\.\d+/u);
    expect(pages).toMatch(/Page\s+3 size:\s+841\.\d+ x 595\.\d+/u);
    const across = await proofOf(readSign(demo('donor-plaque')), { layout: { ...EVERYTHING, isTurnedBySign: false } });
    expect(poppler('pdfinfo', across)).toMatch(/Page size:\s+841\.89 x 595/u);
  });

  it('enlarges the smallest step of the section, ringed on the plan, and tells holes that are alike in one sentence', async () => {
    const text = textOf(await proofOf(readSign(demo('west-gate'))));
    expect(text).toMatch(/Detail Z, full size \(1 : 1\)/u);
    // On the plan and on the section, besides the heading.
    expect(text.match(/\bZ\b/gu)).toHaveLength(3);
    expect(text).toContain('Four holes of 7 mm (Hole 1 to Hole 4) at −285 mm and 285 mm across, −145 mm and 145 mm up');
    expect(text).toContain('Four fixing holes of 7 mm at 15 mm and 585 mm from the left, 15 mm and 305 mm from below.');
    // Steps that the section shows well need no detail.
    const sign = newSign('Plain', 'mm');
    sign.blank.outline = { kind: 'rectangle', width: 120, height: 60, cornerRadius: 0 };
    const panel = newShape(sign, 'rectangle');
    panel.shape = { kind: 'rectangle', width: 100, height: 40, cornerRadius: 0 };
    sign.parts.push(panel);
    expect(textOf(await proofOf(sign))).not.toContain('Detail');
  });

  it('says what was ordered, what became of the proofs before, the terms, and bears the logo', async () => {
    const logo = new PNG({ width: 4, height: 2 });
    logo.data.fill(200);
    const frozen = {
      digest: 'a'.repeat(64),
      message: 'Dear Marit',
      brief: { contact: 'Marit Solheim', quantity: 3, dueOn: '2026-12-09' },
      revisions: [
        { letter: 'A', date: '2026-11-20', state: 'changes asked', changes: [] },
        { letter: 'B', date: '2026-11-25', state: 'this proof', changes: ['Line 1: raised 2 mm → 3 mm'] },
      ],
    };
    const shop = { ...subject.shop, logo: PNG.sync.write(logo).toString('base64') };
    const path = await proofOf(newSign('Closing', 'mm'), { frozen, shop });
    const text = textOf(path);
    for (const words of ['for Fernhollow Arboretum (Marit Solheim)', 'Quantity: 3. To be ready on 2026-12-09', 'A, 2026-11-20, changes asked', 'raised 2 mm to 3 mm', 'Half is due with the approval', '3 Race Lane', 'Signature'])
      expect(text).toContain(words); // prettier-ignore
    // A picture of the sign, and the logo on every page.
    expect(poppler('pdfimages', '-list', path)).toMatch(/\b4\s+2\b/u);
    const bare = textOf(await proofOf(newSign('Closing', 'mm'), { frozen, layout: { ...EVERYTHING, shows: [] } }));
    for (const words of ['Quantity', 'Revisions', 'Half is due', 'Ticket']) expect(bare).not.toContain(words);
    expect(bare).toContain('Signature');
  });

  it('tells the weight by the densities of the shop', async () => {
    const frozen = { digest: 'a'.repeat(64), message: '', brief: { contact: '', quantity: 1, dueOn: null }, revisions: [] };
    const sign = newSign('Weighed', 'mm');
    Object.assign(sign.blank, { outline: { kind: 'rectangle', width: 200, height: 100, cornerRadius: 0 }, thickness: 20, material: 'bog oak' }); // prettier-ignore
    // 400 cm³ at 720 kg/m³, typical of oak, and at 1000.
    expect(textOf(await proofOf(sign, { frozen }))).toContain('about 288 g each');
    const materials = [{ id: 'bog', name: 'Bog oak', density: 1000 }];
    expect(textOf(await proofOf(sign, { frozen, materials }))).toContain('about 400 g each');
  });

  it('runs from left to right in the sentences around words that do not', async () => {
    const sign = newSign('Directions', 'mm');
    sign.parts.push({ ...newText(sign, 'amiri-bold'), words: 'مكتبة' });
    const path = await proofOf(sign);
    const boxes = [...poppler('pdftotext', '-bbox', path, '-').matchAll(/xMin="([\d.]+)" yMin="([\d.]+)"[^>]*>([^<]*)</gu)];
    const found = (word: string) => boxes.find(([, , , text]) => text === word)!;
    const [set, font] = [found('set'), found('Amiri')];
    const words = boxes.find(([, , y, text]) => /\p{Script=Arabic}/u.test(text) && Math.abs(Number(y) - Number(set[2])) < 6)!;
    expect(Number(words[1])).toBeLessThan(Number(set[1]));
    expect(Number(set[1])).toBeLessThan(Number(font[1]));
  });

  it('can be searched for words with ligatures and in Arabic, as they were typed', async () => {
    const sign = newSign('Searched', 'mm');
    const line = (id: string, font: string, words: string, y: number) => ({ ...newText(sign, font), id, name: id, words, place: { x: 0, y, turn: 0, mirror: false } }); // prettier-ignore
    sign.parts.push(line('a', 'lora-bold', 'Office of fine flags', 20), line('b', 'amiri-regular', 'مكتبة الشارع', -20));
    const frozen = { digest: 'a'.repeat(64), message: '', brief: { contact: '', quantity: 1, dueOn: null }, revisions: [] };
    const path = await proofOf(sign, { frozen });
    // pdftotext gives words from right to left in the order in which they are read, within marks of direction.
    const text = poppler('pdftotext', path, '-').normalize('NFKC').replace(/[\u202A-\u202E\u2066-\u2069\u200E\u200F]/gu, '').replace(/\s+/gu, ' '); // prettier-ignore
    expect(text).toContain('Office of fine flags');
    for (const word of ['مكتبة', 'الشارع']) expect(text).toContain(word);
  });
});
