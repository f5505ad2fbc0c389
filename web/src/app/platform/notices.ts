import { Injectable, signal } from '@angular/core';

/** A sentence that stands at the edge of the page for a while, with what can be done about it. */
export interface Notice {
  readonly id: number;
  readonly text: string;
  readonly action?: NoticeAction;
}

export interface NoticeAction {
  /** What stands on its button. */
  readonly words: string;
  readonly run: () => unknown;
}

/** What the last commands did, where that is not plain to see. */
@Injectable({ providedIn: 'root' })
export class Notices {
  private readonly list = signal<readonly Notice[]>([]);
  readonly all = this.list.asReadonly();
  private last = 0;

  /** Says a sentence; one that stands there already is said anew. */
  say(text: string, action?: NoticeAction): void {
    if (text === '') return;
    const others = this.list().filter((notice) => notice.text !== text);
    this.list.set([...others.slice(-MOST_SHOWN + 1), { id: ++this.last, text, ...(action && { action }) }]);
  }

  drop(id: number): void {
    this.list.update((notices) => notices.filter((notice) => notice.id !== id));
  }
}

const MOST_SHOWN = 4;
