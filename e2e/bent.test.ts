import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { readStl } from '@plain-relief/core/format';
import { edgeFaults, volume } from '@plain-relief/core/mesh';
import { newSign, newText, newTier, type Sign } from '@plain-relief/core/sign';
import { MouseHand } from './hands.js';
import { Visit } from './visit.js';

const visit = new Visit('bent', 30_000);
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
    const mesh = readStl(new Uint8Array(readFileSync(path)));
    console.log(path, volume(mesh), await visit.page.locator('[data-task]').allTextContents());
    expect(edgeFaults(mesh)).toEqual({ count: 0 });
    if (volume(mesh) !== but) return volume(mesh);
    await visit.page.waitForTimeout(500);
  }
}

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
});
