import { Injectable } from '@angular/core';
import type { Part } from '@plain-relief/core/sign';

const KEY = 'plain-relief-copied';

/** Parts that were copied, kept in the browser so that they can be put into another sign, also in another window. */
@Injectable({ providedIn: 'root' })
export class Clipboard {
  copy(parts: readonly Part[]): void {
    if (parts.length === 0) return;
    try {
      localStorage.setItem(KEY, JSON.stringify(parts));
    } catch {
      // A full store keeps what it had; the parts are still in their sign.
    }
  }

  /** What was copied last, as it is stored. */
  stored(): string {
    return localStorage.getItem(KEY) ?? '[]';
  }
}
