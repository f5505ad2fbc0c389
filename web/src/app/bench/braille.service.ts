import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { brailleTable } from '@plain-relief/core/braille';
import { type BrailleShape, isStale, type Part, saidBy, type Sign, withCells } from '@plain-relief/core/sign';
import { debounceTime } from 'rxjs';
import { Api } from '../platform/api';
import { Notices } from '../platform/notices';
import { SignStore } from './document/sign-store';

/** Quiet after which words are translated, in ms. */
const QUIET_MS = 350;

type Braille = Part & { readonly shape: BrailleShape };
const isBraille = (part: Part): part is Braille => part.kind === 'shape' && part.shape.kind === 'braille';

/**
 * Keeps the cells of braille those of its words: what has come apart is translated by the server, as a part of the edit that parted them.
 * Cells that were corrected by hand stay as they are.
 */
@Injectable()
export class BrailleService {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly store = inject(SignStore);
  /** What was asked for and has not been answered, or could not be: by part, table and words. */
  private readonly asked = new Set<string>();
  /** Why nothing could be translated last. */
  readonly trouble = signal<string | undefined>(undefined);

  constructor() {
    this.store.state$.pipe(debounceTime(QUIET_MS), takeUntilDestroyed()).subscribe(() => void this.translateStale());
  }

  /** Translates what could not be before. */
  again(): void {
    this.asked.clear();
    void this.translateStale();
  }

  /** What cells say, as far as a program can tell; nothing where there is none. */
  async readBack(cells: string, table: string): Promise<string | undefined> {
    if (cells === '') return undefined;
    try {
      return (await this.api.ask('POST /braille/words', { body: { cells, table } })).words;
    } catch {
      return undefined;
    }
  }

  private async translateStale(): Promise<void> {
    const sign = this.store.whole;
    if (!sign) return;
    const stale = sign.parts.filter(isBraille).filter(({ shape }) => !shape.corrected && isStale(sign, shape));
    await Promise.all(stale.map((part) => this.translate(sign, part)));
  }

  private async translate(sign: Sign, { id, name, shape }: Braille): Promise<void> {
    const words = saidBy(sign, shape);
    const { table } = shape;
    const key = `${id} ${table} ${words}`;
    if (this.asked.has(key)) return;
    this.asked.add(key);
    try {
      const { cells, missing } = words === '' ? { cells: '', missing: [] } : await this.api.ask('POST /braille', { body: { words, table } }); // prettier-ignore
      this.trouble.set(undefined);
      this.asked.delete(key);
      this.take(id, words, table, cells);
      if (missing.length > 0)
        this.notices.say(`${name}: ${brailleTable(table)?.name} has no cells for ${missing.map((letter) => `“${letter}”`).join(', ')}.`); // prettier-ignore
    } catch (error) {
      this.trouble.set((error as Error).message);
      this.notices.say((error as Error).message, { words: 'Try again', run: () => this.again() });
    }
  }

  /** Unless the words have become others meanwhile. */
  private take(id: string, words: string, table: string, cells: string): void {
    this.store.amend((sign) => {
      const part = sign.parts.find((each) => each.id === id);
      if (part?.kind !== 'shape' || part.shape.kind !== 'braille') return;
      if (part.shape.corrected || part.shape.table !== table || saidBy(sign, part.shape) !== words) return;
      part.shape = withCells(part.shape, words, cells);
    });
  }
}
