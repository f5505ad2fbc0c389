import { inject, Injectable } from '@angular/core';
import { bridgesFor } from '@plain-relief/core/sign';
import type { Mending } from './notes-list';
import { SignStore } from '../document/sign-store';

/** Applies what notes offer to mend; undone like every other edit. */
@Injectable()
export class Remedies {
  private readonly store = inject(SignStore);

  apply({ part: id, remedy, after }: Mending): void {
    if (remedy === 'backer') {
      this.store.setField(['blank', 'cutTo', 'backer', 'kind'], 'grown', 'plate behind the letters');
    } else if (remedy === 'later') {
      if (id !== undefined && after !== undefined) this.store.reorderTo(id, after);
    } else if (id !== undefined) {
      this.store.edit(`bridges of ${this.store.nameOf(id)}`, `bridges ${id}`, (sign) => {
        const part = sign.parts.find((other) => other.id === id);
        if (part) part.bridges ??= bridgesFor(part);
      });
    }
  }
}
