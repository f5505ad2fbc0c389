import { sideOf } from '../document/levels.js';
import { brailleSentences } from './braille-sentences.js';
import { codeSentences } from './code-sentences.js';
import { isAtHome, placeWords } from './place-words.js';
import { areAllRound } from '../support/places-round.js';
import { type PartExtent, rowSpacing } from '../document/copies.js';
import {
  type BrailleShape,
  type CodeShape,
  type Copies,
  type Part,
  type Shape,
  type ShapePart,
  type Sign,
} from '../document/schema.js';
import { plain, quiet, quietIf, type Sentence, type TicketWord, type Topic, type Writer } from './sentence.js';
import { shapeWords } from './shape-words.js';
import { textSentences } from './text-sentences.js';

/** The sentences about where a part is and what it looks like, before its tiers. */
export function partSentences(sign: Sign, part: Part, index: number, write: Writer): Sentence[] {
  const sentences =
    part.kind === 'text'
      ? textSentences(sign, part, index, write)
      : part.shape.kind === 'braille'
        ? brailleSentences(sign, part, part.shape, index, write)
        : part.shape.kind === 'code'
          ? codeSentences(sign, part, part.shape, index, write)
          : [shapeSentence(sign, part, part.shape, index, write)];
  const about = (topic: Topic, ...all: TicketWord[][]): Sentence[] => all.map((words) => ({ topic, part: part.id, words }));
  return [
    ...about('layout', ...sentences),
    ...about('heights', sideSentence(part, index, write), ...cutSentence(sign, part, index, write)),
    ...about('layout', copiesSentence(part, index, write)),
    ...about('heights', ...bridgeSentence(part, index, write)),
    ...about('layout', dimensionSentence(part, index, write)),
    ...(part.hidden ? about('layout', [plain(`${part.name} is hidden and is not made.`)]) : []),
  ];
}

const PART_SIDES = [
  ['front', 'front'],
  ['back', 'back'],
] as const;

const sideSentence = (part: Part, index: number, write: Writer): TicketWord[] =>
  quietIf(
    sideOf(part) === 'front',
    plain('It is on the '),
    write.choice('side of the blank', sideOf(part), PART_SIDES, 'parts', index, 'side'),
    plain(' of the blank.'),
  );

const DIMENSIONED = [
  ['false', 'left off the proof'],
  ['true', 'shown on the proof'],
] as const;

const dimensionSentence = (part: Part, index: number, write: Writer): TicketWord[] =>
  quietIf(
    !part.dimensioned,
    plain('Its dimensions are '),
    write.choice('dimensions on the proof', String(part.dimensioned ?? false), DIMENSIONED, 'parts', index, 'dimensioned'),
    plain('.'),
  );

const CUTS = [
  ['out', 'cut out'],
  ['left', 'not cut out'],
] as const;

/** Whether a part is among those that the blank is cut to. */
function cutSentence({ blank: { cutTo } }: Sign, part: Part, index: number, write: Writer): TicketWord[][] {
  if (!cutTo) return [];
  const isOut = cutTo.parts.includes(part.id);
  const choice = write.choice('cutting', isOut ? 'out' : 'left', CUTS, 'parts', index, 'cutOut');
  return [[plain('It is '), choice, plain(isOut ? ' as a letter.' : '; only what lies on the letters is made of it.')]];
}

function shapeSentence(
  sign: Sign,
  part: ShapePart,
  shape: Exclude<Shape, BrailleShape | CodeShape>,
  index: number,
  write: Writer,
): TicketWord[] {
  const path = ['parts', index, 'shape'] as const;
  const others = (ids: readonly string[]) => ids.map((id) => sign.parts.find((other) => other.id === id)?.name ?? id);
  switch (shape.kind) {
    case 'border':
      return [
        plain(`${part.name} follows `),
        write.choice('followed outline', shape.of, outlineChoices(sign, index), ...path, 'of'),
        plain(' at an inset of '),
        write.length('inset', shape.inset, ...path, 'inset'),
        ...(shape.width === 0 ? [plain(' and fills all inside it, band ')] : [plain(', a band ')]),
        write.length('band width', shape.width, ...path, 'width'),
        plain(' wide'),
        ...quietIf(isAtHome(part), plain(', moved '), ...placeWords(part, index, write)),
        plain('.'),
      ];
    case 'combined': {
      const [first, ...rest] = others(shape.of);
      const said = {
        join: `: ${[first, ...rest].join(', ')} `,
        cut: `: ${first} less ${rest.join(', ')} `,
        common: `: what ${[first, ...rest].join(', ')} share `,
      }[shape.how];
      return [
        plain(part.name + said),
        write.choice('way of combining', shape.how, HOWS, ...path, 'how'),
        ...quietIf(isAtHome(part), plain(', moved '), ...placeWords(part, index, write)),
        plain('.'),
      ];
    }
    case 'fixings':
      return [
        plain(`${part.name}: holes of `),
        write.length('diameter', shape.diameter, ...path, 'diameter'),
        plain(' '),
        write.choice('places of the holes', shape.places, HOLE_PLACES, ...path, 'places'),
        ...(shape.places === 'around'
          ? [plain(' at '), write.number('number of holes', shape.count, '', ...path, 'count'), plain(' places')]
          : []),
        plain(', their middles '),
        write.length('edge distance', shape.inset, ...path, 'inset'),
        plain(' from the edge'),
        ...quietIf(isAtHome(part), plain(', moved '), ...placeWords(part, index, write)),
        plain('.'),
      ];
    case 'line':
      return [
        plain(`${part.name}: a straight line of `),
        write.length('length', shape.length, ...path, 'length'),
        plain(', middle at '),
        ...placeWords(part, index, write),
        plain('.'),
      ];
    default:
      return [
        plain(`${part.name}: `),
        ...shapeWords(shape, write, ...path),
        plain(', middle at '),
        ...placeWords(part, index, write),
        plain('.'),
      ];
  }
}

const HOLE_PLACES = [
  ['corners', 'in the four corners'],
  ['sides', 'at the left and the right'],
  ['ends', 'at the top and the bottom'],
  ['around', 'around the edge'],
] as const;

const HOWS = [
  ['join', '(joined)'],
  ['cut', '(cut out)'],
  ['common', '(kept in common)'],
] as const;

/** The blank, and every earlier part, as values of a choice. */
const outlineChoices = (sign: Sign, before: number): (readonly [string, string])[] => [
  ['blank', 'the blank'],
  ...sign.parts.slice(0, before).map(({ id, name }) => [id, name] as const),
];

const COPIES = [
  ['once', 'made once'],
  ['row', 'repeated in a row'],
  ['ring', 'repeated in a ring'],
] as const;
const ON_FACES = [
  ['sides', 'every side'],
  ['all', 'every face'],
] as const;

const HELD = [
  ['free', 'not held'],
  ['bridged', 'held by bridges'],
] as const;

/** How the islands of a part that is cut through are held. */
function bridgeSentence({ bridges, tiers }: Part, index: number, write: Writer): TicketWord[][] {
  if (!bridges && !tiers.some(({ action }) => action.kind === 'cut-through')) return [];
  const path = ['parts', index, 'bridges'] as const;
  const kind = write.choice('islands', bridges ? 'bridged' : 'free', HELD, ...path, 'kind');
  if (!bridges) return [quiet(plain('Its islands are '), kind, plain('.'))];
  return [
    [
      plain('Its islands are '),
      kind,
      plain(', '),
      write.number('number of bridges', bridges.count, '', ...path, 'count'),
      plain(' from each, '),
      write.length('bridge width', bridges.width, ...path, 'width'),
      plain(' wide, the first at '),
      write.number('direction of the first bridge', bridges.turn, '°', ...path, 'turn'),
      plain('.'),
    ],
  ];
}

const EVENLY = [
  ['steps', 'by that step'],
  ['round', 'evenly all the way round'],
] as const;

function copiesSentence({ id, copies }: Part, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'copies'] as const;
  const choices = [
    ...COPIES,
    ...(write.support?.kind === 'block' || copies?.kind === 'faces' ? ([['faces', 'repeated']] as const) : []),
  ];
  const kind = write.choice('copies', copies?.kind ?? 'once', choices, ...path, 'kind');
  if (!copies) return quiet(plain('It is '), kind, plain('.'));
  if (copies.kind === 'faces')
    return [plain('It is '), kind, plain(' on '), write.choice('faces', copies.on, ON_FACES, ...path, 'on'), plain('.')];
  const count = write.number('number of copies', copies.count, '', ...path, 'count');
  if (copies.kind === 'row') {
    return [
      plain('It is '),
      kind,
      plain(' of '),
      count,
      plain(', each '),
      write.length('step across', copies.stepX, ...path, 'stepX'),
      plain(' across and '),
      write.length('step up', copies.stepY, ...path, 'stepY'),
      plain(' up from the last'),
      ...spacingWords(copies, write.extents.get(id), index, write),
      ...(write.support?.kind === 'cylinder'
        ? quietIf(
            !areAllRound(write.support, copies),
            plain(', '),
            write.choice('round', areAllRound(write.support, copies) ? 'round' : 'steps', EVENLY, ...path, 'evenly'),
          )
        : []),
      plain('.'),
    ];
  }
  return [
    plain('It is '),
    kind,
    plain(' of '),
    count,
    plain(' at a radius of '),
    write.length('radius of the ring', copies.radius, ...path, 'radius'),
    plain(', '),
    write.choice(
      'turning',
      String(copies.turning),
      [
        ['false', 'upright'],
        ['true', 'turning with it'],
      ],
      ...path,
      'turning',
    ),
    plain('.'),
  ];
}

/** How far apart copies in a row are, and how long it is, where it is known how large one of them is. */
function spacingWords(
  copies: Extract<Copies, { kind: 'row' }>,
  extent: PartExtent | undefined,
  index: number,
  write: Writer,
): TicketWord[] {
  const spacing = extent && rowSpacing(copies, extent);
  if (!spacing) return [];
  const path = ['parts', index, 'copies'] as const;
  return [
    plain(', with gaps of '),
    write.length('gap between copies', spacing.gap, ...path, 'gap'),
    plain(', spread evenly over '),
    write.length('length of the row', spacing.over, ...path, 'over'),
  ];
}
