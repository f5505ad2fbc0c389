import { formatLength } from '../../units/index.js';
import { type BlockBody, type LinePiece, type Sign, type Support } from '../document/schema.js';
import { lineLengths } from '../support/support-lines.js';
import { type FieldPath, plain, quiet, quietIf, type Sentence, type TicketWord, type Writer } from './sentence.js';

const KINDS = [
  ['flat', 'flat'],
  ['cylinder', 'bent around a cylinder'],
  ['cone', 'bent around a cone'],
  ['bent', 'a bent sheet'],
  ['swept', 'bent along a line'],
  ['dome', 'on a dome'],
  ['block', 'a block'],
] as const;
const FACINGS = [
  ['outside', 'outside'],
  ['inside', 'inside'],
] as const;
const AXES = [
  ['upright', 'upright'],
  ['level', 'level'],
] as const;
const ROUNDS = [
  ['part', 'part of the way round'],
  ['whole', 'all the way round'],
] as const;
const ENDS = [
  ['open', 'open at both ends'],
  ['floor', 'with a floor'],
  ['lid', 'with a lid'],
  ['both', 'with a floor and a lid'],
  ['filled', 'solid through'],
] as const;
const LINES = [
  ['ellipse', 'half an ellipse'],
  ['pieces', 'straight pieces and arcs'],
] as const;
const BODIES = [
  ['box', 'a box'],
  ['prism', 'a prism'],
  ['wedge', 'a wedge'],
] as const;
const BENDS = [
  ['away', 'away'],
  ['towards', 'towards the reader'],
] as const;

/** What a sign is bent around, or that it is flat. */
export function supportSentences(sign: Sign, write: Writer): Sentence[] {
  const { support } = sign;
  const kind = write.choice('support', support?.kind ?? 'flat', KINDS, 'support', 'kind');
  if (!support) return [{ topic: 'layout', words: quiet(plain('It is '), kind, plain('.')) }];
  return [{ topic: 'layout', words: [plain('It is '), kind, ...wordsOf(support, sign, write), plain('.')] }];
}

function wordsOf(support: Support, sign: Sign, write: Writer): TicketWord[] {
  const facing =
    'facing' in support ? [plain(', on its '), write.choice('face', support.facing, FACINGS, 'support', 'facing')] : [];
  switch (support.kind) {
    case 'cylinder':
      return [
        plain(' of '),
        write.length('radius', support.radius, 'support', 'radius'),
        plain(' radius'),
        ...facing,
        ...quietIf(!support.axis, plain(', its axis '), write.choice('axis', support.axis ?? 'upright', AXES, 'support', 'axis')),
        ...roundWords(support, write),
        ...(support.round
          ? [plain(' ('), write.length('round', 2 * Math.PI * support.radius, 'support', 'around'), plain(' round)')]
          : []),
      ];
    case 'cone':
      return [
        plain(', '),
        write.length('radius below', support.bottom, 'support', 'bottom'),
        plain(' in radius below and '),
        write.length('radius above', support.top, 'support', 'top'),
        plain(' above, '),
        write.length('height of the cone', support.height, 'support', 'height'),
        plain(' high'),
        ...facing,
        ...roundWords(support, write),
      ];
    case 'bent':
      return [
        plain(': '),
        ...pieceWords(support.pieces, write, 'inside radius', 'support', 'pieces'),
        ...quietIf(
          !support.axis,
          plain('; its bends run '),
          write.choice('axis', support.axis ?? 'upright', AXES, 'support', 'axis'),
        ),
        plain('. What keeps its length lies '),
        write.number('neutral layer', support.neutral, ' %', 'support', 'neutral'),
        plain(' of the thickness from inside'),
        ...centreWords(support, sign, write),
      ];
    case 'swept':
      return [
        plain(', '),
        write.choice('line', support.line.kind, LINES, 'support', 'line', 'kind'),
        ...(support.line.kind === 'ellipse'
          ? [
              plain(' '),
              write.length('line width', support.line.width, 'support', 'line', 'width'),
              plain(' wide and '),
              write.length('line depth', support.line.depth, 'support', 'line', 'depth'),
              plain(' deep, bending '),
              write.choice('bends', support.line.bends, BENDS, 'support', 'line', 'bends'),
            ]
          : [
              plain(': '),
              ...pieceWords(support.line.pieces, write, 'radius', 'support', 'line', 'pieces'),
              ...centreWords(support, sign, write),
            ]),
        plain('. From below it '),
        ...(support.profile.length === 0
          ? [
              plain('stands upright'),
              ...quiet(
                plain(', or '),
                write.choice('profile', 'none', [['none', 'is straight'], ...ADDED], 'support', 'profile', 0, 'kind'),
              ),
            ]
          : [plain('goes '), ...pieceWords(support.profile, write, 'radius', 'support', 'profile')]),
        ...stretchWords(support, write),
      ];
    case 'dome':
      return [
        plain(' of '),
        write.length('radius', support.radius, 'support', 'radius'),
        plain(' radius'),
        ...facing,
        ...stretchWords(support, write),
      ];
    case 'block':
      return [
        plain(': '),
        write.choice('body', support.body.kind, BODIES, 'support', 'body', 'kind'),
        ...bodyWords(support.body, write),
      ];
  }
}

function bodyWords(body: BlockBody, write: Writer): TicketWord[] {
  const size = (label: string, key: string, value: number, ...after: string[]): TicketWord[] => [
    write.length(label, value, 'support', 'body', key),
    plain(` ${after.join(' ')}`),
  ];
  switch (body.kind) {
    case 'box':
      return [
        plain(' '),
        ...size('width of the block', 'width', body.width, 'wide, '),
        ...size('height of the block', 'height', body.height, 'high and '),
        ...size('depth of the block', 'depth', body.depth, 'deep'),
        ...quietIf(
          body.chamfer === undefined,
          plain(', the edges of its front '),
          write.choice(
            'front edges',
            body.chamfer === undefined ? 'square' : 'chamfered',
            FRONT_EDGES,
            'support',
            'body',
            'edges',
          ),
        ),
        ...(body.chamfer === undefined
          ? []
          : [plain(' by '), write.length('chamfer', body.chamfer, 'support', 'body', 'chamfer')]),
      ];
    case 'prism':
      return [
        plain(' with '),
        write.number('sides', body.sides, '', 'support', 'body', 'sides'),
        plain(' sides, each '),
        ...size('width of a side', 'width', body.width, 'wide and '),
        ...size('height of the block', 'height', body.height, 'high'),
      ];
    case 'wedge':
      return [
        plain(' '),
        ...size('width of the block', 'width', body.width, 'wide and '),
        ...size('depth of the block', 'depth', body.depth, 'deep, '),
        ...size('height in front', 'front', body.front, 'high in front and '),
        ...size('height at the back', 'back', body.back, 'at the back'),
      ];
  }
}
const FRONT_EDGES = [
  ['square', 'not chamfered'],
  ['chamfered', 'chamfered'],
] as const;

function roundWords(support: Extract<Support, { kind: 'cylinder' | 'cone' }>, write: Writer): TicketWord[] {
  const { round, lid, floor, filled, facing } = support;
  const whole = [plain(', '), write.choice('how far', round ? 'whole' : 'part', ROUNDS, 'support', 'round')];
  if (!round || facing === 'inside') return round ? whole : quiet(...whole);
  const ends = filled
    ? 'filled'
    : floor !== undefined && lid !== undefined
      ? 'both'
      : floor !== undefined
        ? 'floor'
        : lid !== undefined
          ? 'lid'
          : 'open';
  return [
    ...whole,
    ...quietIf(ends === 'open', plain(', '), write.choice('ends', ends, ENDS, 'support', 'ends')),
    ...(floor !== undefined && !filled
      ? [plain(', the floor '), write.length('floor', floor, 'support', 'floor'), plain(' thick')]
      : []),
    ...(lid !== undefined && !filled ? [plain(', the lid '), write.length('lid', lid, 'support', 'lid'), plain(' thick')] : []),
  ];
}

const ADDED = [
  ['straight', 'goes on straight'],
  ['away', 'bends away'],
  ['towards', 'bends towards the reader'],
] as const;

/** "straight for [100 mm], then bent away by [90°], [inside radius] [3 mm], then …": pieces of a line, and one more. */
function pieceWords(pieces: readonly LinePiece[], write: Writer, radius: string, ...path: FieldPath): TicketWord[] {
  const kinds = (label: string): (readonly [string, string])[] => [
    ['straight', 'straight'],
    ['away', 'bent away'],
    ['towards', 'bent towards the reader'],
    ['none', `no ${label}`],
  ];
  const words = pieces.flatMap((piece, i): TicketWord[] => [
    ...(i === 0 ? [] : [plain(', then ')]),
    write.choice(`piece ${i + 1}`, piece.kind === 'straight' ? 'straight' : piece.bends, kinds('longer'), ...path, i, 'kind'),
    ...(piece.kind === 'straight'
      ? [plain(' for '), write.length(`length ${i + 1}`, piece.length, ...path, i, 'length')]
      : [
          plain(' by '),
          write.number(`angle ${i + 1}`, piece.angle, '°', ...path, i, 'angle'),
          plain(`, ${radius} `),
          write.length(`radius ${i + 1}`, piece.radius, ...path, i, 'radius'),
        ]),
  ]);
  const more = write.choice('next piece', 'none', [['none', 'ends there'], ...ADDED], ...path, pieces.length, 'kind');
  return [...words, ...quiet(plain(', and '), more)];
}

function centreWords(support: Extract<Support, { kind: 'bent' | 'swept' }>, { blank, unit }: Sign, write: Writer): TicketWord[] {
  const { line = 0 } = lineLengths(support, blank.thickness);
  return [
    plain(`, ${formatLength(line, unit)} in all`),
    ...quietIf(
      support.centre === undefined,
      plain(', its middle '),
      write.length('middle', support.centre ?? line / 2, 'support', 'centre'),
      plain(' from its beginning'),
    ),
  ];
}

const stretchWords = ({ stretch }: { readonly stretch: number }, write: Writer): TicketWord[] => [
  plain('. It may be stretched by '),
  write.number('stretch', stretch, ' %', 'support', 'stretch'),
];
