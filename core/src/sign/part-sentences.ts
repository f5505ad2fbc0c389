import { plain, quietIf, type FieldPath, type Sentence, type TicketWord, type Writer } from './sentence.js';
import type { Blank, Copies, Part, Shape, ShapePart, Sign, TextFrame, TextPart, TextPath } from './schema.js';

/** Shapes that have sizes of their own, by the words of a choice. */
const OWN_SHAPES = [
  ['rectangle', 'a rectangle'],
  ['circle', 'a circle'],
  ['ellipse', 'an ellipse'],
  ['stadium', 'a stadium'],
  ['polygon', 'a regular polygon'],
  ['arch', 'an arch'],
] as const;
const CORNERS = [
  ['rounded', 'rounded'],
  ['chamfered', 'chamfered'],
  ['scooped', 'scooped'],
] as const;
const STANDS = [
  ['flat', 'on a side'],
  ['point', 'on a corner'],
] as const;

/** "a rectangle [w] wide and [h] high, corners [rounded] by [r]": a shape with sizes of its own. */
export function shapeWords(
  shape: Exclude<Shape, { kind: 'border' | 'combined' | 'line' | 'fixings' }> | Blank['outline'],
  write: Writer,
  ...path: FieldPath
): TicketWord[] {
  const kinds = shape.kind === 'outline' ? [...OWN_SHAPES, ['outline', 'an outline'] as const] : OWN_SHAPES;
  const kind = write.choice('shape', shape.kind, kinds, ...path, 'kind');
  const size = (label: 'width' | 'height' | 'diameter' | 'rise', value: number) => write.length(label, value, ...path, label);
  switch (shape.kind) {
    case 'circle':
      return [kind, plain(' of '), size('diameter', shape.diameter)];
    case 'polygon':
      return [
        kind,
        plain(' of '),
        write.number('sides', shape.sides, '', ...path, 'sides'),
        plain(' sides in a circle of '),
        size('diameter', shape.diameter),
        plain(', standing '),
        write.choice('stand', shape.stands, STANDS, ...path, 'stands'),
      ];
    default:
      return [
        kind,
        plain(' '),
        size('width', shape.width),
        plain(' wide and '),
        size('height', shape.height),
        plain(' high'),
        ...(shape.kind === 'rectangle' ? cornerWords(shape, write, path) : []),
        ...(shape.kind === 'arch' ? [plain(', its arc rising '), size('rise', shape.rise)] : []),
      ];
  }
}

function cornerWords(shape: Extract<Shape, { kind: 'rectangle' }>, write: Writer, path: FieldPath): TicketWord[] {
  return quietIf(
    shape.cornerRadius === 0,
    plain(', corners '),
    write.choice('corners', shape.corners ?? 'rounded', CORNERS, ...path, 'corners'),
    plain(' by '),
    write.length('corner radius', shape.cornerRadius, ...path, 'cornerRadius'),
  );
}

/** The sentences about where a part is and what it looks like, before its tiers. */
export function partSentences(sign: Sign, part: Part, index: number, write: Writer): Sentence[] {
  const sentences = part.kind === 'text' ? textSentences(sign, part, index, write) : [shapeSentence(sign, part, index, write)];
  const bench = part.hidden ? [[plain(`${part.name} is hidden and is not made.`)]] : [];
  return [...sentences, copiesSentence(part.copies, index, write), ...bridgeSentence(part, index, write), ...bench].map(
    (words) => ({ part: part.id, words }),
  );
}

function placeWords(part: Part, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'place'] as const;
  return [
    write.length('place across', part.place.x, ...path, 'x'),
    plain(' across and '),
    write.length('place up', part.place.y, ...path, 'y'),
    plain(' up from the middle'),
    ...quietIf(part.place.turn === 0, plain(', turned '), write.number('turn', part.place.turn, '°', ...path, 'turn')),
    ...quietIf(
      !part.place.mirror,
      plain(', '),
      write.choice(
        'mirroring',
        String(part.place.mirror),
        [
          ['false', 'not mirrored'],
          ['true', 'mirrored'],
        ],
        ...path,
        'mirror',
      ),
    ),
  ];
}

const isAtHome = ({ place }: Part): boolean => place.x === 0 && place.y === 0 && place.turn === 0 && !place.mirror;

function shapeSentence(sign: Sign, part: ShapePart, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'shape'] as const;
  const { shape } = part;
  const others = (ids: readonly string[]) => ids.map((id) => sign.parts.find((other) => other.id === id)?.name ?? id);
  switch (shape.kind) {
    case 'border':
      return [
        plain(`${part.name} follows `),
        write.choice('followed outline', shape.of, outlineChoices(sign, index), ...path, 'of'),
        plain(' at an inset of '),
        write.length('inset', shape.inset, ...path, 'inset'),
        ...(shape.width === 0 ? [plain(' and takes in all within, band ')] : [plain(', a band ')]),
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
  ['once', 'once'],
  ['row', 'in a row'],
  ['ring', 'in a ring'],
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
  if (!bridges) return [quietIf(true, plain('Its islands are '), kind, plain('.'))];
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

function copiesSentence(copies: Copies | undefined, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'copies'] as const;
  const kind = write.choice('copies', copies?.kind ?? 'once', COPIES, ...path, 'kind');
  if (!copies) return quietIf(true, plain('It is there '), kind, plain('.'));
  const count = write.number('number of copies', copies.count, '', ...path, 'count');
  if (copies.kind === 'row') {
    return [
      plain('It is there '),
      kind,
      plain(' of '),
      count,
      plain(', each '),
      write.length('step across', copies.stepX, ...path, 'stepX'),
      plain(' across and '),
      write.length('step up', copies.stepY, ...path, 'stepY'),
      plain(' up from the last.'),
    ];
  }
  return [
    plain('It is there '),
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

const SIZES = [
  ['capitals', 'capitals'],
  ['em', 'font size'],
  ['seen-width', 'overall width'],
  ['seen-height', 'overall height'],
  ['seen', 'overall'],
] as const;
const ALIGN = [
  ['centre', 'centred'],
  ['left', 'set left'],
  ['right', 'set right'],
  ['justified', 'justified'],
] as const;

function sizeWords({ size }: TextPart, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'size'] as const;
  const kind = write.choice('kind of size', size.kind, SIZES, ...path, 'kind');
  const stretched =
    size.kind === 'seen'
      ? []
      : quietIf(
          size.stretch === 100,
          plain(', letters '),
          write.number('stretch', size.stretch, ' %', ...path, 'stretch'),
          plain(' wide'),
        );
  switch (size.kind) {
    case 'capitals':
      return [kind, plain(' '), write.length('cap height', size.height, ...path, 'height'), plain(' tall'), ...stretched];
    case 'em':
      return [kind, plain(' '), write.length('font size', size.size, ...path, 'size'), ...stretched];
    case 'seen-width':
      return [kind, plain(' '), write.length('overall width', size.width, ...path, 'width'), ...stretched];
    case 'seen-height':
      return [kind, plain(' '), write.length('overall height', size.height, ...path, 'height'), ...stretched];
    case 'seen':
      return [
        kind,
        plain(' '),
        write.length('overall width', size.width, ...path, 'width'),
        plain(' wide and '),
        write.length('overall height', size.height, ...path, 'height'),
        plain(' high'),
      ];
  }
}

function textSentences(sign: Sign, part: TextPart, index: number, write: Writer): TicketWord[][] {
  const path = ['parts', index] as const;
  const isOneLine = !part.words.includes('\n') && !part.frame?.fit.some(({ kind }) => kind === 'wrap');
  return [
    [
      write.words('words', part.words, ...path, 'words'),
      plain(' set in '),
      write.font('font', part.font, ...path, 'font'),
      plain(', '),
      ...sizeWords(part, index, write),
      ...quietIf(part.tracking === 0, plain(', tracking '), write.number('tracking', part.tracking, ' %', ...path, 'tracking')),
      ...(isOneLine ? [] : [plain(', leading '), write.measure('leading', part.leading, ...path, 'leading')]),
      plain(', '),
      write.choice('alignment', part.align, ALIGN, ...path, 'align'),
      plain(' at '),
      ...placeWords(part, index, write),
      plain('.'),
    ],
    frameSentence(part.frame, index, write),
    pathSentence(sign, part.path, index, write),
    featureSentence(part, index, write),
  ];
}

const FRAMES = [
  ['none', 'no frame'],
  ['frame', 'a frame'],
] as const;
const UPRIGHT = [
  ['top', 'at its top'],
  ['middle', 'in its middle'],
  ['bottom', 'at its bottom'],
] as const;
const FITS = [
  ['tighten', 'tightened to'],
  ['narrow', 'narrowed to'],
  ['reduce', 'reduced to'],
  ['wrap', 'broken into'],
] as const;
const NO_FIT = ['none', 'nothing more'] as const;

function frameSentence(frame: TextFrame | undefined, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'frame'] as const;
  const choice = write.choice('frame', frame ? 'frame' : 'none', FRAMES, ...path, 'kind');
  if (!frame) return quietIf(true, plain('It keeps to '), choice, plain('.'));
  return [
    plain('It keeps to '),
    choice,
    plain(' '),
    write.length('frame width', frame.width, ...path, 'width'),
    plain(' wide and '),
    write.length('frame height', frame.height, ...path, 'height'),
    plain(' high, margins '),
    write.measure('margin across', frame.marginAcross, ...path, 'marginAcross'),
    plain(' and '),
    write.measure('margin up', frame.marginUp, ...path, 'marginUp'),
    plain(', '),
    write.choice('upright place', frame.upright, UPRIGHT, ...path, 'upright'),
    plain('; where it does not fit it is '),
    ...frame.fit.flatMap((step, at) => {
      const here = [...path, 'fit', at] as const;
      const amount =
        step.kind === 'wrap'
          ? [write.number('most lines', step.lines, '', ...here, 'lines'), plain(' lines')]
          : [write.number('floor', step.floor, ' %', ...here, 'floor')];
      return [
        ...(at > 0 ? [plain(', then ')] : []),
        write.choice(`way of fitting ${at + 1}`, step.kind, [...FITS, NO_FIT], ...here, 'kind'),
        plain(' '),
        ...amount,
      ];
    }),
    ...(frame.fit.length < FITS.length
      ? quietIf(
          frame.fit.length > 0,
          ...(frame.fit.length > 0 ? [plain(', then ')] : []),
          write.choice(
            'another way of fitting',
            'none',
            [NO_FIT, ...FITS.filter(([kind]) => !frame.fit.some((step) => step.kind === kind))],
            ...path,
            'fit',
            frame.fit.length,
            'kind',
          ),
        )
      : []),
    plain('.'),
  ];
}

const READS = [
  ['top', 'from the top'],
  ['bottom', 'from the bottom'],
] as const;
const SIDES = [
  ['outside', 'outside'],
  ['inside', 'inside'],
] as const;

/** How a text runs, as values of a choice: straight across, along a line of its own, or along an earlier part. */
export const pathChoices = (sign: Sign, before: number): (readonly [string, string])[] => [
  ['none', 'straight across'],
  ['arc', 'along an arc'],
  ['straight', 'along a straight line'],
  ...sign.parts
    .slice(0, before)
    .filter((part) => part.kind === 'shape')
    .map(({ id, name }) => [`part:${id}`, `along ${name}`] as const),
];

function pathSentence(sign: Sign, line: TextPath | undefined, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'path'] as const;
  const value = line === undefined ? 'none' : line.kind === 'part' ? `part:${line.part}` : line.kind;
  const choice = write.choice('way it runs', value, pathChoices(sign, index), ...path, 'kind');
  const begin = [plain('It runs '), choice];
  if (!line) return quietIf(true, ...begin, plain('.'));
  const shift = quietIf(
    line.shift === 0,
    plain(', moved '),
    write.length('shift along', line.shift, ...path, 'shift'),
    plain(' along it'),
  );
  switch (line.kind) {
    case 'arc':
      return [
        ...begin,
        plain(' of '),
        write.length('radius', line.radius, ...path, 'radius'),
        plain(' over '),
        write.number('span', line.span, '°', ...path, 'span'),
        plain(', read '),
        write.choice('reading', line.reads, READS, ...path, 'reads'),
        plain(', '),
        write.choice('side', line.side, SIDES, ...path, 'side'),
        ...shift,
        plain('.'),
      ];
    case 'straight':
      return [...begin, plain(' of '), write.length('length of the line', line.length, ...path, 'length'), ...shift, plain('.')];
    case 'part':
      return [...begin, plain(', '), write.choice('side', line.side, SIDES, ...path, 'side'), ...shift, plain('.')];
  }
}

const withOr = (word: string) =>
  [
    ['true', `with ${word}`],
    ['false', `without ${word}`],
  ] as const;

function featureSentence({ features }: TextPart, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'features'] as const;
  const { ligatures, smallCapitals, oldStyleFigures } = features ?? NO_FEATURES;
  return quietIf(
    !smallCapitals && ligatures && !oldStyleFigures,
    plain('It is set '),
    write.choice('small capitals', String(smallCapitals), withOr('small capitals'), ...path, 'smallCapitals'),
    plain(', '),
    write.choice('old-style figures', String(oldStyleFigures), withOr('old-style figures'), ...path, 'oldStyleFigures'),
    plain(', '),
    write.choice('ligatures', String(ligatures), withOr('ligatures'), ...path, 'ligatures'),
    plain('.'),
  );
}

/** What is meant where a text says nothing of alternates. */
export const NO_FEATURES: NonNullable<TextPart['features']> = { ligatures: true, smallCapitals: false, oldStyleFigures: false };
