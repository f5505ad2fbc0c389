import { Injectable } from '@angular/core';
import { type Sign, upgraded } from '@plain-relief/core/sign';

/** A document that the server does not have yet, with the revision it began from. */
export interface Draft {
  readonly base: number;
  readonly document: Sign;
}

const PREFIX = 'plain-relief/draft/';

/** What was typed and is not saved yet, kept in the browser so that nothing is lost when page or server go. */
@Injectable({ providedIn: 'root' })
export class Drafts {
  read(id: string): Draft | undefined {
    try {
      const text = localStorage.getItem(PREFIX + id);
      if (!text) return undefined;
      const draft = JSON.parse(text) as Draft;
      return { ...draft, document: upgraded(draft.document) };
    } catch {
      return undefined;
    }
  }

  /** Gives whether the browser took it. */
  keep(id: string, draft: Draft): boolean {
    try {
      localStorage.setItem(PREFIX + id, JSON.stringify(draft));
      return true;
    } catch {
      return false;
    }
  }

  drop(id: string): void {
    localStorage.removeItem(PREFIX + id);
  }
}
