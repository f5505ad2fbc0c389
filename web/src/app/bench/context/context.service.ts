import type { KeptFile } from '@plain-relief/api';
import { computed, effect, inject, Injectable, type OnDestroy, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { asItComes, type Fit, laidOn, type Placing, refuseTooLarge, USUAL_TURN } from '@plain-relief/core/context';
import { setField, type SignContext, type Support } from '@plain-relief/core/sign';
import { type Remote, wrap } from 'comlink';
import { Api } from '../../platform/api';
import { SignStore, tidy } from '../document/sign-store';
import type { ChosenFace, ContextDesk, ShownObject } from './context.worker';

/** A place of an object that was pointed at. */
export interface TouchedObject {
  readonly triangle: number;
  /** In mm as in its file. */
  readonly place: readonly [number, number, number];
  readonly isAdding: boolean;
}

/** An object as the model shows it. */
export interface ObjectView extends ShownObject {
  readonly place: Placing;
  /** Triangles that are chosen. */
  readonly chosen: Uint32Array;
  /** Whether it was put there just now, and did not come with the sign. */
  readonly isAdded: boolean;
}

const LONGEST_MS = 60_000;
const NOTHING = new Uint32Array();
const STOPPED = 'Stopped.';

/** The object that the sign on the bench is for: read in a worker, shown with the model, and what the sign is laid on. */
@Injectable()
export class ContextService implements OnDestroy {
  private readonly api = inject(Api);
  private readonly store = inject(SignStore);
  private readonly state = toSignal(this.store.state$);
  private worker: Worker | undefined;
  private desk: Remote<ContextDesk> | undefined;
  private end: (sentence: string) => void = () => undefined;

  readonly context = computed(() => this.state()?.sign.context);
  private readonly job = computed(() => this.state()?.job.id);
  readonly isBusy = signal(false);
  private readonly isAdded = signal(false);
  readonly trouble = signal('');
  readonly object = signal<ShownObject | undefined>(undefined);
  readonly face = signal<ChosenFace | undefined>(undefined);
  /** Where it was pointed at last. */
  readonly middle = signal<readonly [number, number, number] | undefined>(undefined);
  /** Degrees that the surface may turn by from triangle to triangle of a face. */
  readonly turn = signal(USUAL_TURN);
  readonly shown = computed((): ObjectView | undefined => {
    const [object, context] = [this.object(), this.context()];
    return (
      object && context && { ...object, place: context.place, chosen: this.face()?.triangles ?? NOTHING, isAdded: this.isAdded() }
    );
  });
  /** What is read anew where it changes. */
  private readonly source = computed(
    () => {
      const context = this.context();
      return context && { file: context.file, unit: context.unit };
    },
    { equal: (a, b) => a?.file === b?.file && a?.unit === b?.unit },
  );

  constructor() {
    effect(() => {
      const source = this.source();
      untracked(() => void this.read(source));
    });
  }

  ngOnDestroy(): void {
    this.close();
  }

  /** Files of the job that may be objects. @throws ApiError */
  async files(): Promise<KeptFile[]> {
    const job = this.job();
    const all = job ? await this.api.ask('GET /jobs/:id/files', { params: { id: job } }) : [];
    return all.filter(({ name }) => /\.(?:glb|stl)$/iu.test(name));
  }

  /** Keeps a file with the job, and shows it with the sign. */
  async take(file: File): Promise<void> {
    const job = this.job();
    if (!job) return;
    this.isBusy.set(true);
    this.trouble.set('');
    try {
      refuseTooLarge(file.size);
      // Before it is kept: what cannot be read is not.
      const object = await this.readBytes(await file.arrayBuffer(), 1);
      const kept = await this.api.upload('POST /jobs/:id/files', file, file.name, { params: { id: job } });
      this.show(kept, object);
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      this.isBusy.set(false);
    }
  }

  /** Shows a file of the job with the sign, upright behind it. */
  async use(file: KeptFile): Promise<void> {
    this.isBusy.set(true);
    this.trouble.set('');
    try {
      this.show(file, await this.readBytes(await contentOf(file.id), 1));
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      this.isBusy.set(false);
    }
  }

  /** @param unit mm for each unit of the file */
  setUnit(unit: number): void {
    const [context, object] = [this.context(), this.object()];
    if (!context) return;
    const by = unit / context.unit;
    // Where it could not be read in the unit before, nothing is known of it yet.
    const [min, max] = [object?.min, object?.max].map((corner) => corner?.map((value) => value * by));
    const place = object && min && max ? this.asItComes({ ...object, min, max }) : context.place;
    this.edit('unit of the object', { ...context, unit, place });
  }

  takeAway(): void {
    this.store.edit('take the object away', 'take away', (sign) => void delete sign.context);
  }

  /** Chooses the face that was pointed at, and finds what it may be. */
  async touch({ triangle, place, isAdding }: TouchedObject): Promise<void> {
    if (this.isBusy()) return;
    if (!this.desk) await this.read(this.source(), true);
    if (!this.desk) return;
    this.isBusy.set(true);
    this.trouble.set('');
    try {
      this.face.set(await this.inTime(this.desk.choose(triangle, this.turn(), isAdding)));
      this.middle.set(place);
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      this.isBusy.set(false);
    }
  }

  /** Lays the sign on what was fitted, its middle where was pointed at, its back there or its face. @throws ContextError */
  lay(fit: Fit, lies: 'back' | 'face', height: number): void {
    const [object, middle, sign, context] = [this.object(), this.middle(), this.state()?.sign, this.context()];
    if (!object || !middle || !sign || !context) return;
    const off = lies === 'back' ? sign.blank.thickness : 0;
    const { support, place } = laidOn(fit, { middle, off, height, kind: object.kind });
    this.store.edit(`lay on a ${fit.kind}`, `lay ${performance.now()}`, (draft) => {
      setField(draft, ['support', 'kind'], support?.kind ?? 'flat');
      if (support) draft.support = tidied(support);
      draft.context = { ...context, place: [...place] };
    });
  }

  /** Ends what is being read or found. */
  stop(): void {
    this.end(STOPPED);
  }

  private show(file: KeptFile, object: ShownObject): void {
    this.reset(object);
    this.isAdded.set(true);
    const context = { file: file.id, name: Array.from(file.name).slice(0, 80).join(''), unit: 1, place: this.asItComes(object) };
    this.isRead = { file: file.id, unit: 1 };
    this.edit('object', context);
  }

  /** What the worker holds. */
  private isRead: { readonly file: string; readonly unit: number } | undefined;

  /** @param isForced also where it was read before: its worker was ended */
  private async read(source: { readonly file: string; readonly unit: number } | undefined, isForced = false): Promise<void> {
    if (!source) {
      this.close();
      this.reset(undefined);
      this.isRead = undefined;
      return;
    }
    if (!isForced && this.isRead?.file === source.file && this.isRead.unit === source.unit) return;
    this.isBusy.set(true);
    this.isAdded.set(false);
    this.trouble.set('');
    this.reset(undefined);
    this.isRead = source;
    try {
      const object = await this.readBytes(await contentOf(source.file), source.unit);
      if (this.isRead === source) this.reset(object);
    } catch (error) {
      if (this.isRead !== source) return;
      this.isRead = undefined;
      this.trouble.set((error as Error).message);
    } finally {
      // Another file may be under way by then.
      if (this.isRead === source || !this.isRead) this.isBusy.set(false);
    }
  }

  private reset(object: ShownObject | undefined): void {
    this.object.set(object);
    this.face.set(undefined);
    this.middle.set(undefined);
  }

  private asItComes(object: Pick<ShownObject, 'kind' | 'min' | 'max'>): number[] {
    return [...asItComes(object, this.state()?.sign.blank.thickness ?? 0)];
  }

  private edit(label: string, context: SignContext): void {
    this.store.edit(label, `${label} ${context.file}`, (sign) => void (sign.context = context));
  }

  /** Reads a file in a worker of its own. @throws Error with a sentence */
  private async readBytes(bytes: ArrayBuffer, unit: number): Promise<ShownObject> {
    this.stop();
    this.close();
    this.worker = new Worker(new URL('./context.worker', import.meta.url), { type: 'module' });
    this.desk = wrap<ContextDesk>(this.worker);
    const object = await this.inTime<ShownObject | string>(this.desk.read(bytes, unit));
    if (typeof object === 'string') throw new Error(object);
    return object;
  }

  /** What the worker answers, unless it takes too long or is stopped: then it is ended. */
  private inTime<T>(answer: PromiseLike<T>): Promise<T> {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let end: (sentence: string) => void = () => undefined;
    return new Promise<T>((done, refused) => {
      this.end = end = (sentence) => {
        this.close();
        refused(new Error(sentence));
      };
      timer = setTimeout(() => end('This took longer than a minute and was given up: reduce the object first.'), LONGEST_MS);
      if (this.worker)
        this.worker.onerror = () => end('The object could not be read: there was not enough memory, or the page is out of date.');
      answer.then(done, refused);
    }).finally(() => {
      clearTimeout(timer);
      if (this.end === end) this.end = () => undefined;
    });
  }

  private close(): void {
    this.worker?.terminate();
    this.worker = this.desk = undefined;
  }
}

/** @throws Error with a sentence */
async function contentOf(file: string): Promise<ArrayBuffer> {
  const answer = await fetch(`/api/files/${file}`);
  if (!answer.ok)
    throw new Error('The file of the object is not there any more: take the object away, or keep the file once more.');
  return answer.arrayBuffer();
}

/** Lengths as documents keep them. */
function tidied(support: Support): Support {
  if (support.kind === 'cylinder') return { ...support, radius: tidy(support.radius) };
  if (support.kind !== 'cone') return support;
  return { ...support, bottom: tidy(support.bottom), top: tidy(support.top), height: tidy(support.height) };
}
