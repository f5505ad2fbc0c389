import { spawnSync } from 'node:child_process';
import { describe, expect, it } from '@jest/globals';
import { newSign, newText, newTier, type BrailleShape, type Sign } from '@plain-relief/core/sign';
import { Visit } from './visit.js';

const visit = new Visit('room-sign');
const { faults } = visit;

const button = (name: string | RegExp) => visit.page.getByRole('button', { name });
const brailleOf = (sign: Sign): BrailleShape | undefined =>
  sign.parts.flatMap((part) => (part.kind === 'shape' && part.shape.kind === 'braille' ? [part.shape] : []))[0];

/** Puts a sign into the first job. */
async function put(title: string, document: Sign): Promise<string> {
  const { body } = await visit.application.api<{ jobs: { id: string }[] }>('/jobs');
  const made = await visit.application.api<{ id: string }>(`/jobs/${body.jobs[0].id}/signs`, { method: 'POST', body: { title, document } }); // prettier-ignore
  return made.body.id;
}

describe('a room sign with braille', () => {
  let id: string;
  it('is made from a bare blank to a standard that it meets in fewer than 12 actions', async () => {
    id = await put('Archive', newSign('Archive', 'mm'));
    await visit.bench.open(visit.application.url, id);
    let actions = 0;
    const act = async (does: Promise<unknown>) => {
      actions++;
      await does;
    };
    await act(button('Add a line').first().click());
    await act(visit.page.getByLabel('Words of Line 1').fill('ARCHIVE'));
    await act(
      button(/^Check/u)
        .first()
        .click(),
    );
    await act(visit.page.getByLabel('standard', { exact: true }).selectOption('ada-703'));
    await act(visit.page.getByLabel('height of its middle above the floor').fill('1400 mm'));
    await act(visit.page.keyboard.press('Enter'));
    await act(button('Make it meet the standard').click());
    // Its braille is translated as a part of that edit.
    await visit.page.getByText('Nothing of it fails.').waitFor();
    expect(actions).toBeLessThan(12);
    await visit.page.waitForFunction(() => document.body.textContent!.includes('saved, revision'));
    const braille = brailleOf(await visit.stored(id));
    expect(braille?.translated).toEqual({ words: 'archive', table: 'ueb-2' });
    // 26 clauses, of which none fails.
    expect(await visit.page.locator('pr-standard-table tbody tr').count()).toBe(26);
    expect(await visit.page.locator('pr-standard-table tbody tr.fails').count()).toBe(0);
  });

  it('has the standard on its proof', async () => {
    await button(/^Proof/u)
      .first()
      .click();
    const path = await (await visit.bench.make(/^Make Proof/u, 'proof')).path();
    const text = spawnSync('pdftotext', [path, '-'], { encoding: 'utf8' }).stdout.replace(/\s+/gu, ' ');
    expect(text).toContain('section 703: nothing of it fails');
  });

  it('is translated with its words, read back, and undone with them; what was corrected by hand stays', async () => {
    await button(/^Layout/u)
      .first()
      .click();
    await visit.page.getByLabel('Words of Line 1').fill('ARCHIVES');
    await visit.page.locator('.order .line', { hasText: 'braille “archives”' }).click();
    await visit.page.getByText('Read back: “archives”').waitFor();
    await visit.page.keyboard.press('Escape');
    await button(/^Undo: words/u).click();
    await visit.page.locator('.order', { hasText: 'braille “archive”' }).waitFor();
    await visit.page.locator('.order .line', { hasText: 'braille' }).click();
    await button('more …').click();
    await visit.page.getByLabel('cells', { exact: true }).fill('⠁⠗⠉');
    await visit.page.getByText('Read back: “arc”').waitFor();
    await button('less').click();
    await visit.page.getByLabel('braille table').selectOption('de-1');
    await visit.page.getByText('which are not those of the words as they are now').waitFor();
    await visit.page.getByLabel('where the cells are from').selectOption('false');
    await visit.page.getByText('Read back: “archive”').waitFor();
    expect(faults).toEqual([]);
  });
});

describe('a plaque that fails', () => {
  it('is brought to pass by remedies alone, or its checks are switched off with a reason', async () => {
    const sign = newSign('Old quay', 'mm');
    const [first, second] = [`O'Hara  Quay`, '1904-1911'].map((words, i) => ({
      ...newText(sign, 'barlow-semibold'),
      id: `line-${i + 1}`,
      name: `Line ${i + 1}`,
      words,
      place: { x: i === 0 ? 0.6 : 0, y: 30 - 60 * i, turn: 0, mirror: false },
      size: { kind: 'capitals', height: i === 0 ? 20 : 19.4, stretch: 100 } as const,
    }));
    sign.parts.push(first, second);
    const plaque = await put('Old quay', sign);
    await visit.bench.open(visit.application.url, plaque);
    await button(/^Check/u)
      .first()
      .click();
    const list = visit.page.locator('pr-findings-list');
    const figure = list.locator('h3 .figure');
    await figure.waitFor();
    for (let round = 0; round < 12; round++) {
      await visit.page.waitForFunction(() => !document.querySelector('pr-findings-list h3 [role=status]'));
      const finding = list.locator('li:not(.off) > button').first();
      if ((await finding.count()) === 0) break;
      if ((await finding.getAttribute('aria-pressed')) !== 'true') await finding.click();
      await list.locator('.mending .remedy, .mending .quiet:has-text("Nothing")').first().waitFor();
      const before = await figure.textContent();
      if ((await list.locator('.mending .remedy').count()) > 0) await list.locator('.mending .remedy').first().click();
      else {
        await list.getByRole('button', { name: 'Switch this check off' }).click();
        await list.getByLabel('Why the sign is not told of it').fill('as on the drawing');
        await list.getByRole('button', { name: 'Switch it off' }).click();
      }
      await visit.page.waitForFunction(
        (was) => document.querySelector('pr-findings-list h3 .figure')?.textContent !== was,
        before,
      );
    }
    await list.getByText('All that is measured is as it should be').waitFor();
    await visit.bench.saved();
    const { parts } = await visit.stored(plaque);
    expect(parts.map((part) => part.kind === 'text' && part.words)).toEqual(['O’Hara Quay', '1904–1911']);
    expect(faults).toEqual([]);
  });
});

describe('a plaque that fails in seven ways', () => {
  it('is brought to pass by its remedies alone, and undone to what it was', async () => {
    const sign = newSign('Mooring', 'mm');
    sign.blank = { outline: { kind: 'rectangle', width: 400, height: 200, cornerRadius: 0 }, thickness: 12, material: 'oak' };
    const line = (id: string, words: string, x: number, y: number, height: number, by: number): Sign['parts'][number] => ({
      ...newText(sign, 'barlow-semibold'),
      ...{ id, name: id, words, place: { x, y, turn: 0, mirror: false }, size: { kind: 'capitals', height, stretch: 100 } },
      tiers: [newTier('tier-1', { kind: 'raise', by })],
    });
    sign.parts = [line('first', "Don't moor  here", 0, 40, 24, 3), line('second', 'Ferry 9-17 daily', 1.2, -30, 16, 12)];
    // What has no remedy is switched off.
    sign.checks = { off: [{ check: 'sharp-corner', reason: 'cut by a point' }] };
    const id = await put('Mooring', sign);
    await visit.bench.open(visit.application.url, id);
    const before = await visit.stored(id);
    await button(/^Check/u)
      .first()
      .click();
    const findings = visit.page.locator('pr-findings-list li > button[aria-pressed]');
    const passes = visit.page.getByText('All that is measured is as it should be.');
    await findings.first().waitFor();
    expect(await findings.count()).toBe(7);
    for (let mended = 0; mended < 7; mended++) {
      await visit.page.locator('pr-findings-list [role=status]').waitFor({ state: 'detached' });
      const left = await findings.count();
      await findings.first().click();
      await visit.page.locator('pr-findings-list .mending .remedy').first().click();
      await visit.page.waitForFunction(
        (most) => document.querySelectorAll('pr-findings-list li > button[aria-pressed]').length < most,
        left,
      );
    }
    await passes.waitFor();
    await visit.page.waitForFunction(() => document.body.textContent!.includes('saved, revision'));
    // What sets the marks of one text twice is one edit.
    for (let undone = 0; undone < 7; undone++) {
      await visit.page.keyboard.press('Control+z');
      await visit.page.waitForTimeout(200);
    }
    await findings.nth(6).waitFor();
    await visit.page.keyboard.press('Escape');
    await visit.page.waitForTimeout(1500);
    expect(JSON.stringify(await visit.stored(id))).toBe(JSON.stringify(before));
    expect(faults).toEqual([]);
  });
});
