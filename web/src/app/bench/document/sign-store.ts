import type { SignJob } from '@plain-relief/api';
import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  actionAtLevel,
  baseLevels,
  type Blank,
  copyOf,
  cutOut,
  dropStale,
  type FieldPath,
  type Ground,
  type Guide,
  type LetterByHand,
  madeOnFace,
  movedInOrder,
  newCombined,
  newShape,
  newText,
  nextTier,
  type Part,
  pastedParts,
  removeParts,
  scaledDesign,
  setField,
  setLetter,
  sideEffects,
  type Side,
  sideOf,
  type Sign,
  splitOption,
  takeOver,
  withGroup,
  withOption,
} from '@plain-relief/core/sign';
import { produce } from 'immer';
import { BehaviorSubject, type Observable, type Subscription } from 'rxjs';
import type { ArtworkColour } from '../../artwork/artwork.service';
import { ReliefService } from '../../relief/relief.service';
import { Api } from '../../platform/api';
import { Notices } from '../../platform/notices';
import { SessionService } from '../../session/session.service';
import { ShopService } from '../../shop/shop.service';
import { type AddedShape, SUNK } from './added-shape';
import { Autosave } from './autosave';
import type { BenchState } from './bench-state';
import { Drafts } from './drafts';
import { History } from './history';
import { type AskedPlate, plateOfRun } from './plate-of-run';

export type { BenchState, SignJob };

const DEFAULT_FONT = 'barlow-semibold';

/** mm as documents keep them. */
export const tidy = (mm: number): number => Number(mm.toFixed(4));

/** The sign on the bench: its document, what is selected, undo, and saving. Every change goes through here. */
@Injectable()
export class SignStore implements OnDestroy {
  private readonly api = inject(Api);
  private readonly drafts = inject(Drafts);
  private readonly relief = inject(ReliefService);
  private readonly shop = inject(ShopService);
  private readonly session = inject(SessionService);
  private readonly notices = inject(Notices);
  private readonly state = new BehaviorSubject<BenchState | undefined>(undefined);
  readonly state$: Observable<BenchState | undefined> = this.state;
  private history: History<Sign> | undefined;
  private autosave: Autosave | undefined;
  private saving: Subscription | undefined;
  /** The face of a block that is worked on, if one is. */
  readonly face = signal('');

  /** The sign with all its options, as it is saved. */
  get whole(): Sign | undefined {
    return this.history?.value;
  }

  get now(): BenchState | undefined {
    return this.state.value;
  }

  /**
   * Fetches a sign, takes up a draft that the browser kept, and shows it.
   * @param asked a plate of a run of it, to be looked at in its place
   * @throws ApiError
   */
  async open(id: string, asked?: AskedPlate): Promise<void> {
    this.close();
    this.relief.clear();
    const { revision, document, job, proof } = await this.api.ask('GET /signs/:id', { params: { id } });
    const plate = asked && (await plateOfRun(this.api, id, document, asked));
    if (plate) return this.begin({ id, job, proof, plate }, plate.sign, revision);
    const draft = this.drafts.read(id);
    const isRestored = draft !== undefined && JSON.stringify(draft.document) !== JSON.stringify(document);
    this.autosave = new Autosave(this.api, this.drafts, id, isRestored ? draft.base : revision, document);
    const shown = isRestored ? draft.document : document;
    this.begin({ id, job, proof }, shown, revision, isRestored);
    this.saving = this.autosave.state$.subscribe((save) => this.patch({ save }));
    if (isRestored) this.autosave.changed(shown);
    else this.drafts.drop(id);
  }

  private begin(of: Pick<BenchState, 'id' | 'job' | 'proof' | 'plate'>, sign: Sign, revision: number, restored = false): void {
    this.face.set('');
    this.history = History.of(sign);
    this.state.next({
      ...of,
      sign,
      option: undefined,
      side: 'front',
      chosen: [],
      selected: undefined,
      undoLabel: undefined,
      redoLabel: undefined,
      save: { kind: 'saved', revision },
      restored,
    });
    this.relief.show(sign);
  }

  ngOnDestroy(): void {
    this.close();
  }

  /** Saves what is not saved yet. */
  async flush(): Promise<void> {
    await this.autosave?.flush();
  }

  /** The same. @throws Error that says why the server does not have what is seen */
  async saved(): Promise<void> {
    await this.autosave?.saved();
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

  /** What was saved elsewhere, as it is now; one's own is set aside. */
  async takeTheirs(): Promise<void> {
    const theirs = await this.autosave?.takeTheirs();
    if (!theirs) return;
    this.history = History.of(theirs);
    this.patch({ chosen: [], selected: undefined, undoLabel: undefined, redoLabel: undefined });
    this.present();
  }

  /** An earlier document in the place of this one, as a step that can be undone. */
  takeUp(document: Sign, name: string): void {
    if (this.history) this.take(this.history.replaced(`take up ${name}`, `take up ${name}`, performance.now(), document));
  }

  /** Turns the sign over. */
  turnOver(side: Side): void {
    if (side === this.now?.side) return;
    this.patch({ side, chosen: [], selected: undefined });
    this.present();
  }

  /** Shows an option, which edits then go to; none for the sign as it stands. */
  showOption(option: string | undefined): void {
    this.patch({ option });
    this.present();
  }

  /** Sets one field of the document. A choice of kind is turned into what it stands for. */
  setField(path: FieldPath, value: unknown, label: string): void {
    const part = path[0] === 'parts' ? this.history?.value.parts[path[1] as number]?.id : undefined;
    const plan = this.relief.latest?.plan.parts.find(({ id }) => id === part);
    this.edit(`${label}${this.ofPart(path)}`, path.join('.'), (sign) =>
      setField(sign, path, value, { seen: plan?.text, extent: plan?.extent, finishes: this.shop.finishes }),
    );
  }

  /** Sets something of one letter of a text by hand. */
  setLetter(id: string, at: number, change: Partial<Omit<LetterByHand, 'at'>>): void {
    this.edit(`letter of ${this.nameOf(id)}`, `letter ${id} ${at} ${Object.keys(change).join(' ')}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part?.kind === 'text') setLetter(part, at, change);
    });
  }

  /** Spaces a text out by tracking, in percent. */
  setTracking(id: string, tracking: number): void {
    this.edit(`spacing of ${this.nameOf(id)}`, `open up ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part?.kind === 'text') part.tracking = Number(tracking.toFixed(3));
    });
  }

  addText(): void {
    const sign = this.history?.value;
    if (!sign) return;
    const lastFont = sign.parts.filter((part) => part.kind === 'text').at(-1)?.font;
    this.add(madeOnFace(sign, this.face(), (on) => newText(on, lastFont ?? DEFAULT_FONT)));
  }

  addShape(kind: AddedShape): void {
    const sign = this.history?.value;
    if (!sign) return;
    const part = madeOnFace(sign, this.face(), (on) => newShape(on, kind));
    this.add(part, SUNK.has(kind) ? 'under words' : 'last');
  }

  /** Adds a part for every colour of a customer's drawing, each in its place in it and all as a group, as one step. */
  addArtwork(name: string, colours: readonly ArtworkColour[]): void {
    let taken: readonly string[] = [];
    this.edit(`add ${name}`, `artwork ${name} ${performance.now()}`, (sign) => {
      taken = takeOver(sign, name, colours);
    });
    if (taken.length > 0) this.choose(taken);
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
    this.edit(label, `${label} ${parts[0].id}`, (sign) => void sign.parts.push(...parts));
    this.choose(parts.map(({ id }) => id));
  }

  /** Does something with the chosen parts, as one step. */
  arrange(label: string, recipe: (sign: Sign, ids: readonly string[]) => void): void {
    const ids = this.now?.chosen ?? [];
    if (ids.length > 0) this.edit(label, `${label} ${ids.join(' ')}`, (sign) => recipe(sign, ids));
  }

  /** A part of what the chosen ones are together; those are not made by themselves any more. */
  combine(how: 'join' | 'cut' | 'common'): void {
    const sign = this.history?.value;
    const ids = this.chosenParts().map(({ id }) => id);
    if (!sign || ids.length < 2) return;
    const [first] = this.chosenParts();
    const made = { ...newCombined(sign, how, ids), sitsOn: first.sitsOn, tiers: first.tiers };
    this.edit(
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
    this.edit(`${label} ${this.nameOf(id)}`, `${label} ${id} ${performance.now()}`, (sign) => {
      const at = sign.parts.findIndex((part) => part.id === id);
      if (at >= 0) sign.parts.splice(at, 1, ...parts);
      const { cutTo } = sign.blank;
      if (cutTo?.parts.includes(id)) cutTo.parts = [...new Set(cutTo.parts.flatMap((each) => (each === id ? parts.map((part) => part.id) : each)))]; // prettier-ignore
    });
    this.choose(parts.map((part) => part.id));
  }

  /** Sets a part as it was made elsewhere, such as one with other points. */
  setPart(part: Part, label: string): void {
    this.edit(`${label} of ${part.name}`, `${label} ${part.id}`, (sign) => {
      const at = sign.parts.findIndex((other) => other.id === part.id);
      if (at >= 0) sign.parts[at] = part;
    });
  }

  setGuides(guides: readonly Guide[]): void {
    this.edit('guides', 'guides', (sign) => {
      if (guides.length > 0) sign.guides = [...guides];
      else delete sign.guides;
    });
  }

  setGround(ground: Ground | undefined): void {
    this.edit(ground ? 'picture under the plan' : 'take the picture away', 'ground', (sign) => {
      if (ground) sign.ground = ground;
      else delete sign.ground;
    });
  }

  /** Takes up a blank of the shop's; the design keeps its size. */
  setBlank(blank: Blank): void {
    this.edit('blank', 'blank', (sign) => void (sign.blank = blank));
  }

  scaleDesign(factor: number): void {
    this.edit('size of the whole design', 'scale', (sign) => scaledDesign(sign, factor));
  }

  /** Adds a part to the side that is seen. */
  private add(made: Part, order: 'last' | 'under words' = 'last'): void {
    const part: Part = this.now?.side === 'back' ? { ...made, side: 'back' } : made;
    this.edit(`add ${part.name}`, `add ${part.id}`, (sign) => {
      const words = sign.parts.findIndex(({ kind }) => kind === 'text');
      if (order === 'under words' && words >= 0) sign.parts.splice(words, 0, part);
      else sign.parts.push(part);
      if (sign.blank.cutTo && part.kind === 'text' && sideOf(part) === 'front') cutOut(sign, part.id, true);
    });
    this.select(part.id);
  }

  /** Takes the chosen parts out; what sat on them or followed them does so no more. */
  removeChosen(): void {
    const parts = this.chosenParts();
    if (parts.length === 0) return;
    const ids = parts.map(({ id }) => id);
    const what = parts.length === 1 ? parts[0].name : `${parts.length} parts`;
    this.edit(`remove ${what}`, `remove ${ids.join(' ')}`, (sign) => removeParts(sign, ids));
    this.choose([]);
  }

  /** Earlier (−1) or later (+1) in the build order; a part stays after those that it sits on or follows. */
  reorder(id: string, by: -1 | 1): void {
    this.edit(`build order of ${this.nameOf(id)}`, `order ${id}`, (sign) => void movedInOrder(sign, id, by));
  }

  /** Just after another part in the build order, or just before it where it comes later now; as far as what it follows lets it. */
  reorderTo(id: string, other: string): void {
    this.edit(`build order of ${this.nameOf(id)}`, `order ${id} ${other}`, (sign) => {
      const at = (part: string): number => sign.parts.findIndex((each) => each.id === part);
      const by = at(id) < at(other) ? 1 : -1;
      while (at(id) !== at(other) + (by > 0 ? 1 : -1) && movedInOrder(sign, id, by));
    });
  }

  addTier(id: string): void {
    this.edit(`another tier for ${this.nameOf(id)}`, `tier ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      part?.tiers.push(nextTier(part));
    });
  }

  removeTier(id: string, tier: string): void {
    this.edit(`remove a tier of ${this.nameOf(id)}`, `untier ${id}`, (sign) => {
      const part = sign.parts.find((other) => other.id === id);
      if (part) part.tiers = part.tiers.filter((other) => other.id !== tier);
    });
  }

  switchTier(id: string, tier: string): void {
    this.edit(`switch a tier of ${this.nameOf(id)}`, `switch ${id} ${tier}`, (sign) => {
      const found = sign.parts.find((other) => other.id === id)?.tiers.find((other) => other.id === tier);
      if (found) found.on = !found.on;
    });
  }

  /** Brings a tier to a level, in mm above the face. */
  setLevel(id: string, tier: string, level: number): void {
    this.edit(`height of ${this.nameOf(id)}`, `level ${id} ${tier}`, (sign) => {
      const base = baseLevels(sign).get(id) ?? 0;
      const found = sign.parts.find((other) => other.id === id)?.tiers.find((other) => other.id === tier);
      if (found) found.action = actionAtLevel(found.action, level, base);
    });
  }

  /** Puts parts in other places; locked ones stay. */
  place(places: readonly { readonly id: string; readonly x: number; readonly y: number }[]): void {
    const names = places.length === 1 ? this.nameOf(places[0].id) : `${places.length} parts`;
    this.edit(`place of ${names}`, `place ${places.map(({ id }) => id).join(' ')}`, (sign) => {
      for (const { id, x, y } of places) {
        const part = sign.parts.find((other) => other.id === id);
        if (part && !part.locked) Object.assign(part.place, { x: tidy(x), y: tidy(y) });
      }
    });
  }

  setSection(section: Sign['section']): void {
    this.edit('cut line', 'section', (sign) => void (sign.section = section));
  }

  /** An edit of what is shown: of an option, what options may have of their own is kept in it. */
  edit(label: string, key: string, recipe: (sign: Sign) => void): void {
    const { sign: shown, option } = this.now ?? {};
    if (!this.history || !shown || option === undefined) return this.editAll(label, key, recipe);
    const edited = produce(shown, (draft: Sign) => {
      recipe(draft);
      dropStale(draft);
    });
    if (edited === shown) return;
    const name = shown.options?.find(({ id }) => id === option)?.name ?? '';
    const split = splitOption(this.history.value, option, edited);
    this.takeEdit(this.history.replaced(`${label} (${name})`, `${key} ${option}`, performance.now(), split));
  }

  /** An edit of the sign itself. */
  editAll(label: string, key: string, recipe: (sign: Sign) => void): void {
    if (!this.history) return;
    const whole = (draft: Sign): void => {
      recipe(draft);
      dropStale(draft);
    };
    this.takeEdit(this.history.changed(label, key, performance.now(), whole));
  }

  /** What follows from the last edit and was worked out elsewhere: it is undone with it. */
  amend(recipe: (sign: Sign) => void): void {
    if (this.history) this.take(this.history.amended(recipe));
  }

  /** Takes an edit, and says what it did besides. */
  private takeEdit(history: History<Sign>): void {
    const before = this.history?.value;
    this.take(history);
    if (!before || this.history !== history) return;
    for (const sentence of sideEffects(before, history.value))
      this.notices.say(sentence, { words: 'Undo', run: () => this.undo() });
  }

  private take(history: History<Sign>): void {
    if (this.session.isMaker) return;
    if (this.now?.plate) return this.notices.say('A plate is changed with all others on their sign, or alone in its run.');
    const before = this.history?.value;
    this.history = history;
    const sign = history.value;
    const chosen = (this.now?.chosen ?? []).filter((id) => sign.parts.some((part) => part.id === id));
    this.patch({ chosen, selected: chosen[chosen.length - 1], undoLabel: history.undoLabel, redoLabel: history.redoLabel });
    if (sign === before) return;
    this.present();
    this.autosave?.changed(sign);
  }

  /** Shows the sign as the chosen option is, from the chosen side. */
  private present(): void {
    const [whole, now] = [this.history?.value, this.now];
    if (!whole || !now) return;
    const option = whole.options?.some(({ id }) => id === now.option) ? now.option : undefined;
    const sign = withOption(whole, option);
    this.patch({ sign, option });
    this.relief.show(sign, now.side);
  }

  private patch(change: Partial<BenchState>): void {
    if (this.state.value) this.state.next({ ...this.state.value, ...change });
  }

  nameOf(id: string): string {
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
