import { spawnSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from '@jest/globals';
import { type Sign } from '@plain-relief/core/sign';
import type { Locator, Page } from 'playwright-core';
import { ROOT } from './application.js';
import { Visit } from './visit.js';

const visit = new Visit('newcomer');
const { application, faults } = visit;

/** What a newcomer does, counted: a value typed, a click, a key, each one. */
class Steps {
  count = 0;

  constructor(private readonly page: Page) {}

  async click(target: Locator): Promise<void> {
    this.count++;
    await target.click();
  }

  async press(name: string | RegExp): Promise<void> {
    await this.click(this.page.getByRole('button', { name, ...(typeof name === 'string' && { exact: true }) }).first());
  }

  async type(label: string, text: string): Promise<void> {
    this.count++;
    const field = this.page.getByLabel(label, { exact: true }).first();
    await field.fill(text);
    if (await field.evaluate((element) => element.classList.contains('figure'))) await field.press('Enter');
  }

  async choose(label: string, value: string): Promise<void> {
    this.count++;
    await this.page.getByLabel(label, { exact: true }).first().selectOption(value);
  }

  /** From the board to the bench of a sign of a kind. */
  async begin(kind: string, title: string, words?: string, size?: readonly [string, string]): Promise<void> {
    await this.click(this.page.locator('.card-job', { hasText: 'Ten walks' }).getByRole('button', { name: 'Add a sign' }));
    if (kind !== 'Recessed panel') await this.click(this.page.locator('.kind', { hasText: kind }));
    await this.type('Name of the sign', title);
    if (words !== undefined) await this.type('Words of the sign', words);
    if (size) {
      await this.type('width of the sign', size[0]);
      await this.type('height of the sign', size[1]);
    }
    await this.press('Make the sign');
    await this.page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
  }

  async toStep(name: string): Promise<void> {
    await this.press(new RegExp(`^${name} `, 'u'));
  }
}

describe('a newcomer', () => {
  beforeAll(async () => {
    const body = { customer: 'Fernhollow Arboretum', title: 'Ten walks', dueOn: null, quantity: 1, unit: 'mm' };
    await application.api('/jobs', { method: 'POST', body });
  });

  /** The sign as it was saved: closed, with nothing that cannot be made. */
  async function made(): Promise<Sign> {
    await visit.bench.saved();
    const id = visit.page.url().split('/').at(-1)!;
    const { body } = await application.api<{ document: Sign }>(`/signs/${id}`);
    const path = join(application.home, 'walk.sign.json');
    writeFileSync(path, JSON.stringify(body.document));
    const { stdout } = spawnSync(join(ROOT, 'relief'), ['inspect', path], { encoding: 'utf8', maxBuffer: 1e8 });
    const { watertight, notes } = JSON.parse(stdout) as { watertight: boolean; notes: { weight: string; text: string }[] };
    expect(watertight).toBe(true);
    expect(notes.filter(({ weight }) => weight === 'error')).toEqual([]);
    return body.document;
  }

  const wordsOf = ({ parts }: Sign): string[] => parts.flatMap((part) => (part.kind === 'text' ? [part.words] : []));

  /** A walk, how many actions it took before, and what has come of it. */
  const WALKS: readonly (readonly [string, number, (steps: Steps) => Promise<void>, (sign: Sign) => void])[] = [
    [
      'a block letter',
      19,
      async (steps) => {
        await steps.begin('Flat-cut letters', 'Block letter', 'B', ['120', '150']);
        await steps.toStep('Heights');
        await steps.type('thickness', '25');
      },
      ({ blank }) => expect(blank).toMatchObject({ thickness: 25, cutTo: { studs: { count: 2 } } }),
    ],
    [
      'a panel with two words',
      40,
      async (steps) => {
        await steps.begin('Recessed panel', 'Two words', 'ATLAS\nMap room', ['520', '240']);
        await steps.toStep('Heights');
        await steps.click(visit.page.locator('.line', { hasText: 'Map room' }));
        await steps.type('height', '6');
      },
      (sign) => {
        expect(wordsOf(sign)).toEqual(['ATLAS', 'Map room']);
        expect(sign.parts.at(-1)?.tiers[0].action).toEqual({ kind: 'raise', by: 6 });
      },
    ],
    [
      'a key tag',
      33,
      (steps) => steps.begin('Key tag', 'Key tag', 'Crow’s nest', ['110', '20']),
      ({ blank }) => expect(blank.cutTo?.backer).toMatchObject({ kind: 'bar', ends: 'round', hole: { end: 'left' } }),
    ],
    [
      'a nameplate',
      22,
      (steps) => steps.begin('Nameplate', 'Nameplate', 'Linden Vale\nHead gardener', ['180', '60']),
      (sign) => expect(sign.parts.map(({ tiers }) => tiers[0].action.kind)).toEqual(['cut-through', 'carve']),
    ],
    [
      'cut words with windows',
      46,
      async (steps) => {
        await steps.begin('Bare blank', 'Windows', undefined, ['400', '160']);
        await steps.press('Add a line');
        await steps.type('Words of Line 1', 'OPEN');
        await steps.type('cap height', '60');
        await steps.toStep('Heights');
        await steps.choose('action', 'insert');
        await steps.type('material of the insert', 'opal acrylic');
        await steps.type('thickness of the insert', '5');
      },
      (sign) => expect(sign.parts[0].tiers[0].action).toMatchObject({ kind: 'insert', material: 'opal acrylic', thickness: 5 }),
    ],
    [
      'an octagon',
      25,
      (steps) => steps.begin('Octagon', 'Octagon', 'Pier 9\nkeep clear'),
      ({ blank, parts }) => {
        expect(blank.outline).toMatchObject({ kind: 'polygon', sides: 8 });
        expect(parts).toHaveLength(3);
      },
    ],
    [
      'a second tier',
      21,
      async (steps) => {
        await steps.begin('Round plate', 'Second tier', '7');
        await steps.toStep('Heights');
        await steps.click(visit.page.locator('.line', { hasText: /^\s*7 / }));
        await steps.press('Add a tier');
      },
      (sign) => expect(sign.parts.at(-1)?.tiers.map(({ action }) => action)).toEqual([{ kind: 'raise', by: 2 }, { kind: 'raise', by: 3 }]), // prettier-ignore
    ],
    [
      'hollow letters',
      30,
      (steps) => steps.begin('Hollow letters', 'Hollow', 'FERRY', ['700', '200']),
      ({ blank }) => expect(blank.cutTo?.hollow?.wall).toBeGreaterThan(1),
    ],
    [
      'words on a circle',
      23,
      async (steps) => {
        await steps.begin('Round plate', 'Circle', '12', undefined);
        await steps.press('Add a line');
        await steps.type('Words of Line 2', 'OSPREY POINT FERRY');
        await steps.type('cap height', '9');
        await steps.press('more …');
        await steps.choose('way it runs', 'arc');
        await steps.type('place up', '0');
      },
      (sign) => expect(sign.parts.at(-1)).toMatchObject({ words: 'OSPREY POINT FERRY', path: { kind: 'arc' } }),
    ],
    [
      'a logo beside a line',
      26,
      async (steps) => {
        await steps.begin('Nameplate', 'Logo', 'Fernhollow', ['220', '70']);
        await steps.press('Add something else');
        await steps.click(visit.page.locator('.dropdown-item', { hasText: 'A logo or other artwork' }));
        steps.count++;
        const [chooser] = await Promise.all([
          visit.page.waitForEvent('filechooser'),
          visit.page.getByText('Choose a drawing or a picture').click(),
        ]);
        await chooser.setFiles(join(ROOT, 'demo/artwork/crozier.svg'));
        await steps.type('width of the artwork', '24');
        await steps.press('Take over 2 parts');
        await steps.type('distance to the left edge', '22 mm');
      },
      (sign) => expect(new Set(sign.parts.slice(-2).map(({ group }) => group)).size).toBe(1),
    ],
  ];

  it.each(WALKS)('makes %s in at most two thirds of the %i actions that it took', async (name, before, walk, check) => {
    await visit.page.goto(`${application.url}/jobs`);
    const steps = new Steps(visit.page);
    await walk(steps);
    check(await made());
    process.stdout.write(`${name}: ${steps.count} actions, ${before} before\n`);
    expect(steps.count).toBeLessThanOrEqual((before * 2) / 3);
    expect(faults).toEqual([]);
  });

  it('takes the tour, leaves it, takes it up where it was left, and finds help for the step', async () => {
    const page = await application.openPage(visit.browser, { viewport: { width: 1280, height: 800 } });
    await page.addInitScript("delete localStorage['plain-relief-tour']");
    await page.goto(`${application.url}/signs/${await visit.signId('Map room panel')}`);
    const stop = page.locator('.driver-popover-title');
    const goesOn = async (title: string) => {
      const before = await stop.textContent();
      const isThere = () => stop.filter({ hasText: title }).isVisible();
      // A key while it goes from one stop to the next is not heard.
      for (let i = 0; i < 40 && !(await isThere()); i++) {
        if ((await stop.textContent()) === before) await page.keyboard.press('ArrowRight');
        await page.waitForTimeout(500);
      }
      expect(await stop.textContent()).toBe(title);
    };
    await page.getByRole('button', { name: 'Take the tour' }).click();
    await stop.filter({ hasText: 'Six steps' }).waitFor();
    await goesOn('The ticket');
    await goesOn('Find a value');
    await page.keyboard.press('Escape');
    await stop.waitFor({ state: 'detached' });
    await page.keyboard.press('?');
    await page.getByRole('heading', { name: 'Layout: words, sizes, places, artwork' }).waitFor();
    await page.getByLabel('Search the help').fill('ridge');
    await page.getByRole('heading', { name: /^Heights: what is raised/u }).waitFor();
    const width = await page.locator('article img').evaluate(async (img: HTMLImageElement) => {
      // It may still be on its way.
      await img.decode();
      return img.naturalWidth;
    });
    expect(width).toBeGreaterThan(0);
    await page.getByRole('button', { name: 'Go on with the tour' }).click();
    await stop.filter({ hasText: 'Find a value' }).waitFor();
    for (const title of ['The plan', 'The ladder', 'The section', 'Notes and facts', 'Saved by itself']) await goesOn(title);
    await page.getByRole('button', { name: 'Done' }).click();
    await page.keyboard.press('?');
    await page.getByRole('button', { name: 'Take the tour' }).waitFor();
    await page.keyboard.press('Escape');
    await page.locator('ngb-offcanvas-panel').waitFor({ state: 'detached' });
    await page.context().close();
  });
});
