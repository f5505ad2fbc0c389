import { afterAll, beforeAll } from '@jest/globals';
import { type Sign } from '@plain-relief/core/sign';
import type { Browser, Page } from 'playwright-core';
import { Application, openBrowser } from './application.js';
import { BenchPage } from './bench-page.js';
import { PATIENCE } from './patience.js';

/** The application as one file of tests uses it, with a page of a browser open on it and what went wrong on that page. */
export class Visit {
  readonly application: Application;
  /** Errors of the page's scripts, and what it said was wrong. */
  readonly faults: string[] = [];
  browser!: Browser;
  page!: Page;
  bench!: BenchPage;

  constructor(name: string) {
    this.application = new Application(name);
    beforeAll(() => this.begin());
    afterAll(() => this.end());
  }

  /** The id of a sign of the demo by its title. */
  async signId(title: string): Promise<string> {
    const { body } = await this.application.api<{ jobs: { signs: { id: string; title: string }[] }[] }>('/jobs');
    return body.jobs.flatMap(({ signs }) => signs).find((sign) => sign.title === title)!.id;
  }

  /** Opens a sign of the demo by its title; gives its id. */
  async openSign(title: string): Promise<string> {
    const id = await this.signId(title);
    await this.bench.open(this.application.url, id);
    return id;
  }

  /** A sign as it was saved last. */
  async stored(id: string): Promise<Sign> {
    return (await this.application.api<{ document: Sign }>(`/signs/${id}`)).body.document;
  }

  private async begin(): Promise<void> {
    await this.application.start();
    this.browser = await openBrowser();
    this.page = await this.application.openPage(this.browser, { viewport: { width: 1280, height: 800 } });
    this.page.setDefaultTimeout(PATIENCE);
    // Heard of for as long as the page is there: while nobody listens, the browser opens its own window for files, which no test can answer.
    this.page.on('filechooser', () => undefined);
    this.page.on('pageerror', (error) => this.faults.push(error.message));
    this.page.on('console', (message) => {
      if (message.type() === 'error') this.faults.push(message.text());
    });
    this.bench = new BenchPage(this.page);
  }

  private async end(): Promise<void> {
    await this.browser?.close();
    await this.application.stop();
  }
}
