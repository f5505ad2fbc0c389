import { bounds, type Box, type Contour } from './contour.js';

/** A marked letter: its rings, and the box around them. */
interface Letter {
  readonly contours: readonly Contour[];
  readonly box: Box;
}

/** The letter that a contour belongs to, for those that were marked. */
const letters = new WeakMap<Contour, Letter>();

/**
 * Marks the rings of one letter as settled: they neither cross nor touch but in shared corners, outer rings one way and holes the
 * other, as the results of join, cut and keepCommon are, moved on the grid, mirrored, or turned by quarters. Where nothing else
 * comes near a letter, {@link arrange} asks once what lies around it instead of working through its edges, which for lettering
 * are nearly all there are.
 */
export function markLetter(contours: readonly Contour[]): void {
  const rings = contours.filter((contour) => contour.length >= 6);
  if (rings.length === 0) return;
  const letter = { contours: rings, box: bounds(rings)! };
  for (const contour of rings) letters.set(contour, letter);
}

/** With more comparisons than this the search for crossings itself is cheaper. */
const MOST_COMPARISONS = 4_000_000;

const meet = (a: Box, b: Box): boolean => a.minX <= b.maxX && b.minX <= a.maxX && a.minY <= b.maxY && b.minY <= a.maxY;

/** A marked letter that nothing comes near. */
export interface LonelyLetter extends Letter {
  /** Every layer that it is part of, ascending. */
  readonly layers: readonly number[];
}

interface Found extends Letter {
  readonly layers: number[];
  /** Contours counted over all layers. */
  count: number;
}

/** The letters whose boxes neither another letter's box nor any segment of another contour reaches. */
export function lonelyLetters(layers: readonly (readonly Contour[])[]): LonelyLetter[] {
  const found = new Map<Letter, Found>();
  const others: Contour[] = [];
  let segments = 0;
  layers.forEach((contours, layer) => {
    for (const contour of contours) {
      const letter = letters.get(contour);
      if (!letter) {
        others.push(contour);
        segments += contour.length / 2;
        continue;
      }
      let known = found.get(letter);
      if (!known) found.set(letter, (known = { ...letter, layers: [], count: 0 }));
      known.count++;
      if (known.layers[known.layers.length - 1] !== layer) known.layers.push(layer);
    }
  });
  if (segments * found.size > MOST_COMPARISONS) return [];
  // Each of its layers must have the whole letter, once.
  const lonely = new Set([...found.values()].filter((each) => each.count === each.contours.length * each.layers.length));

  // Letters against letters, from left to right, those that have ended taken off the list.
  const sorted = [...found.values()].sort((a, b) => a.box.minX - b.box.minX);
  let open: Found[] = [];
  for (const letter of sorted) {
    open = open.filter((before) => before.box.maxX >= letter.box.minX);
    for (const before of open) {
      if (!meet(letter.box, before.box)) continue;
      lonely.delete(letter);
      lonely.delete(before);
    }
    open.push(letter);
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
      for (const letter of sorted) {
        if (letter.box.minX > segment.maxX) break;
        if (meet(letter.box, segment)) lonely.delete(letter);
      }
    }
  }
  return [...lonely];
}
