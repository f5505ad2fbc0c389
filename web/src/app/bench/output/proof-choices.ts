import { inject, Injectable } from '@angular/core';
import { namedSection, newOption } from '@plain-relief/core/sign';
import { SignStore } from '../document/sign-store';

/** What the proof offers and shows besides the sign itself: its options, and sections by their names. */
@Injectable()
export class ProofChoices {
  private readonly store = inject(SignStore);

  /** Adds an option that is as what is shown, and shows it. */
  addOption(): void {
    const { sign, option } = this.store.now ?? {};
    if (!sign) return;
    const { id, name } = newOption(sign);
    const made = { tiers: [], ...sign.options?.find((each) => each.id === option), id, name };
    this.store.editAll(
      `add ${made.name}`,
      `option ${made.id}`,
      (draft) => void (draft.options = [...(draft.options ?? []), made]),
    );
    this.store.showOption(made.id);
  }

  renameOption(option: string, name: string): void {
    this.store.editAll('name of an option', `option name ${option}`, (sign) => {
      const found = sign.options?.find(({ id }) => id === option);
      if (found) found.name = name;
    });
  }

  removeOption(option: string): void {
    const name = this.store.whole?.options?.find(({ id }) => id === option)?.name ?? 'an option';
    this.store.editAll(`remove ${name}`, `option gone ${option}`, (sign) => {
      const left = sign.options?.filter(({ id }) => id !== option) ?? [];
      if (left.length > 0) sign.options = left;
      else delete sign.options;
    });
  }

  /** Keeps the cut line as a section that the proof shows. */
  keepSection(): void {
    const sign = this.store.whole;
    if (!sign) return;
    const section = namedSection(sign);
    this.store.edit(`keep section ${section.name}`, `section ${section.id}`, (draft) => {
      draft.sections = [...(draft.sections ?? []), section];
    });
  }

  /** Brings the cut line to a kept section. */
  showSection(id: string): void {
    const kept = this.store.whole?.sections?.find((section) => section.id === id);
    if (kept) this.store.setSection({ x: kept.x, y: kept.y, turn: kept.turn });
  }

  dropSection(id: string): void {
    const kept = this.store.whole?.sections?.find((section) => section.id === id);
    this.store.edit(`drop section ${kept?.name ?? ''}`, `section gone ${id}`, (sign) => {
      const left = sign.sections?.filter((section) => section.id !== id) ?? [];
      if (left.length > 0) sign.sections = left;
      else delete sign.sections;
    });
  }
}
