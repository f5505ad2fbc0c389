import { inject, Injectable, type OnDestroy } from '@angular/core';
import type { Job, KeptPlace } from '@plain-relief/api';
import { firstScale, newPlace, type Place } from '@plain-relief/core/in-place';
import { extentOfShape } from '@plain-relief/core/sign';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, ApiError } from '../platform/api';
import { Steps } from '../platform/steps';
import type { Documents } from './place-desk';

/** How a place is edited: what is shown, and what can be undone. */
export interface PlacesState {
  readonly isLoading: boolean;
  readonly error?: string;
  readonly job?: Job;
  readonly places: readonly KeptPlace[];
  /** The one that is shown. */
  readonly shown?: KeptPlace;
  readonly documents: Documents;
  readonly undoLabel?: string;
  readonly redoLabel?: string;
  readonly save: 'saved' | 'saving' | 'failed';
}

type Edited = Pick<KeptPlace, 'title' | 'document'>;

/** ms without an edit after which a place is saved, and before it is tried again. */
const PAUSE_MS = 600;
const AGAIN_MS = 4000;
/** Pixels of the longer side of a photograph as it is kept, and how finely. */
const PHOTOGRAPH_PIXELS = 2400;
const PHOTOGRAPH_QUALITY = 0.88;

/** The places of a job: edited, undone, and saved by themselves. */
@Injectable()
export class PlacesService implements OnDestroy {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<PlacesState>({ isLoading: true, places: [], documents: {}, save: 'saved' });
  readonly state$: Observable<PlacesState> = this.state;
  private readonly steps = new Steps<Edited>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<void> = Promise.resolve();

  /** @throws ApiError */
  async open(jobId: string): Promise<void> {
    const [job, { places }] = await Promise.all([
      this.api.ask('GET /jobs/:id', { params: { id: jobId } }),
      this.api.ask('GET /jobs/:id/places', { params: { id: jobId } }),
    ]);
    const signs = await Promise.all(job.signs.map(({ id }) => this.api.ask('GET /signs/:id', { params: { id } })));
    const documents = Object.fromEntries(signs.map(({ id, document }) => [id, document]));
    this.tell({ isLoading: false, job, places, documents, shown: places[0] });
  }

  show(id: string): void {
    void this.flush();
    this.steps.clear();
    this.tell({ shown: this.state.value.places.find((place) => place.id === id) });
  }

  /** Makes a place with the signs of the job. @throws ApiError */
  async create(): Promise<void> {
    const { job, documents, places } = this.state.value;
    if (!job) return;
    const signs = job.signs.map(({ id }) => ({ id, width: extentOfShape(documents[id].blank.outline).width }));
    const distance = job.signs.map(({ id }) => documents[id].checks?.distance).find((m) => m !== undefined);
    const first = newPlace(signs);
    const document = distance === undefined ? first : { ...first, reading: { ...first.reading, distance } };
    const title = places.length === 0 ? 'In place' : `In place ${places.length + 1}`;
    const made = await this.api.ask('POST /jobs/:id/places', { params: { id: job.id }, body: { title, document } });
    this.steps.clear();
    this.tell({ places: [...places, made], shown: made });
  }

  /** @throws ApiError */
  async remove(id: string): Promise<void> {
    clearTimeout(this.timer);
    await this.saving;
    await this.api.ask('DELETE /places/:id', { params: { id } });
    const places = this.state.value.places.filter((place) => place.id !== id);
    this.steps.clear();
    this.tell({ places, shown: places[0], save: 'saved' });
  }

  /** Changes what is shown. Edits of one label right after each other are one. @param isGoingOn of a drag, more of which comes */
  edit(label: string, change: Partial<Edited>): void {
    const { shown } = this.state.value;
    if (!shown) return;
    const before: Edited = { title: shown.title, document: shown.document };
    const after = { ...before, ...change };
    const { last } = this.steps;
    if (last?.label === label && last.after.document === before.document && label.startsWith('moving'))
      this.steps.replaceLast({ ...last, after });
    else this.steps.add({ label, before, after });
    this.put(after);
  }

  /** Ends what edits of one label were put together to. */
  settle(label: string): void {
    const { last } = this.steps;
    if (last?.label === `moving ${label}`) this.steps.replaceLast({ ...last, label });
    this.tell({});
  }

  undo(): void {
    this.went(this.steps.undo());
  }

  redo(): void {
    this.went(this.steps.redo());
  }

  /**
   * Keeps a photograph with the job, upright and no larger than is shown, without what it says of where and when it was taken, and
   * makes it the ground of the place. @throws Error with a sentence
   */
  async photograph(file: File): Promise<void> {
    const { job, shown } = this.state.value;
    if (!job || !shown) return;
    const { blob, width, height } = await upright(file);
    const name = `${file.name.replace(/\.[^.]*$/u, '').slice(0, 150)} (in place).jpg`;
    const { id } = await this.api.upload('POST /jobs/:id/files', blob, name, { params: { id: job.id } });
    const ground: Place['ground'] = { kind: 'photograph', file: id, width, height, scale: firstScale(width, height) };
    this.edit('photograph', { document: { ...shown.document, ground } });
  }

  ngOnDestroy(): void {
    void this.flush();
  }

  private went(edited: Edited | undefined): void {
    if (edited) this.put(edited);
  }

  private put(edited: Edited): void {
    const { shown, places } = this.state.value;
    if (!shown) return;
    const next = { ...shown, ...edited };
    this.tell({ shown: next, places: places.map((place) => (place.id === next.id ? next : place)), save: 'saving' });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), PAUSE_MS);
  }

  private flush(): Promise<void> {
    clearTimeout(this.timer);
    const { shown, save } = this.state.value;
    if (!shown || save === 'saved') return this.saving;
    this.saving = this.saving.then(() => this.saved(shown.id));
    return this.saving;
  }

  private async saved(id: string): Promise<void> {
    const place = this.state.value.places.find((each) => each.id === id);
    if (!place) return;
    const { title, document, revision } = place;
    try {
      const kept = await this.api.ask('PUT /places/:id', {
        params: { id },
        body: { base: revision, title: title.trim() || 'In place', document },
      });
      const { shown, places } = this.state.value;
      const isNewest = places.find((each) => each.id === id)?.document === document;
      const revised = (each: KeptPlace): KeptPlace => (each.id === id ? { ...each, revision: kept.revision } : each);
      this.tell({
        places: places.map(revised),
        ...(shown && { shown: revised(shown) }),
        ...(isNewest && { save: 'saved' as const, error: undefined }),
      });
    } catch (error) {
      this.tell({ save: 'failed', error: (error as Error).message });
      if (error instanceof ApiError && error.isPassing) this.timer = setTimeout(() => void this.flush(), AGAIN_MS);
    }
  }

  private tell(change: Partial<PlacesState>): void {
    const { undoLabel, redoLabel } = this.steps;
    this.state.next({ ...this.state.value, ...change, undoLabel, redoLabel });
  }
}

/** A photograph as it is looked at, made smaller where it is large. @throws Error with a sentence */
async function upright(file: File): Promise<{ readonly blob: Blob; readonly width: number; readonly height: number }> {
  const picture = await createImageBitmap(file).catch(() => undefined);
  if (!picture) throw new Error(`“${file.name}” cannot be read as a picture: choose a photograph as JPEG, PNG or WebP.`);
  const factor = Math.min(1, PHOTOGRAPH_PIXELS / Math.max(picture.width, picture.height));
  const [width, height] = [picture.width, picture.height].map((side) => Math.max(1, Math.round(side * factor)));
  if (Math.min(width, height) < 16) throw new Error(`“${file.name}” has ${picture.width} × ${picture.height} pixels: that is too small to hang a sign in.`); // prettier-ignore
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.drawImage(picture, 0, 0, width, height);
  return { blob: await canvas.convertToBlob({ type: 'image/jpeg', quality: PHOTOGRAPH_QUALITY }), width, height };
}
