import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from '@jest/globals';
import type { Page } from 'playwright-core';
import { ROOT } from './application.js';
import { Visit } from './visit.js';

const visit = new Visit('accessible');
const { application, faults } = visit;

interface Violation {
  readonly id: string;
  readonly impact: string;
  readonly nodes: readonly { readonly html: string }[];
}

const axe = readFileSync(join(ROOT, 'node_modules/axe-core/axe.min.js'), 'utf8');

/** What axe-core finds serious on a page as it is seen now. */
async function seriousFaults(page: Page, where: string): Promise<string[]> {
  await page.evaluate(axe);
  const found = await page.evaluate(async () => {
    const { axe: judge } = window as unknown as { axe: { run(at: Document): Promise<{ violations: Violation[] }> } };
    return (await judge.run(document)).violations.map(({ id, impact, nodes }) => ({ id, impact, at: nodes[0].html }));
  });
  return found.flatMap(({ id, impact, at }) =>
    impact === 'serious' || impact === 'critical' ? [`${where}: ${id} at ${at.slice(0, 140)}`] : [],
  );
}

/** Buttons and links that are seen and have a sign instead of words, and no words where the pointer rests. */
const wordless = (page: Page): Promise<string[]> =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button, a')]
      .filter((each) => each.offsetParent !== null && !each.matches('.driver-popover *, .modal *, .offcanvas *'))
      .filter(
        (each) => !/\p{L}{2}/u.test(each.innerText) && !each.title && !each.closest('[title]') && !each.querySelector('img'),
      )
      .map((each) => each.outerHTML.slice(0, 160)),
  );

/** Looks at the page as it is now; answers all that was found since it began. */
function looking(page: Page) {
  const serious: string[] = [];
  const mute: string[] = [];
  return async (where: string) => {
    serious.push(...(await seriousFaults(page, where)));
    mute.push(...(await wordless(page)).map((each) => `${where}: ${each}`));
    return { serious, mute };
  };
}

let shown: Promise<{ readonly job: string; readonly path: string }> | undefined;

/** A proof that is out: its job, and the path of the customer's page. */
const proofOut = (): Promise<{ readonly job: string; readonly path: string }> => (shown ??= sendProof());

async function sendProof(): Promise<{ readonly job: string; readonly path: string }> {
  const { body } = await application.api<{ jobs: { id: string; title: string; signs: { id: string }[] }[] }>('/jobs');
  const { id, signs } = body.jobs.find(({ title }) => title === 'Room signs, second floor')!;
  const asked = { signs: [signs[0].id], recipient: 'desk@quillstreet.example.org', message: 'Dear Tobias', days: 30 };
  const sent = await application.api<{ address: string }>(`/jobs/${id}/proofs`, { method: 'POST', body: asked });
  return { job: id, path: new URL(sent.body.address).pathname.slice(1) };
}

const PLACES = ['jobs', 'bin', 'shop', 'turnaround', 'outbox', 'people'];

describe('everybody', () => {
  it('finds every page without a serious fault of accessibility (axe-core), and words for every sign', async () => {
    const { page } = visit;
    const look = looking(page);
    for (const address of [...PLACES, (await proofOut()).path]) {
      await page.goto(`${application.url}/${address}`, { waitUntil: 'networkidle' });
      await look(address);
    }
    await page.goto(`${application.url}/jobs/${(await proofOut()).job}/proofs`, { waitUntil: 'networkidle' });
    expect(await look('proofs')).toEqual({ serious: [], mute: [] });
  });

  it('finds the same of the bench at every step', async () => {
    const { page } = visit;
    const look = looking(page);
    await page.goto(`${application.url}/jobs`);
    await page.getByRole('button', { name: 'Add a sign' }).first().click();
    await page.getByRole('dialog').locator('.kind').nth(9).waitFor();
    await page.waitForTimeout(400);
    await look('a new sign');
    await visit.openSign('Map room panel');
    for (const step of ['Brief', 'Layout', 'Heights', 'Check', 'Proof', 'Make']) {
      await page.locator('nav.steps').getByRole('button', { name: step }).click();
      await page.waitForTimeout(300);
      await look(`the bench at ${step}`);
    }
    await page.locator('nav.steps').getByRole('button', { name: 'Layout' }).click();
    await page.locator('.line').nth(3).click();
    await look('the bench with a part chosen');
    await page.keyboard.press('Escape');
    await page.keyboard.press('?');
    await page.getByRole('heading', { name: /^Layout:/u }).waitFor();
    expect(await look('the help')).toEqual({ serious: [], mute: [] });
    expect(faults).toEqual([]);
  });

  it('reads every page at 200 % without scrolling sideways (WCAG 2.2, 1.4.4 and 1.4.10)', async () => {
    // 1280 × 800 at 200 % is a page of 640 × 400.
    const page = await application.openPage(visit.browser, { viewport: { width: 640, height: 400 } });
    const wide: string[] = [];
    const measure = async (where: string) => {
      const over = await page.evaluate(() => {
        const most = document.documentElement.clientWidth;
        return [...document.querySelectorAll<HTMLElement>('button, a, input, select, h1, h2, p')]
          .filter((each) => each.offsetParent !== null && !each.closest('svg, .visually-hidden, .modal, pr-plan-view'))
          .filter((each) => each.getBoundingClientRect().right > most + 1 || each.getBoundingClientRect().left < -1)
          .map((each) => each.outerHTML.slice(0, 120));
      });
      wide.push(...over.map((each) => `${where}: ${each}`));
    };
    for (const address of [...PLACES, (await proofOut()).path]) {
      await page.goto(`${application.url}/${address}`, { waitUntil: 'networkidle' });
      await measure(address);
    }
    await page.goto(`${application.url}/signs/${await visit.signId('Map room panel')}`);
    await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
    for (const step of ['Brief', 'Layout', 'Heights', 'Check', 'Proof', 'Make']) {
      await page.locator('nav.steps').getByRole('button', { name: step }).click();
      await page.waitForTimeout(200);
      await measure(`the bench at ${step}`);
    }
    expect(wide).toEqual([]);
    await page.context().close();
  });

  it('sees what is on where colours are forced, and nothing move where movement is unwanted', async () => {
    const options = { viewport: { width: 1280, height: 800 }, forcedColors: 'active', reducedMotion: 'reduce' } as const;
    const page = await application.openPage(visit.browser, options);
    await page.goto(`${application.url}/signs/${await visit.signId('Map room panel')}`);
    await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
    const seen = await page.evaluate(() => {
      const styleOf = (selector: string) => getComputedStyle(document.querySelector(selector)!);
      return {
        pressed: styleOf('.tools [aria-pressed="true"]').outlineStyle,
        current: styleOf('nav.steps [aria-current]').outlineStyle,
        mark: styleOf('nav.steps .done i').forcedColorAdjust,
        plan: styleOf('pr-plan-view svg').forcedColorAdjust,
        moving: [...document.querySelectorAll('*')].filter((each) => {
          const { transitionDuration, transitionProperty, animationName } = getComputedStyle(each);
          return animationName !== 'none' || (transitionProperty !== 'none' && parseFloat(transitionDuration) > 0);
        }).length,
      };
    });
    expect(seen).toEqual({ pressed: 'solid', current: 'solid', mark: 'none', plan: 'none', moving: 0 });
    await page.context().close();
  });
});
