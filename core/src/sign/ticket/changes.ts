import { type FontEntry } from '../../type/index.js';
import { hardwareChanges } from './hardware.js';
import { withOption } from '../document/options.js';
import { type Part, type Sign, type SignOption } from '../document/schema.js';
import { type Sentence, type TicketField } from './sentence.js';
import { sentenceText, ticket } from './ticket.js';
import { wordChanges } from './word-changes.js';

/**
 * What is otherwise in a later sign, one line a change, in the words of its ticket: "Line 2: height 2 mm → 3 mm". Empty where the
 * same would be made; guides, groups and other things of the bench do not count.
 */
export function changesBetween(before: Sign, after: Sign, catalogue: readonly FontEntry[]): string[] {
  if (isSame(asMade(before), asMade(after))) return [];
  const changes = [
    ...signChanges(before, after),
    ...fieldChanges(before, after, catalogue),
    ...partChanges(before, after, catalogue),
    ...optionChanges(before, after, catalogue),
  ];
  return changes.length > 0 ? changes : ['The sign is set otherwise'];
}

const isSame = (a: unknown, b: unknown): boolean => ordered(a) === ordered(b);

/** A value as text, its keys in one order whatever the order in which they were given. */
const ordered = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  ) ?? '';

/** A sign without what belongs to the bench alone. */
const asMade = (sign: Sign): unknown => ({
  ...sign,
  guides: undefined,
  ground: undefined,
  section: undefined,
  parts: sign.parts.map((part) => ({ ...part, group: undefined, locked: undefined, dimensioned: undefined })),
});

const arrow = (label: string, before: string, after: string): string => `${label} ${before} → ${after}`;

function signChanges(before: Sign, after: Sign): string[] {
  const changes: string[] = [];
  if (before.title !== after.title) changes.push(arrow('Title:', `‘${before.title}’`, `‘${after.title}’`));
  if (before.unit !== after.unit) changes.push(`Sizes are given in ${after.unit === 'mm' ? 'millimetres' : 'inches'}`);
  if (before.blank.material !== after.blank.material)
    changes.push(arrow('Blank: material', before.blank.material || 'none named', after.blank.material || 'none named'));
  const named = listChanges(before.sections ?? [], after.sections ?? [], 'Section');
  const finishes = listChanges(before.finishes ?? [], after.finishes ?? [], 'Finish');
  return [...changes, ...named, ...finishes, ...hardwareChanges(before, after)];
}

/** Things with a name that were added, taken out, or are otherwise. */
function listChanges<T extends { readonly id: string; readonly name: string }>(
  before: readonly T[],
  after: readonly T[],
  what: string,
): string[] {
  const earlier = new Map(before.map((one) => [one.id, one]));
  return [
    ...after.flatMap((now) => {
      const was = earlier.get(now.id);
      if (!was) return [`${what} ${now.name} is new`];
      if (was.name !== now.name) return [`${what} ${was.name} is called ${now.name}`];
      return isSame(was, now) ? [] : [`${what} ${now.name} is another`];
    }),
    ...before.filter(({ id }) => !after.some((now) => now.id === id)).map(({ name }) => `${what} ${name} is left out`),
  ];
}

interface Told {
  readonly field: TicketField;
  readonly text: string;
  /** Where the field stands, with the ids of part and tier for their numbers. */
  readonly at: string;
  readonly about: string;
}

/** The fields of a ticket by where they stand. Parts that are in one of the signs only are left out. */
function fieldsOf(sign: Sign, other: Sign, catalogue: readonly FontEntry[]): Map<string, Told> {
  const told = new Map<string, Told>();
  for (const { words, isGround } of ticket(sign, catalogue))
    for (const { field, text } of words) {
      if (!field || isGround || field.path[0] === 'hardware') continue;
      const [root, index, inner, tierIndex, ...rest] = field.path;
      if (root !== 'parts') {
        told.set(field.path.join('/'), { field, text, at: field.path.join('/'), about: 'Blank' });
        continue;
      }
      const part = sign.parts[Number(index)];
      const counterpart = other.parts.find(({ id }) => id === part.id);
      const tier = inner === 'tiers' ? part.tiers[Number(tierIndex)] : undefined;
      if (!counterpart || (tier && !counterpart.tiers.some(({ id }) => id === tier.id))) continue;
      const at = ['parts', part.id, inner, tier ? tier.id : tierIndex, ...rest].filter((key) => key !== undefined).join('/');
      told.set(at, { field, text, at, about: part.name });
    }
  return told;
}

/** Values of the ticket that are otherwise; those that a changed choice brings with it are told with it. */
function fieldChanges(before: Sign, after: Sign, catalogue: readonly FontEntry[]): string[] {
  const [were, are] = [fieldsOf(before, after, catalogue), fieldsOf(after, before, catalogue)];
  const changes: string[] = [];
  const told = new Set<string>();
  for (const [at, now] of are) {
    const was = were.get(at);
    if (!was || told.has(at)) continue;
    if (now.field.kind === 'words') {
      changes.push(...wordChanges(String(was.field.value), String(now.field.value)).map((text) => `${now.about}: ${text}`));
      continue;
    }
    if (was.text === now.text && isSame(was.field.value, now.field.value)) continue;
    const home = at.replace(/\/kind$/u, '');
    const brought = home === at ? [] : [...are.values()].filter((one) => one.at.startsWith(`${home}/`) && !were.has(one.at));
    for (const one of brought) told.add(one.at);
    const with_ = brought.map((one) => `${one.field.label} ${one.text}`).join(', ');
    changes.push(`${now.about}: ${arrow(labelOf(now), was.text, now.text)}${with_ && ` (${with_})`}`);
  }
  return changes;
}

/** "raised" and "carved" say more than "height" and "depth". */
const labelOf = ({ field, at }: Told): string =>
  at.endsWith('/action/by') ? (field.label === 'height' ? 'raised' : 'carved') : field.label;

/** Parts and tiers that are new, gone, hidden or switched off, and what the ticket does not say of those that stay. */
function partChanges(before: Sign, after: Sign, catalogue: readonly FontEntry[]): string[] {
  const [earlier, later] = [ticket(before, catalogue), ticket(after, catalogue)];
  const changes: string[] = [];
  for (const part of after.parts) {
    const was = before.parts.find(({ id }) => id === part.id);
    if (!was) {
      const words = later.filter((sentence) => sentence.part === part.id).map(sentenceText);
      changes.push(`${part.name} is new: ${words.filter(Boolean).join(' ')}`);
      continue;
    }
    changes.push(...ownChanges(was, part).map((text) => `${part.name}: ${text}`));
    for (const tier of part.tiers)
      if (!was.tiers.some(({ id }) => id === tier.id)) changes.push(`${part.name}: also ${tierText(later, part.id, tier.id)}`);
    for (const tier of was.tiers) {
      const now = part.tiers.find(({ id }) => id === tier.id);
      if (!now) changes.push(`${part.name}: no longer ${tierText(earlier, part.id, tier.id)}`);
      else if (now.on !== tier.on)
        changes.push(`${part.name}: ${tierText(earlier, part.id, tier.id)} is switched ${now.on ? 'on' : 'off'}`);
    }
  }
  for (const part of before.parts) if (!after.parts.some(({ id }) => id === part.id)) changes.push(`${part.name} is left out`);
  const order = (sign: Sign, other: Sign) =>
    sign.parts.filter(({ id }) => other.parts.some((one) => one.id === id)).map(({ id, tiers }) => [id, tiers.map((t) => t.id)]);
  if (!isSame(order(before, after), order(after, before)) && changes.length === 0)
    changes.push('The order in which parts are built is another');
  return changes;
}

const tierText = (sentences: readonly Sentence[], part: string, tier: string): string => {
  const sentence = sentences.find((one) => one.part === part && one.tier === tier);
  return sentence ? sentenceText(sentence).replace(/( \(switched off\))?\.$/u, '') : 'a tier';
};

/** What a part has beside the fields of the ticket. */
function ownChanges(was: Part, now: Part): string[] {
  const changes: string[] = [];
  if (was.name !== now.name) changes.push(`was called ${was.name}`);
  if ((was.hidden ?? false) !== (now.hidden ?? false)) changes.push(now.hidden ? 'is hidden and not made' : 'is made again');
  if (was.kind === 'text' && now.kind === 'text') {
    if (!isSame(was.letters ?? [], now.letters ?? [])) changes.push('letters are set otherwise by hand');
    if (!isSame(was.frame?.fit, now.frame?.fit) && was.frame && now.frame) changes.push('it is made to fit in another way');
  }
  if (was.kind === 'shape' && now.kind === 'shape') {
    const drawn = ({ shape }: typeof now) => ('path' in shape ? shape.path : undefined);
    if (drawn(was) !== drawn(now)) changes.push('its outline is another');
  }
  return changes;
}

/** Options that are new, gone, or otherwise in more than what the sign itself is. */
function optionChanges(before: Sign, after: Sign, catalogue: readonly FontEntry[]): string[] {
  const bare = ({ options: _options, ...sign }: Sign): Sign => sign;
  const own = new Set(before.options && after.options ? changesBetween(bare(before), bare(after), catalogue) : []);
  const inside = (was: SignOption, now: SignOption): string[] =>
    changesBetween(bare(withOption(before, was.id)), bare(withOption(after, now.id)), catalogue)
      .filter((text) => !own.has(text))
      .map((text) => `${now.name}: ${text}`);
  const shared = (after.options ?? []).flatMap((now) => {
    const was = before.options?.find(({ id }) => id === now.id);
    if (!was) return [`${now.name} is new`];
    const called = was.name === now.name ? [] : [`${was.name} is called ${now.name}`];
    return [...called, ...inside(was, now)];
  });
  const gone = (before.options ?? []).filter(({ id }) => !after.options?.some((now) => now.id === id));
  return [...shared, ...gone.map(({ name }) => `${name} is left out`)];
}
