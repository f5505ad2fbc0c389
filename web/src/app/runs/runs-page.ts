import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, inject, input, signal, untracked, viewChild } from '@angular/core'; // prettier-ignore
import { toSignal } from '@angular/core/rxjs-interop';
import type { ProofCorrection } from '@plain-relief/api';
import { RouterLink } from '@angular/router';
import { type Correction, isOptionOfList, listFile, matchingOf, PLATE_FILES, repeatedValues, type Run, rowRemarks, type RunSheet, settingWords, signOfRun, takesLists, unfilled, valuesOfRun } from '@plain-relief/core/runs'; // prettier-ignore
import { type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';
import { attempt } from '../platform/attempt';
import { Stopped } from '../platform/limited-worker';
import { isTypedInto } from '../platform/typed-into';
import { SessionService } from '../session/session.service';
import { minutesWords } from '../make/cut-settings';
import { SlotWords } from '../fields/slot-words';
import { Masthead } from '../shell/masthead';
import { ContactSheet } from './contact-sheet';
import { PlateDesk } from './plate-desk.service';
import { PlatePictureView } from './plate-picture';
import { isAsApproved } from './proof-words';
import { RunProofPanel } from './run-proof';
import { RowCorrections } from './row-corrections';
import { type DrawnSheets } from './run-desk';
import { ALL_ROWS, type Choice, chosenRows, columnWidths, isHeld, remarkWords, type ShownRow, stateWords } from './run-rows';
import { MakingsService } from './makings.service';
import { FILES_AT_FIRST, type MadeFile, meansOfChoice, MOST_SOLIDS, RunFiles } from './run-files';
import { type Turn } from './run-makings';
import { type KeptSheet, RunSheets } from './run-sheets';
import { type CellEdit, RunTable } from './run-table';
import { RunsService } from './runs.service';
import { SlotsPanel } from './slots-panel';

const SAVED: Readonly<Record<'saved' | 'saving' | 'failed', string>> = {
  saved: 'Saved',
  saving: 'Saving …',
  failed: 'Not saved',
};
const PLACES = [
  { id: 'list', text: 'List' },
  { id: 'contact', text: 'Contact sheet' },
  { id: 'sheets', text: 'Sheets' },
  { id: 'files', text: 'Files' },
] as const;

/** Runs of a job: a sign with places for words, and a list; every row is a plate. */
@Component({
  selector: 'pr-runs-page',
  imports: [
    ContactSheet,
    Masthead,
    PlatePictureView,
    RouterLink,
    RowCorrections,
    RunFiles,
    RunProofPanel,
    RunSheets,
    RunTable,
    SlotsPanel,
    SlotWords,
  ],
  providers: [MakingsService, PlateDesk, RunsService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './runs-page.html',
  styleUrl: './runs-page.scss',
  host: { '(window:keydown)': 'key($event)' },
})
export class RunsPage {
  /** Of the job. */
  readonly id = input.required<string>();
  /** The run that is shown first; where none is named the newest. */
  readonly run = input<string>();
  private readonly service = inject(RunsService);
  private readonly desk = inject(PlateDesk);
  private readonly workers = inject(MakingsService);
  protected readonly makings = toSignal(this.workers.makings$, { requireSync: true });
  protected readonly state = toSignal(this.service.state$, { requireSync: true });
  protected readonly laidOut = toSignal(this.desk.laidOut$, { requireSync: true });
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly trouble = signal('');
  protected readonly places = PLACES;
  protected readonly showing = signal<(typeof PLACES)[number]['id']>('list');
  protected readonly choice = signal<Choice>(ALL_ROWS);
  protected readonly isPasting = signal(false);
  /** The plate that is looked at, by the id of its row. */
  protected readonly looked = signal<number | undefined>(undefined);
  protected readonly sheets = signal<DrawnSheets | undefined>(undefined);
  /** How much of sheets or files is done, while they are made. */
  protected readonly making = signal<number | undefined>(undefined);
  protected readonly filesChoice = signal(FILES_AT_FIRST);
  protected readonly isAsking = signal(false);
  /** The shop's library, once files are looked at. */
  protected readonly shop = signal<Shop | undefined>(undefined);
  /** Sheets that the shop keeps of its materials, each size once. */
  protected readonly keptSheets = computed(() => {
    const found = new Map<string, KeptSheet>();
    for (const { name, sheets } of this.shop()?.materials ?? [])
      for (const { width, height, thickness } of sheets) {
        const [w, h, t] = [width, height, thickness].map((mm) => formatLength(mm, this.unit()));
        found.set(`${name} ${width} ${height} ${thickness}`, { name: `${w} × ${h}, ${t} ${name}`, width, height });
      }
    return [...found.values()];
  });
  /** Whether a customer approved these plates as they are. */
  protected readonly isApproved = computed(() => {
    const { proof } = this.state();
    return proof ? isAsApproved(proof) : false;
  });
  protected readonly which = signal<'all' | 'marked'>('all');
  protected readonly file = signal<MadeFile | undefined>(undefined);
  protected readonly saved = SAVED;
  protected readonly stateWords = stateWords;
  private readonly dialog = viewChild<ElementRef<HTMLDialogElement>>('dialog');

  private readonly document = computed(() => this.state().shown?.document);
  /** The option that plates are made as; and the sign as they are made. */
  private readonly option = computed(() => this.document()?.option);
  protected readonly sign = computed(() => {
    const sign = this.state().sign?.document;
    return sign && signOfRun(sign, { option: this.option() });
  });
  /** Options that plates may be made as, where the list chooses none. */
  protected readonly offeredOptions = computed(() => {
    const sign = this.state().sign?.document;
    return sign?.options?.length && !isOptionOfList(sign) ? sign.options : undefined;
  });
  protected readonly unit = computed(() => this.sign()?.unit ?? 'mm');
  protected readonly columns = computed(() => this.document()?.columns ?? []);
  /** Of the list alone: it is long, and what is told of its rows changes often. */
  protected readonly widths = computed(() => columnWidths(this.columns(), this.document()?.rows ?? []));
  protected readonly matching = computed(() => {
    const [sign, run] = [this.sign(), this.document()];
    return sign && run ? matchingOf(sign, run) : new Map<string, string>();
  });
  /** What keeps the rows from being made. */
  protected readonly lacking = computed(() => {
    const [sign, run] = [this.sign(), this.document()];
    if (!sign || !run || run.rows.length === 0) return '';
    if (!takesLists(sign)) return 'No words of the sign have a column in them yet: put some in, beside the list.';
    const names = unfilled(sign, this.matching());
    return names.length === 0 ? '' : `Nothing fills ${names.join(', ')}: choose a column for it, beside the list.`;
  });
  protected readonly values = computed(() => {
    const [sign, run] = [this.sign(), this.document()];
    return sign && run ? valuesOfRun(sign, run) : [];
  });
  /** What the customer would have otherwise, and said, by the ids of rows. */
  private readonly told = computed(() => {
    const found = new Map<number, string[]>();
    const { corrections = [], remarks = [] } = this.state().proof ?? {};
    const tell = (row: number, words: string): unknown => found.set(row, [...(found.get(row) ?? []), words]);
    for (const { row, column, value, end } of corrections) if (end === null) tell(row, `customer: ${column} to be “${value}”`);
    for (const { row, text, isFromShop } of remarks) if (row !== null && !isFromShop) tell(row, `customer: ${text}`);
    return found;
  });
  private readonly remarks = computed(() => {
    const sign = this.sign();
    const values = this.values();
    const twice = sign ? repeatedValues(sign, values) : new Map<number, string[]>();
    const rows = this.document()?.rows ?? [];
    const alone = (row: number): string[] =>
      sign ? (rows[row]?.corrections ?? []).map(({ sets, value }) => `alone: ${settingWords(sign, sets)}, ${value}`) : [];
    const told = this.told();
    return rowRemarks(values).map((own, row) => [...remarkWords(own), ...(twice.get(row) ?? []), ...alone(row), ...(told.get(rows[row]?.id) ?? [])]); // prettier-ignore
  });
  protected readonly rows = computed((): ShownRow[] => {
    const { byId } = this.laidOut();
    const remarks = this.remarks();
    return (this.document()?.rows ?? []).map(({ id, values, isMarked, corrections }, row) => ({
      id,
      row,
      values,
      isMarked: isMarked === true,
      corrections,
      told: byId.get(id),
      remarks: remarks[row] ?? [],
    }));
  });
  protected readonly chosen = computed(() => chosenRows(this.rows(), this.choice()));
  protected readonly counts = computed(() => {
    const rows = this.rows();
    return { held: rows.filter(({ told }) => isHeld(told)).length, marked: rows.filter(({ isMarked }) => isMarked).length };
  });
  protected readonly plate = computed(() => this.rows().find(({ id }) => id === this.looked()));
  protected readonly news = computed(() => {
    const { renewed } = this.state();
    if (!renewed) return '';
    const { added, changed, removed } = renewed;
    return `${added.length} new, ${changed.length} changed, ${removed} gone.`;
  });

  constructor() {
    effect(() => void attempt(this.trouble, () => this.service.open(this.id(), untracked(this.run))));
    effect(() => {
      const [sign, run, values] = [this.sign(), this.document(), this.values()];
      if (!sign || !run || this.lacking() !== '') return;
      this.desk.lay({ sign, rows: run.rows.map(({ id, corrections }, i) => ({ id, values: values[i], corrections })) });
    });
    const pile = computed(() => {
      const { rows, columns, matching } = this.document() ?? {};
      return [rows, columns, matching];
    }, { equal: (a, b) => a.every((each, i) => each === b[i]) }); // prettier-ignore
    effect(() => {
      pile();
      this.sign();
      this.sheets.set(undefined);
    });
    // Also what is undone.
    const sheet = computed(() => this.document()?.sheet);
    effect(() => {
      sheet();
      if (untracked(this.sheets)) untracked(() => void this.layOut());
    });
    effect(() => {
      const run = this.state().shown?.id;
      if (run !== undefined) this.workers.follow(run);
    });
    effect(() => {
      if ((this.showing() === 'files' || this.showing() === 'sheets') && !untracked(this.shop)) void attempt(this.trouble, async () => this.shop.set(await this.service.shop())); // prettier-ignore
    });
    effect(() => {
      const dialog = this.dialog()?.nativeElement;
      if (dialog && this.plate() && !dialog.open) dialog.showModal();
    });
  }

  protected show(id: string): Promise<boolean> {
    return attempt(this.trouble, () => this.service.show(id));
  }

  protected create(sign: string): Promise<boolean> {
    return sign === '' ? Promise.resolve(false) : attempt(this.trouble, () => this.service.create(sign));
  }

  protected remove(id: string): Promise<boolean> {
    return attempt(this.trouble, () => this.service.remove(id));
  }

  protected rename(title: string): void {
    this.service.rename(title);
  }

  protected async taken(files: FileList | null): Promise<void> {
    const file = files?.[0];
    if (file) await attempt(this.trouble, () => this.service.takeFile(file));
  }

  protected async pasted(text: string): Promise<void> {
    const isTaken = await attempt(this.trouble, async () => this.service.takeText(text));
    if (isTaken) this.isPasting.set(false);
  }

  protected take(corrections: readonly ProofCorrection[]): Promise<boolean> {
    return attempt(this.trouble, () => this.service.takeCorrections(corrections));
  }

  protected leave(correction: ProofCorrection): Promise<boolean> {
    return attempt(this.trouble, () => this.service.leaveCorrection(correction));
  }

  protected changeSign(change: (sign: Sign) => Sign): Promise<boolean> {
    return attempt(this.trouble, () => this.service.changeSign(change));
  }

  protected match({ slot, column }: { readonly slot: string; readonly column: string }): void {
    this.change('column of words', (run) => ({ ...run, matching: [...run.matching.filter((each) => each.slot !== slot), { slot, column }] })); // prettier-ignore
  }

  protected editCell({ id, column, value }: CellEdit): void {
    this.change('cell', (run) => ({ ...run, rows: run.rows.map((row) => (row.id === id ? { ...row, values: row.values.map((each, at) => (at === column ? value : each)) } : row)) })); // prettier-ignore
  }

  /** What is otherwise on the plate of a row alone. */
  protected correct(id: number, change: (corrections: readonly Correction[]) => readonly Correction[]): void {
    this.change('correction of one plate', (run) => ({
      ...run,
      rows: run.rows.map(({ corrections: before, ...row }) => {
        if (row.id !== id) return before ? { ...row, corrections: before } : row;
        const corrections = change(before ?? []);
        return corrections.length > 0 ? { ...row, corrections: [...corrections] } : row;
      }),
    }));
  }

  protected mark(id: number): void {
    this.change('mark', (run) => ({
      ...run,
      rows: run.rows.map(({ isMarked, ...row }) =>
        (row.id === id) === (isMarked === true) ? row : { ...row, isMarked: true as const },
      ),
    }));
  }

  protected takeOut(id: number): void {
    this.change('row taken out', (run) => ({ ...run, rows: run.rows.filter((row) => row.id !== id) }));
  }

  protected takeOutMarked(): void {
    this.change('rows taken out', (run) => ({ ...run, rows: run.rows.filter(({ isMarked }) => !isMarked) }));
  }

  protected add(): void {
    this.change('new row', (run) => {
      const columns = run.columns.length > 0 ? run.columns : ['words'];
      const id = 1 + run.rows.reduce((most, row) => Math.max(most, row.id), 0);
      return { ...run, columns, rows: [...run.rows, { id, values: columns.map(() => '') }] };
    });
  }

  protected setSheet(sheet: RunSheet): void {
    this.change('sheets', (run) => ({ ...run, sheet }));
  }

  protected order(order: Choice['order']): void {
    this.choice.update((choice) => ({ ...choice, order, isDown: choice.order === order ? !choice.isDown : true }));
  }

  protected choose(change: Partial<Choice>): void {
    this.choice.update((choice) => ({ ...choice, ...change }));
  }

  protected chooseState(value: string): void {
    this.choose({ state: value as Choice['state'] });
  }

  protected seen(ids: readonly number[]): void {
    this.desk.see(ids);
  }

  protected pause(): void {
    if (this.laidOut().isPaused) this.desk.resume();
    else this.desk.pause();
  }

  protected undo(): void {
    this.service.undo();
  }

  protected redo(): void {
    this.service.redo();
  }

  protected key(event: KeyboardEvent): void {
    if (this.isLooking || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z' || isTypedInto(event.target as HTMLElement)) return; // prettier-ignore
    event.preventDefault();
    if (event.shiftKey) this.service.redo();
    else this.service.undo();
  }

  protected step(by: number): void {
    const rows = this.chosen();
    const at = rows.findIndex(({ id }) => id === this.looked());
    const next = rows[at + by] as ShownRow | undefined;
    if (next) this.looked.set(next.id);
  }

  protected layOut(): Promise<void> {
    return this.made(async (sign, run) => {
      let sheet: RunSheet;
      // What was put elsewhere meanwhile counts.
      do {
        sheet = this.document()?.sheet ?? run.sheet;
        this.sheets.set(await this.desk.sheets(sign, this.numbered(run), sheet, (done) => this.making.set(done)));
      } while (this.document()?.rows === run.rows && this.document()?.sheet !== sheet);
    });
  }

  protected makeFiles(): Promise<void> {
    return this.made(async (sign, run) => {
      this.forget();
      const rows = this.numbered(run);
      const { kinds: wanted, reason } = this.filesChoice();
      const kinds = PLATE_FILES.filter((kind) => wanted.has(kind));
      const means = meansOfChoice(this.filesChoice());
      if (kinds.includes('stl') && rows.length > MOST_SOLIDS)
        throw new Error(`Solids are made of ${MOST_SOLIDS} plates at most here: mark those that you want, or make them by ./relief run.`); // prettier-ignore
      if (!this.state().proof) this.judgeReason();
      const made = [...kinds.map((kind) => kind.toUpperCase()), ...(means ? ['programs'] : [])].join(', ');
      await this.service.release(rows.map(({ row }) => row + 1), made === '' ? 'Maps' : made, reason.trim()); // prettier-ignore
      const shown = this.rows();
      const reported = rows.map(({ row }) => {
        const { told, remarks, values } = shown[row];
        return { row, state: told?.state ?? 'refused', title: told?.title ?? '', told: [...(told?.told ?? []), ...remarks], values, ...(told?.narrowed !== undefined && { narrowed: told.narrowed }) }; // prettier-ignore
      });
      const shop = this.shop();
      const programs = shop && means ? { shop, means } : undefined;
      const { bytes, trouble, minutes } = await this.desk.files(sign, rows, run.sheet, kinds, { columns: run.columns, rows: reported }, (done) => this.making.set(done), programs); // prettier-ignore
      const name = `${(this.state().shown?.title ?? 'run').replace(/[^\p{L}\p{N}]+/gu, '-')}.zip`;
      const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/zip' }));
      this.file.set({
        url,
        name,
        told: [minutes === undefined ? '' : `Its programs take ${minutesWords(minutes)}.`, ...trouble].join(' ').trim(),
      });
    });
  }

  /** Has the shop's workers make the files: they go on when the page is closed. */
  protected async haveMade(): Promise<void> {
    const run = this.document();
    if (!run || this.isAsking()) return;
    this.isAsking.set(true);
    await attempt(this.trouble, async () => {
      if (this.lacking() !== '') throw new Error(this.lacking());
      if (!this.state().proof) this.judgeReason();
      await this.service.kept();
      const isSome = this.which() === 'marked' && this.counts().marked > 0;
      const { kinds, hasContact, reason } = this.filesChoice();
      const override = reason.trim();
      const programs = meansOfChoice(this.filesChoice());
      await this.workers.ask({
        kinds: PLATE_FILES.filter((kind) => kinds.has(kind)),
        onSheets: true,
        hasContact,
        ...(programs && { programs }),
        ...(isSome && { plates: this.numbered(run).map(({ row }) => row + 1) }),
        ...(override !== '' && { override }),
      });
    });
    this.isAsking.set(false);
  }

  /** Has plates made as an option of the sign; as the sign is where none is named. */
  protected makeAs(id: string): void {
    const name = this.sign()?.options?.find((option) => option.id === id)?.name;
    this.change(name === undefined ? 'made as the sign is' : `made as ${name}`, ({ option: _, ...run }) => (name === undefined ? run : { ...run, option: id })); // prettier-ignore
  }

  protected turn({ id, state }: Turn): Promise<boolean> {
    return attempt(this.trouble, () => this.workers.turn(id, state));
  }

  /** @throws Error where nobody says why plates are made that are not approved */
  private judgeReason(): void {
    if (this.filesChoice().reason.trim() === '')
      throw new Error('These plates are not approved: say why they are made all the same, or send a proof first.');
  }

  /** The list as it is now, as a file. */
  protected takeList(): void {
    const run = this.document();
    if (!run) return;
    const text = listFile(run.columns, run.rows.map(({ values }) => values)); // prettier-ignore
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([`\ufeff${text}`], { type: 'text/csv' }));
    link.download = `${(this.state().shown?.title ?? 'list').replace(/[^\p{L}\p{N}]+/gu, '-')}.csv`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
  }

  protected stop(): void {
    this.desk.stop();
  }

  protected marksOnly(isOnly: boolean): void {
    this.which.set(isOnly ? 'marked' : 'all');
  }

  private numbered(run: Run) {
    const values = this.values();
    const all = run.rows.map(({ id, isMarked, corrections }, row) => ({ id, row, values: values[row], corrections, isMarked }));
    const rows = this.which() === 'marked' && this.counts().marked > 0 ? all.filter(({ isMarked }) => isMarked) : all;
    if (rows.length === 0) throw new Error('The list has no rows yet.'); // prettier-ignore
    return rows;
  }

  private async made(make: (sign: Sign, run: Run) => Promise<void>): Promise<void> {
    const [sign, run] = [this.sign(), this.document()];
    if (!sign || !run || this.making() !== undefined) return;
    if (this.lacking() !== '') {
      this.trouble.set(this.lacking());
      return;
    }
    this.making.set(0);
    await attempt(this.trouble, async () => {
      try {
        await make(sign, run);
      } catch (error) {
        if (!(error instanceof Stopped)) throw error;
      }
    });
    this.making.set(undefined);
  }

  private forget(): void {
    const file = this.file();
    if (file) URL.revokeObjectURL(file.url);
    this.file.set(undefined);
  }

  private change(label: string, change: (run: Run) => Run): void {
    if (!this.isLooking) this.service.change(label, change);
  }
}
