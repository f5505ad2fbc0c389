import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import { type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { renamedFont } from '../core/testing/fonts.js';
import { ROOT } from './application.js';
import { type Hand, KeyboardHand, MouseHand, until } from './hands.js';
import { Visit } from './visit.js';

const visit = new Visit('layout');
const { application, faults } = visit;

let job = '';
async function newSign(title: string): Promise<string> {
  if (job === '') {
    const body = { customer: 'Fernhollow Arboretum', title: 'Labels and gates', dueOn: null, quantity: 1, unit: 'mm' };
    job = (await application.api<{ id: string }>('/jobs', { method: 'POST', body })).body.id;
  }
  const { body } = await application.api<{ id: string }>(`/jobs/${job}/signs`, { method: 'POST', body: { title } });
  return body.id;
}

/** The document as it was saved, and what the command line makes of it. */
async function saved(
  id: string,
): Promise<{ sign: Sign; inspected: { watertight: boolean; notes: { code: string; text: string }[] } }> {
  await visit.bench.saved();
  const { body } = await application.api<{ document: Sign }>(`/signs/${id}`);
  const path = join(application.home, 'layout.sign.json');
  writeFileSync(path, JSON.stringify(body.document));
  const { stdout } = spawnSync(join(ROOT, 'relief'), ['inspect', path], { encoding: 'utf8', maxBuffer: 1e8 });
  return { sign: body.document, inspected: JSON.parse(stdout) as never };
}

/** Three lines in a frame, a long name that narrows, a crozier from SVG, a border, two holes. */
async function treeLabel(hand: Hand): Promise<void> {
  await hand.set('Blank', 'width', '110');
  await hand.set('Blank', 'height', '80');
  await hand.set('Blank', 'thickness', '3');
  await hand.press('Add a line');
  await hand.words('Line 1', 'Japanese maple\nAcer palmatum\nFH-0231, Honshu');
  await hand.set('Line 1', 'cap height', '5');
  await hand.set('Line 1', 'height', '0.8');
  await hand.choose('Line 1', 'frame', 'frame');
  await hand.set('Line 1', 'frame width', '76');
  await hand.set('Line 1', 'frame height', '52');
  await hand.set('Line 1', 'place across', '11');
  await hand.words('Line 1', 'Metasequoia glyptostroboides\nDawn redwood\nFH-0007, Hubei');

  await hand.add('A logo or other artwork …');
  await hand.file('Choose a drawing or a picture', join(ROOT, 'demo/artwork/crozier.svg'));
  await hand.figure('width of the artwork', '20');
  await visit.page.getByText('Take over 2 parts').waitFor();
  await hand.press('Take over 2 parts');
  await visit.page.locator('pr-ladder', { hasText: 'crozier 2' }).waitFor();
  // They come as a group, all chosen.
  await hand.figure('distance to the left edge', '9 mm');

  await hand.add('A border that follows the blank');
  await hand.set('Border 1', 'inset', '3');
  await hand.set('Border 1', 'band width', '0.8');
  await hand.add('Fixing holes that follow the blank');
  await hand.choose('Fixing holes 1', 'places of the holes', 'ends');
  await hand.set('Fixing holes 1', 'diameter', '3.2');
  await hand.set('Fixing holes 1', 'edge distance', '8');
}

/** An arch-topped gate with words around a sunk medallion. */
async function archGate(hand: Hand): Promise<void> {
  await hand.choose('Blank', 'shape', 'arch');
  await hand.set('Blank', 'width', '500');
  await hand.set('Blank', 'height', '400');
  await hand.set('Blank', 'rise', '150');
  await hand.add('A hole');
  await hand.set('Hole 1', 'diameter', '200');
  await hand.choose('Hole 1', 'action', 'carve');
  await hand.set('Hole 1', 'depth', '3');
  await hand.press('Add a line');
  await hand.words('Line 1', 'FERNHOLLOW ARBORETUM');
  await hand.set('Line 1', 'cap height', '24');
  await hand.choose('Line 1', 'way it runs', 'part:hole-1');
  await hand.press('Add a line');
  await hand.words('Line 2', 'WEST\nGATE');
  await hand.set('Line 2', 'cap height', '34');
  await hand.set('Line 2', 'place up', '0');
  await hand.choose('Line 2', 'sits on', 'floor:hole-1');
  await hand.add('A border that follows the blank');
  await hand.set('Border 1', 'inset', '10');
}

describe('a designer lays out', () => {
  const made: Record<string, Sign> = {};
  const hands: readonly (readonly [string, () => Hand])[] = [
    ['by mouse', () => new MouseHand(visit.page)],
    ['by keyboard alone', () => new KeyboardHand(visit.page)],
  ];

  it.each(hands)('the tree label %s', async (how, handOf) => {
    const id = await newSign('Tree label');
    await visit.bench.open(application.url, id);
    await treeLabel(handOf());
    const { sign, inspected } = await saved(id);
    expect(inspected.watertight).toBe(true);
    // The long name narrowed as far as it had to, and nothing else is wrong with the label.
    expect(inspected.notes.map(({ text }) => text)).toEqual([
      expect.stringMatching(/^Line 1 tightened to a tracking of −\d/u),
      expect.stringMatching(/^Line 1 narrowed to \d\d(\.\d)? % to fit its frame\.$/u),
    ]);
    expect(sign.parts.map(({ name }) => name)).toEqual(['Line 1', 'crozier 1', 'crozier 2', 'Border 1', 'Fixing holes 1']);
    expect(new Set(sign.parts.slice(1, 3).map(({ group }) => group)).size).toBe(1);
    made[how] = sign;
    // The original is kept with the job.
    const files = await application.api<{ name: string }[]>(`/jobs/${job}/files`);
    expect(files.body.map(({ name }) => name)).toEqual(['crozier.svg']);
  });

  it.each(hands)('the arch-topped gate sign with words around a circle, %s', async (how, handOf) => {
    const id = await newSign('West gate');
    await visit.bench.open(application.url, id);
    await archGate(handOf());
    const { sign, inspected } = await saved(id);
    expect(inspected.watertight).toBe(true);
    expect(inspected.notes).toEqual([]);
    expect(sign.parts[1]).toMatchObject({
      words: 'FERNHOLLOW ARBORETUM',
      path: { kind: 'part', part: 'hole-1', side: 'outside' },
    });
    made[`gate ${how}`] = sign;
  });

  it('and both ways make the same signs', () => {
    expect(made['by keyboard alone']).toEqual(made['by mouse']);
    expect(made['gate by keyboard alone']).toEqual(made['gate by mouse']);
    expect(faults).toEqual([]);
  });

  it('takes over a traced picture and a drawing with faults, and sets words in a font of the shop', async () => {
    const id = await newSign('Artwork');
    await visit.bench.open(application.url, id);
    const hand = new MouseHand(visit.page);
    const picture = new PNG({ width: 120, height: 80 });
    for (let i = 0; i < 120 * 80; i++) {
      const isDark = Math.hypot((i % 120) - 60, Math.floor(i / 120) - 40) < 30;
      picture.data.set(isDark ? [20, 30, 40, 255] : [250, 250, 240, 255], 4 * i);
    }
    const path = join(application.home, 'seal.png');
    writeFileSync(path, PNG.sync.write(picture));
    await hand.add('A logo or other artwork …');
    await hand.file('Choose a drawing or a picture', path);
    await hand.figure('picture width', '60');
    await visit.page.getByText('Take over one part').click();
    await visit.page.locator('pr-ladder', { hasText: 'seal' }).waitFor();
    await hand.add('A logo or other artwork …');
    await hand.file('Choose a drawing or a picture', join(ROOT, 'demo/artwork/leaf.dxf'));
    await visit.page.locator('.report li', { hasText: '4 open ends joined over 0.06 mm at most.' }).waitFor();
    expect(await visit.page.locator('.preview .mark').count()).toBeGreaterThan(5);
    await hand.press('Take over 2 parts');
    const { sign } = await saved(id);
    expect(sign.parts.map(({ name }) => name)).toEqual(['seal', 'leaf 1', 'leaf 2']);
    // A disc of 15 mm in a picture of half a millimetre to the pixel; its edge is stepped, and found within a pixel.
    const [seal] = sign.parts;
    const width = seal.kind === 'shape' && seal.shape.kind === 'outline' ? seal.shape.width : 0;
    expect(Math.abs(width - 30)).toBeLessThan(1);

    await visit.page.goto(`${application.url}/shop`);
    const lora = join(ROOT, 'fonts/lora/Lora_700Bold.ttf');
    await hand.file('Add fonts (TTF, OTF, WOFF, WOFF2)', lora);
    await visit.page.getByText('Lora Bold is at hand already, and was not added again.').waitFor();
    const own = join(application.home, 'gate.ttf');
    writeFileSync(own, renamedFont(readFileSync(lora), 'Lora', 'Mora'));
    await hand.file('Add fonts (TTF, OTF, WOFF, WOFF2)', own);
    await visit.page.getByText('Mora Bold is at hand on every sign.').waitFor();
    await visit.bench.open(application.url, id);
    const line = await visit.bench.addLine('Seal cove');
    for (const font of ['Lora Bold', 'Mora Bold']) {
      await line.getByRole('button', { name: /^Font:/u }).click();
      // The list moves while the samples get their fonts.
      await visit.page.evaluate(async () => void (await document.fonts.ready));
      await visit.page.locator('.fonts .choice', { hasText: font }).first().click();
      await line.getByRole('button', { name: `Font: ${font}` }).waitFor();
    }
    await until(async () => {
      await visit.bench.saved();
      const { body } = await application.api<{ document: Sign }>(`/signs/${id}`);
      const part = body.document.parts[3];
      return part.kind === 'text' && part.font === 'shop-mora-bold' && part.words === 'Seal cove';
    });
    const notes = await visit.page.locator('pr-notes-list').textContent();
    expect(notes).not.toContain('not a font at hand');
  });

  it('drags a part to the middle of another, which says so, and stretches it by a handle', async () => {
    const id = await newSign('Panel');
    await visit.bench.open(application.url, id);
    const hand = new MouseHand(visit.page);
    await hand.add('A panel');
    await hand.set('Panel 1', 'place across', '40');
    const grab = (await visit.page.locator('rect.grab').boundingBox())!;
    // Off the cut line, which lies across the middle.
    const [x, y] = [grab.x + grab.width / 2, grab.y + grab.height * 0.8];
    await visit.page.mouse.move(x, y);
    await visit.page.mouse.down();
    const perMm = grab.width / 240;
    await visit.page.mouse.move(x - 39 * perMm, y + 2, { steps: 6 });
    await visit.page.locator('.held text', { hasText: 'middle of the blank' }).first().waitFor();
    await visit.page.mouse.up();
    const { sign } = await saved(id);
    expect(sign.parts[0].place).toMatchObject({ x: 0, y: 0 });
    const side = (await visit.page.locator('.handle.side').nth(1).boundingBox())!;
    await visit.page.mouse.move(side.x + 4, side.y + 4);
    await visit.page.mouse.down();
    await visit.page.mouse.move(side.x + 4 - 60 * perMm, side.y + 4, { steps: 5 });
    await visit.page.mouse.up();
    const after = (await saved(id)).sign.parts[0];
    expect(after).toMatchObject({ shape: { kind: 'rectangle', height: 120 } });
    expect(after.kind === 'shape' && after.shape.kind === 'rectangle' && after.shape.width).toBeCloseTo(180, -1);
    expect(after.place.x).toBeCloseTo(-30, -1);

    // Copied here and put into another sign, it lies in the same place.
    await visit.page.keyboard.press('Control+c');
    const other = await newSign('Another panel');
    await visit.bench.open(application.url, other);
    await visit.page.keyboard.press('Control+v');
    await visit.page.locator('.order[data-part="panel-1"]').waitFor();
    expect((await saved(other)).sign.parts).toEqual([after]);
  });

  it('is sure in the hand: parts are dragged at once, handles keep the grab, several are sized as one', async () => {
    const id = await newSign('In the hand');
    const { page, bench } = visit;
    await bench.open(application.url, id);
    const hand = new MouseHand(page);
    await hand.add('A panel');
    await hand.set('Panel 1', 'width', '100');
    await hand.set('Panel 1', 'height', '60');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    const grab = page.locator('rect.grab[data-part="panel-1"]');
    const before = (await grab.boundingBox())!;
    const perMm = before.width / 100;
    // In its middle, where the cut line lies over it; not chosen before.
    const [x, y] = [before.x + before.width / 2, before.y + before.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 2, y);
    await page.keyboard.down('Alt');
    await page.mouse.move(x + 30 * perMm, y - 20 * perMm, { steps: 6 });
    await page.keyboard.up('Alt');
    await page.mouse.up();
    const moved = (await saved(id)).sign;
    expect(moved.parts[0].place.x).toBeCloseTo(30, 0);
    expect(moved.parts[0].place.y).toBeCloseTo(20, 0);
    expect(moved.section).toMatchObject({ x: 0, y: 0 });

    // A handle taken beside its middle, and moved by 2 px: the panel grows by what those are.
    const side = (await page.locator('.handle.side').nth(1).boundingBox())!;
    await page.mouse.move(side.x + 8, side.y + 4);
    await page.mouse.down();
    await page.mouse.move(side.x + 10, side.y + 4, { steps: 2 });
    expect(await page.locator('.size-held').textContent()).toMatch(/^10[0-3](\.\d+)? mm × 60 mm$/u);
    await page.mouse.up();
    const stretched = (await saved(id)).sign.parts[0];
    const width = stretched.kind === 'shape' && stretched.shape.kind === 'rectangle' ? stretched.shape.width : 0;
    expect(Math.abs(width - 100 - 2 / perMm)).toBeLessThan(0.6);

    // Tab from distance to distance changes but what was typed.
    const top = page.getByLabel('distance to the top edge', { exact: true });
    await top.click();
    await page.keyboard.press('Control+A');
    await page.keyboard.type('10');
    for (let tab = 0; tab < 4; tab++) await page.keyboard.press('Tab');
    expect((await saved(id)).sign.parts[0].place.y).toBeCloseTo(100 - 10 - 30, 1);
    await page.keyboard.press('Escape');

    // Two parts as one: by the width of both, and by a corner.
    await hand.press('Add a line');
    await hand.words('Line 1', 'OAK');
    await page.locator('h2', { hasText: 'Layout' }).click();
    await page.keyboard.press('Control+A');
    // Several have corners alone.
    await page.locator('.handle.side').first().waitFor({ state: 'detached' });
    expect(await page.locator('.handle').count()).toBe(4);
    const whole = page.getByLabel('width of what is chosen', { exact: true });
    const from = parseFloat(await whole.inputValue());
    await hand.figure('width of what is chosen', String(from * 1.5));
    await page.waitForTimeout(300);
    const together = (await saved(id)).sign.parts;
    // What is typed is of a width that is shown rounded.
    const sizes = together.map((part) =>
      part.kind === 'text'
        ? part.size.kind === 'capitals' && part.size.height
        : part.shape.kind === 'rectangle' && part.shape.height,
    );
    expect(sizes[0]).toBeCloseTo(90, 1);
    expect(sizes[1]).toBeCloseTo(30, 1);
    expect(parseFloat(await whole.inputValue())).toBeCloseTo(from * 1.5, 1);

    // Keys are the bench's after a choice was made with the pointer.
    await page.keyboard.press('Escape');
    await page.keyboard.press('Escape');
    await hand.choose('Line 1', 'alignment', 'left');
    await page.locator('h2', { hasText: 'Layout' }).click();
    await page.keyboard.press('0');
    await page.keyboard.press('n');
    await page.locator('.order[data-part="line-2"]').waitFor();
    expect(faults).toEqual([]);
  });
});
