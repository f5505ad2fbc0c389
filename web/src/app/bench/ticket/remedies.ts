import { inject, Injectable } from '@angular/core';
import { mend, type SignRemedy } from '@plain-relief/core/making';
import { bridgesFor, type Part } from '@plain-relief/core/sign';
import type { Mending } from './note-line';
import { SignStore } from '../document/sign-store';

/** Applies what notes offer to mend; undone like every other edit. */
@Injectable()
export class Remedies {
  private readonly store = inject(SignStore);

  apply({ part: id, remedy }: Mending): void {
    if (remedy.kind === 'backer')
      return this.store.setField(['blank', 'cutTo', 'backer', 'kind'], 'grown', 'plate behind the letters');
    if (id === undefined) return;
    switch (remedy.kind) {
      case 'later':
        return this.store.reorderTo(id, remedy.after);
      case 'font':
        return this.change(id, 'font', (part) => {
          if (part.kind === 'text') part.font = remedy.font;
        });
      case 'bridges':
        return this.change(id, 'bridges', (part) => {
          part.bridges ??= bridgesFor(part);
        });
    }
  }

  /** Changes the sign so that tools come where they do not. */
  mend(remedy: SignRemedy): void {
    const what = remedy.kind === 'open up' ? 'spacing' : 'sides';
    this.store.edit(`${what} of ${remedy.name}`, `${what} ${remedy.part}`, (sign) => mend(sign, remedy));
  }

  private change(id: string, what: string, recipe: (part: Part) => void): void {
    this.store.edit(`${what} of ${this.store.nameOf(id)}`, `${what} ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part) recipe(part);
    });
  }
}
