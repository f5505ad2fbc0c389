import { actionAtLevel } from './actions.js';
import { tierLevel } from './levels.js';
import { freeId } from './new-sign.js';
import { type Blank } from './schema-blank.js';
import { type Part, type Sign, type SignOption, type Tier, type TierChange } from './schema.js';

type Finish = NonNullable<Tier['finish']>;

const LEVEL_STEP = 1e-9;

/** How far a tier rises (or, below 0, sinks) from what its part sits on. */
const amountOf = (tier: Tier): number => tierLevel(tier, 0);

const isSame = (a: object | undefined, b: object | undefined): boolean => JSON.stringify(a ?? {}) === JSON.stringify(b ?? {});

/** A new option that is as the sign is: "Option A", then "Option B" … */
export function newOption(sign: Sign): SignOption {
  const taken = sign.options ?? [];
  const letters = [...'ABCDEFGHIJKL'].map((letter) => `Option ${letter}`);
  const name = letters.find((each) => taken.every((option) => option.name !== each)) ?? `Option ${taken.length + 1}`;
  return {
    id: freeId(
      'option',
      taken.map(({ id }) => id),
    ),
    name,
    tiers: [],
  };
}

/** The sign as one of its options is; as it stands where there is no such option. */
export function withOption(sign: Sign, id: string | undefined): Sign {
  const option = sign.options?.find((each) => each.id === id);
  if (!option) return sign;
  const { finish, material } = option;
  const parts = sign.parts.map((part): Part => {
    const changes = option.tiers.filter((change) => change.part === part.id);
    if (changes.length === 0) return part;
    const tiers = part.tiers.map((tier) =>
      changes.filter((change) => change.tier === tier.id).reduce((now, change) => withChange(now, change), tier),
    );
    return { ...part, tiers };
  });
  const blank: Blank = { ...sign.blank, ...(finish && { finish }), ...(material !== undefined && { material }) };
  if (blank.finish && Object.keys(blank.finish).length === 0) delete blank.finish;
  return { ...sign, blank, parts };
}

function withChange(tier: Tier, { on, amount, finish }: TierChange): Tier {
  const next: Tier = {
    ...tier,
    on: on ?? tier.on,
    action: amount === undefined ? tier.action : actionAtLevel(tier.action, amount, 0),
  };
  if (finish) next.finish = finish;
  if (next.finish && Object.keys(next.finish).length === 0) delete next.finish;
  return next;
}

/**
 * What an edit of an option means for the sign: whether tiers are on, their amounts and finishes, and the finishes and the
 * material of the blank become the option's where they are otherwise than the sign's; all else is edited in the sign itself.
 * @param shown the sign as the option is, edited
 */
export function splitOption(sign: Sign, id: string, shown: Sign): Sign {
  const option = shown.options?.find((each) => each.id === id);
  if (!option || !sign.options?.some((each) => each.id === id)) return shown;
  const tiers: TierChange[] = [];
  const parts = shown.parts.map((part): Part => {
    const own = sign.parts.find((other) => other.id === part.id);
    if (!own) return part;
    const split = part.tiers.map((tier) => {
      const before = own.tiers.find((other) => other.id === tier.id);
      if (!before) return tier;
      const { kept, change } = splitTier(part.id, before, tier);
      if (change) tiers.push(change);
      return kept;
    });
    return { ...part, tiers: split };
  });
  const finish = isSame(sign.blank.finish, shown.blank.finish) ? undefined : (shown.blank.finish ?? {});
  const material = sign.blank.material === shown.blank.material ? undefined : shown.blank.material;
  const blank: Blank = { ...shown.blank, material: sign.blank.material };
  if (sign.blank.finish) blank.finish = sign.blank.finish;
  else delete blank.finish;
  const next: SignOption = {
    id,
    name: option.name,
    tiers,
    ...(finish && { finish }),
    ...(material !== undefined && { material }),
  };
  return { ...shown, blank, parts, options: shown.options!.map((each) => (each.id === id ? next : each)) };
}

/** Whether an amount can stand for what one action became. */
function isOneKind(a: Tier['action'], b: Tier['action']): boolean {
  const family = ({ kind }: Tier['action']): string => (kind === 'raise' ? 'carve' : kind);
  return family(a) === family(b);
}

function splitTier(part: string, before: Tier, tier: Tier): { kept: Tier; change?: TierChange } {
  const change: { -readonly [K in keyof TierChange]: TierChange[K] } = { part, tier: tier.id };
  const kept: Tier = { ...tier, on: before.on };
  if (tier.on !== before.on) change.on = tier.on;
  const [was, is] = [amountOf(before), amountOf(tier)];
  if (isOneKind(before.action, tier.action) && Number.isFinite(is) && Math.abs(is - was) > LEVEL_STEP) {
    change.amount = is;
    kept.action = actionAtLevel(tier.action, was, 0);
  }
  if (!isSame(before.finish, tier.finish)) {
    change.finish = (tier.finish ?? {}) as Finish;
    if (before.finish) kept.finish = before.finish;
    else delete kept.finish;
  }
  return { kept, ...(Object.keys(change).length > 2 && { change }) };
}
