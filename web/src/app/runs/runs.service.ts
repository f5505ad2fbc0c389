import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Job, KeptRun, ListedRun, ProofCorrection, RunProof } from '@plain-relief/api';
import { type List, listOf, newRun, readList, type Renewed, type Run, withList, withValues } from '@plain-relief/core/runs';
import { type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, ApiError } from '../platform/api';
import { Steps } from '../platform/steps';

/** The runs of a job as they are edited. */
export interface RunsState {
  readonly isLoading: boolean;
  readonly error?: string;
  readonly job?: Job;
  readonly runs: readonly ListedRun[];
  /** The one that is shown, with its sign. */
  readonly shown?: KeptRun;
  readonly sign?: { readonly id: string; readonly revision: number; readonly document: Sign };
  readonly undoLabel?: string;
  readonly redoLabel?: string;
  readonly save: 'saved' | 'saving' | 'failed';
  /** What the list that was taken in last changed. */
  readonly renewed?: Renewed;
  /** Where it stands with its customer; null where it was in no proof. */
  readonly proof?: RunProof | null;
  /** What was told of how a list was read. */
  readonly listNotes: readonly string[];
}

/** ms without an edit after which a run is saved, and before it is tried again. */
const PAUSE_MS = 800;
const AGAIN_MS = 4000;
/** ms after which it is asked whether the customer has said something. */
const ASK_MS = 10_000;

/** Corrections that could not be taken, since their plates say something else by now. */
export class StaleCorrections extends Error {
  constructor(stale: readonly ProofCorrection[]) {
    const plates = stale.map(({ number, was, value }) => `plate ${number} no longer says “${was}” (to be “${value}”)`).join(', ');
    super(`Not taken: ${plates}. Change it in the list where it still is to be, then leave the correction.`);
  }
}

/** The runs of a job: their lists edited, undone, and saved by themselves. */
@Injectable()
export class RunsService implements OnDestroy {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<RunsState>({ isLoading: true, runs: [], save: 'saved', listNotes: [] });
  readonly state$: Observable<RunsState> = this.state;
  private readonly steps = new Steps<Run>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private asking: ReturnType<typeof setTimeout> | undefined;
  private isClosed = false;
  private saving: Promise<void> = Promise.resolve();

  /** @param first the run that is shown first, the newest where that is none of the job's @throws ApiError */
  async open(jobId: string, first?: string): Promise<void> {
    const [job, { runs }] = await Promise.all([
      this.api.ask('GET /jobs/:id', { params: { id: jobId } }),
      this.api.ask('GET /jobs/:id/runs', { params: { id: jobId } }),
    ]);
    this.tell({ job, runs });
    if (runs.length > 0) await this.show((runs.find(({ id }) => id === first) ?? runs[0]).id);
    this.tell({ isLoading: false });
  }

  /** @throws ApiError */
  async show(id: string): Promise<void> {
    await this.flush();
    const shown = await this.api.ask('GET /runs/:id', { params: { id } });
    this.steps.clear();
    this.tell({ shown, sign: undefined, proof: undefined, renewed: undefined, listNotes: [], save: 'saved', error: undefined });
    await this.fetchSign(shown.document.sign);
    await this.askProof();
  }

  /** Asks where the run stands with its customer. */
  private async askProof(): Promise<void> {
    clearTimeout(this.asking);
    const id = this.state.value.shown?.id;
    if (id === undefined || this.isClosed) return;
    try {
      const { proof } = await this.api.ask('GET /runs/:id/proof', { params: { id } });
      if (this.state.value.shown?.id === id && JSON.stringify(proof) !== JSON.stringify(this.state.value.proof))
        this.tell({ proof });
    } catch (error) {
      // What was told last stays while the server is away.
      if (!(error instanceof ApiError)) throw error;
    }
    this.asking = setTimeout(() => void this.askProof(), ASK_MS);
  }

  /** Takes corrections of the customer into the list. @throws StaleCorrections, ApiError */
  async takeCorrections(corrections: readonly ProofCorrection[]): Promise<void> {
    const { shown } = this.state.value;
    if (!shown) return;
    const { run, stale } = withValues(shown.document, corrections);
    this.edit(corrections.length === 1 ? 'correction' : 'corrections', run);
    await this.flush();
    for (const one of corrections)
      if (!stale.includes(one)) await this.api.ask('POST /corrections/:id', { params: { id: one.id }, body: { end: 'taken' } });
    await this.askProof();
    if (stale.length > 0) throw new StaleCorrections(stale as readonly ProofCorrection[]);
  }

  /** Leaves a word as it is. @throws ApiError */
  async leaveCorrection({ id }: ProofCorrection): Promise<void> {
    await this.api.ask('POST /corrections/:id', { params: { id }, body: { end: 'left' } });
    await this.askProof();
  }

  /** Makes a run of a sign of the job. @throws ApiError */
  async create(sign: string): Promise<void> {
    const { job, runs } = this.state.value;
    if (!job) return;
    await this.flush();
    const title = job.signs.find(({ id }) => id === sign)?.title.slice(0, 110) ?? 'Run';
    const made = await this.api.ask('POST /jobs/:id/runs', { params: { id: job.id }, body: { title, document: newRun(sign) } });
    this.steps.clear();
    const listed = { id: made.id, title, sign, rows: 0, savedAt: made.savedAt };
    this.tell({ runs: [...runs, listed], shown: made, sign: undefined, renewed: undefined, listNotes: [] });
    await this.fetchSign(sign);
  }

  /** @throws ApiError */
  async remove(id: string): Promise<void> {
    clearTimeout(this.timer);
    await this.saving;
    await this.api.ask('DELETE /runs/:id', { params: { id } });
    const runs = this.state.value.runs.filter((run) => run.id !== id);
    this.steps.clear();
    this.tell({ runs, shown: undefined, sign: undefined, save: 'saved' });
    if (runs.length > 0) await this.show(runs[0].id);
  }

  /** Takes in a list, in place of the one before; it is kept with the job as it came. @throws ListError, ApiError */
  async takeFile(file: File): Promise<void> {
    const { job } = this.state.value;
    const list = readList(new Uint8Array(await file.arrayBuffer()));
    const name = file.name.slice(0, 180);
    const kept = job && (await this.api.upload('POST /jobs/:id/files', file, name, { params: { id: job.id } }));
    this.takeList(list, { name, ...(kept && { file: kept.id }) });
  }

  /** The same of what was pasted. @throws ListError */
  takeText(text: string): void {
    this.takeList(listOf(text), { name: 'pasted' });
  }

  private takeList(list: List, came: Run['came']): void {
    const { shown } = this.state.value;
    if (!shown) return;
    const renewed = withList(shown.document, list, came);
    this.edit('list', renewed.run);
    this.tell({ renewed, listNotes: list.notes });
  }

  /** Says that files of plates are made, once the list is kept. @param override why, where they were not approved as they are @throws ApiError */
  async release(plates: readonly number[], what: string, override: string): Promise<void> {
    await this.flush();
    const id = this.state.value.shown?.id;
    if (id === undefined) return;
    await this.api.ask('POST /runs/:id/files', { params: { id }, body: { plates: [...plates], what, ...(override !== '' && { override }) } }); // prettier-ignore
  }

  /** Keeps what was changed. @throws Error where it could not be kept */
  async kept(): Promise<void> {
    await this.flush();
    const { save, error } = this.state.value;
    if (save === 'failed') throw new Error(error);
  }

  /** The materials, tools and machines of the shop. @throws ApiError */
  async shop(): Promise<Shop> {
    return (await this.api.ask('GET /shop/library')).library;
  }

  edit(label: string, document: Run): void {
    const { shown } = this.state.value;
    if (!shown || document === shown.document) return;
    this.steps.add({ label, before: shown.document, after: document });
    this.put({ ...shown, document });
  }

  /** Edits the run as it is by then. */
  change(label: string, change: (run: Run) => Run): void {
    const { shown } = this.state.value;
    if (shown) this.edit(label, change(shown.document));
  }

  rename(title: string): void {
    const { shown } = this.state.value;
    if (shown && title.trim() !== '') this.put({ ...shown, title: title.trim().slice(0, 120) });
  }

  undo(): void {
    this.went(this.steps.undo());
  }

  redo(): void {
    this.went(this.steps.redo());
  }

  /** Changes the sign that is made, such as the slots of its words: at once here, and kept one after the other. @throws ApiError */
  changeSign(change: (sign: Sign) => Sign): Promise<void> {
    const { sign } = this.state.value;
    if (!sign) return Promise.resolve();
    const document = change(sign.document);
    this.tell({ sign: { ...sign, document } });
    const kept = this.saving.then(() => this.savedSign(sign.id, document));
    this.saving = kept.catch(() => undefined);
    return kept;
  }

  private async savedSign(id: string, document: Sign): Promise<void> {
    const { sign } = this.state.value;
    // What was changed once more meanwhile is kept with that.
    if (sign?.id !== id || sign.document !== document) return;
    try {
      const { revision } = await this.api.ask('PUT /signs/:id', { params: { id }, body: { base: sign.revision, document } });
      const now = this.state.value.sign;
      if (now?.id === id) this.tell({ sign: { ...now, revision } });
    } catch (error) {
      // Somebody else’s is shown, to be changed once more.
      await this.fetchSign(id);
      throw error;
    }
  }

  ngOnDestroy(): void {
    this.isClosed = true;
    clearTimeout(this.asking);
    void this.flush();
  }

  private async fetchSign(id: string): Promise<void> {
    try {
      const { revision, document } = await this.api.ask('GET /signs/:id', { params: { id } });
      if (this.state.value.shown?.document.sign === id) this.tell({ sign: { id, revision, document } });
    } catch (error) {
      if (error instanceof ApiError && error.status === 404)
        this.tell({ error: 'The sign of this run is gone: remove the run, or bring the sign back from the bin.' }); // prettier-ignore
      else throw error;
    }
  }

  private went(document: Run | undefined): void {
    const { shown } = this.state.value;
    if (shown && document) this.put({ ...shown, document });
  }

  private put(shown: KeptRun): void {
    const { runs } = this.state.value;
    const listed = (run: ListedRun): ListedRun => (run.id === shown.id ? { ...run, title: shown.title, rows: shown.document.rows.length } : run); // prettier-ignore
    this.tell({ shown, runs: runs.map(listed), save: 'saving' });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), PAUSE_MS);
  }

  private flush(): Promise<void> {
    clearTimeout(this.timer);
    if (this.state.value.save !== 'saved') this.saving = this.saving.then(() => this.saved());
    return this.saving;
  }

  private async saved(): Promise<void> {
    const { shown } = this.state.value;
    if (!shown) return;
    const { id, title, document, revision } = shown;
    try {
      const kept = await this.api.ask('PUT /runs/:id', { params: { id }, body: { base: revision, title, document } });
      const now = this.state.value.shown;
      if (now?.id !== id) return;
      const isNewest = now.document === document && now.title === title;
      this.tell({ shown: { ...now, revision: kept.revision }, ...(isNewest && { save: 'saved' as const, error: undefined }) });
      if (this.state.value.proof) void this.askProof();
    } catch (error) {
      this.tell({ save: 'failed', error: (error as Error).message });
      if (error instanceof ApiError && error.isPassing) this.timer = setTimeout(() => void this.flush(), AGAIN_MS);
    }
  }

  private tell(change: Partial<RunsState>): void {
    const { undoLabel, redoLabel } = this.steps;
    this.state.next({ ...this.state.value, ...change, undoLabel, redoLabel });
  }
}
