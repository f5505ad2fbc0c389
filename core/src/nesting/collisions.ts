import { type Box, bounds, contains, gapBetween, type Outline } from '../geometry/index.js';
import { type Clamp, laidOutline, type Nest, type NestChoice, rectangleOf, sizeOfSheet } from './nest-choice.js';

/**
 * Outlines that lie nearer to another one, to the edge of their sheet or to a clamp than they may: such as were put there by hand.
 * @returns their items
 */
export function colliding(outlines: readonly Outline[], { laid }: Pick<Nest, 'laid'>, choice: NestChoice): Set<number> {
  const { spacing, margin, offcuts = [], clamps = [], locked = [] } = choice;
  const byHand = new Set(locked.map(({ item }) => item));
  const placed = laid.map((each) => {
    const outline = laidOutline(outlines[each.item], each);
    return { ...each, outline, box: bounds(outline)! };
  });
  const found = new Set<number>();
  for (const one of placed) {
    if (!byHand.has(one.item)) continue;
    const { width, height } = sizeOfSheet(choice, one.sheet);
    const { minX, minY, maxX, maxY } = one.box;
    if (Math.min(minX, minY, width - maxX, height - maxY) < margin - SLACK) found.add(one.item);
    const own = one.sheet < offcuts.length ? [] : clamps;
    if (own.some((clamp) => isNear(one, clampAt(clamp), spacing))) found.add(one.item);
    for (const other of placed) {
      if (other === one || other.sheet !== one.sheet || !isNear(one, other, spacing)) continue;
      found.add(one.item);
      if (byHand.has(other.item)) found.add(other.item);
    }
  }
  return found;
}

/** mm that are no fault. */
const SLACK = 2e-3;

interface Lying {
  readonly outline: Outline;
  readonly box: Box;
}

function clampAt(clamp: Clamp): Lying {
  const outline = rectangleOf(clamp);
  return { outline, box: bounds(outline)! };
}

function isNear(one: Lying, other: Lying, spacing: number): boolean {
  const [a, b] = [one.box, other.box];
  if (a.minX > b.maxX + spacing || b.minX > a.maxX + spacing || a.minY > b.maxY + spacing || b.minY > a.maxY + spacing) return false; // prettier-ignore
  // One inside of the other is at some distance of its edges, too.
  if (isInside(one.outline, other.outline) || isInside(other.outline, one.outline)) return true;
  return gapBetween(one.outline, other.outline, 'edges', spacing) < spacing - SLACK;
}

/** Whether the first corner of an outline lies in the material of another. */
const isInside = ([[x, y]]: Outline, other: Outline): boolean => contains(other, x, y);
