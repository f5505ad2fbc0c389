import { placeWords } from './place-words.js';
import { type Sign, type TextFrame, type TextPart, type TextPath } from '../document/schema.js';
import { plain, quiet, quietIf, type TicketWord, type Writer } from './sentence.js';

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
      // The width stays what it is: what is drawn wider is lower for it.
      return [
        kind,
        plain(' '),
        write.length('overall width', size.width, ...path, 'width'),
        ...(size.stretch === 100 ? stretched : [...stretched, plain(' and as much lower')]),
      ];
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

/** The sentences about words: how they are set, what frame they keep to, and along what they run. */
export function textSentences(sign: Sign, part: TextPart, index: number, write: Writer): TicketWord[][] {
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
    ...(sign.support && sign.support.kind !== 'block' ? [projectedSentence(part, index, write)] : []),
    featureSentence(part, index, write),
  ];
}

const FRAMES = [
  ['none', 'not fitted into a frame'],
  ['frame', 'fitted into a frame'],
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
  if (!frame) return quiet(plain('It is '), choice, plain('.'));
  return [
    plain('It is '),
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
  ['arc', 'on an arc'],
  ['straight', 'on a straight line'],
  ...(sign.support?.kind === 'block' ? [['sides', 'around the sides'] as const] : []),
  ...(sign.support?.kind === 'cone' ? [['level', 'on the level line that it is on'] as const] : []),
  ...sign.parts
    .slice(0, before)
    .filter((part) => part.kind === 'shape')
    .map(({ id, name }) => [`part:${id}`, `along ${name}`] as const),
];

const PROJECTED = [
  ['false', 'as they lie in the plan'],
  ['true', 'as they look from straight before them'],
] as const;

function projectedSentence({ projected }: TextPart, index: number, write: Writer): TicketWord[] {
  const choice = write.choice('laid on', String(projected ?? false), PROJECTED, 'parts', index, 'projected');
  return quietIf(!projected, plain('Its letters are laid on the surface '), choice, plain('.'));
}

function pathSentence(sign: Sign, line: TextPath | undefined, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'path'] as const;
  const value = line === undefined ? 'none' : line.kind === 'part' ? `part:${line.part}` : line.kind;
  const choice = write.choice('way it runs', value, pathChoices(sign, index), ...path, 'kind');
  const begin = [plain('It is set '), choice];
  if (!line) return quiet(...begin, plain('.'));
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
    case 'sides':
      return [...begin, ...shift, plain('.')];
    case 'part':
      return [...begin, plain(', '), write.choice('side', line.side, SIDES, ...path, 'side'), ...shift, plain('.')];
  }
}

/** What a font may have besides its plain letters, as choices between two. */
const SMALL_CAPITALS = [
  ['true', 'small capitals'],
  ['false', 'no small capitals'],
] as const;
const FIGURES = [
  ['true', 'old-style figures'],
  ['false', 'lining figures'],
] as const;
const LIGATURES = [
  ['true', 'ligatures'],
  ['false', 'no ligatures'],
] as const;

function featureSentence({ features }: TextPart, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'features'] as const;
  const { ligatures, smallCapitals, oldStyleFigures } = features ?? NO_FEATURES;
  return quietIf(
    !smallCapitals && ligatures && !oldStyleFigures,
    plain('It has '),
    write.choice('small capitals', String(smallCapitals), SMALL_CAPITALS, ...path, 'smallCapitals'),
    plain(', '),
    write.choice('old-style figures', String(oldStyleFigures), FIGURES, ...path, 'oldStyleFigures'),
    plain(' and '),
    write.choice('ligatures', String(ligatures), LIGATURES, ...path, 'ligatures'),
    plain('.'),
  );
}

/** What is meant where a text says nothing of alternates. */
export const NO_FEATURES: NonNullable<TextPart['features']> = { ligatures: true, smallCapitals: false, oldStyleFigures: false };
