import { bounds, type Box, type Contour, joinBoxes } from './contour.js';

/** The letter that a contour belongs to, for those that were marked. */
const letters = new WeakMap<Contour, object>();

/**
 * Marks the rings of one letter as settled: they neither cross nor touch but in shared corners, as the results of join, cut and
 * keepCommon do, moved on the grid or turned by quarters. Where nothing else comes near a letter, {@link arrange} need not look
 * for crossings in it, which for lettering is most of its work.
 */
export function markLetter(contours: readonly Contour[]): void {
  const letter = {};
  for (const contour of contours) letters.set(contour, letter);
}

/** The letter a contour was marked as part of. */
export const letterOf = (contour: Contour): object | undefined => letters.get(contour);

/** With more comparisons than this the search for crossings itself is cheaper. */
const MOST_COMPARISONS = 4_000_000;

const meet = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** The marked letters whose boxes neither another letter's box nor any segment of an unmarked contour reaches. */
export function lonelyLetters(layers: readonly (readonly Contour[])[]): ReadonlySet<object> {
  const boxes = new Map<object, Box>();
  const others: Contour[] = [];
  let segments = 0;
  for (const contour of layers.flat()) {
    const letter = letters.get(contour);
    if (letter) boxes.set(letter, joinBoxes(boxes.get(letter), bounds([contour]))!);
    else {
      others.push(contour);
      segments += contour.length / 2;
    }
  }
  const lonely = new Set(boxes.keys());
  if (segments * boxes.size > MOST_COMPARISONS) return new Set();

  // Letters against letters, from left to right, those that have ended taken off the list.
  const sorted = [...boxes].sort(([, a], [, b]) => a.minX - b.minX);
  let open: typeof sorted = [];
  for (const [letter, box] of sorted) {
    open = open.filter(([, before]) => before.maxX >= box.minX);
    for (const [other, before] of open) {
      if (!meet(box, before)) continue;
      lonely.delete(letter);
      lonely.delete(other);
    }
    open.push([letter, box]);
  }
  for (const contour of others) {
    const n = contour.length;
    for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
      const segment = {
        minX: Math.min(contour[i], contour[j]),
        minY: Math.min(contour[i + 1], contour[j + 1]),
        maxX: Math.max(contour[i], contour[j]),
        maxY: Math.max(contour[i + 1], contour[j + 1]),
      };
      for (const [letter, box] of sorted) {
        if (box.minX > segment.maxX) break;
        if (meet(box, segment)) lonely.delete(letter);
      }
    }
  }
  return lonely;
}
