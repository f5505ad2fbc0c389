import { describe, expect, it } from '@jest/globals';
import type { Page } from 'playwright-core';
import { BenchPage } from './bench-page.js';
import { Visit } from './visit.js';

const visit = new Visit('people');

/** A browser in which nobody has signed in yet. */
const stranger = (): Promise<Page> => visit.browser.newPage({ viewport: { width: 1280, height: 800 } });

async function signIn(page: Page, who: string, password: string): Promise<void> {
  await page.getByLabel('E-mail address').fill(`${who}@millrace.example.org`);
  await page.getByLabel('Password').fill(password);
  await page.keyboard.press('Enter');
}

describe('people of the shop', () => {
  it('come to the place that they asked for, by the keyboard alone; a wrong password is told', async () => {
    const page = await stranger();
    const id = await visit.signId('West gate sign');
    await page.goto(`${visit.application.url}/signs/${id}`);
    await page.waitForURL(/sign-in/u);
    await signIn(page, 'edda', 'not this one');
    await page.getByText('E-mail address or password is not right').waitFor();
    await signIn(page, 'edda', 'demo-millrace');
    await page.waitForURL(`**/signs/${id}`);
    await page.locator('pr-plan-view path.edge').waitFor({ state: 'attached' });
    // An address of elsewhere leads nowhere.
    await page.goto(`${visit.application.url}/sign-in?then=//example.org/`);
    await page.waitForURL(`${visit.application.url}/jobs`);
    await page.context().close();
  });

  it('whose session ends in the midst of work find it again when they have signed in', async () => {
    const page = await visit.application.openPage(visit.browser, { viewport: { width: 1280, height: 800 } }, 'edda');
    const id = await visit.signId('Reading room');
    const bench = new BenchPage(page);
    await bench.open(visit.application.url, id);
    const before = await visit.stored(id);
    // Signed out everywhere from another browser.
    const other = await visit.application.openPage(visit.browser, {}, 'edda');
    await other.goto(`${visit.application.url}/jobs`);
    await other.getByRole('button', { name: 'Edda Thorne' }).click();
    await other.getByRole('button', { name: 'Sign out everywhere' }).click();
    await other.waitForURL(/sign-in/u);
    await bench.set(bench.order('Blank'), 'thickness', '7.5');
    await page.waitForURL(/sign-in/u);
    expect((await visit.stored(id)).blank.thickness).toBe(before.blank.thickness);
    await signIn(page, 'edda', 'demo-millrace');
    await page.waitForURL(`**/signs/${id}`);
    await page.locator('pr-save-mark .mark.saved').waitFor();
    expect((await visit.stored(id)).blank.thickness).toBe(7.5);
    await page.context().close();
    await other.context().close();
  });

  it('a maker sees the sign and its files, and changes nothing', async () => {
    const page = await visit.application.openPage(visit.browser, { viewport: { width: 1280, height: 800 } }, 'piet');
    await page.goto(`${visit.application.url}/jobs`);
    await page.locator('pr-job-card').first().waitFor();
    for (const name of ['New job', 'Add a sign', 'Outbox']) expect(await page.getByText(name, { exact: true }).count()).toBe(0);
    const id = await visit.signId('West gate sign');
    const before = await visit.stored(id);
    await page.goto(`${visit.application.url}/signs/${id}`);
    await page.getByText('designers change it').waitFor();
    // The ticket is text, and its parts are found by a click.
    const ticket = page.locator('pr-ticket-text');
    expect(await ticket.locator('input, select, textarea').count()).toBe(0);
    await ticket.getByRole('button').first().click();
    await page.locator('rect.grab.selected').waitFor();
    const part = page.locator('rect.grab').first();
    const box = (await part.boundingBox())!;
    await page.mouse.move(box.x + 4, box.y + 4);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + 40, { steps: 5 });
    await page.mouse.up();
    await page.keyboard.press('Delete');
    await page.waitForTimeout(1200);
    expect(await visit.stored(id)).toEqual(before);
    await page.getByRole('button', { name: /^Make/u }).first().click();
    await page.getByRole('button', { name: 'Outlines and solids' }).click();
    await page.getByText('Ask a designer for a proof').waitFor();
    await page.context().close();
  });

  it('an owner adds somebody, who signs in; who has left cannot', async () => {
    const { page } = visit;
    await page.goto(`${visit.application.url}/people`);
    const form = page.getByRole('form', { name: 'Add somebody' });
    await form.getByLabel('Name', { exact: true }).fill('Brisa Tamsin');
    await form.getByLabel('E-mail address').fill('brisa@millrace.example.org');
    await form.getByLabel('First password').fill('short');
    await form.getByRole('button', { name: 'Add' }).click();
    await page.getByText('password').last().waitFor();
    await page.locator('.told.bad').waitFor();
    await form.getByLabel('First password').fill('long enough');
    await form.getByRole('button', { name: 'Add' }).click();
    await page.getByText('Brisa Tamsin can sign in now').waitFor();
    const theirs = await stranger();
    await theirs.goto(visit.application.url);
    await signIn(theirs, 'brisa', 'long enough');
    await theirs.waitForURL('**/jobs');
    const row = page.locator('.person', { hasText: 'Brisa Tamsin' });
    await row.getByRole('button', { name: 'Has left' }).click();
    await page.locator('.person.left', { hasText: 'Brisa Tamsin' }).waitFor();
    await theirs.reload();
    await theirs.waitForURL(/sign-in/u);
    await signIn(theirs, 'brisa', 'long enough');
    await theirs.getByText('is not right').waitFor();
    await page.locator('td', { hasText: 'added somebody' }).first().waitFor();
    // The only owner stays one.
    await page.getByLabel('What Runa Aldous may do').selectOption('maker');
    await page.getByText('Runa Aldous is the only owner').waitFor();
    await theirs.context().close();
  });
});
