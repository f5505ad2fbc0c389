import { inject, Injectable, type OnDestroy } from '@angular/core';
import {
  bridgesFor,
  actionAtLevel,
  baseLevels,
  type Blank,
  copyOf,
  type Factors,
  type FieldPath,
  type Ground,
  type Guide,
  type LetterByHand,
  newCombined,
  newOutline,
  newShape,
  newText,
  nextTier,
  outlinesUsed,
  type Part,
  pastedParts,
  removeParts,
  resized,
  scaledDesign,
  type SeenText,
  setField,
  setLetter,
  type Sign,
  withGroup,
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
  /** Ids of the chosen parts; the last is the one that the ticket shows. */
  readonly chosen: readonly string[];
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

const tidy = (mm: number): number => Number(mm.toFixed(4));

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
  private resizing: { readonly from: Part; readonly seen: SeenText | undefined } | undefined;

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
      chosen: [],
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

  /** Chooses a part with its group. @param isAdding keeps what was chosen, and lets the part go where it was among it */
  select(part: string | undefined, isAdding = false): void {
    const sign = this.history?.value;
    if (!sign || part === undefined) return this.choose([]);
    const unit = withGroup(sign, part);
    const before = isAdding ? (this.now?.chosen ?? []) : [];
    const others = before.filter((id) => !unit.includes(id));
    const isLetGo = isAdding && others.length < before.length;
    this.choose(isLetGo ? others : [...others, ...unit.filter((id) => id !== part), part]);
  }

  /** Chooses exactly these parts. */
  choose(chosen: readonly string[]): void {
    this.patch({ chosen, selected: chosen[chosen.length - 1] });
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
    this.patch({ sign: theirs, chosen: [], selected: undefined, undoLabel: undefined, redoLabel: undefined });
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

  /** Holds the islands of a part that is cut through by bridges. */
  holdByBridges(id: string): void {
    this.change(`bridges of ${this.nameOf(id)}`, `bridges ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part) part.bridges ??= bridgesFor(part);
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
    if (last !== undefined) this.choose([last]);
  }

  /** Copies of the chosen parts, a little below. */
  duplicate(): void {
    const sign = this.history?.value;
    if (!sign) return;
    const parts = this.chosenParts();
    const copies = parts.length === 1 ? [copyOf(parts[0], sign)] : pastedParts(parts, sign).map((part) => ({ ...part, place: { ...part.place, y: part.place.y - 10 } })); // prettier-ignore
    this.addAll(parts.length === 1 ? `copy ${parts[0].name}` : `copy ${parts.length} parts`, copies);
  }

  /** Adds parts from elsewhere where they were there. */
  paste(parts: readonly Part[]): void {
    const sign = this.history?.value;
    if (sign && parts.length > 0) this.addAll('paste', pastedParts(parts, sign));
  }

  /** The chosen parts, in build order. */
  chosenParts(): Part[] {
    const { sign, chosen } = this.state.value ?? { sign: undefined, chosen: [] };
    return sign?.parts.filter(({ id }) => chosen.includes(id)) ?? [];
  }

  private addAll(label: string, parts: readonly Part[]): void {
    if (parts.length === 0) return;
    this.change(label, `${label} ${parts[0].id}`, (sign) => void sign.parts.push(...parts));
    this.choose(parts.map(({ id }) => id));
  }

  /** Does something with the chosen parts, as one step. */
  arrange(label: string, recipe: (sign: Sign, ids: readonly string[]) => void): void {
    const ids = this.now?.chosen ?? [];
    if (ids.length > 0) this.change(label, `${label} ${ids.join(' ')}`, (sign) => recipe(sign, ids));
  }

  /** A part of what the chosen ones are together; those are not made by themselves any more. */
  combine(how: 'join' | 'cut' | 'common'): void {
    const sign = this.history?.value;
    const ids = this.chosenParts().map(({ id }) => id);
    if (!sign || ids.length < 2) return;
    const [first] = this.chosenParts();
    const made = { ...newCombined(sign, how, ids), sitsOn: first.sitsOn, tiers: first.tiers };
    this.change(
      { join: 'join outlines', cut: 'cut outlines out', common: 'keep what is common' }[how],
      `combine ${made.id}`,
      (draft) => {
        for (const part of draft.parts) if (ids.includes(part.id)) part.tiers.forEach((tier) => (tier.on = false));
        draft.parts.push(made);
      },
    );
    this.choose([made.id]);
  }

  /** Puts other parts in the place of one. */
  replace(id: string, label: string, parts: readonly Part[]): void {
    this.change(`${label} ${this.nameOf(id)}`, `${label} ${id} ${performance.now()}`, (sign) => {
      const at = sign.parts.findIndex((part) => part.id === id);
      if (at >= 0) sign.parts.splice(at, 1, ...parts);
    });
    this.choose(parts.map((part) => part.id));
  }

  /**
   * Brings a part to another size, in its own directions.
   * @param from the part as it was when its size began to be changed
   * @param place where its place comes to lie; where it was if that is not given
   */
  resize(from: Part, factors: Factors, place?: { readonly x: number; readonly y: number }): void {
    if (from.locked) return;
    // Sizes as they were seen stand for the part that the change began from.
    if (this.resizing?.from !== from) {
      this.resizing = { from, seen: this.relief.latest?.plan.parts.find(({ id }) => id === from.id)?.text };
    }
    const next = resized(from, factors, this.resizing.seen);
    const at = place ? { x: tidy(place.x), y: tidy(place.y) } : {};
    this.setPart({ ...next, place: { ...next.place, ...at } }, 'size');
  }

  /** Sets a part as it was made elsewhere, such as one with other points. */
  setPart(part: Part, label: string): void {
    this.change(`${label} of ${part.name}`, `${label} ${part.id}`, (sign) => {
      const at = sign.parts.findIndex((other) => other.id === part.id);
      if (at >= 0) sign.parts[at] = part;
    });
  }

  setGuides(guides: readonly Guide[]): void {
    this.change('guides', 'guides', (sign) => {
      if (guides.length > 0) sign.guides = [...guides];
      else delete sign.guides;
    });
  }

  setGround(ground: Ground | undefined): void {
    this.change(ground ? 'picture under the plan' : 'take the picture away', 'ground', (sign) => {
      if (ground) sign.ground = ground;
      else delete sign.ground;
    });
  }

  /** Takes up a blank of the shop's; the design keeps its size. */
  setBlank(blank: Blank): void {
    this.change('blank', 'blank', (sign) => void (sign.blank = blank));
  }

  scaleDesign(factor: number): void {
    this.change('size of the whole design', 'scale', (sign) => scaledDesign(sign, factor));
  }

  private add(part: Part): void {
    this.change(`add ${part.name}`, `add ${part.id}`, (sign) => void sign.parts.push(part));
    this.select(part.id);
  }

  /** Takes the chosen parts out; what sat on them or followed them does so no more. */
  removeChosen(): void {
    const parts = this.chosenParts();
    if (parts.length === 0) return;
    const ids = parts.map(({ id }) => id);
    const what = parts.length === 1 ? parts[0].name : `${parts.length} parts`;
    this.change(`remove ${what}`, `remove ${ids.join(' ')}`, (sign) => removeParts(sign, ids));
    this.choose([]);
  }

  /** Earlier (−1) or later (+1) in the build order; a part stays after those that it sits on or follows. */
  reorder(id: string, by: -1 | 1): void {
    this.change(`build order of ${this.nameOf(id)}`, `order ${id}`, (sign) => {
      const from = sign.parts.findIndex((part) => part.id === id);
      const to = from + by;
      const other = sign.parts[to];
      if (!other) return;
      const [first, second] = by > 0 ? [sign.parts[from], other] : [other, sign.parts[from]];
      if (second.sitsOn.kind === 'part' && second.sitsOn.part === first.id) return;
      if (outlinesUsed(second).some(({ id: used }) => used === first.id)) return;
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

  /** Puts parts in other places; locked ones stay. */
  place(places: readonly { readonly id: string; readonly x: number; readonly y: number }[]): void {
    const names = places.length === 1 ? this.nameOf(places[0].id) : `${places.length} parts`;
    this.change(`place of ${names}`, `place ${places.map(({ id }) => id).join(' ')}`, (sign) => {
      for (const { id, x, y } of places) {
        const part = sign.parts.find((other) => other.id === id);
        if (part && !part.locked) Object.assign(part.place, { x: tidy(x), y: tidy(y) });
      }
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
    const chosen = (this.now?.chosen ?? []).filter((id) => sign.parts.some((part) => part.id === id));
    this.patch({ sign, chosen, selected: chosen[chosen.length - 1], undoLabel: history.undoLabel, redoLabel: history.redoLabel });
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
