import { SYMBOLOGIES, symbologyOf } from '../../codes/index.js';
import { formatLength } from '../../units/index.js';
import { codeSize, extentOfCodeShape, symbolOfShape } from '../document/code-symbol.js';
import { type CodeShape, type ShapePart, type Sign } from '../document/schema.js';
import { placeWords } from './place-words.js';
import { plain, quietIf, type TicketWord, type Writer } from './sentence.js';

const CORRECTIONS = [
  ['L', 'about 7 %'],
  ['M', 'about 15 %'],
  ['Q', 'about 25 %'],
  ['H', 'about 30 %'],
] as const;
const GROUNDS = [
  ['false', 'its dark modules'],
  ['true', 'the ground around them'],
] as const;

/** What a code says, how, and how large it is. */
export function codeSentences({ unit }: Sign, part: ShapePart, shape: CodeShape, index: number, write: Writer): TicketWord[][] {
  const path = ['parts', index, 'shape'] as const;
  const made = symbolOfShape(shape);
  const { width, height } = extentOfCodeShape(shape);
  const { isLinear } = symbologyOf(shape.symbology);
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), unit);
  return [
    [
      plain(`${part.name} says `),
      write.words('words', shape.words, ...path, 'words'),
      plain(' as '),
      write.choice(
        'kind of code',
        shape.symbology,
        SYMBOLOGIES.map(({ id, name }) => [id, name] as const),
        ...path,
        'symbology',
      ),
      ...(shape.symbology === 'qr'
        ? [
            plain(', of which '),
            write.choice('how much may be lost', shape.correction ?? 'M', CORRECTIONS, ...path, 'correction'),
            plain(' may be lost'),
          ]
        : []),
      plain('fault' in made ? '.' : made.says === shape.words ? '.' : `: a reader says ${made.says}.`),
    ],
    [
      plain('Its modules are '),
      write.length('module', shape.module, ...path, 'module'),
      ...(isLinear ? [plain(' wide, its bars '), write.length('height of bars', codeSize(shape).height, ...path, 'height'), plain(' high')] : []), // prettier-ignore
      plain('fault' in made ? ', ' : `, ${made.columns} across: ${length(width)}${isLinear ? '' : ` by ${length(height)}`}, `),
      plain('middle at '),
      ...placeWords(part, index, write),
      plain('.'),
    ],
    quietIf(
      shape.ground !== true,
      plain('Its outline is '),
      write.choice('outline of the code', String(shape.ground === true), GROUNDS, ...path, 'ground'),
      plain('.'),
    ),
  ];
}
