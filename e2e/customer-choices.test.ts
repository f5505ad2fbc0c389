import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { newShape, newSign, newText, type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { solidsOf, stlVolume } from './solids.js';
import { Visit } from './visit.js';

const visit = new Visit('choices');
const { application, faults } = visit;

/** A sign of its own in a job of its own. */
async function newSignOf(document: Sign): Promise<string> {
  const job = { customer: 'Fernhollow Arboretum', title: document.title, dueOn: null, quantity: 1, unit: 'mm' };
  const { body } = await application.api<{ id: string }>('/jobs', { method: 'POST', body: job });
  const made = await application.api<{ id: string }>(`/jobs/${body.id}/signs`, {
    method: 'POST',
    body: { title: document.title, document },
  });
  return made.body.id;
}

const note = (text: string) => visit.page.locator('pr-notes-list', { hasText: text });
const undo = () => visit.page.getByRole('button', { name: /^Undo: / }).click();

describe('options', () => {
  it('are shown, added, named and edited apart from the sign, and files are made of them', async () => {
    const id = await visit.openSign('Reading room wall letters');
    const shown = visit.page.getByLabel('option shown');
    await visit.page.getByLabel('What the plan is painted by').selectOption('finishes');
    await shown.selectOption({ label: 'Gold faces' });
    await visit.page.locator('pr-plan-view path.level[fill="#d3a93f"]').first().waitFor({ state: 'attached' });
    await visit.page.getByRole('button', { name: 'Another option' }).click();
    await visit.bench.shows(visit.page.locator('pr-options-strip'), 'name of the option', 'Option A');
    await visit.page.getByLabel('name of the option').fill('Gold on slate');
    await visit.page.getByLabel('name of the option').press('Enter');
    await visit.bench.saved();
    const { options } = await visit.stored(id);
    expect(options?.map(({ name }) => name)).toEqual([
      'Graphite all over',
      'Gold faces',
      'Blue faces, white sides',
      'Gold on slate',
    ]);
    // It began as the one that was shown.
    expect(options?.[3].finish).toEqual(options?.[1].finish);
    await (await visit.bench.field(visit.bench.order('Blank'), 'finish of the edge')).selectOption('slate');
    await visit.bench.saved();
    const edited = await visit.stored(id);
    expect([edited.blank.finish?.sides, edited.options?.[3].finish?.sides]).toEqual(['graphite', 'slate']);
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    const file = await visit.bench.make(/^Make Outlines \(DXF\)/u, 'dxf');
    expect(file.suggestedFilename()).toContain('Gold-on-slate');
    await visit.page.getByRole('button', { name: 'Back to the ticket' }).click();
    await visit.page.getByRole('button', { name: 'Take Gold on slate out' }).click();
    await visit.bench.saved();
    expect((await visit.stored(id)).options).toHaveLength(3);
    expect(faults).toEqual([]);
  });
});

describe('the other side', () => {
  it('is turned to, worked on, and read from behind', async () => {
    const id = await visit.openSign('Pier hanging sign');
    await visit.page.locator('pr-ladder', { hasText: 'Front word' }).waitFor();
    await visit.page.getByRole('button', { name: 'Back', exact: true }).click();
    await visit.page.locator('pr-ladder', { hasText: 'Back word' }).waitFor();
    expect(await visit.page.locator('pr-ladder', { hasText: 'Front word' }).count()).toBe(0);
    const order = await visit.bench.addLine('PIER 4');
    await visit.bench.set(order, 'place across', '40 mm');
    await visit.bench.saved();
    expect((await visit.stored(id)).parts.at(-1)).toMatchObject({ words: 'PIER 4', side: 'back', place: { x: 40 } });
    // Turned over in the ticket it is on the front, and the plan goes with it when it is chosen.
    await (await visit.bench.field(order, 'side of the blank')).selectOption('front');
    await visit.bench.saved();
    expect((await visit.stored(id)).parts.at(-1)?.side).toBeUndefined();
    for (let undone = 0; undone < 4; undone++) await undo();
    await visit.bench.saved();
    expect((await visit.stored(id)).parts).toHaveLength(5);
    expect(faults).toEqual([]);
  });

  it('keeps sections for the proof, tells what stands too high, and orders parts on the ladder', async () => {
    const id = await visit.openSign('Pier hanging sign');
    await visit.page.getByRole('button', { name: 'Show section B–B' }).click();
    await visit.page.getByRole('button', { name: 'Drop B–B' }).click();
    await visit.page.getByRole('button', { name: 'Keep for the proof' }).click();
    await visit.page.getByRole('button', { name: 'Drop B–B' }).waitFor();
    const limit = visit.page.locator('pr-ladder').getByLabel('height limit', { exact: true });
    await limit.fill('1.5 mm');
    await limit.press('Enter');
    await note('more than its height limit of 1.5 mm').waitFor();
    await visit.page.getByRole('button', { name: /^Height of Rim/u }).press('Alt+ArrowUp');
    await visit.bench.saved();
    const { sections, section, heightLimit, parts } = await visit.stored(id);
    expect([sections?.map(({ name }) => name), section.turn, heightLimit]).toEqual([['A–A', 'B–B'], 90, 1.5]);
    expect(parts.map(({ name }) => name).slice(0, 2)).toEqual(['Front word', 'Rim']);
    for (let undone = 0; undone < 5; undone++) await undo();
    await visit.bench.saved();
    expect(faults).toEqual([]);
  });

  it('is seen in the model straight, cut open, and as a picture of the size that is asked for', async () => {
    await visit.openSign('Pier hanging sign');
    await visit.page.getByRole('button', { name: 'Model', exact: true }).click();
    await visit.page.getByRole('button', { name: 'in perspective' }).click();
    await visit.page.getByRole('button', { name: 'cut open' }).click();
    await visit.page.getByRole('button', { name: 'straight', exact: true }).waitFor();
    const size = visit.page.getByLabel('width of the picture');
    await size.fill('1000');
    await size.press('Enter');
    const [picture] = await Promise.all([
      visit.page.waitForEvent('download'),
      visit.page.getByRole('button', { name: 'picture', exact: true }).click(),
    ]);
    const png = PNG.sync.read(readFileSync(await picture.path()));
    expect([picture.suggestedFilename(), png.width]).toEqual(['Pier hanging sign.png', 1000]);
    const colours = new Set<number>();
    for (let at = 0; at < png.data.length; at += 4 * 97) colours.add(png.data.readUIntBE(at, 3));
    expect(colours.size).toBeGreaterThan(40);
    await visit.page.getByRole('button', { name: 'Plan', exact: true }).click();
    expect(faults).toEqual([]);
  });
});

describe('what leaves the shop', () => {
  it('of flat-cut letters: pieces, and with the plate that is offered one', async () => {
    const sign = newSign('Wall word', 'mm');
    sign.parts.push({ ...newText(sign, 'barlow-bold'), words: 'FERN', tiers: [] });
    const id = await newSignOf(sign);
    await visit.bench.open(application.url, id);
    await (await visit.bench.field(visit.bench.order('Blank'), 'what is left of the blank')).selectOption('letters');
    await note('4 loose pieces that nothing holds').waitFor();
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    const apart = await solidsOf(await (await visit.bench.make(/^Make Solid with finishes/u, '3mf')).path());
    expect(apart.map(({ status }) => status)).toEqual(Array(4).fill('NoError'));
    await visit.page.getByRole('button', { name: 'Back to the ticket' }).click();
    await visit.page.getByRole('button', { name: 'Put a plate behind them' }).click();
    await note('loose pieces').waitFor({ state: 'detached' });
    await visit.bench.saved();
    expect((await visit.stored(id)).blank.cutTo?.backer?.kind).toBe('grown');
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    const pieces = await visit.bench.make(/^Make Pieces/u, 'pieces');
    expect(pieces.suggestedFilename()).toContain('pieces.zip');
    expect(faults).toEqual([]);
  });

  it('of a donor plaque with a raised rim and 300 names: closed, and of the volume that it says', async () => {
    const given = ['Marit', 'Tobias', 'Ida', 'Alden', 'Brisa', 'Corin', 'Delphine', 'Edda', 'Fenn', 'Greta', 'Hollis', 'Iven', 'Jory', 'Kestrel', 'Linnea']; // prettier-ignore
    const family = ['Solheim', 'Renn', 'Brandt', 'Quarles', 'Tamsin', 'Vale', 'Wilmott', 'Ashdown', 'Birk', 'Carrow', 'Dunmore', 'Elwick', 'Farrant', 'Gorse', 'Hexham', 'Inglis', 'Jardine', 'Kerr', 'Lorne', 'Mallory']; // prettier-ignore
    const names = family.flatMap((last) => given.map((first) => `${first} ${last}`));
    const sign = newSign('Donors', 'mm');
    sign.blank = { outline: { kind: 'rectangle', width: 700, height: 900, cornerRadius: 12 }, thickness: 12, material: 'bronze' };
    sign.parts.push({ ...newShape(sign, 'border'), shape: { kind: 'border', of: 'blank', inset: 0, width: 10 } });
    for (let column = 0; column < 5; column++)
      sign.parts.push({
        ...newText(sign, 'roboto-slab-bold'),
        words: names.slice(60 * column, 60 * column + 60).join('\n'),
        size: { kind: 'capitals', height: 7, stretch: 100 },
        leading: { kind: 'percent', of: 190 },
        place: { x: -268 + 134 * column, y: 0, turn: 0, mirror: false },
      });
    expect(names).toHaveLength(300);
    const id = await newSignOf(sign);
    await visit.bench.open(application.url, id);
    await visit.page.locator('.facts div', { hasText: 'weight' }).waitFor();
    await visit.page.getByRole('button', { name: /^Make/u }).first().click();
    const found = await solidsOf(await (await visit.bench.make(/^Make Solid with finishes/u, '3mf')).path());
    expect(found.map(({ status }) => status)).toEqual(['NoError']);
    const stl = stlVolume(await (await visit.bench.make(/^Make Solid \(STL\)/u, 'stl')).path());
    expect(Math.abs(found[0].volume / stl - 1)).toBeLessThan(1e-5);
    // Blank, rim, and nothing but letters 2 mm proud: under a fiftieth of it.
    const plain = (700 * 900 - (4 - Math.PI) * 144) * 12 + (2 * 10 * (700 + 900) - 400 - (4 - Math.PI) * (144 - 4)) * 2;
    expect(stl / plain).toBeGreaterThan(1.001);
    expect(stl / plain).toBeLessThan(1.02);
    expect(faults).toEqual([]);
  });

  it.each(['Pier hanging sign', 'Reading room wall letters', 'Donor plaque'])(
    'of %s: closed solids of the same volume in every file',
    async (title) => {
      await visit.openSign(title);
      await visit.page.getByRole('button', { name: /^Make/u }).first().click();
      const found = await solidsOf(await (await visit.bench.make(/^Make Solid with finishes/u, '3mf')).path());
      expect(found.map(({ status }) => status)).toEqual(found.map(() => 'NoError'));
      const stl = stlVolume(await (await visit.bench.make(/^Make Solid \(STL\)/u, 'stl')).path());
      const sum = found.reduce((all, { volume }) => all + volume, 0);
      expect(Math.abs(sum / stl - 1)).toBeLessThan(1e-5);
      expect(faults).toEqual([]);
    },
  );
});
