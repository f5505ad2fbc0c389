import { Injectable } from '@angular/core';
import { type Part, SIGN_VERSION } from '@plain-relief/core/sign';

const KEY = 'plain-relief-copied';

/**
 * Parts that were copied, kept in the browser so that they can be put into another sign, also in another window. Only this
 * application writes there; the server judges the sign that they are put into.
 */
@Injectable({ providedIn: 'root' })
export class Clipboard {
  copy(parts: readonly Part[]): void {
    if (parts.length === 0) return;
    try {
      localStorage.setItem(KEY, JSON.stringify({ version: SIGN_VERSION, parts }));
    } catch {
      // A full store keeps what it had; the parts are still in their sign.
    }
  }

  /** What was copied last; nothing where it is of another version, or no parts. */
  read(): readonly Part[] {
    try {
      const { version, parts } = JSON.parse(localStorage.getItem(KEY) ?? '{}') as { version?: number; parts?: Part[] };
      return version === SIGN_VERSION && Array.isArray(parts) && parts.every(isPart) ? parts : [];
    } catch {
      return [];
    }
  }
}

const isPart = (part: Part | null): boolean =>
  typeof part === 'object' &&
  part !== null &&
  ((part.kind === 'text' && typeof part.words === 'string') || (part.kind === 'shape' && typeof part.shape?.kind === 'string')) &&
  typeof part.id === 'string' &&
  typeof part.place?.x === 'number' &&
  typeof part.sitsOn?.kind === 'string' &&
  Array.isArray(part.tiers);
