import { type Box, direction } from '../geometry/index.js';
import { type NamedSection } from '../sign/index.js';
import { type Drawing, type Item, withMargin } from './drawing.js';
import { INK } from './palette.js';

/** A drawing with the marks of named sections on it: a stroke at either end of each line, and the letter that it is called by. */
export function withSectionMarks(drawing: Drawing, sections: readonly NamedSection[], textHeight: number): Drawing {
  const around = drawing.bounds;
  const marks = sections.flatMap((section) => sectionMark(section, around, textHeight));
  if (marks.length === 0) return drawing;
  return { items: [...drawing.items, ...marks], bounds: withMargin(around, 4.2 * textHeight) };
}

function sectionMark({ x, y, turn, name }: NamedSection, around: Box, textHeight: number): Item[] {
  const { cos, sin } = direction(turn);
  const ends = withinBox(x, y, cos, sin, around);
  if (!ends) return [];
  // "A–A" is marked by an A at either end.
  const letter = /^(.+)–\1$/u.exec(name)?.[1] ?? name;
  return ends.flatMap((end, i): Item[] => {
    const out = i === 0 ? -1 : 1;
    const at = (along: number): [number, number] => [x + (end + out * along) * cos, y + (end + out * along) * sin];
    const [labelX, labelY] = at(3 * textHeight);
    return [
      {
        kind: 'line',
        layer: 'sections',
        points: Float64Array.of(...at(0), ...at(2 * textHeight)),
        closed: false,
        pen: { width: textHeight / 5, colour: INK },
      },
      {
        kind: 'label',
        layer: 'sections',
        x: labelX,
        y: labelY - textHeight / 2,
        text: letter,
        height: textHeight * 1.2,
        align: 'centre',
        turn: 0,
        colour: INK,
      },
    ];
  });
}

/** Where a line enters and leaves a box, in mm along it; undefined where it passes by. */
function withinBox(
  x: number,
  y: number,
  cos: number,
  sin: number,
  { minX, minY, maxX, maxY }: Box,
): readonly [number, number] | undefined {
  let [from, to] = [-Infinity, Infinity];
  const sides = [
    [x, cos, minX, maxX],
    [y, sin, minY, maxY],
  ] as const;
  for (const [p, d, low, high] of sides) {
    if (Math.abs(d) < 1e-9) {
      if (p < low || p > high) return undefined;
      continue;
    }
    const [a, b] = [(low - p) / d, (high - p) / d];
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  return from < to ? [from, to] : undefined;
}
