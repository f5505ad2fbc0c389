import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { readStl, stlFile } from '@plain-relief/core/format';
import { edgeFaults, type Mesh, volume } from '@plain-relief/core/mesh';
import { newShape, newSign, newText, newTier, type Sign } from '@plain-relief/core/sign';
import { MouseHand, until } from './hands.js';
import { Visit } from './visit.js';

const visit = new Visit('bent');
const { faults } = visit;

const button = (name: string | RegExp) => visit.page.getByRole('button', { name });

/** Puts a sign into the first job, and opens it. */
async function open(title: string, document: Sign): Promise<string> {
  const { body } = await visit.application.api<{ jobs: { id: string }[] }>('/jobs');
  const { body: made } = await visit.application.api<{ id: string }>(`/jobs/${body.jobs[0].id}/signs`, { method: 'POST', body: { title, document } }); // prettier-ignore
  await visit.bench.open(visit.application.url, made.id);
  return made.id;
}

/** The sign as it is stored once it is as it should be. */
async function storedSo(id: string, isSo: (sign: Sign) => boolean): Promise<Sign> {
  for (;;) {
    const sign = await visit.stored(id);
    if (isSo(sign)) return sign;
    await visit.page.waitForTimeout(150);
  }
}

/**
 * The volume of the solid as the shop makes it, read back: closed.
 * @param but that of an earlier file, which is listed until the new one is made
 */
async function solidMade(but?: number): Promise<number> {
  await button(/^Make/u).first().click();
  for (;;) {
    const path = await (await visit.bench.make(/^Make Solid \(STL\)/u, 'stl')).path();
    lastSolid = path;
    const mesh = readStl(new Uint8Array(readFileSync(path)));
    expect(edgeFaults(mesh)).toEqual({ count: 0 });
    if (volume(mesh) !== but) return volume(mesh);
    await visit.page.waitForTimeout(500);
  }
}

/** Where the solid is that was made last. */
let lastSolid = '';

const widthOf = ({ blank: { outline } }: Sign): number => ('width' in outline ? outline.width : 0);

describe('signs that are bent', () => {
  let hand: MouseHand;
  beforeAll(() => {
    hand = new MouseHand(visit.page);
  });

  it('words go round a post, over its seam', async () => {
    const sign = newSign('Post', 'mm');
    sign.parts = [{ ...newText(sign, 'barlow-bold'), words: 'WEST GATE' }];
    const id = await open('Post', sign);
    await hand.choose('Blank', 'support', 'cylinder');
    await hand.set('Blank', 'radius', '80 mm');
    await hand.choose('Blank', 'how far', 'whole');
    const round = await storedSo(id, ({ support }) => support?.kind === 'cylinder' && support.round === true);
    expect(widthOf(round)).toBeCloseTo(160 * Math.PI, 6);
    await hand.set('Line 1', 'degrees round', '180');
    await storedSo(id, ({ parts }) => Math.abs(parts[0].place.x - 80 * Math.PI) < 0.01);
    // The section as it is bent is a ring.
    await button('laid flat').click();
    await visit.page.getByText('face: radius 80 mm, outside').waitFor();
    const { thickness, outline } = round.blank;
    const tube = Math.PI * (80 ** 2 - (80 - thickness) ** 2) * (outline as { height: number }).height;
    const made = await solidMade();
    expect(made).toBeGreaterThan(tube * 0.999);
    expect(made).toBeLessThan(tube * 1.1);
    expect(faults).toEqual([]);
  });

  it('name and logo of a desk are fitted to it anew when it changes', async () => {
    const id = await visit.openSign('Front desk');
    const before = await visit.stored(id);
    await hand.set('Blank', 'line width', '1500 mm');
    const after = await storedSo(id, (sign) => widthOf(sign) < widthOf(before) - 100);
    const share = widthOf(after) / widthOf(before);
    const across = ({ parts }: Sign): number[] => parts.map(({ place }) => place.x);
    across(after).forEach((x, i) => expect(x).toBeCloseTo(across(before)[i] * share, 2));
    const frame = ({ parts }: Sign): number =>
      parts.flatMap((part) => (part.kind === 'text' && part.frame ? [part.frame.width] : []))[0];
    expect(frame(after)).toBeCloseTo(frame(before) * share, 2);
    // What is stretched is seen on the plan.
    await visit.page.getByLabel('What the plan is painted by').selectOption('stretch');
    await visit.page.getByText(/^\s*The surface is as long as the plan, −/u).waitFor();
    await button(/^Undo/u).first().click();
    await storedSo(id, (sign) => Math.abs(widthOf(sign) - widthOf(before)) < 1e-6);
    // The desk’s front edge as the joiner drew it: two straight pieces and a bow between them.
    const ground = '<svg xmlns="http://www.w3.org/2000/svg" width="1600mm" height="400mm" viewBox="0 0 1600 400"><path fill="none" stroke="#000" d="M0 100H400A400 400 0 0 0 1200 100H1600"/></svg>'; // prettier-ignore
    const file = { name: 'ground.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(ground) };
    await visit.page.locator('pr-line-from-drawing input').setInputFiles(file);
    await visit.page.getByText(/A line .* long in \d+ pieces, off what is drawn by/u).waitFor();
    const drawn = await storedSo(id, ({ support }) => support?.kind === 'swept' && support.line.kind === 'pieces');
    const bent = drawn.support?.kind === 'swept' && drawn.support.line.kind === 'pieces' ? drawn.support.line.pieces : [];
    const turned = bent.map((piece) => (piece.kind === 'straight' ? 0 : piece.angle * (piece.bends === 'away' ? 1 : -1)));
    // The bow turns by 180°, and the corners at its ends back by as much.
    expect(Math.abs(turned.reduce((sum, angle) => sum + angle, 0))).toBeLessThan(1);
    await visit.page.locator('pr-line-from-drawing input').setInputFiles({ ...file, name: 'none.svg', buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>') }); // prettier-ignore
    await visit.page.locator('pr-line-from-drawing [role=alert]').waitFor();
    expect(faults).toEqual([]);
  });

  it('a cup is engraved, and raised instead by changing one word', async () => {
    const sign = newSign('Cup', 'mm');
    sign.blank.thickness = 6;
    sign.parts = [{ ...newText(sign, 'barlow-bold'), words: 'FERN', tiers: [newTier('tier-1', { kind: 'carve', by: 1 })] }];
    const id = await open('Cup', sign);
    await hand.choose('Blank', 'support', 'cone');
    await hand.set('Blank', 'radius below', '32 mm');
    await hand.set('Blank', 'radius above', '45 mm');
    await hand.set('Blank', 'height', '95 mm');
    await hand.choose('Blank', 'how far', 'whole');
    await hand.choose('Blank', 'ends', 'floor');
    await hand.set('Line 1', 'cap height', '20 mm');
    await storedSo(id, ({ support, parts: [part] }) => support?.kind === 'cone' && support.floor === 6 && part.kind === 'text' && part.size.kind === 'capitals' && part.size.height === 20); // prettier-ignore
    const carved = await solidMade();
    await button(/^Heights/u)
      .first()
      .click();
    await hand.choose('Line 1', 'action', 'raise');
    await storedSo(id, ({ parts: [part] }) => part.tiers[0].action.kind === 'raise');
    const raised = await solidMade(carved);
    const bare = (Math.PI * (32 ** 2 + 32 * 45 + 45 ** 2 - 26 ** 2 - 26 * 39 - 39 ** 2) * 95) / 3;
    expect(carved).toBeGreaterThan(bare * 0.9);
    expect(raised - carved).toBeGreaterThan(300);
    expect(raised - carved).toBeLessThan(3000);
    expect(faults).toEqual([]);
  });

  it('a pad on a post is set flat, with a number that stands on it', async () => {
    const sign = newSign('Number post', 'mm');
    sign.blank.thickness = 14;
    sign.support = { kind: 'cylinder', radius: 80, facing: 'outside', round: true };
    sign.blank.outline = { kind: 'rectangle', width: 160 * Math.PI, height: 150, cornerRadius: 0 };
    const pad = newShape(sign, 'rectangle');
    sign.parts = [{ ...pad, id: 'pad', name: 'Pad', shape: { kind: 'rectangle', width: 70, height: 40, cornerRadius: 4 }, tiers: [newTier('tier-1', { kind: 'set', to: -4 })] }]; // prettier-ignore
    sign.parts.push({ ...newText(sign, 'barlow-bold'), name: 'Number', words: '17', sitsOn: { kind: 'part', part: 'pad', at: 'floor' }, tiers: [newTier('tier-2', { kind: 'raise', by: 2 })] }); // prettier-ignore
    const id = await open('Number post', sign);
    await button(/^Heights/u)
      .first()
      .click();
    await hand.choose('Pad', 'how it lies', 'true');
    await storedSo(id, ({ parts }) => parts[0].tiers[0].action.kind === 'set' && parts[0].tiers[0].action.flat === true);
    await visit.page
      .getByText(/Pad lies flat, and the surface bends away from it: at its edge it stands above the face/u)
      .waitFor();
    await hand.set('Pad', 'level', '-9 mm');
    await storedSo(id, ({ parts }) => parts[0].tiers[0].action.kind === 'set' && parts[0].tiers[0].action.to === -9);
    await until(async () => (await visit.page.getByText(/lies flat, and the surface/u).count()) === 0);
    await solidMade();
    const { positions } = readStl(new Uint8Array(readFileSync(lastSolid)));
    const at = (z: number): number => positions.filter((value, i) => i % 3 === 2 && Math.abs(value - z) < 1e-3).length;
    // The face touches z = 0: the pad's floor, and the tops of both figures, are flat.
    expect([at(-9) > 20, at(-7) > 20]).toEqual([true, true]);
    expect(faults).toEqual([]);
  });

  it('a block has a letter on each of four faces, turned a quarter, is seen face by face, and is cut so', async () => {
    const sign = newSign('Block', 'mm');
    sign.blank.thickness = 50;
    sign.blank.outline = { kind: 'rectangle', width: 50, height: 50, cornerRadius: 0 };
    const id = await open('Block', sign);
    await hand.choose('Blank', 'support', 'block');
    await storedSo(id, ({ support }) => support?.kind === 'block');
    for (const [face, name, letter] of [
      ['front', 'front', 'N'],
      ['right', 'right side', 'E'],
      ['back', 'back', 'S'],
      ['left', 'left side', 'W'],
    ]) {
      await visit.page.getByLabel('Face shown').selectOption(face);
      const line = await visit.bench.addLine(letter);
      await line.getByText(`up from the middle of the face`).waitFor();
      await line
        .getByRole('button', { name, exact: false })
        .or(line.getByLabel('face', { exact: true }))
        .first()
        .waitFor();
      await hand.press('turn ¼ left');
    }
    const made = await storedSo(id, ({ parts }) => parts.length === 4 && parts.every(({ place }) => place.turn === 90));
    expect(made.parts.map(({ place: { x, y } }) => [x, y])).toEqual([[0, 0], [70, 0], [140, 0], [-70, 0]]); // prettier-ignore
    // Chosen on the model, from the front.
    await button('Both').click();
    await visit.page.getByLabel('Face looked at').selectOption('front');
    const canvas = visit.page.locator('pr-model-view canvas');
    await visit.page.getByLabel('Face shown').selectOption('');
    await until(async () => {
      await canvas.dblclick();
      return (await visit.page.getByLabel('Face shown').inputValue()) === 'front';
    });
    const raised = await solidMade();
    expect(raised).toBeGreaterThan(50 ** 3);
    expect(raised).toBeLessThan(50 ** 3 * 1.02);
    // What is raised stands over all four sides of it, and over no other.
    const { positions } = readStl(new Uint8Array(readFileSync(lastSolid)));
    const span = (k: number) => [
      Math.min(...positions.filter((_, i) => i % 3 === k)),
      Math.max(...positions.filter((_, i) => i % 3 === k)),
    ];
    expect([span(0), span(1), span(2)].map((ends) => ends.map((mm) => Math.round(100 * mm) / 100))).toEqual([[-27, 27], [-25, 25], [-52, 2]]); // prettier-ignore
    await button('Cuts for a machine').click();
    await visit.page.getByText('lies with its front up, its upper edge away from you, on the back').waitFor();
    await visit.page.getByLabel('Face that is cut').selectOption('left');
    await visit.page.getByText('lies with its left side up, its upper edge away from you, on the right side').waitFor();
    expect(faults).toEqual([]);
  });

  it('a plate is laid on the post that the customer sent as a file', async () => {
    const sign = newSign('Plate', 'mm');
    const { thickness } = sign.blank;
    sign.blank.outline = { kind: 'rectangle', width: 80, height: 60, cornerRadius: 0 };
    const id = await open('Plate', sign);
    await button(/^Model$/u).click();
    await button(/^object$/u).click();
    const post = stlFile(postOf(70, 600, 96), 'post');
    await visit.page.locator('pr-context-panel input[type=file]').setInputFiles([{ name: 'rubbish.stl', mimeType: 'model/stl', buffer: Buffer.from('rubbish') }]); // prettier-ignore
    await visit.page.getByText('neither GLB (binary glTF 2.0) nor STL').waitFor();
    await visit.page.locator('pr-context-panel input[type=file]').setInputFiles([{ name: 'post.stl', mimeType: 'model/stl', buffer: Buffer.from(post) }]); // prettier-ignore
    await visit.page.getByText('384 triangles').waitFor();
    await storedSo(id, ({ context }) => context?.name === 'post.stl');
    const canvas = visit.page.locator('pr-model-view canvas');
    const { width, height } = (await canvas.boundingBox())!;
    // Beside the sign, which stands before its middle.
    await until(async () => {
      await canvas.click({ position: { x: width / 2, y: height * 0.82 } });
      return visit.page.getByText('192 triangles are about').isVisible();
    });
    await visit.page.getByText(/a cylinder of radius 70 mm, seen from outside, off by less than 0.01 mm/u).waitFor();
    await button('Lay the sign on it').click();
    const laid = await storedSo(id, ({ support }) => support?.kind === 'cylinder');
    expect(laid.support).toMatchObject({ kind: 'cylinder', facing: 'outside' });
    expect(laid.support?.kind === 'cylinder' && laid.support.radius).toBeCloseTo(70 + thickness, 2);
    // The plate’s back lies on the post: a ring’s part, as thick as the sheet.
    const share = 80 / (2 * Math.PI * (70 + thickness));
    expect((await solidMade()) / (Math.PI * ((70 + thickness) ** 2 - 70 ** 2) * 60 * share)).toBeCloseTo(1, 2);
    await button('Back to the ticket').click();
    await button(/^Undo: lay on a cylinder/u).click();
    await storedSo(id, ({ support, context }) => support === undefined && context !== undefined);
    expect(faults).toEqual([]);
  });
});

/** A post that stands on z = 0. */
function postOf(radius: number, height: number, sides: number): Mesh {
  const at = (i: number): number => (2 * Math.PI * i) / sides;
  const rings = [0, height].flatMap((z) => Array.from({ length: sides }, (_, i) => [radius * Math.cos(at(i)), radius * Math.sin(at(i)), z]).flat()); // prettier-ignore
  const [low, high] = [2 * sides, 2 * sides + 1];
  const triangles = Array.from({ length: sides }, (_, i) => {
    const j = (i + 1) % sides;
    return [i, j, j + sides, i, j + sides, i + sides, low, j, i, high, i + sides, j + sides];
  });
  return { positions: Float64Array.from([...rings, 0, 0, 0, 0, 0, height]), triangles: Uint32Array.from(triangles.flat()) };
}
