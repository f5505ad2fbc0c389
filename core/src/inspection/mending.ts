import { bounds } from '../geometry/index.js';
import { notesOf } from '../checks/index.js';
import { type Evaluation, type Evaluator } from '../relief/index.js';
import { type Finish, FINISHES, newShape, type Part, type Sign, type TextPart, type Tier } from '../sign/index.js';
import { solidOf } from '../solid/index.js';
import { leaningParts } from './casting.js';
import { type Finding, HINTS } from './finding.js';
import { inspect, told } from './inspect.js';
import { type Limits } from './limits.js';
import { capitalsFor, contrastRatio, wornBy } from './reading.js';
import { followsOthers, isGround } from './setting.js';
import { printed, type Words, writtenAs } from './wording.js';

/** A value of a sign that is set: of a part by its id, or of the sign itself. */
export interface FieldSet {
  readonly part?: string;
  readonly path: readonly (string | number)[];
  readonly value: unknown;
}

/** What mends a finding: values that are set together. */
export interface FindingRemedy {
  readonly label: string;
  readonly sets: readonly FieldSet[];
}

/** mm by which more is done than has to be, so that rounding does not matter. */
const EASE = 0.02;
const tidy = (mm: number): number => Number(mm.toFixed(3));
/** Rounded so that it is at least, or at most, so much. */
const up = (mm: number): number => Math.ceil(mm * 1000 - 1e-6) / 1000;
const down = (mm: number): number => Math.floor(mm * 1000 + 1e-6) / 1000;

/** A document, or a value of one, with nothing shared. */
const copied = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Sets the values of a remedy in a sign that may be changed; those of parts that are gone are left out. */
export function applyRemedy(sign: Sign, { sets }: FindingRemedy): void {
  for (const { part: id, path, value } of sets) {
    const holder: unknown = id === undefined ? sign : sign.parts.find((part) => part.id === id);
    if (holder === undefined) continue;
    let at = holder as Record<string | number, unknown>;
    for (const key of path.slice(0, -1)) at = (at[key] ??= {}) as Record<string | number, unknown>;
    at[path[path.length - 1]] = copied(value);
  }
}

/**
 * What mends a finding. Each is tried: after it the finding is gone, no other that the sign is told of is new or worse but for hints, and
 * nothing more is noted of the sign.
 * @param evaluator with the fonts of the sign loaded
 */
export function remediesOf(
  finding: Finding,
  evaluation: Evaluation,
  evaluator: Evaluator,
  limits: Limits,
  words: Words = {},
): FindingRemedy[] {
  const candidates = candidatesFor(finding, evaluation, evaluator, limits, words);
  if (candidates.length === 0) return [];
  const before = new Map(inspect(evaluation, limits, words).map((each) => [keyOf(each), excessOf(each)]));
  const noted = weightsOf(evaluation);
  return candidates.filter((remedy) => {
    const sign = copied(evaluation.sign);
    applyRemedy(sign, remedy);
    const after = evaluator.evaluateLoaded(sign, evaluation.side);
    const found = inspect(after, limits, words);
    const isGone = found.every((each) => keyOf(each) !== keyOf(finding));
    const isNoWorse = told(after, found).findings.every(
      (each) => HINTS.has(each.check) || excessOf(each) <= (before.get(keyOf(each)) ?? -Infinity) + SAME,
    );
    return isGone && isNoWorse && weightsOf(after) <= noted;
  });
}

const SAME = 1e-3;
const keyOf = ({ check, part, about, others }: Finding): string => [check, part, about, others].join(' ');
/** By how much a finding is beyond its limit. */
const excessOf = ({ measured, limit }: Finding): number => Math.abs(measured - limit);
/** Braille is translated anew with its words: that it is not yet is no fault of a remedy. */
const weightsOf = (evaluation: Evaluation): number =>
  notesOf(evaluation).reduce(
    (sum, { weight, code }) => sum + (code === 'braille-stale' ? 0 : weight === 'error' ? 1000 : weight === 'warning' ? 1 : 0),
    0,
  );

function candidatesFor(
  finding: Finding,
  evaluation: Evaluation,
  evaluator: Evaluator,
  limits: Limits,
  words: Words,
): FindingRemedy[] {
  const { sign } = evaluation;
  const part = sign.parts.find(({ id }) => id === finding.part);
  switch (finding.check) {
    case 'narrow-gap':
      return opened(evaluation, evaluator, limits.tool);
    case 'thin-stroke':
      return atPlaces(finding, evaluation).map((each) => thickened(each, (finding.limit - finding.measured) / 2 + EASE));
    case 'tall-stroke':
      return atPlaces(finding, evaluation).flatMap((each) => lowered(each, finding.limit / finding.measured));
    case 'thin-wall':
      return movedIn(finding, evaluation);
    case 'hanging-piece':
      return bridged(finding, sign);
    case 'small-step':
      return stepped(finding, evaluation);
    case 'no-sheet':
      return finding.about === 'thickness' ? [{ label: `Make it ${finding.limit} mm thick`, sets: [{ path: ['blank', 'thickness'], value: finding.limit }] }] : []; // prettier-ignore
    case 'small-letters':
      return part?.kind === 'text' && part.size.kind === 'capitals' && limits.distance !== undefined
        ? [{ label: `Raise ${part.name} to the size for the distance`, sets: [sizeSet(part, up(capitalsFor(limits.distance)))] }]
        : [];
    case 'low-contrast':
      return part?.kind === 'text' ? recoloured(part, evaluation) : [];
    case 'small-modules':
      return part?.kind === 'shape' && part.shape.kind === 'code'
        ? [{ label: `Make the modules of ${part.name} ${up(finding.limit)} mm`, sets: [{ part: part.id, path: ['shape', 'module'], value: up(finding.limit) }] }] // prettier-ignore
        : [];
    case 'tall-modules':
      return part ? flattened(part, finding.limit / finding.measured) : [];
    case 'faint-code':
      return part ? blackened(part, evaluation) : [];
    case 'no-draft':
      return [
        { label: 'Lean the sides so that a pattern leaves the sand', sets: [{ path: ['parts'], value: leaningParts(sign) }] },
      ];
    case 'standing-water':
      return drained(finding, evaluation);
    case 'glare':
      return finding.about === undefined ? [] : matt(finding.about, sign);
    case 'tight-lines':
      return part ? [{ label: `Set the lines of ${part.name} apart`, sets: [{ part: part.id, path: ['leading'], value: { kind: 'percent', of: finding.limit } }] }] : []; // prettier-ignore
    case 'unequal-margins':
      return centred(finding, evaluation);
    case 'nearly-aligned':
      return part ? aligned(finding, part, evaluation) : [];
    case 'near-sizes':
      return sameSize(finding, evaluation);
    case 'straight-quotes':
    case 'double-blank':
    case 'hyphen-for-dash':
      return part?.kind === 'text'
        ? [{ label: `Set the marks of ${part.name} as print has them`, sets: [{ part: part.id, path: ['words'], value: printed(part.words, finding.check) }] }] // prettier-ignore
        : [];
    case 'unknown-word':
      return part?.kind === 'text' && finding.about !== undefined ? spelt(part, finding.about, words) : [];
    default:
      return [];
  }
}

/** mm across of a hole that water runs through, and not more of them than so many. */
const DRAIN = 4;
const MOST_DRAINS = 8;

/** A hole in the ground of every place that water stands in. */
function drained({ places }: Finding, { sign }: Evaluation): FindingRemedy[] {
  if (places.length > MOST_DRAINS) return [];
  const parts = copied(sign.parts);
  for (const { x, y } of places) {
    const hole = newShape({ ...sign, parts }, 'circle');
    hole.name = 'Drain';
    hole.shape = { kind: 'circle', diameter: DRAIN };
    hole.place = { ...hole.place, x: tidy(x), y: tidy(y) };
    parts.push(hole);
  }
  const label =
    places.length === 1
      ? `Let the water out by a hole of ${DRAIN} mm`
      : `Let the water out by ${places.length} holes of ${DRAIN} mm`;
  return [{ label, sets: [{ path: ['parts'], value: parts }] }];
}

/** A finish without gloss in place of one with it. */
function matt(id: string, sign: Sign): FindingRemedy[] {
  const known = sign.finishes?.find((each) => each.id === id) ?? FINISHES.find((each) => each.id === id);
  if (!known) return [];
  const others = (sign.finishes ?? []).filter((each) => each.id !== id);
  return [{ label: `Make ${known.name} matt`, sets: [{ path: ['finishes'], value: [...others, { ...known, gloss: 'matt' }] }] }];
}

/** A word as the dictionary has something like it. */
function spelt(part: TextPart, word: string, { suggested }: Words): FindingRemedy[] {
  return (suggested?.(word.toLowerCase()) ?? []).map((meant) => {
    const written = writtenAs(meant, word);
    const value = part.words.replace(new RegExp(`(?<!\\p{L})${word}(?!\\p{L})`, 'gu'), () => written);
    return { label: `Write “${written}” for “${word}”`, sets: [{ part: part.id, path: ['words'], value }] };
  });
}

const sizeSet = (part: TextPart, height: number): FieldSet => {
  const stretch = 'stretch' in part.size ? part.size.stretch : 100;
  return { part: part.id, path: ['size'], value: { kind: 'capitals', height, stretch } };
};

/** All texts whose letters stand closer than the tool is wide, opened up for it. */
function opened(evaluation: Evaluation, evaluator: Evaluator, tool: number): FindingRemedy[] {
  const texts = evaluation.sign.parts.flatMap((part) => {
    if (part.kind !== 'text' || part.hidden) return [];
    const isClose = evaluator.gaps(evaluation, part.id).some(({ gap, isJoined, areNeighbours }) => areNeighbours && !isJoined && gap < tool); // prettier-ignore
    const room = isClose ? evaluator.openUp(evaluation, part.id, tool + EASE) : undefined;
    return room && room.grownBy > 0 ? [{ part, tracking: up(room.tracking) }] : [];
  });
  if (texts.length === 0) return [];
  const names = texts.map(({ part }) => part.name).join(', ');
  return [
    {
      label: `Open up ${names} for the tool`,
      sets: texts.map(({ part, tracking }) => ({ part: part.id, path: ['tracking'], value: tracking })),
    },
  ];
}

/** Parts that cover the places of a finding. */
function atPlaces({ places }: Finding, { sign, parts }: Evaluation): Part[] {
  return sign.parts.filter(({ id, hidden }) => {
    const ink = parts.find((plan) => plan.id === id)?.ink;
    return ink && !hidden && places.some(({ x, y }) => x >= ink.minX && x <= ink.maxX && y >= ink.minY && y <= ink.maxY);
  });
}

const raises = ({ on, action }: Tier): boolean => on && (action.kind === 'raise' || action.kind === 'set');

/** Strokes wider by so much on each side. */
function thickened(part: Part, by: number): FindingRemedy {
  const sets = part.tiers.flatMap((tier, at): FieldSet[] => {
    if (!raises(tier)) return [];
    const { area } = tier;
    const before = area.kind === 'offset' && !area.scales ? area.by : 0;
    if (area.kind === 'stroke' || (area.kind === 'offset' && area.scales)) return [];
    return [{ part: part.id, path: ['tiers', at, 'area'], value: { ...area, kind: 'offset', by: up(before + by) } }];
  });
  return { label: `Thicken the strokes of ${part.name} by ${tidy(2 * by)} mm`, sets };
}

/** Raised only so high as strokes bear. */
function lowered(part: Part, share: number): FindingRemedy[] {
  const sets = part.tiers.flatMap(({ on, action }, at): FieldSet[] =>
    on && action.kind === 'raise'
      ? [{ part: part.id, path: ['tiers', at, 'action', 'by'], value: down(action.by * share - EASE / 10) }]
      : [],
  );
  return sets.length > 0 ? [{ label: `Lower ${part.name}`, sets }] : [];
}

/** Raised or sunk only by a share of what it was. */
function flattened(part: Part, share: number): FindingRemedy[] {
  const sets = part.tiers.flatMap(({ on, action }, at): FieldSet[] =>
    on && (action.kind === 'raise' || action.kind === 'carve')
      ? [{ part: part.id, path: ['tiers', at, 'action', 'by'], value: down(action.by * share) }]
      : [],
  );
  return sets.length > 0 ? [{ label: `Bring ${part.name} nearer to its ground`, sets }] : [];
}

/** A code in black, whose ground is as it is. */
function blackened(part: Part, { sign }: Evaluation): FindingRemedy[] {
  const black = FINISHES.find(({ id }) => id === 'black')!;
  const sets: FieldSet[] = sign.finishes?.some(({ id }) => id === black.id) ? [] : [{ path: ['finishes'], value: [...(sign.finishes ?? []), black] }]; // prettier-ignore
  part.tiers.forEach(({ on, action }, at) => {
    if (on && action.kind !== 'cut-through') sets.push({ part: part.id, path: ['tiers', at, 'finish', 'top'], value: black.id });
  });
  return [{ label: `${part.name} in ${black.name}`, sets }];
}

/** Holes moved away from what they are too near to. */
function movedIn(finding: Finding, evaluation: Evaluation): FindingRemedy[] {
  const lacking = finding.limit - finding.measured + EASE;
  const [place] = finding.places;
  return evaluation.sign.parts.flatMap((part): FindingRemedy[] => {
    if (part.kind !== 'shape' || part.hidden) return [];
    if (part.shape.kind === 'fixings')
      return [{ label: `Move ${part.name} in by ${tidy(lacking)} mm`, sets: [{ part: part.id, path: ['shape', 'inset'], value: up(part.shape.inset + lacking) }] }]; // prettier-ignore
    const ink = evaluation.parts.find(({ id }) => id === part.id)?.ink;
    if (!ink || part.shape.kind !== 'circle' || part.copies) return [];
    const [dx, dy] = [part.place.x - place.x, part.place.y - place.y];
    const far = Math.hypot(dx, dy);
    if (far === 0 || far > part.shape.diameter) return [];
    const at = { ...part.place, x: tidy(part.place.x + (dx / far) * lacking), y: tidy(part.place.y + (dy / far) * lacking) };
    return [{ label: `Move ${part.name} by ${tidy(lacking)} mm`, sets: [{ part: part.id, path: ['place'], value: at }] }];
  });
}

/** Bridges of what is cut through as wide as a neck has to be. */
function bridged({ limit }: Finding, sign: Sign): FindingRemedy[] {
  const narrow = sign.parts.filter(({ hidden, bridges }) => !hidden && bridges !== undefined && bridges.width < limit + EASE);
  if (narrow.length === 0) return [];
  const width = up(limit + EASE);
  return [
    {
      label: `Make the bridges of ${narrow.map(({ name }) => name).join(', ')} ${width} mm wide`,
      sets: narrow.map(({ id }) => ({ part: id, path: ['bridges', 'width'], value: width })),
    },
  ];
}

/** Two levels that are one nearly: apart by what is seen, or one. */
function stepped(finding: Finding, { rungs, sign }: Evaluation): FindingRemedy[] {
  const flat = rungs.filter(({ z }) => Number.isFinite(z));
  return flat.flatMap((upper) =>
    flat.flatMap((lower): FindingRemedy[] => {
      const step = upper.z - lower.z;
      if (Math.abs(step - finding.measured) > 1e-6) return [];
      const part = sign.parts.find(({ id }) => id === upper.part)!;
      const at = part.tiers.findIndex(({ id }) => id === upper.tier);
      const { action } = part.tiers[at];
      const key = action.kind === 'set' ? 'to' : 'by';
      if (action.kind !== 'raise' && action.kind !== 'carve' && action.kind !== 'set') return [];
      const amount = action.kind === 'set' ? action.to : action.by;
      const direction = action.kind === 'carve' ? -1 : 1;
      const set = (more: number): FieldSet => ({
        part: part.id,
        path: ['tiers', at, 'action', key],
        value: tidy(amount + direction * more),
      });
      return [
        { label: `Step ${part.name} up to ${finding.limit} mm`, sets: [set(finding.limit - step)] },
        { label: `Bring ${part.name} to the same level`, sets: [set(-step)] },
      ].filter(({ sets: [{ value }] }) => key === 'to' || (value as number) >= 0);
    }),
  );
}

/** Finishes that stand out from what is behind: the darkest and the lightest at hand. */
function recoloured(part: TextPart, evaluation: Evaluation): FindingRemedy[] {
  const [worn] = wornBy(evaluation, solidOf(evaluation), [part]);
  if (!worn) return [];
  const { sign } = evaluation;
  const own = (sign.finishes ?? []).filter(({ id }) => id !== worn.on.id);
  const choices: Finish[] = [
    ...own,
    ...FINISHES.filter(({ id }) => ['black', 'white'].includes(id) && !own.some((each) => each.id === id)),
  ];
  const best = [...choices].sort(
    (a, b) => contrastRatio(b.colour, worn.behind.colour) - contrastRatio(a.colour, worn.behind.colour),
  )[0];
  if (!best) return [];
  const isOwn = sign.finishes?.some(({ id }) => id === best.id) ?? false;
  const sets: FieldSet[] = isOwn ? [] : [{ path: ['finishes'], value: [...(sign.finishes ?? []), best] }];
  part.tiers.forEach(({ on, action }, at) => {
    if (on && action.kind !== 'cut-through') sets.push({ part: part.id, path: ['tiers', at, 'finish', 'top'], value: best.id });
  });
  return [{ label: `${part.name} in ${best.name}`, sets }];
}

/** The design moved so that its margins are equal. */
function centred({ about, places: [place] }: Finding, evaluation: Evaluation): FindingRemedy[] {
  const edge = bounds([evaluation.blank])!;
  const key = about === 'across' ? 'x' : 'y';
  const by = about === 'across' ? (edge.minX + edge.maxX) / 2 - place.x : (edge.minY + edge.maxY) / 2 - place.y;
  const movable = evaluation.sign.parts.filter((part) => !followsOthers(part) && !isGround(evaluation, part));
  if (movable.some(({ locked }) => locked)) return [];
  const sets = movable.map(({ id, place: at }): FieldSet => ({ part: id, path: ['place', key], value: tidy(at[key] + by) }));
  return [
    {
      label: about === 'across' ? 'Bring the design to the middle across' : 'Bring the design to the middle by its capitals',
      sets,
    },
  ];
}

function aligned({ about, others }: Finding, part: Part, { sign, parts }: Evaluation): FindingRemedy[] {
  const other = sign.parts.find(({ id }) => id === others?.[0]);
  const [own, theirs] = [part.id, other?.id].map((id) => parts.find((plan) => plan.id === id)?.ink);
  if (!own || !theirs || !other || part.locked) return [];
  const off = about === 'left' ? theirs.minX - own.minX : about === 'right' ? theirs.maxX - own.maxX : (theirs.minX + theirs.maxX - own.minX - own.maxX) / 2; // prettier-ignore
  return [{ label: `Line ${part.name} up with ${other.name}`, sets: [{ part: part.id, path: ['place', 'x'], value: tidy(part.place.x + off) }] }]; // prettier-ignore
}

function sameSize({ part: id, others }: Finding, { sign, parts }: Evaluation): FindingRemedy[] {
  const [part, other] = [id, others?.[0]].map((each) => sign.parts.find((one) => one.id === each));
  const height = parts.find((plan) => plan.id === other?.id)?.text?.capHeight;
  if (part?.kind !== 'text' || height === undefined || part.frame || !['capitals', 'em'].includes(part.size.kind)) return [];
  return [{ label: `Set ${part.name} in the size of ${other!.name}`, sets: [sizeSet(part, tidy(height))] }];
}
