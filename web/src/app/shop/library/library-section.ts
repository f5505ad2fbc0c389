import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { sampleProgram } from '@plain-relief/core/making';
import type { Shop, ShopMachine } from '@plain-relief/core/shop';
import type { ApiError } from '../../platform/api';
import { Ask } from '../../shell/ask-dialog';
import { LibraryService } from '../library.service';
import {
  type Entry,
  factsOf,
  FieldError,
  type Field,
  fieldsOf,
  firstEntry,
  freshId,
  type ListName,
  RATES,
  readField,
  takenOver,
  valueAt,
  withValue,
  written,
} from './entry-fields';

type Tab = ListName | 'rates';

/** An entry that is being edited, with what was typed and is not kept yet. */
interface Draft {
  readonly entry: Entry | Shop['rates'];
  /** Undefined of a new one. */
  readonly id: string | undefined;
  readonly typed: ReadonlyMap<string, string>;
}

const TABS: readonly (readonly [Tab, string])[] = [
  ['materials', 'Materials'],
  ['tools', 'Tools'],
  ['machines', 'Machines'],
  ['rates', 'Rates'],
];
const ONE: Readonly<Record<ListName, string>> = { materials: 'material', tools: 'tool', machines: 'machine' };

/** The shop's materials, tools, machines and rates: looked for, added, copied, changed, taken over from a file and saved as one. */
@Component({
  selector: 'pr-library-section',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './library-section.html',
  styleUrls: ['../../shell/switch.scss', './library-section.scss'],
})
export class LibrarySection {
  /** Makers look, and change nothing. */
  readonly isLooking = input(false);
  private readonly library = inject(LibraryService);
  private readonly ask = inject(Ask);
  private readonly kept = toSignal(this.library.library$);
  protected readonly shop = computed(() => this.kept()?.library);
  protected readonly tabs = TABS;
  protected readonly tab = signal<Tab>('materials');
  protected readonly sought = signal('');
  protected readonly draft = signal<Draft | undefined>(undefined);
  protected readonly faults = signal<ReadonlyMap<string, string>>(new Map());
  protected readonly trouble = signal('');
  protected readonly said = signal('');
  protected readonly isStale = signal(false);
  protected readonly isKeeping = signal(false);

  protected readonly list = computed((): ListName | undefined => {
    const tab = this.tab();
    return tab === 'rates' ? undefined : tab;
  });
  protected readonly one = computed(() => (this.list() ? ONE[this.list()!] : 'rates'));
  protected readonly rows = computed(() => {
    const [shop, list, sought] = [this.shop(), this.list(), this.sought().trim().toLowerCase()];
    if (!shop || !list) return [];
    return (shop[list] as readonly Entry[])
      .map((entry) => ({ entry, facts: factsOf(list, entry) }))
      .filter(({ entry, facts }) => `${entry.name} ${facts}`.toLowerCase().includes(sought));
  });
  protected readonly fields = computed(() => {
    const draft = this.draft();
    if (!draft) return [];
    const list = this.list();
    const fields: readonly Field[] = list ? fieldsOf(list, draft.entry as Entry) : RATES;
    const typed = (field: Field): string => draft.typed.get(field.path) ?? written(field, valueAt(draft.entry, field.path));
    return fields.map((field, i) => ({
      field,
      typed: typed(field),
      isOn: valueAt(draft.entry, field.path) === true,
      fault: this.faults().get(field.path),
      heading: field.group !== undefined && fields[i - 1]?.group !== field.group ? field.group : '',
    }));
  });
  /** Finishing by area is typed as lines. */
  protected readonly finishing = computed(() => {
    const draft = this.draft();
    if (!draft || this.list()) return '';
    const { finishing } = draft.entry as Shop['rates'];
    return (
      draft.typed.get('finishing') ?? finishing.map(({ finish, perSquareMetre }) => `${finish}: ${perSquareMetre}`).join('\n')
    );
  });
  /** A short program as the machine wants it, which is read back while its dialect is typed. */
  protected readonly sample = computed(() => {
    const draft = this.draft();
    if (!draft || this.list() !== 'machines') return undefined;
    try {
      return sampleProgram(this.read(draft) as ShopMachine);
    } catch (error) {
      return { text: '', trouble: (error as Error).message };
    }
  });
  protected readonly isChanged = computed(() => {
    const draft = this.draft();
    return draft !== undefined && (draft.id === undefined || draft.typed.size > 0 || this.original() !== draft.entry);
  });
  private readonly original = computed(() => {
    const [shop, list, draft] = [this.shop(), this.list(), this.draft()];
    if (!shop || !draft) return undefined;
    return list ? (shop[list] as readonly Entry[]).find(({ id }) => id === draft.id) : shop.rates;
  });

  constructor() {
    this.library.load().catch((error: Error) => this.trouble.set(error.message));
  }

  protected async show(tab: Tab): Promise<void> {
    if (!(await this.mayLeave())) return;
    this.tab.set(tab);
    this.sought.set('');
    this.open(tab === 'rates' ? this.shop()?.rates : undefined);
  }

  protected async choose(entry: Entry): Promise<void> {
    if (await this.mayLeave()) this.open(entry);
  }

  protected async add(): Promise<void> {
    const [shop, list] = [this.shop(), this.list()];
    if (!shop || !list || !(await this.mayLeave())) return;
    this.begin(firstEntry(list));
  }

  /** Another one like the one that is open. */
  protected copy(): void {
    const draft = this.draft();
    if (draft && this.list()) this.begin({ ...(draft.entry as Entry), name: `${(draft.entry as Entry).name}, copy` });
  }

  protected async remove(): Promise<void> {
    const [shop, list, draft] = [this.shop(), this.list(), this.draft()];
    if (!shop || !list || draft?.id === undefined) return;
    const { name } = draft.entry as Entry;
    const says = 'Plans that were made with it keep it, and can be made again.';
    if (!(await this.ask.whether({ title: `Take out ${name}?`, says, verb: 'Take it out' }))) return;
    const rest = (shop[list] as readonly Entry[]).filter(({ id }) => id !== draft.id);
    if (await this.keepAll({ ...shop, [list]: rest }, `${name} is taken out.`)) this.open(undefined);
  }

  protected type(field: Field, text: string): void {
    this.draft.update((draft) => draft && { ...draft, typed: new Map(draft.typed).set(field.path, text) });
    this.clear(field.path);
  }

  /** A choice, or something that is or is not: taken at once, since other fields follow it. */
  protected set(field: Field, value: unknown): void {
    this.draft.update((draft) => draft && { ...draft, entry: withValue(draft.entry, field.path, value) });
    this.clear(field.path);
  }

  protected typeFinishing(text: string): void {
    this.draft.update((draft) => draft && { ...draft, typed: new Map(draft.typed).set('finishing', text) });
    this.clear('finishing');
  }

  protected async keep(): Promise<void> {
    const [shop, list, draft] = [this.shop(), this.list(), this.draft()];
    if (!shop || !draft) return;
    let entry: Draft['entry'];
    try {
      entry = this.read(draft, true);
    } catch (error) {
      if (error instanceof FieldError) return this.trouble.set(error.message);
      throw error;
    }
    if (!list) {
      if (await this.keepAll({ ...shop, rates: entry as Shop['rates'] }, 'The rates are kept.')) this.open(this.shop()?.rates);
      return;
    }
    const entries = shop[list] as readonly Entry[];
    const own = entry as Entry;
    const changed = draft.id === undefined ? [...entries, own] : entries.map((each) => (each.id === draft.id ? own : each));
    const index = changed.findIndex(({ id }) => id === own.id);
    if (await this.keepAll({ ...shop, [list]: changed }, `${own.name} is kept.`, `${list}[${index}].`))
      this.open((this.shop()![list] as readonly Entry[]).find(({ id }) => id === own.id));
  }

  protected giveUp(): void {
    this.open(this.original() as Entry | Shop['rates'] | undefined);
  }

  protected async loadTheirs(): Promise<void> {
    try {
      await this.library.load();
      this.isStale.set(false);
      this.trouble.set('');
      this.said.set('Their lists are loaded; what you typed is still here: look it over, and keep it.');
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  /** @param only one list, or all */
  protected save(only?: ListName): void {
    const shop = this.shop();
    if (!shop) return;
    const content = only ? { version: shop.version, [only]: shop[only] } : shop;
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([`${JSON.stringify(content, null, 2)}\n`], { type: 'application/json' }));
    link.download = `${only ?? 'shop'}.json`;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  protected async takeOver(field: HTMLInputElement): Promise<void> {
    const [file] = field.files ?? [];
    field.value = '';
    const shop = this.shop();
    if (!file || !shop) return;
    this.trouble.set('');
    try {
      const { shop: taken, words } = takenOver(shop, JSON.parse(await file.text()));
      if (await this.keepAll(taken, `Taken over from ${file.name}: ${words}.`)) this.open(this.tab() === 'rates' ? this.shop()?.rates : undefined); // prettier-ignore
    } catch (error) {
      this.trouble.set(error instanceof SyntaxError ? `${file.name} is no JSON: ${error.message}.` : (error as Error).message);
    }
  }

  private clear(path: string): void {
    this.said.set('');
    this.faults.update((faults) => new Map([...faults].filter(([each]) => each !== path)));
  }

  private begin(entry: Entry): void {
    const shop = this.shop()!;
    const list = this.list()!;
    const taken = (shop[list] as readonly Entry[]).map(({ id }) => id);
    const numbers = new Set(shop.tools.map(({ number }) => number));
    let number = 1;
    while (numbers.has(number)) number++;
    this.reset();
    const fresh = { ...entry, id: freshId(entry.name, taken), ...(list === 'tools' && { number }) } as Entry;
    this.draft.set({ entry: fresh, id: undefined, typed: new Map() });
  }

  private open(entry: Entry | Shop['rates'] | undefined): void {
    this.reset();
    this.draft.set(entry && { entry, id: 'id' in entry ? entry.id : 'rates', typed: new Map() });
  }

  private reset(): void {
    this.faults.set(new Map());
    this.trouble.set('');
    this.isStale.set(false);
  }

  private async mayLeave(): Promise<boolean> {
    if (!this.isChanged()) return true;
    const says = 'What was typed is not kept yet.';
    return this.ask.whether({ title: 'Leave it as it was?', says, verb: 'Leave it' });
  }

  /**
   * What was typed, taken into the entry.
   * @param tells whether fields are marked that cannot be read
   * @throws FieldError
   */
  private read(draft: Draft, tells = false): Draft['entry'] {
    let { entry } = draft;
    const faults = new Map<string, string>();
    const list = this.list();
    for (const field of list ? fieldsOf(list, entry as Entry) : RATES) {
      const text = draft.typed.get(field.path);
      if (text === undefined) continue;
      try {
        entry = withValue(entry, field.path, readField(field, text));
      } catch (error) {
        if (!(error instanceof FieldError)) throw error;
        faults.set(field.path, error.message);
      }
    }
    const finishing = draft.typed.get('finishing');
    if (!list && finishing !== undefined) {
      const rows = finishing.split('\n').filter((line) => line.trim() !== '');
      const read = rows.map((line) => {
        const found = /^(.+?):\s*([\d.,]+)\s*$/u.exec(line);
        if (!found) faults.set('finishing', `Finishing: “${line.trim()}” is no kind with its price, such as gloss: 85.`);
        return { finish: found?.[1].trim() ?? '', perSquareMetre: Number((found?.[2] ?? '0').replace(',', '.')) };
      });
      entry = { ...(entry as Shop['rates']), finishing: read };
    }
    if (faults.size > 0) {
      if (tells) this.faults.set(faults);
      throw new FieldError([...faults.values()][0]);
    }
    return entry;
  }

  /** @param path of the entry that is edited, to mark its fields by */
  private async keepAll(library: Shop, words: string, path = 'rates.'): Promise<boolean> {
    this.reset();
    this.said.set('');
    this.isKeeping.set(true);
    try {
      await this.library.keep(library);
      this.said.set(words);
      return true;
    } catch (error) {
      const { status, body, message } = error as ApiError;
      const faults = (body as { faults?: readonly { path: string; message: string }[] } | null)?.faults ?? [];
      this.faults.set(
        new Map(faults.flatMap((fault) => (fault.path.startsWith(path) ? [[fault.path.slice(path.length), fault.message]] : []))),
      );
      this.trouble.set(message);
      this.isStale.set(status === 409);
      return false;
    } finally {
      this.isKeeping.set(false);
    }
  }
}
