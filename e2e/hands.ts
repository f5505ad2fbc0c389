import type { Locator, Page } from 'playwright-core';
import { PATIENCE } from './patience.js';

/** What a designer does, with the mouse or without. Parts are named as ladder and ticket name them; “Blank” is the blank. */
export interface Hand {
  /** A button by its words. */
  press(name: string): Promise<void>;
  /** One of the things that are added besides a line of text. */
  add(what: string): Promise<void>;
  /** Types a value into a field of a part's order. */
  set(part: string, label: string, text: string): Promise<void>;
  /** Chooses a value of a field of a part's order. */
  choose(part: string, label: string, value: string): Promise<void>;
  words(part: string, text: string): Promise<void>;
  /** Types a value into a field that is in no order: at a dimension line, or in a panel. */
  figure(label: string, text: string): Promise<void>;
  /** Chooses parts on the ladder, all of them together. */
  pick(...parts: string[]): Promise<void>;
  /** Hands over a file where one is asked for. */
  file(label: string, path: string): Promise<void>;
}

/** The order of a part in the ticket: by the name in its head, or by its data. */
const orderOf = (part: string): string =>
  part === 'Blank' ? '.order:not([data-part])' : `.order[data-part="${part.toLowerCase().replaceAll(' ', '-')}"]`;

/** Waits until the page is drawn again, twice, and nothing follows, however slow the machine is. */
const drawn = (page: Page): Promise<void> =>
  page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))));

/** Waits until a change has reached the plan. */
export async function settle(page: Page): Promise<void> {
  await page.waitForTimeout(60);
  await drawn(page);
}

/** Waits until something holds; one that fails to be told does not hold yet. @throws Error when the time is over */
export async function until(holds: () => Promise<boolean>, ms = PATIENCE): Promise<void> {
  const end = Date.now() + ms;
  while (!(await holds().catch(() => false))) {
    if (Date.now() > end) throw new Error('It did not come to hold in time.');
    await new Promise((done) => setTimeout(done, 150));
  }
}

/** A field of an order, whatever has to be opened for it: its part, its step, what goes without saying. */
export async function fieldOf(page: Page, order: Locator, label: string): Promise<Locator> {
  const line = order.locator('.line');
  const field = order.getByLabel(label, { exact: true }).first();
  const more = order.getByRole('button', { name: 'more …' });
  const press = async (button: Locator): Promise<void> => {
    await button.click();
    await drawn(page);
  };
  await drawn(page);
  if (await line.isVisible()) await press(line);
  for (const step of ['', 'Layout', 'Heights']) {
    if (step !== '') await press(page.getByRole('button', { name: new RegExp(`^${step} `, 'u') }));
    await order.locator('h3').waitFor();
    if (await field.isVisible()) return field;
    if (await more.isVisible()) await press(more);
    if (await field.isVisible()) return field;
  }
  throw new Error(`“${label}” is nowhere in the ticket.`);
}

export class MouseHand implements Hand {
  constructor(private readonly page: Page) {}

  async press(name: string): Promise<void> {
    await this.page.getByRole('button', { name, exact: true }).first().click();
    await settle(this.page);
  }

  async add(what: string): Promise<void> {
    await this.page.getByRole('button', { name: 'Add something else' }).click();
    await this.page.locator('.dropdown-item', { hasText: what }).click();
    await settle(this.page);
  }

  async set(part: string, label: string, text: string): Promise<void> {
    await (await fieldOf(this.page, this.page.locator(orderOf(part)), label)).click();
    await this.page.keyboard.press('Control+A');
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
    await settle(this.page);
  }

  async choose(part: string, label: string, value: string): Promise<void> {
    await (await fieldOf(this.page, this.page.locator(orderOf(part)), label)).selectOption(value);
    await settle(this.page);
  }

  async words(part: string, text: string): Promise<void> {
    await (await fieldOf(this.page, this.page.locator(orderOf(part)), `Words of ${part}`)).fill(text);
    await settle(this.page);
  }

  async figure(label: string, text: string): Promise<void> {
    await this.page.getByLabel(label, { exact: true }).click();
    await this.page.keyboard.press('Control+A');
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
    await settle(this.page);
  }

  async pick(...parts: string[]): Promise<void> {
    for (const [i, part] of parts.entries())
      await this.page
        .locator('pr-ladder')
        .getByRole('button', { name: part, exact: true })
        .click({ modifiers: i > 0 ? ['Shift'] : [] });
    await settle(this.page);
  }

  async file(label: string, path: string): Promise<void> {
    const [chooser] = await Promise.all([this.page.waitForEvent('filechooser'), this.page.getByText(label).click()]);
    await chooser.setFiles(path);
  }
}

/** Uses the keyboard alone: every place is reached with Tab. */
export class KeyboardHand implements Hand {
  constructor(private readonly page: Page) {}

  /** Goes with Tab until what has the focus is what is wanted. */
  private async reach(what: string, within: string, name: string): Promise<void> {
    for (let i = 0; i < 600; i++) {
      const isThere = await this.page.evaluate(
        ([wanted, place, words]) => {
          const at = document.activeElement as HTMLElement | null;
          if (!at?.closest(place)) return false;
          const own = at.getAttribute('aria-label') ?? (at.closest('label') ?? at).textContent!.replace(/\s+/gu, ' ').trim();
          return at.matches(wanted) && own === words;
        },
        [what, within, name] as const,
      );
      if (isThere) return;
      await this.page.keyboard.press('Tab');
    }
    throw new Error(`“${name}” cannot be reached with the keyboard.`);
  }

  async press(name: string): Promise<void> {
    await this.reach('button', 'body', name);
    await this.page.keyboard.press('Enter');
    await settle(this.page);
  }

  async add(what: string): Promise<void> {
    await this.reach('button', 'body', 'Add something else');
    await this.page.keyboard.press('Enter');
    await this.page.locator('.dropdown-menu.show').waitFor();
    for (let i = 0; i < 20; i++) {
      await this.page.keyboard.press('ArrowDown');
      await drawn(this.page);
      const words = await this.page.evaluate(() => document.activeElement?.textContent?.trim() ?? '');
      if (words !== what) continue;
      await this.page.keyboard.press('Enter');
      return settle(this.page);
    }
    throw new Error(`“${what}” is not on the menu.`);
  }

  /** Goes to a value of the ticket by its name. */
  private async find(question: string, name: string): Promise<void> {
    await this.page.keyboard.press('Control+k');
    await this.page.waitForFunction(() => document.activeElement?.getAttribute('aria-label') === 'Find a value');
    await this.page.keyboard.type(question);
    await this.page.locator('ngb-typeahead-window').waitFor();
    await this.page.keyboard.press('Enter');
    await this.page.waitForFunction((label) => document.activeElement?.getAttribute('aria-label') === label, name);
  }

  private async type(text: string): Promise<void> {
    await this.page.keyboard.press('Control+A');
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
    await settle(this.page);
  }

  async set(part: string, label: string, text: string): Promise<void> {
    await this.find(`${part} ${label}`, label);
    await this.type(text);
  }

  async choose(part: string, label: string, value: string): Promise<void> {
    await this.find(`${part} ${label}`, label);
    await this.page.keyboard.press('Home');
    for (let i = 0; i < 40; i++) {
      const now = await this.page.evaluate(() => (document.activeElement as HTMLSelectElement).value);
      if (now === value) return settle(this.page);
      await this.page.keyboard.press('ArrowDown');
      await settle(this.page);
    }
    throw new Error(`“${value}” is not among the choices of “${label}”.`);
  }

  async words(part: string, text: string): Promise<void> {
    await this.find(`${part} words`, `Words of ${part}`);
    await this.page.keyboard.press('Control+A');
    const [first, ...lines] = text.split('\n');
    await this.page.keyboard.type(first);
    for (const line of lines) {
      await this.page.keyboard.press('Enter');
      await this.page.keyboard.type(line);
    }
    await settle(this.page);
  }

  async figure(label: string, text: string): Promise<void> {
    await this.reach('input', 'body', label);
    await this.type(text);
  }

  async pick(...parts: string[]): Promise<void> {
    for (const [i, part] of parts.entries()) {
      await this.reach('button.name', 'pr-ladder', part);
      await this.page.keyboard.press(i > 0 ? 'Shift+Enter' : 'Enter');
      await settle(this.page);
    }
  }

  async file(label: string, path: string): Promise<void> {
    await this.page.getByText(label).waitFor();
    await this.reach('input', 'body', label);
    const [chooser] = await Promise.all([this.page.waitForEvent('filechooser'), this.page.keyboard.press('Enter')]);
    await chooser.setFiles(path);
  }
}
