import { bounds, type Outline } from '../geometry/index.js';
import { type FontMeasures } from './catalogue.js';
import { type FontBook } from './font-book.js';
import { placeLetter, setBlock } from './setting.js';
import { PLAIN_FEATURES } from './text-choice.js';

/** mm of capitals that letters are measured at. */
const SIZE = 100;

/** Measures a font that is loaded; undefined where it has no I or O with an inside. @throws FontError where it is not loaded */
export function fontMeasures(book: FontBook, id: string): FontMeasures | undefined {
  const [i, o] = ['I', 'O'].map((words) => outlineOf(book, id, words));
  const [tall, round] = [bounds(i), bounds(o)];
  if (!tall || !round) return undefined;
  const height = tall.maxY - tall.minY;
  const rounded = (share: number): number => Number(share.toFixed(4));
  return {
    capitals: rounded(SIZE / height),
    stroke: rounded(widthAt(i, (tall.minY + tall.maxY) / 2) / height),
    roundWidth: rounded((round.maxX - round.minX) / height),
  };
}

function outlineOf(book: FontBook, id: string, words: string): Outline {
  const block = setBlock(book, {
    words,
    font: book.font(id),
    size: { kind: 'capitals', height: SIZE, stretch: 100 },
    tracking: 0,
    leading: { kind: 'percent', of: 155 },
    align: 'left',
    features: PLAIN_FEATURES,
  });
  return block.missing.length > 0 ? [] : block.letters.flatMap((letter) => placeLetter(letter).outline);
}

/** How far apart the first and the last place are at which an outline crosses a height. */
function widthAt(outline: Outline, y: number): number {
  const crossings = outline.flatMap((ring) => {
    const out: number[] = [];
    for (let k = 0; k < ring.length; k += 2) {
      const j = (k + 2) % ring.length;
      const [ax, ay, bx, by] = [ring[k], ring[k + 1], ring[j], ring[j + 1]];
      if (ay > y !== by > y) out.push(ax + ((y - ay) / (by - ay)) * (bx - ax));
    }
    return out;
  });
  return crossings.length === 0 ? 0 : Math.max(...crossings) - Math.min(...crossings);
}
