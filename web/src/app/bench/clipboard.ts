import { Injectable } from '@angular/core';
import { newSign, type Part, readSign, type Sign } from '@plain-relief/core/sign';

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

  /** The parts, checked as any document from outside is; none where there are none that can be read. */
  read(): readonly Part[] {
    try {
      const parts = JSON.parse(localStorage.getItem(KEY) ?? '[]') as Sign['parts'];
      // What they follow may be in another sign: they are read apart from that, and settled when they are put in.
      return parts.filter((part) => readSign({ ...newSign('Copied', 'mm'), parts: [alone(part)] }).parts.length === 1);
    } catch {
      return [];
    }
  }
}

function alone(part: Part): Part {
  const rest = { ...part, sitsOn: { kind: 'face' as const } };
  if (rest.kind === 'text') return { ...rest, path: undefined };
  const { shape } = rest;
  if (shape.kind === 'border') return { ...rest, shape: { ...shape, of: 'blank' } };
  return shape.kind === 'combined' ? { ...rest, shape: { kind: 'circle', diameter: 1 } } : rest;
}
