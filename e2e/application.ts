import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { type AddressInfo, createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { type Browser, type BrowserContextOptions, chromium, type Page } from 'playwright-core';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
const BROWSER_ARGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  // WebGL without a graphics card, while pages are still drawn by the processor.
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--disable-gpu-rasterization',
];

/** What the pages of the application send with every request. */
const OWN = { 'x-plain-relief': 'test' };

/** Debian's Chromium. */
export const openBrowser = (): Promise<Browser> => chromium.launch({ executablePath: '/usr/bin/chromium', args: BROWSER_ARGS });

/** A port that nothing listens on. */
export function freePort(): Promise<number> {
  return new Promise((done) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => done(port));
    });
  });
}

/** The application as `./start` runs it, with a home of its own below .run/. */
export class Application {
  private child: ChildProcess | undefined;
  /** Of the owner, who asks by {@link api}. */
  private cookie: { name: string; value: string } | undefined;
  output = '';
  url = '';
  port = 0;
  readonly home: string;

  constructor(name: string) {
    this.home = join(ROOT, '.run', 'test', name);
  }

  /** Starts with an empty home unless told to keep what is there; gives when the address is printed. */
  async start({ keep = false } = {}): Promise<void> {
    if (!keep) {
      rmSync(this.home, { recursive: true, force: true });
      this.cookie = undefined;
    }
    this.output = '';
    this.port ||= await freePort();
    this.child = this.run(['--port', String(this.port)]);
    const ended = new Promise<never>((_, failed) =>
      this.child!.once('exit', () => failed(new Error(`./start ended: ${this.output}`))),
    );
    ended.catch(() => {});
    const ready = (async () => {
      while (!/is at (http\S+)/u.test(this.output)) await wait(50);
      this.url = /is at (http\S+)/u.exec(this.output)![1];
    })();
    await Promise.race([ready, ended]);
  }

  /** Runs ./start with these arguments; its words are gathered in `output`. */
  run(args: readonly string[]): ChildProcess {
    const child = spawn(join(ROOT, 'start'), args, { env: { ...process.env, PLAIN_RELIEF_HOME: this.home, DEMO_STORY: 'none' } });
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (this.output += String(chunk)));
    return child;
  }

  /** As Ctrl-C does. */
  async stop(): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((done) => child.once('exit', done));
    child.kill('SIGINT');
    await gone;
  }

  /** Kills one of the processes that ./start runs: "main.js", "worker.js" or "postgres". */
  kill(name: string): void {
    for (const pid of this.pidsOf(name)) process.kill(pid, 'SIGKILL');
  }

  /** By how much the threads of such a process stand back behind others: 0 for not at all (nice). */
  nicenessOf(name: string): number[] {
    const { stdout } = spawnSync('ps', ['-L', '-o', 'ni=', ...this.pidsOf(name).flatMap((pid) => ['-p', String(pid)])], {
      encoding: 'utf8',
    });
    return stdout.trim().split(/\s+/u).map(Number);
  }

  private pidsOf(name: string): number[] {
    const pids = spawnSync('pgrep', ['-P', String(this.child!.pid), '-f', name], { encoding: 'utf8' })
      .stdout.split('\n')
      .filter(Boolean);
    if (pids.length === 0) throw new Error(`Nothing named ${name} runs below ./start.`);
    return pids.map(Number);
  }

  async api<T>(path: string, init: { method?: string; body?: unknown } = {}): Promise<{ status: number; body: T }> {
    const answer = await this.fetch(path, {
      method: init.method ?? 'GET',
      headers: init.body === undefined ? {} : { 'content-type': 'application/json' },
      body: init.body === undefined ? undefined : JSON.stringify(init.body),
    });
    return { status: answer.status, body: (await answer.json()) as T };
  }

  /** A request of the owner of the demo shop. */
  async fetch(path: string, init: RequestInit = {}): Promise<Response> {
    const { name, value } = (this.cookie ??= await this.signIn());
    const answer = await fetch(`${this.url}/api${path}`, {
      ...init,
      headers: { ...OWN, cookie: `${name}=${value}`, ...init.headers },
    });
    if (answer.status === 429) throw new Error(`This test asks more often than the server allows: ${path}`);
    return answer;
  }

  /** A page of a browser in which somebody of the demo shop is signed in. */
  async openPage(browser: Browser, options: BrowserContextOptions = {}, who = 'runa'): Promise<Page> {
    const { name, value } = await this.signIn(who);
    const page = await browser.newPage(options);
    await page.context().addCookies([{ name, value, url: this.url }]);
    // Somebody who knows the bench: the tour is not offered.
    await page.addInitScript("localStorage['plain-relief-tour'] ??= '0'");
    return page;
  }

  private async signIn(who = 'runa'): Promise<{ name: string; value: string }> {
    const answer = await fetch(`${this.url}/api/session`, {
      method: 'POST',
      headers: { ...OWN, 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${who}@millrace.example.org`, password: 'demo-millrace' }),
    });
    if (!answer.ok) throw new Error(`${who} cannot sign in: ${await answer.text()}`);
    const [name, value] = answer.headers.getSetCookie()[0].split(';')[0].split('=');
    return { name, value };
  }
}
