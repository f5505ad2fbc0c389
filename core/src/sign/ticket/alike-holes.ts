import { formatLength } from '../../units/index.js';
import { type Part, type Sign } from '../document/schema.js';

const NUMBERS = [
  'no',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
] as const;

/** "four", and "16" from thirteen on. */
export const numberWord = (count: number): string => NUMBERS[count] ?? String(count);

/** "20 mm, 40 mm and 60 mm". */
export const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`;

interface Point {
  readonly x: number;
  readonly y: number;
}

/**
 * Places in words: "at 20 mm and 460 mm from the left, 20 mm and 300 mm from below", and one by one where they are not the crossings of
 * columns and rows.
 * @param directions what is said of an x and of a y: "from the left", "from below"
 */
export function placesInWords(
  points: readonly Point[],
  directions: readonly [string, string],
  length: (mm: number) => string,
): string {
  const pairs = points.map(({ x, y }) => [length(x), length(y)] as const);
  const inOrder = (of: (point: Point) => number): string[] => [
    ...new Set([...points].sort((a, b) => of(a) - of(b)).map((point) => length(of(point)))),
  ];
  const [columns, rows] = [inOrder(({ x }) => x), inOrder(({ y }) => y)];
  const isGrid = new Set(pairs.map((pair) => pair.join(' '))).size === columns.length * rows.length;
  if (isGrid && columns.length * rows.length === points.length)
    return `at ${listed(columns)} ${directions[0]}, ${listed(rows)} ${directions[1]}`;
  return `${directions.join(' and ')} at ${pairs.map((pair) => pair.join(', ')).join('; ')}`;
}

/** The diameter of a part that is a round hole and nothing else; undefined for others. */
function holeDiameter(part: Part): number | undefined {
  const { tiers, copies, hidden } = part;
  if (part.kind !== 'shape' || part.shape.kind !== 'circle' || copies || hidden || part.side) return undefined;
  const on = tiers.filter((tier) => tier.on);
  const isHole = on.length === 1 && on[0].action.kind === 'cut-through' && on[0].area.kind === 'outline' && !part.bridges;
  return isHole ? part.shape.diameter : undefined;
}

/**
 * Holes that follow each other and are alike but for their places, as one sentence: "Four holes of 7 mm (Hole 1 to Hole 4) …". By the
 * id of the first of them; the others have none of their own.
 */
export function holeSentences({ parts, unit }: Sign): ReadonlyMap<string, string> {
  const out = new Map<string, string>();
  for (let i = 0; i < parts.length;) {
    const diameter = holeDiameter(parts[i]);
    let end = i + 1;
    while (diameter !== undefined && end < parts.length && holeDiameter(parts[end]) === diameter) end++;
    const alike = parts.slice(i, end);
    if (alike.length > 1) {
      const length = (mm: number): string => formatLength(mm, unit);
      const names = `${alike[0].name} to ${alike[alike.length - 1].name}`;
      const places = placesInWords(
        alike.map(({ place }) => place),
        ['across', 'up from the middle'],
        length,
      );
      const many = numberWord(alike.length);
      out.set(
        alike[0].id,
        `${many.charAt(0).toUpperCase()}${many.slice(1)} holes of ${length(diameter!)} (${names}) ${places}. Cut through.`,
      );
      for (const { id } of alike.slice(1)) out.set(id, '');
    }
    i = end;
  }
  return out;
}
