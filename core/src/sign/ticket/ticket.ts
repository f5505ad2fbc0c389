import { type FontEntry } from '../../type/index.js';
import { type PartExtent } from '../document/copies.js';
import { BARE, finishChoices } from '../document/finishes.js';
import { holeSentences } from './alike-holes.js';
import { hardwareSentence } from './hardware.js';
import { cutToSentences } from './cut-to-sentences.js';
import { ACTION_WORDS, isUpright, sinks } from '../document/actions.js';
import { sideOf } from '../document/levels.js';
import { partSentences } from './part-sentences.js';
import { formatLength } from '../../units/index.js';
import { type BlankEdge, type Laminate } from '../document/schema-blank.js';
import { type Area, type Finish, type Part, type Sign, type Tier } from '../document/schema.js';
import { type FieldPath, plain, quiet, quietIf, type Sentence, type TicketWord, Writer } from './sentence.js';
import { supportSentences } from './support-sentences.js';
import { shapeWords } from './shape-words.js';

/** A sentence as plain text. */
export const sentenceText = (sentence: Sentence): string =>
  sentence.words
    .filter((word) => !word.isQuiet)
    .map(({ text, field }) => (field?.kind === 'words' || field?.kind === 'name' ? isolated(text) : text))
    .join('');

/** Words that are read from right to left, closed off so that they turn nothing around them (UAX #9, isolates). */
const isolated = (text: string): string => (/[\p{Script=Arabic}\p{Script=Hebrew}]/u.test(text) ? `\u2068${text}\u2069` : text);

/**
 * The ticket in paragraphs, one for the blank and one a part with its tiers, as it stands on the proof.
 * @param sign where holes that are alike are to be told in one
 */
export function ticketParagraphs(sentences: readonly Sentence[], sign?: Sign): string[] {
  const holes = sign && holeSentences(sign);
  const paragraphs: { part: string | undefined; text: string }[] = [];
  for (const sentence of sentences) {
    const plainText = sentenceText(sentence);
    const hole = holes?.get(sentence.part ?? '');
    if (plainText === '' || hole === '') continue;
    const text = plainText.charAt(0).toUpperCase() + plainText.slice(1);
    const last = paragraphs[paragraphs.length - 1];
    if (last && last.part === sentence.part) last.text += hole ? '' : ` ${text}`;
    else if (hole) paragraphs.push({ part: sentence.part, text: hole });
    else paragraphs.push({ part: sentence.part, text });
  }
  return paragraphs.map(({ text }) => text);
}

/**
 * The sign as a work order in sentences; what they say is what will be made.
 * @param finishes of the shop, that may be chosen besides those that every sign has at hand
 * @param extents of one copy of each part, by its id: where copies can be set by their gaps
 */
export function ticket(
  sign: Sign,
  catalogue: readonly FontEntry[],
  finishes: readonly Finish[] = [],
  extents?: ReadonlyMap<string, PartExtent>,
): Sentence[] {
  const write = new Writer(sign.unit, catalogue, finishes, extents, sign.support);
  return [
    ...blankSentences(sign, write),
    ...supportSentences(sign, write),
    ...cutToSentences(sign, write),
    ...limitSentence(sign, write),
    hardwareSentence(sign, write),
    ...groundSentence(sign, write),
    ...sign.parts.flatMap((part, index) => [
      ...partSentences(sign, part, index, write),
      ...part.tiers.map((tier, at) => tierSentence(sign, part, index, tier, at, write)),
    ]),
  ];
}

/** What the blank is, as it is cut, and how thick it is with its edges and surfaces. */
function blankSentences(sign: Sign, write: Writer): Sentence[] {
  const { outline, thickness, material, laminate } = sign.blank;
  const cut = [
    plain('The blank is '),
    ...(sign.support?.kind === 'block' ? [plain('a block')] : shapeWords(outline, write, 'blank', 'outline')),
    ...(material ? [plain(`, in ${material}`)] : []),
    plain('.'),
  ];
  const thick = [
    plain('It is '),
    ...(sign.support?.kind === 'block'
      ? [plain(`${formatLength(thickness, sign.unit)} deep at most`)]
      : [write.length('thickness', thickness, 'blank', 'thickness'), plain(' thick')]),
    ...laminateWords(laminate, write),
    ...(sign.support?.kind === 'block' ? [] : blankEdgeWords(sign, write)),
    ...blankFinishWords(sign, write),
    plain('.'),
  ];
  return [
    { topic: 'layout', words: cut },
    { topic: 'heights', words: thick },
  ];
}

const PLIES = [
  ['plain', 'of one material'],
  ['laminate', 'a two-ply laminate'],
] as const;

function laminateWords(laminate: Laminate | undefined, write: Writer): TicketWord[] {
  const path = ['blank', 'laminate'] as const;
  const kind = write.choice('plies', laminate ? 'laminate' : 'plain', PLIES, ...path, 'kind');
  if (!laminate) return quiet(plain(', '), kind);
  return [
    plain(', '),
    kind,
    plain(' with a cap of '),
    write.name('colour of the cap', laminate.capColour, ...path, 'capColour'),
    plain(', '),
    write.length('cap', laminate.cap, ...path, 'cap'),
    plain(' thick, over a core of '),
    write.name('colour of the core', laminate.coreColour, ...path, 'coreColour'),
    ...quietIf(
      !laminate.bothSides,
      plain(', '),
      write.choice('caps', String(laminate.bothSides ?? false), CAPS, ...path, 'bothSides'),
    ),
  ];
}

const CAPS = [
  ['false', 'with a cap on its face'],
  ['true', 'with a cap on both sides'],
] as const;

/** How high the sign may stand. */
function limitSentence({ heightLimit }: Sign, write: Writer): Sentence[] {
  const kind = write.choice('height limit', heightLimit === undefined ? 'free' : 'limited', LIMITS, 'heightLimit', 'kind');
  if (heightLimit === undefined)
    return [{ topic: 'heights', words: quiet(plain('Its height above the face is '), kind, plain('.')) }];
  return [
    {
      topic: 'heights',
      words: [
        plain('Its height above the face is '),
        kind,
        plain(' '),
        write.length('highest', heightLimit, 'heightLimit'),
        plain('.'),
      ],
    },
  ];
}

const LIMITS = [
  ['free', 'not limited'],
  ['limited', 'limited to'],
] as const;

/** What lies under the plan; nothing of it is made, and the proof says nothing of it. */
function groundSentence({ ground }: Sign, write: Writer): Sentence[] {
  if (!ground) return [];
  const path = ['ground'] as const;
  const words = quiet(
    plain('A picture lies under the plan, '),
    write.length('picture width', ground.width, ...path, 'width'),
    plain(' wide, its middle at '),
    write.length('picture across', ground.x, ...path, 'x'),
    plain(' across and '),
    write.length('picture up', ground.y, ...path, 'y'),
    plain(' up, showing by '),
    write.number('showing', ground.shows, ' %', ...path, 'shows'),
    plain('. '),
  );
  return [{ topic: 'layout', words, isGround: true }];
}

/** "The face", or the floor or top of every earlier part of the same side, as values of a choice. */
export function hostChoices(sign: Sign, before: number): (readonly [string, string])[] {
  const side = sideOf(sign.parts[before] ?? {});
  return [
    ['face', side === 'front' ? 'the face' : 'the back'] as const,
    ...sign.parts
      .slice(0, before)
      .filter((part) => sideOf(part) === side)
      .flatMap(({ id, name }) => [
        [`floor:${id}`, `the floor of ${name}`] as const,
        [`top:${id}`, `the top of ${name}`] as const,
      ]),
  ];
}

/** What a part sits on, as one of {@link hostChoices}. */
export const hostValue = ({ sitsOn }: Part): string => (sitsOn.kind === 'face' ? 'face' : `${sitsOn.at}:${sitsOn.part}`);

/** The counterpart of {@link hostValue}. */
export function hostFrom(value: string): Part['sitsOn'] {
  const match = /^(floor|top):(.+)$/u.exec(value);
  return match ? { kind: 'part', at: match[1] as 'floor' | 'top', part: match[2] } : { kind: 'face' };
}

const AREAS = [
  ['outline', 'its outline'],
  ['offset', 'its outline grown'],
  ['shrunk', 'its outline shrunk'],
  ['stroke', 'a stroke'],
] as const;
const SIDES = [
  ['inside', 'inside'],
  ['on', 'on'],
  ['outside', 'outside'],
] as const;
const CORNERS = [
  ['round', 'round'],
  ['mitred', 'mitred'],
  ['square', 'square'],
] as const;
const SCALES = [
  ['false', 'at any size'],
  ['true', 'of its height'],
] as const;

function areaWords(area: Area, path: FieldPath, write: Writer): TicketWord[] {
  const at = [...path, 'area'];
  const isShrunk = area.kind === 'offset' && area.by < 0;
  const kind = write.choice('area', isShrunk ? 'shrunk' : area.kind, AREAS, ...at, 'kind');
  if (area.kind === 'outline') return quiet(plain(', over '), kind);
  const amount = (label: string, value: number, key: string): TicketWord =>
    area.scales ? write.number(label, value, ' %', ...at, key) : write.length(label, value, ...at, key);
  const scales = quietIf(
    !area.scales,
    plain(' '),
    write.choice('scaling', String(area.scales ?? false), SCALES, ...at, 'scales'),
  );
  const corners = quietIf(
    (area.corners ?? 'round') === 'round',
    plain(', corners '),
    write.choice('corners', area.corners ?? 'round', CORNERS, ...at, 'corners'),
  );
  if (area.kind === 'offset') {
    const by = isShrunk ? amount('shrinking', -area.by, 'shrunkBy') : amount('growth', area.by, 'by');
    return [plain(', over '), kind, plain(' by '), by, ...scales, ...corners];
  }
  return [
    plain(', over '),
    kind,
    plain(' of '),
    amount('stroke width', area.width, 'width'),
    ...scales,
    plain(' '),
    write.choice('side of the line', area.side, SIDES, ...at, 'side'),
    plain(' the line'),
    ...corners,
  ];
}

const EDGES = [
  ['upright', 'upright'],
  ['sloped', 'sloped'],
  ['rounded', 'rounded'],
  ['chamfered', 'chamfered'],
  ['cove', 'hollowed by a cove'],
  ['ridged', 'sloped to a ridge'],
  ['domed', 'domed'],
] as const;
/** A ridge upside down. */
const EDGES_BELOW = EDGES.map(([kind, text]) => [kind, kind === 'ridged' ? 'sloped to a vee' : text] as const);
const SIZED = [
  ['foot', 'at the foot'],
  ['top', 'at the top'],
] as const;
const CAPPED = [
  ['false', 'up to where they meet'],
  ['true', 'cut off at that height'],
] as const;
const CAPPED_BELOW = [
  ['false', 'down to where they meet'],
  ['true', 'cut off at that depth'],
] as const;

function edgeWords({ edge, action }: Tier, path: FieldPath, write: Writer): TicketWord[] {
  if (isUpright(action)) return [];
  const at = [...path, 'edge'];
  const forms = sinks(action) ? EDGES_BELOW : EDGES;
  const kind = write.choice('edge', edge?.kind ?? 'upright', forms, ...at, 'kind');
  if (!edge) return quiet(plain(', sides '), kind);
  switch (edge.kind) {
    case 'sloped':
      return [
        plain(', sides '),
        kind,
        plain(' by '),
        write.number('slope', edge.angle, '°', ...at, 'angle'),
        plain(' from upright, sized '),
        write.choice('sized', edge.sized, SIZED, ...at, 'sized'),
      ];
    case 'domed':
      return [plain(', sides '), kind, plain(' over '), write.length('width of the dome', edge.width, ...at, 'width')];
    case 'ridged':
      return [
        plain(', sides '),
        kind,
        plain(' at an included angle of '),
        write.number('included angle', edge.angle, '°', ...at, 'angle'),
        plain(', '),
        write.choice('cap', String(edge.capped), sinks(action) ? CAPPED_BELOW : CAPPED, ...at, 'capped'),
      ];
    default:
      return [plain(', sides '), kind, ...edgeSizes(edge, at, write)];
  }
}

/** Finishes of top and sides; of a tier that only colours the one of the top. */
function finishWords(sign: Sign, { finish, action }: Tier, path: FieldPath, write: Writer): TicketWord[] {
  if (action.kind === 'cut-through') return [];
  const choices = finishChoices(sign, write.finishes);
  const at = [...path, 'finish'];
  const top = write.choice('finish of the top', finish?.top ?? BARE, choices, ...at, 'top');
  if (action.kind === 'mark') return [plain(' in '), top];
  return [
    ...quietIf(finish?.top === undefined, plain(sinks(action) ? ', floor ' : ', top '), top),
    ...quietIf(
      finish?.sides === undefined,
      plain(', sides '),
      write.choice('finish of the sides', finish?.sides ?? BARE, choices, ...at, 'sides'),
    ),
  ];
}

function blankFinishWords(sign: Sign, write: Writer): TicketWord[] {
  const { finish } = sign.blank;
  const choices = finishChoices(sign, write.finishes);
  const at = ['blank', 'finish'] as const;
  return [
    ...quietIf(
      finish?.face === undefined,
      plain(', face '),
      write.choice('finish of the face', finish?.face ?? BARE, choices, ...at, 'face'),
    ),
    ...quietIf(
      finish?.sides === undefined,
      plain(', edge '),
      write.choice('finish of the edge', finish?.sides ?? BARE, choices, ...at, 'sides'),
    ),
    ...quietIf(
      finish?.back === undefined,
      plain(', back '),
      write.choice('finish of the back', finish?.back ?? BARE, choices, ...at, 'back'),
    ),
  ];
}

/** The sizes of an edge form that blanks have, too. */
export function edgeSizes(edge: BlankEdge, path: FieldPath, write: Writer): TicketWord[] {
  if (edge.kind !== 'chamfered')
    return [plain(edge.kind === 'cove' ? ' of ' : ' by '), write.length('radius of the edge', edge.radius, ...path, 'radius')];
  return [
    plain(' by '),
    write.length('chamfer across', edge.width, ...path, 'width'),
    plain(' across and '),
    write.length('chamfer in height', edge.height, ...path, 'height'),
    plain(' in height'),
  ];
}

const BLANK_EDGES = [
  ['none', 'square'],
  ['rounded', 'rounded over'],
  ['chamfered', 'chamfered'],
  ['cove', 'hollowed by a cove'],
] as const;

function blankEdgeWords({ blank }: Sign, write: Writer): TicketWord[] {
  const words = (key: 'edge' | 'backEdge', name: string): TicketWord[] => {
    const edge = blank[key];
    const at = ['blank', key] as const;
    const kind = write.choice(`${name} of the blank`, edge?.kind ?? 'none', BLANK_EDGES, ...at, 'kind');
    const begin = [plain(`, its ${name} `), kind];
    return edge ? [...begin, ...edgeSizes(edge, at, write)] : quiet(...begin);
  };
  return [...words('edge', 'edge'), ...words('backEdge', 'back edge')];
}

const LYING = [
  ['false', 'following the surface'],
  ['true', 'flat, square to the surface at its place'],
] as const;

const lyingWords = (isFlat: boolean, path: FieldPath, write: Writer): TicketWord[] =>
  quietIf(!isFlat, plain(', '), write.choice('how it lies', String(isFlat), LYING, ...path, 'action', 'flat'));

function tierSentence(sign: Sign, part: Part, index: number, tier: Tier, at: number, write: Writer): Sentence {
  const path: FieldPath = ['parts', index, 'tiers', at];
  const { action } = tier;
  const host = write.choice('sits on', hostValue(part), hostChoices(sign, index), 'parts', index, 'sitsOn');
  const kind = write.choice('action', action.kind, ACTION_WORDS, ...path, 'action', 'kind');
  const words: TicketWord[] = [kind];
  switch (action.kind) {
    case 'raise':
    case 'carve':
      words.push(
        plain(' by '),
        write.length(action.kind === 'raise' ? 'height' : 'depth', action.by, ...path, 'action', 'by'),
        plain(' from '),
        host,
      );
      break;
    case 'set':
      words.push(
        plain(' of '),
        write.length('level', action.to, ...path, 'action', 'to'),
        plain(' from '),
        host,
        ...(sign.support && sign.support.kind !== 'block' ? lyingWords(action.flat ?? false, path, write) : []),
      );
      break;
    case 'line':
      words.push(
        plain(' '),
        write.length('depth', action.depth, ...path, 'action', 'depth'),
        plain(' deep and '),
        write.length('groove width', action.width, ...path, 'action', 'width'),
        plain(' wide from '),
        host,
      );
      break;
    case 'insert':
      words.push(
        plain(' of '),
        write.name('material of the insert', action.material, ...path, 'action', 'material'),
        plain(', '),
        write.length('thickness of the insert', action.thickness, ...path, 'action', 'thickness'),
        plain(' thick, its face '),
        write.length('depth', action.below, ...path, 'action', 'below'),
        plain(' below '),
        host,
        plain(', smaller than its window by '),
        write.length('clearance of the insert', action.clearance ?? 0, ...path, 'action', 'clearance'),
        plain(' all round'),
      );
      break;
    case 'mark':
    case 'cut-through':
      break;
  }
  words.push(
    ...areaWords(tier.area, path, write),
    ...edgeWords(tier, path, write),
    ...finishWords(sign, tier, path, write),
    plain(tier.on ? '.' : ' (switched off).'),
  );
  return { topic: 'heights', part: part.id, tier: tier.id, words };
}
