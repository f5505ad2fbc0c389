import { ballCap, BRAILLE_TABLES, dotsOf } from '../../braille/index.js';
import { formatLength } from '../../units/index.js';
import { followedText, isStale } from '../document/braille-words.js';
import { type BrailleShape, type ShapePart, type Sign } from '../document/schema.js';
import { placeWords } from './place-words.js';
import { plain, quietIf, type TicketWord, type Writer } from './sentence.js';

const ALIGNS = [
  ['left', 'to the left'],
  ['centre', 'in the middle'],
  ['right', 'to the right'],
] as const;
const CAPITALS = [
  ['false', 'not indicated'],
  ['true', 'indicated'],
] as const;
const ORIGINS = [
  ['false', 'as they are translated'],
  ['true', 'corrected by hand'],
] as const;
const ROOMS = [
  ['false', 'as long as they are'],
  ['true', 'broken'],
] as const;
const DOTS = [
  ['false', 'domes'],
  ['true', 'holes for balls'],
] as const;
const NO_CELLS = 'no cells yet';

/** Cells by the numbers of their dots, as they are read out: “1235 2 145”. Every font has figures. */
function dotNumbers(cells: string): string {
  const numbers = (cell: string): string => dotsOf(cell).map(([column, row]) => 1 + row + 3 * column).join('') || '–'; // prettier-ignore
  const lines = cells.split('\n').map((line) => [...line].map(numbers).join(' '));
  return cells === '' ? NO_CELLS : lines.join(' / ');
}

/** What a part in braille says, in which cells, and how large they are. */
export function brailleSentences(sign: Sign, part: ShapePart, shape: BrailleShape, index: number, write: Writer): TicketWord[][] {
  const path = ['parts', index, 'shape'] as const;
  const texts = sign.parts.flatMap(({ kind, id, name }) => (kind === 'text' ? [[id, `the words of ${name}`] as const] : []));
  const text = followedText(sign, shape);
  const length = (label: string, field: 'base' | 'dots' | 'cell' | 'line' | 'room' | 'ball', value: number): TicketWord =>
    write.length(label, value, ...path, field);
  return [
    [
      plain(`${part.name} says `),
      write.choice('words in braille', text?.id ?? 'own', [['own', 'words of its own'], ...texts], ...path, 'follows'),
      ...(text ? [] : [plain(' '), write.words('words', shape.words, ...path, 'words')]),
      plain(' by the table '),
      write.choice(
        'braille table',
        shape.table,
        BRAILLE_TABLES.map(({ id, name }) => [id, name] as const),
        ...path,
        'table',
      ),
      ...quietIf(
        !shape.capitals,
        plain(', words in capitals alone '),
        write.choice('capitals in braille', String(shape.capitals === true), CAPITALS, ...path, 'capitals'),
      ),
      plain('.'),
    ],
    quietIf(
      !shape.corrected && !isStale(sign, shape),
      plain('Its cells '),
      write.choice('where the cells are from', String(shape.corrected === true), ORIGINS, ...path, 'corrected'),
      plain(' are '),
      { ...write.words('cells', shape.cells, ...path, 'cells'), text: dotNumbers(shape.cells) },
      plain(isStale(sign, shape) ? ', which are not those of the words as they are now.' : '.'),
    ),
    [
      plain('Its lines are aligned '),
      write.choice('alignment', shape.align, ALIGNS, ...path, 'align'),
      plain(' at '),
      ...placeWords(part, index, write),
      ...quietIf(
        shape.room === undefined,
        plain(', '),
        write.choice('breaking of lines', String(shape.room !== undefined), ROOMS, ...path, 'limited'),
      ),
      ...(shape.room === undefined ? [] : [plain(' to fit '), length('room for lines', 'room', shape.room)]),
      plain('.'),
    ],
    [
      plain('Its dots are '),
      write.choice('dots', String(shape.ball !== undefined), DOTS, ...path, 'isBalls'),
      plain(' of '),
      shape.ball === undefined ? length('diameter of dots', 'base', shape.base) : length('diameter of balls', 'ball', shape.ball),
      ...(shape.ball === undefined ? [] : [plain(ballWords(part, shape.ball, sign))]),
      plain(', '),
      length('distance of dots', 'dots', shape.dots),
      plain(' apart, cells '),
      length('distance of cells', 'cell', shape.cell),
      plain(', lines '),
      length('distance of lines', 'line', shape.line),
      plain('.'),
    ],
  ];
}

/** How high balls stand in holes as deep as they are. */
function ballWords({ tiers }: ShapePart, ball: number, { unit }: Sign): string {
  const depth = tiers.find(({ action }) => action.kind === 'carve')?.action;
  if (depth?.kind !== 'carve') return '';
  const { height, base } = ballCap(ball, depth.by);
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  return `, which stand ${length(height)} high and ${length(base)} wide`;
}
