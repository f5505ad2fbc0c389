import { fieldOf, settle } from './hands.js';
import type { Download, Locator, Page } from 'playwright-core';
import { PATIENCE } from './patience.js';

/** What a person does on the bench, by the words that stand there. */
export class BenchPage {
  constructor(readonly page: Page) {}

  async open(url: string, signId: string): Promise<void> {
    await this.page.goto(`${url}/signs/${signId}`);
    // At Make there is no plan of the sign, but one of its cuts.
    await this.page
      .locator('pr-plan-view path.edge')
      .or(this.page.locator('pr-make-place'))
      .first()
      .waitFor({ state: 'attached' });
  }

  /** The order of a part in the ticket, by the part's name. */
  order(name: string): Locator {
    return this.page.locator(`.order[aria-label^="${name}"]`);
  }

  /** A field of an order, brought to where it can be typed into. */
  async field(order: Locator, label: string): Promise<Locator> {
    const field = order.getByLabel(label, { exact: true }).first();
    const isPart = await order.evaluate((element) => element.classList.contains('order'));
    return !isPart || (await field.isVisible()) ? field : fieldOf(this.page, order, label);
  }

  /** Types a value into a field of an order and leaves it. */
  async set(order: Locator, label: string, text: string): Promise<void> {
    const field = await this.field(order, label);
    await field.fill(text);
    await field.press('Enter');
  }

  /** Waits until a field of an order shows a value. */
  async shows(order: Locator, label: string, text: string): Promise<void> {
    const field = await (await this.field(order, label)).elementHandle();
    await this.page.waitForFunction(([input, value]) => (input as HTMLInputElement).value === value, [field, text] as const);
  }

  /** Adds a line of text and gives its order, found by the part's own id: what is selected changes with the next line. */
  async addLine(words: string): Promise<Locator> {
    const orders = this.page.locator('.order');
    const before = await orders.count();
    await this.page
      .getByRole('button', { name: /^Add (a line|the first line)$/u })
      .first()
      .click();
    const id = await orders.nth(before).getAttribute('data-part');
    const order = this.page.locator(`.order[data-part="${id}"]`);
    await order.getByRole('textbox', { name: /^Words of/u }).fill(words);
    return order;
  }

  async saved(): Promise<number> {
    const mark = this.page.locator('pr-save-mark .mark.saved');
    await mark.waitFor();
    // The mark may still be that of the revision before.
    await this.page.waitForTimeout(600);
    await settle(this.page);
    await mark.waitFor();
    return Number(/revision (\d+)/u.exec((await mark.textContent()) ?? '')?.[1]);
  }

  /** Asks for a file in the open panel, taking on oneself what is not approved; waits until it is made, and fetches it. */
  async make(name: RegExp, kind: string): Promise<Download> {
    const reason = this.page.getByLabel('Why it is made all the same');
    const files = this.page.getByRole('button', { name: 'Outlines and solids' });
    const panel = this.page.locator('pr-output-panel');
    await files.or(panel).first().waitFor();
    if (await files.isVisible()) await files.click();
    await panel.waitFor();
    if (await this.page.locator('pr-output-panel', { hasText: 'Files for the shop' }).isVisible()) {
      await this.page.locator('pr-output-panel :is(.locked, .cleared)').waitFor();
      if (await reason.isVisible()) await reason.fill('Test cut');
    }
    await this.page.getByRole('button', { name }).click();
    const link = this.page.locator(`[data-task="${kind}"][data-state="done"] a`).first();
    await link.waitFor({ timeout: PATIENCE });
    const [download] = await Promise.all([this.page.waitForEvent('download'), link.click()]);
    return download;
  }
}
