import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type Finish, FINISHES, lightReflectance } from '@plain-relief/core/sign';
import { covers, type FontEntry, scriptsOf } from '@plain-relief/core/type';
import { FontFaces } from '../fields/font-faces';
import { Ask } from '../shell/ask-dialog';
import { Masthead } from '../shell/masthead';
import { SessionService } from '../session/session.service';
import { OwnWords } from './own-words';
import { LibrarySection } from './library/library-section';
import { ShopService } from './shop.service';
import { CardForm } from './card-form';
import { blankWords } from './blank-words';
import { oneOf } from '../platform/one-of';
import { attempt } from '../platform/attempt';

const MOST_BYTES = 10_000_000;

interface FontRow {
  readonly entry: FontEntry;
  /** Added by the shop, so that it can be taken out again. */
  readonly own: boolean;
  readonly isRestricted: boolean;
  readonly scripts: string;
  readonly characters: number;
  /** Characters of the sample that it lacks. */
  readonly missing: string;
}

interface Named {
  readonly id: string;
  readonly name: string;
}

/** The shop's own things: its fonts, with a sample in any words, and its usual blanks. */
@Component({
  selector: 'pr-shop-page',
  imports: [Masthead, RouterLink, CardForm, LibrarySection, OwnWords],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shop-page.html',
  styleUrl: './shop-page.scss',
})
export class ShopPage {
  private readonly shop = inject(ShopService);
  private readonly ask = inject(Ask);
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly faces = inject(FontFaces);
  protected readonly state = toSignal(this.shop.state$, { requireSync: true });
  protected readonly sample = signal('Fernhollow Arboretum');
  protected readonly refusal = signal('');
  protected readonly said = signal('');
  protected readonly isReading = signal(false);
  protected readonly rows = computed((): FontRow[] => {
    const characters = [...new Set(this.sample().replace(/\s/gu, ''))];
    const { shipped, fonts } = this.state();
    const row = (entry: FontEntry, own: boolean, isRestricted: boolean): FontRow => ({
      entry,
      own,
      isRestricted,
      scripts: scriptsOf((codePoint) => covers(entry, codePoint)).join(', ') || 'signs only',
      characters: entry.coverage.reduce((sum, last, i) => (i % 2 === 1 ? sum + last - entry.coverage[i - 1] + 1 : sum), 0),
      missing: characters.filter((character) => !covers(entry, character.codePointAt(0)!)).join(' '),
    });
    return [
      ...fonts.map(({ entry, isRestricted }) => row(entry, true, isRestricted)),
      ...shipped.map((entry) => row(entry, false, false)),
    ];
  });
  protected readonly finishes = computed(() => {
    const own = this.state().finishes.map((finish) => ({ ...finish, own: true }));
    const all = [...own, ...FINISHES.map((finish) => ({ ...finish, own: false }))];
    return all.map((finish) => ({ ...finish, reflectance: lightReflectance(finish.colour).toFixed(0) }));
  });
  protected readonly blanks = computed(() => this.state().blanks.map((row) => ({ ...row, words: blankWords(row.blank) })));

  constructor() {
    void this.shop.load();
    effect(() => this.faces.load(this.rows().map(({ entry }) => entry)));
  }

  protected async chosen(input: HTMLInputElement): Promise<void> {
    const files = [...(input.files ?? [])];
    input.value = '';
    this.refusal.set('');
    this.said.set('');
    this.isReading.set(true);
    const said: string[] = [];
    for (const file of files) {
      if (file.size > MOST_BYTES) {
        this.refusal.set(`“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB, and a font may have ${MOST_BYTES / 1e6}.`);
        continue;
      }
      try {
        const { entry, isKnown } = await this.shop.addFont(file);
        const name = `${entry.family} ${entry.style}`;
        said.push(isKnown ? `${name} is at hand already, and was not added again.` : `${name} is at hand on every sign.`);
      } catch (error) {
        this.refusal.set((error as Error).message);
      }
    }
    this.isReading.set(false);
    this.said.set(said.join(' '));
  }

  protected removeFont({ id, family, style }: FontEntry): Promise<void> {
    const says = 'Signs in the bin that are set in it lose it, and are to be set in another when they come back.';
    return this.takeOut(`the font ${family} ${style}`, says, () => this.shop.removeFont(id));
  }

  protected removeKind({ id, name }: Named): Promise<void> {
    return this.takeOut(`the kind “${name}”`, 'Signs that were begun from it stay as they are.', () => this.shop.removeKind(id));
  }

  protected removeBlank({ id, name }: Named): Promise<void> {
    return this.takeOut(`the blank “${name}”`, 'Signs that are made of it stay as they are.', () => this.shop.removeBlank(id));
  }

  protected readonly oneOf = oneOf;
  protected readonly glosses = ['matt', 'satin', 'gloss', 'metal'] as const;
  protected readonly finish = signal<Omit<Finish, 'id'>>({ name: '', colour: '#3f7d6e', gloss: 'satin' });

  protected describe(change: Partial<Omit<Finish, 'id'>>): void {
    this.finish.update((finish) => ({ ...finish, ...change }));
  }

  protected async addFinish(): Promise<void> {
    if (this.finish().name.trim() === '') return this.refusal.set('A finish has a name, such as “traffic white”.');
    await this.attempt(() => this.shop.addFinish(this.finish()));
    if (this.refusal() === '') this.finish.set({ ...this.finish(), name: '' });
  }

  protected removeFinish({ id, name }: Named): Promise<void> {
    return this.takeOut(`the finish “${name}”`, 'Signs that wear it keep it.', () => this.shop.removeFinish(id));
  }

  private async takeOut(what: string, says: string, act: () => Promise<void>): Promise<void> {
    if (await this.ask.whether({ title: `Take out ${what}?`, says, verb: 'Take it out' })) await this.attempt(act);
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.refusal, act);
  }
}
