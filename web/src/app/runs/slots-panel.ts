import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import {
  offeredSettings,
  settingWords,
  slotName,
  slotsInWords,
  withSlot,
  withSlotIn,
  withSlotSet,
  withWords,
  wordsOfPart,
} from '@plain-relief/core/runs';
import { type Sign, type Slot, type SlotSetting } from '@plain-relief/core/sign';
import { LengthField } from '../fields/length-field';
import { SlotCover } from '../fields/slot-cover';

const EMPTY: readonly { readonly value: Slot['empty']; readonly text: string }[] = [
  { value: 'close', text: 'leave the line out and close up' },
  { value: 'keep', text: 'keep the gap' },
  { value: 'refuse', text: 'do not make the plate' },
];
/** The same of columns that choose: nothing closes up. */
const UNSET: readonly { readonly value: Slot['empty']; readonly text: string }[] = [
  { value: 'keep', text: 'make it as the sign is' },
  { value: 'refuse', text: 'do not make the plate' },
];
const CASES = [
  { value: '', text: 'as they are' },
  { value: 'upper', text: 'in capitals' },
  { value: 'lower', text: 'in small letters' },
  { value: 'title', text: 'each word with a capital' },
] as const;

/** The places for words of a sign: where columns go, and what is done with their values. */
@Component({
  selector: 'pr-slots-panel',
  imports: [LengthField, SlotCover],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './slots-panel.html',
  styleUrl: './slots-panel.scss',
})
export class SlotsPanel {
  readonly sign = input.required<Sign>();
  readonly columns = input.required<readonly string[]>();
  /** Which column fills a slot, by its name. */
  readonly matching = input.required<ReadonlyMap<string, string>>();
  readonly isLooking = input(false);
  /** What is done to the sign as it is then: two edits may come before either is drawn. */
  readonly changed = output<(sign: Sign) => Sign>();
  readonly matched = output<{ readonly slot: string; readonly column: string }>();
  protected readonly cases = CASES;
  protected readonly parts = computed(() =>
    this.sign().parts.flatMap(({ id, name }) => {
      const words = wordsOfPart(this.sign(), id);
      return words === undefined ? [] : [{ id, name, words }];
    }),
  );
  protected readonly allParts = computed(() => this.sign().parts.map(({ id, name }) => ({ id, name })));
  protected readonly settings = computed(() => offeredSettings(this.sign()));
  protected readonly slots = computed(() => this.sign().slots ?? []);
  private readonly used = computed(() => new Set(slotsInWords(this.sign())));
  /** What a column can be put in as: columns, and slots that count. */
  protected readonly offered = computed(() => {
    const counters = this.slots().flatMap(({ name, counter }) => (counter ? [name] : []));
    return [...new Set([...this.columns().map(slotName), ...counters])];
  });

  protected say(id: string, words: string): void {
    if (words !== wordsOfPart(this.sign(), id)) this.changed.emit((sign) => withWords(sign, id, words));
  }

  protected insert(id: string, column: string): void {
    if (column !== '') this.changed.emit((sign) => withSlotIn(sign, id, column));
  }

  protected waysWithout = ({ sets }: Slot): typeof EMPTY => (sets ? UNSET : EMPTY);

  protected settingWords(sets: SlotSetting): string {
    return settingWords(this.sign(), sets);
  }

  /** Lets a column choose something that was offered. */
  protected choose(column: string, at: number): void {
    const offered = this.settings()[at];
    if (!offered) return;
    const name = slotName(column);
    this.changed.emit((before) => {
      const sign = withSlot(before, { name, empty: 'keep' });
      const slot = sign.slots!.find((each) => each.name === name)!;
      const next: Slot = { ...slot, empty: slot.empty === 'close' ? 'keep' : slot.empty, sets: offered.sets };
      delete next.counter;
      return withSlotSet(sign, name, next);
    });
  }

  protected with<S extends SlotSetting>(sets: S, change: Partial<S>): S {
    return { ...sets, ...change };
  }

  protected setSide(slot: Slot, sets: Extract<SlotSetting, { kind: 'finish' }>, of: string): void {
    this.set(slot, { sets: { ...sets, of: of as typeof sets.of } });
  }

  protected setAmong(slot: Slot, sets: Extract<SlotSetting, { kind: 'one of' }>, part: string, isIn: boolean): void {
    const parts = isIn ? [...sets.parts, part] : sets.parts.filter((id) => id !== part);
    if (parts.length > 0) this.set(slot, { sets: { ...sets, parts } });
  }

  protected isAmong(name: string, part: string): boolean {
    const sets = this.slots().find((slot) => slot.name === name)?.sets;
    return sets?.kind === 'one of' && sets.parts.includes(part);
  }

  protected count(): void {
    this.changed.emit((sign) => {
      const taken = new Set((sign.slots ?? []).map(({ name }) => name));
      let name = 'number';
      for (let n = 2; taken.has(name); n++) name = `number ${n}`;
      return withSlot(sign, { name, empty: 'close', counter: { from: 1, step: 1, digits: 3, form: 'figures' } });
    });
  }

  protected set(slot: Slot, change: Partial<Slot>): void {
    this.changed.emit((sign) => {
      const next = { ...(sign.slots?.find(({ name }) => name === slot.name) ?? slot), ...change };
      for (const key of ['case', 'default', 'once'] as const) if (next[key] === undefined || next[key] === '') delete next[key];
      return withSlotSet(sign, slot.name, next);
    });
  }

  protected setCase(slot: Slot, value: string): void {
    this.set(slot, { case: (value || undefined) as Slot['case'] });
  }

  protected setEmpty(slot: Slot, value: string): void {
    this.set(slot, { empty: value as Slot['empty'] });
  }

  protected setCounter(slot: Slot, change: Partial<NonNullable<Slot['counter']>>): void {
    const figures = Object.values(change).filter((value) => typeof value === 'number');
    if (slot.counter && figures.every((value) => Number.isInteger(value))) this.set(slot, { counter: { ...slot.counter, ...change } }); // prettier-ignore
  }

  /** Of one that chooses what it says stays. */
  protected takeOut({ name, sets, ...says }: Slot): void {
    const kept = sets && this.isUsed(name) ? { name, ...says } : undefined;
    this.changed.emit((sign) => withSlotSet(sign, name, kept));
  }

  protected isUsed(name: string): boolean {
    return this.used().has(name);
  }
}
