import {
  actionAtLevel,
  chooseFinish,
  FINISHES,
  finishNamed,
  type Part,
  type Sign,
  type Slot,
  type SlotSetting,
  type Tier,
  tierLevel,
  withOption,
} from '../sign/index.js';
import { formatLength, LengthError, parseLength } from '../units/index.js';

/** Ways to say yes and no in a list. */
const YES: ReadonlySet<string> = new Set(['yes', 'y', 'on', 'true', '1', 'x']);
const NO: ReadonlySet<string> = new Set(['no', 'n', 'off', 'false', '0', '-']);

const plain = (words: string): string => words.trim().toLowerCase();
const quoted = (names: readonly string[]): string => names.map((name) => `“${name}”`).join(', ');

type Setting<K extends SlotSetting['kind']> = Extract<SlotSetting, { readonly kind: K }>;

/**
 * Sets in a sign that may be changed what a slot chooses by its value.
 * @param value not empty
 * @returns the sign, which is another one where an option is chosen, or a sentence that says why the value is none
 */
export function withSetting(sign: Sign, { name }: Pick<Slot, 'name'>, sets: SlotSetting, value: string): Sign | string {
  switch (sets.kind) {
    case 'option':
      return chosenOption(sign, name, value);
    case 'finish':
      return setFinish(sign, name, sets, value) ?? sign;
    case 'shown':
      return setShown(sign, name, sets, value) ?? sign;
    case 'one of':
      return showOne(sign, name, sets, value) ?? sign;
    case 'length':
      return setLength(sign, name, sets, value) ?? sign;
  }
}

function chosenOption(sign: Sign, name: string, value: string): Sign | string {
  const options = sign.options ?? [];
  const option = options.find((each) => plain(each.name) === plain(value));
  if (option) return withOption(sign, option.id);
  const known =
    options.length === 0 ? 'the sign has no options' : `it chooses between ${quoted(options.map((each) => each.name))}`;
  return `${name} is “${value}”: ${known}.`;
}

const tierOf = (sign: Sign, part: string, tier: string | undefined): Tier | undefined =>
  partOf(sign, part)?.tiers.find(({ id }) => id === tier);
const partOf = (sign: Sign, id: string): Part | undefined => sign.parts.find((part) => part.id === id);

function setFinish(sign: Sign, name: string, { part, tier, of }: Setting<'finish'>, value: string): string | undefined {
  const holder = tierOf(sign, part, tier);
  if (!holder) return `${name} chooses what the sign no longer has.`;
  const own = [...(sign.finishes ?? []), ...FINISHES].find((each) => plain(each.name) === plain(value));
  const finish = own ?? finishNamed(plain(value));
  // Of a colour that nobody knows the name is all there is.
  if (!own && finish.id === `colour-${plain(value)}`)
    return `${name} is “${value}”: that is no finish of the sign and no colour.`;
  for (const place of of === 'both' ? ['top', 'sides'] : [of]) chooseFinish(sign, holder, place, finish.id, [finish]);
  return undefined;
}

function setShown(sign: Sign, name: string, { part, tier }: Setting<'shown'>, value: string): string | undefined {
  const isShown = YES.has(plain(value));
  if (!isShown && !NO.has(plain(value))) return `${name} is “${value}”: say yes or no.`;
  const found = partOf(sign, part);
  const holder = tierOf(sign, part, tier);
  if (!found || (tier !== undefined && !holder)) return `${name} chooses what the sign no longer has.`;
  if (holder) holder.on = isShown;
  else show(found, isShown);
  return undefined;
}

function show(part: Part, isShown: boolean): void {
  if (isShown) delete part.hidden;
  else part.hidden = true;
}

function showOne(sign: Sign, name: string, { parts }: Setting<'one of'>, value: string): string | undefined {
  const some = sign.parts.filter(({ id }) => parts.includes(id));
  // By the name of a file as well, without what says of which kind it is.
  const one = some.find(
    (part) => plain(part.name) === plain(value) || plain(part.name) === plain(value).replace(/\.[a-z0-9]{1,5}$/u, ''),
  );
  if (!one) return `${name} is “${value}”: it chooses between ${quoted(some.map((part) => part.name))}.`;
  for (const part of some) show(part, part === one);
  return undefined;
}

function setLength(sign: Sign, name: string, sets: Setting<'length'>, value: string): string | undefined {
  const { least, most } = sets;
  const { unit } = sign;
  let mm: number;
  try {
    mm = parseLength(value, unit);
  } catch (error) {
    if (!(error instanceof LengthError)) throw error;
    return `${name} is “${value}”: that is no length.`;
  }
  if (mm < least || mm > most)
    return `${name} is ${formatLength(mm, unit)}: from ${formatLength(least, unit)} to ${formatLength(most, unit)}.`;
  const place = lengthsOf(sign, sets).find(({ of }) => of === sets.of);
  if (!place) return `${name} chooses a length that the sign does not have.`;
  place.set(mm);
  return undefined;
}

/** A length that a column can set, and what it is now, in mm. */
export interface SettableLength {
  readonly of: Setting<'length'>['of'];
  readonly mm: number;
  readonly set: (mm: number) => void;
}

/** The lengths of a blank, a part or a tier that columns can set: of a tier how far it is raised or sunk. */
export function lengthsOf(sign: Sign, { part, tier }: { readonly part?: string; readonly tier?: string }): SettableLength[] {
  if (part === undefined) return [...sidesOf(sign.blank.outline), lengthAt(sign.blank, 'thickness')];
  const found = partOf(sign, part);
  if (!found) return [];
  if (tier !== undefined) {
    const holder = tierOf(sign, part, tier);
    const level = holder && tierLevel(holder, 0);
    if (!holder || !Number.isFinite(level) || level === 0) return [];
    const set = (mm: number): void => {
      holder.action = actionAtLevel(holder.action, Math.sign(level!) * mm, 0);
    };
    return [{ of: 'amount', mm: Math.abs(level!), set }];
  }
  const place = [lengthAt(found.place, 'x'), lengthAt(found.place, 'y')];
  if (found.kind === 'shape') return [...sidesOf(found.shape), ...place];
  const { size } = found;
  return size.kind === 'capitals' ? [lengthAt(size, 'height'), ...place] : place;
}

/** Widths, heights and diameters of an outline that it is told by. */
const sidesOf = (outline: object): SettableLength[] =>
  (['width', 'height', 'diameter'] as const).flatMap((of) =>
    of in outline ? [lengthAt(outline as Record<typeof of, number>, of)] : [],
  );

const lengthAt = <K extends Setting<'length'>['of']>(holder: Record<K, number>, of: K): SettableLength => ({
  of,
  mm: holder[of],
  set: (mm) => {
    holder[of] = mm as Record<K, number>[K];
  },
});

/** Something that a column can choose, in words. */
export interface OfferedSetting {
  readonly sets: SlotSetting;
  readonly words: string;
}

/** Of lengths how they are called. */
const LENGTH_WORDS: Readonly<Record<Setting<'length'>['of'], string>> = {
  width: 'width',
  height: 'height',
  diameter: 'diameter',
  thickness: 'thickness',
  amount: 'rise or depth',
  x: 'place across',
  y: 'place up',
};
/** Parts of a length now that columns may set at first, least and most. */
const AT_FIRST = [0.5, 2] as const;
/** mm that a place may be moved by at first. */
const AWAY = 50;

/** What a slot chooses, in words. */
export function settingWords(sign: Sign, sets: SlotSetting): string {
  const nameOf = (id: string): string => partOf(sign, id)?.name ?? id;
  const tierWords = (part: string, tier: string | undefined): string => {
    const tiers = partOf(sign, part)?.tiers ?? [];
    return tier === undefined || tiers.length < 2
      ? nameOf(part)
      : `${nameOf(part)}, tier ${1 + tiers.findIndex(({ id }) => id === tier)}`;
  };
  switch (sets.kind) {
    case 'option':
      return 'which option the plate is made as';
    case 'finish':
      return `the finish of ${tierWords(sets.part, sets.tier)}`;
    case 'shown':
      return `whether ${tierWords(sets.part, sets.tier)} is made`;
    case 'one of':
      return 'which of several parts is made';
    case 'length':
      return `the ${LENGTH_WORDS[sets.of]} of ${sets.part === undefined ? 'the blank' : tierWords(sets.part, sets.tier)}`;
  }
}

function limitsAbout(of: Setting<'length'>['of'], mm: number): { readonly least: number; readonly most: number } {
  const limit = (value: number): number => Number(Math.max(-4000, Math.min(4000, value)).toFixed(3));
  if (of === 'x' || of === 'y') return { least: limit(mm - AWAY), most: limit(mm + AWAY) };
  return { least: limit(AT_FIRST[0] * mm), most: limit(AT_FIRST[1] * mm) };
}

/** All that columns can choose in a sign. */
export function offeredSettings(sign: Sign): OfferedSetting[] {
  const lengths = (part?: string, tier?: string): SlotSetting[] =>
    lengthsOf(sign, { part, tier }).map(({ of, mm }) => ({
      kind: 'length',
      ...(part !== undefined && { part }),
      ...(tier !== undefined && { tier }),
      of,
      ...limitsAbout(of, mm),
    }));
  const ofParts = sign.parts.flatMap(({ id: part, tiers }): SlotSetting[] => [
    { kind: 'shown', part },
    ...lengths(part),
    ...tiers.flatMap(({ id: tier }): SlotSetting[] => [
      ...(tiers.length > 1 ? [{ kind: 'shown', part, tier } as const] : []),
      ...lengths(part, tier),
      { kind: 'finish', part, tier, of: 'top' },
    ]),
  ]);
  const all: SlotSetting[] = [
    ...((sign.options ?? []).length > 0 ? [{ kind: 'option' } as const] : []),
    ...(sign.parts.length > 1 ? [{ kind: 'one of', parts: sign.parts.slice(0, 100).map(({ id }) => id) } as const] : []),
    ...lengths(),
    ...ofParts,
  ];
  return all.map((sets) => ({ sets, words: settingWords(sign, sets) }));
}
