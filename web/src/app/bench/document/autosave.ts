import { type Sign } from '@plain-relief/core/sign';
import { BehaviorSubject, type Observable } from 'rxjs';
import type { Api, ApiError } from '../../platform/api';
import type { Drafts } from './drafts';

/** Another document that was saved while this one was being worked on. */
export interface Conflict {
  readonly theirs: Sign;
  readonly revision: number;
  readonly savedAt: string;
}

export type SaveState =
  | { readonly kind: 'saved'; readonly revision: number }
  | { readonly kind: 'saving'; readonly revision: number }
  /** The server could not be reached: the browser has it and tries again. */
  | { readonly kind: 'waiting'; readonly revision: number; readonly reason: string }
  /** The server will not have it as it is. */
  | { readonly kind: 'refused'; readonly revision: number; readonly reason: string }
  | { readonly kind: 'conflict'; readonly revision: number; readonly conflict: Conflict };

const PAUSE_MS = 500;
const RETRY_MS = [1000, 2000, 4000, 8000];

/** Saves a document by itself, shortly after every change, one save at a time. */
export class Autosave {
  private readonly state: BehaviorSubject<SaveState>;
  readonly state$: Observable<SaveState>;
  private newest: Sign;
  private sent: Sign;
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** The save that is on its way. */
  private sending: Promise<void> | undefined;
  private failures = 0;
  /** What the server set aside where two saves met. */
  private setAside: Sign | undefined;

  constructor(
    private readonly api: Api,
    private readonly drafts: Drafts,
    private readonly id: string,
    revision: number,
    document: Sign,
  ) {
    this.newest = this.sent = document;
    this.state = new BehaviorSubject<SaveState>({ kind: 'saved', revision });
    this.state$ = this.state;
  }

  get revision(): number {
    return this.state.value.revision;
  }

  /** A new document: the browser has it at once, the server soon. */
  changed(document: Sign): void {
    this.newest = document;
    this.drafts.keep(this.id, { base: this.revision, document });
    if (this.state.value.kind === 'conflict') return;
    if (this.state.value.kind !== 'waiting') this.state.next({ kind: 'saving', revision: this.revision });
    this.schedule(PAUSE_MS);
  }

  /** Saves what is not saved yet, now. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    // One that is on its way may be of an earlier state.
    await this.sending;
    await this.send();
  }

  /** The same. @throws Error that says why the server does not have the document now */
  async saved(): Promise<void> {
    await this.flush();
    const now = this.state.value;
    if (now.kind === 'conflict')
      throw new Error('What you see is not saved, since somebody else saved the sign: choose which goes on.');
    if (now.kind === 'waiting' || now.kind === 'refused') throw new Error(`What you see is not saved: ${now.reason}`);
  }

  /** After a conflict: this document goes on, on top of the other. */
  keepMine(): void {
    const now = this.state.value;
    if (now.kind !== 'conflict') return;
    this.state.next({ kind: 'saving', revision: now.conflict.revision });
    this.drafts.keep(this.id, { base: now.conflict.revision, document: this.newest });
    void this.flush();
  }

  /**
   * After a conflict: the other document goes on, as it is saved by now. The server has set aside this one; what was changed in it
   * since is set aside as well.
   */
  async takeTheirs(): Promise<Sign | undefined> {
    const now = this.state.value;
    if (now.kind !== 'conflict') return undefined;
    if (this.newest !== this.setAside) await this.putAside(now.revision);
    const { theirs, revision } = await this.ofServer().catch(() => now.conflict);
    this.newest = this.sent = theirs;
    this.drafts.drop(this.id);
    this.state.next({ kind: 'saved', revision });
    return theirs;
  }

  private async ofServer(): Promise<{ theirs: Sign; revision: number }> {
    const { document, revision } = await this.api.ask('GET /signs/:id', { params: { id: this.id } });
    return { theirs: document, revision };
  }

  /** The server sets aside what begins from a revision that is not the newest. */
  private async putAside(base: number): Promise<void> {
    const body = { base, document: { ...this.newest } };
    await this.api.ask('PUT /signs/:id', { params: { id: this.id }, body }).catch(() => undefined);
  }

  stop(): void {
    clearTimeout(this.timer);
    if (this.newest !== this.sent) void this.send();
  }

  private schedule(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), ms);
  }

  private async send(): Promise<void> {
    if (this.sending || this.state.value.kind === 'conflict') return;
    if (this.newest === this.sent) {
      // What was changed was taken back before it was sent.
      if (this.state.value.kind !== 'saving') return;
      this.drafts.drop(this.id);
      this.state.next({ kind: 'saved', revision: this.revision });
      return;
    }
    this.sending = this.put();
    await this.sending;
  }

  private async put(): Promise<void> {
    const document = this.newest;
    const base = this.revision;
    try {
      const { revision } = await this.api.ask('PUT /signs/:id', {
        params: { id: this.id },
        body: { base, document: { ...document } },
      });
      this.failures = 0;
      this.sent = document;
      if (this.newest === document) {
        this.drafts.drop(this.id);
        this.state.next({ kind: 'saved', revision });
      } else {
        this.drafts.keep(this.id, { base: revision, document: this.newest });
        this.state.next({ kind: 'saving', revision });
        this.schedule(PAUSE_MS);
      }
    } catch (error) {
      this.failed(error as ApiError, base, document);
    } finally {
      this.sending = undefined;
    }
  }

  private failed(error: ApiError, revision: number, document: Sign): void {
    if (error.status === 409) {
      this.setAside = document;
      const { theirs, revision: newer, savedAt } = error.body as { theirs: Sign; revision: number; savedAt: string };
      this.state.next({ kind: 'conflict', revision, conflict: { theirs, revision: newer, savedAt } });
    } else if (error.isPassing) {
      this.state.next({ kind: 'waiting', revision, reason: error.message });
      this.schedule(RETRY_MS[Math.min(this.failures++, RETRY_MS.length - 1)]);
    } else {
      this.sent = this.newest;
      this.state.next({ kind: 'refused', revision, reason: error.message });
    }
  }
}
