import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  actionAtLevel,
  baseLevels,
  copyOf,
  type FieldPath,
  type LetterByHand,
  newOutline,
  newShape,
  newText,
  nextTier,
  type Part,
  setField,
  setLetter,
  type Sign,
  sittingOn,
} from '@plain-relief/core/sign';
import { BehaviorSubject, firstValueFrom, type Observable, type Subscription } from 'rxjs';
import type { ArtworkColour } from '../artwork/artwork.service';
import { ReliefService } from '../relief/relief.service';
import { Api } from '../shell/api';
import { Autosave, type SaveState } from './autosave';
import { Drafts } from './drafts';
import { History } from './history';
import type { AddedShape } from './ticket-panel';

export interface SignJob {
  readonly id: string;
  readonly number: string;
  readonly title: string;
  readonly customer: string;
}

export interface BenchState {
  readonly id: string;
  readonly job: SignJob;
  readonly sign: Sign;
  readonly selected: string | undefined;
  readonly undoLabel: string | undefined;
  readonly redoLabel: string | undefined;
  readonly save: SaveState;
  /** A draft of the browser was found and taken up. */
  readonly restored: boolean;
}

interface SignAnswer {
  readonly id: string;
  readonly revision: number;
  readonly document: Sign;
  readonly job: SignJob;
}

const DEFAULT_FONT = 'barlow-semibold';

/** The sign on the bench: its document, what is selected, undo, and saving. Every change goes through here. */
@Injectable()
export class SignStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  private readonly relief = inject(ReliefService);
  private readonly state = new BehaviorSubject<BenchState | undefined>(undefined);
  readonly state$: Observable<BenchState | undefined> = this.state;
  private history: History<Sign> | undefined;
  private autosave: Autosave | undefined;
  private saving: Subscription | undefined;

  get now(): BenchState | undefined {
    return this.state.value;
  }

  /** Fetches a sign, takes up a draft that the browser kept, and shows it. @throws ApiError */
  async open(id: string): Promise<void> {
    this.close();
    this.relief.clear();
    const { revision, document, job } = await firstValueFrom(this.api.get<SignAnswer>(`/signs/${id}`));
    const draft = this.drafts.read(id);
    const isRestored = draft !== undefined && JSON.stringify(draft.document) !== JSON.stringify(document);
    this.autosave = new Autosave(this.api, this.drafts, id, isRestored ? draft.base : revision, document);
    this.history = History.of(isRestored ? draft.document : document);
    this.state.next({
      id,
      job,
      sign: this.history.value,
      selected: undefined,
      undoLabel: undefined,
      redoLabel: undefined,
      save: { kind: 'saved', revision },
      restored: isRestored,
    });
    this.saving = this.autosave.state$.subscribe((save) => this.patch({ save }));
    this.relief.show(this.history.value);
    if (isRestored) this.autosave.changed(this.history.value);
    else this.drafts.drop(id);
  }

  ngOnDestroy(): void {
    this.close();
  }

  /** Saves what is not saved yet. */
  async flush(): Promise<void> {
    await this.autosave?.flush();
  }

  select(part: string | undefined): void {
    this.patch({ selected: part });
  }

  undo(): void {
    if (this.history) this.take(this.history.undo());
  }

  redo(): void {
    if (this.history) this.take(this.history.redo());
  }

  keepMine(): void {
    this.autosave?.keepMine();
  }

  takeTheirs(): void {
    const theirs = this.autosave?.takeTheirs();
    if (!theirs) return;
    this.history = History.of(theirs);
    this.patch({ sign: theirs, undoLabel: undefined, redoLabel: undefined });
    this.relief.show(theirs);
  }

  /** Sets one field of the document. A choice of kind is turned into what it stands for. */
  setField(path: FieldPath, value: unknown, label: string): void {
    const part = path[0] === 'parts' ? this.history?.value.parts[path[1] as number]?.id : undefined;
    const seen = this.relief.latest?.plan.parts.find(({ id }) => id === part)?.text;
    this.change(`${label}${this.ofPart(path)}`, path.join('.'), (sign) => setField(sign, path, value, seen));
  }

  /** Sets something of one letter of a text by hand. */
  setLetter(id: string, at: number, change: Partial<Omit<LetterByHand, 'at'>>): void {
    this.change(`letter of ${this.nameOf(id)}`, `letter ${id} ${at} ${Object.keys(change).join(' ')}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part?.kind === 'text') setLetter(part, at, change);
    });
  }

  /** Spaces a text out by tracking, in percent. */
  setTracking(id: string, tracking: number): void {
    this.change(`spacing of ${this.nameOf(id)}`, `open up ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part?.kind === 'text') part.tracking = Number(tracking.toFixed(3));
    });
  }

  addText(): void {
    const sign = this.history?.value;
    if (!sign) return;
    const lastFont = sign.parts.filter((part) => part.kind === 'text').at(-1)?.font;
    this.add(newText(sign, lastFont ?? DEFAULT_FONT));
  }

  addShape(kind: AddedShape): void {
    const sign = this.history?.value;
    if (sign) this.add(newShape(sign, kind));
  }

  /** Adds a part for every colour of a customer's drawing, each in its place in it, as one step. */
  addArtwork(name: string, colours: readonly ArtworkColour[]): void {
    let last: string | undefined;
    this.change(`add ${name}`, `artwork ${name} ${performance.now()}`, (sign) => {
      colours.forEach(({ width, height, path, x, y }, i) => {
        const part = newOutline(sign, colours.length > 1 ? `${name} ${i + 1}` : name, { width, height, path }, { x, y });
        sign.parts.push(part);
        last = part.id;
      });
    });
    if (last !== undefined) this.select(last);
  }

  duplicate(id: string): void {
    const sign = this.history?.value;
    const part = sign?.parts.find((other) => other.id === id);
    if (sign && part) this.add(copyOf(part, sign));
  }

  private add(part: Part): void {
    this.change(`add ${part.name}`, `add ${part.id}`, (sign) => void sign.parts.push(part));
    this.select(part.id);
  }

  /** Removes a part; what sat on it sits on the face afterwards. */
  removePart(id: string): void {
    const name = this.nameOf(id);
    this.change(`remove ${name}`, `remove ${id}`, (sign) => {
      for (const part of sittingOn(sign, id)) part.sitsOn = { kind: 'face' };
      sign.parts = sign.parts.filter((part) => part.id !== id);
    });
    if (this.now?.selected === id) this.select(undefined);
  }

  /** Earlier (−1) or later (+1) in the build order; a part stays after the one it sits on. */
  reorder(id: string, by: -1 | 1): void {
    this.change(`build order of ${this.nameOf(id)}`, `order ${id}`, (sign) => {
      const from = sign.parts.findIndex((part) => part.id === id);
      const to = from + by;
      const other = sign.parts[to];
      if (!other) return;
      const [first, second] = by > 0 ? [sign.parts[from], other] : [other, sign.parts[from]];
      if (second.sitsOn.kind === 'part' && second.sitsOn.part === first.id) return;
      sign.parts[to] = sign.parts[from];
      sign.parts[from] = other;
    });
  }

  addTier(id: string): void {
    this.change(`another tier for ${this.nameOf(id)}`, `tier ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      part?.tiers.push(nextTier(part));
    });
  }

  removeTier(id: string, tier: string): void {
    this.change(`remove a tier of ${this.nameOf(id)}`, `untier ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part) part.tiers = part.tiers.filter((other) => other.id !== tier);
    });
  }

  switchTier(id: string, tier: string): void {
    this.change(`switch a tier of ${this.nameOf(id)}`, `switch ${id} ${tier}`, (sign) => {
      const found = sign.parts.find((other) => other.id === id)?.tiers.find((other) => other.id === tier);
      if (found) found.on = !found.on;
    });
  }

  /** Brings a tier to a level, in mm above the face. */
  setLevel(id: string, tier: string, level: number): void {
    this.change(`height of ${this.nameOf(id)}`, `level ${id} ${tier}`, (sign) => {
      const base = baseLevels(sign).get(id) ?? 0;
      const found = sign.parts.find((other) => other.id === id)?.tiers.find((other) => other.id === tier);
      if (found) found.action = actionAtLevel(found.action, level, base);
    });
  }

  movePart(id: string, x: number, y: number): void {
    this.change(`place of ${this.nameOf(id)}`, `place ${id}`, (sign) => {
      const place = sign.parts.find((other) => other.id === id)?.place;
      if (place) Object.assign(place, { x: Number(x.toFixed(4)), y: Number(y.toFixed(4)) });
    });
  }

  setSection(section: Sign['section']): void {
    this.change('cut line', 'section', (sign) => void (sign.section = section));
  }

  private change(label: string, key: string, recipe: (sign: Sign) => void): void {
    if (this.history) this.take(this.history.changed(label, key, performance.now(), recipe));
  }

  private take(history: History<Sign>): void {
    const before = this.history?.value;
    this.history = history;
    const sign = history.value;
    const selected = sign.parts.some(({ id }) => id === this.now?.selected) ? this.now?.selected : undefined;
    this.patch({ sign, selected, undoLabel: history.undoLabel, redoLabel: history.redoLabel });
    if (sign === before) return;
    this.relief.show(sign);
    this.autosave?.changed(sign);
  }

  private patch(change: Partial<BenchState>): void {
    if (this.state.value) this.state.next({ ...this.state.value, ...change });
  }

  private nameOf(id: string): string {
    return this.history?.value.parts.find((part) => part.id === id)?.name ?? 'the part';
  }

  private ofPart(path: FieldPath): string {
    if (path[0] === 'blank') return ' of the blank';
    const part = path[0] === 'parts' ? this.history?.value.parts[path[1] as number] : undefined;
    return part ? ` of ${part.name}` : '';
  }

  private close(): void {
    this.saving?.unsubscribe();
    this.autosave?.stop();
    this.autosave = undefined;
  }
}
