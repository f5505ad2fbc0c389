import { difference } from '../../arrangement/index.js';
import { bounds, contains, type Contour, contourArea, direction, type Outline, snapRing } from '../../geometry/index.js';
import { type Bridges } from '../../sign/index.js';

/**
 * The area of a cut without its bridges: strips that stay and hold every island, each from the island across the cut to what lies
 * beyond.
 * @param outline of one letter, rings with the inside on their left
 */
export function withBridges(outline: Outline, { width, count, turn }: Bridges): Outline {
  const islands = outline.filter((ring) => contourArea(ring) < 0);
  const strips = islands.flatMap((island) => {
    const [x, y] = placeIn(island);
    return Array.from({ length: count }, (_, i) => strip(outline, x, y, turn + (360 * i) / count, width)).flatMap(
      (one) => one ?? [],
    );
  });
  return strips.length > 0 ? difference(outline, strips) : outline;
}

/** A point well inside a ring: in the middle of the widest stretch across it at half its height. */
function placeIn(ring: Contour): readonly [number, number] {
  const { minX, maxX, minY, maxY } = bounds([ring])!;
  const middle: readonly [number, number] = [(minX + maxX) / 2, (minY + maxY) / 2];
  if (contains([ring], ...middle)) return middle;
  const across = intersections([ring], minX - 1, middle[1], 1, 0);
  let best = middle;
  let widest = 0;
  for (let i = 0; i + 1 < across.length; i += 2) {
    if (across[i + 1] - across[i] <= widest) continue;
    widest = across[i + 1] - across[i];
    best = [minX - 1 + (across[i] + across[i + 1]) / 2, middle[1]];
  }
  return best;
}

/** Distances along a ray at which it crosses rings, ascending. */
function intersections(rings: Outline, x: number, y: number, dx: number, dy: number): number[] {
  const out: number[] = [];
  for (const ring of rings) {
    for (let i = 0, j = ring.length - 2; i < ring.length; j = i, i += 2) {
      const sideA = dx * (ring[j + 1] - y) - dy * (ring[j] - x);
      const sideB = dx * (ring[i + 1] - y) - dy * (ring[i] - x);
      if (sideA > 0 === sideB > 0) continue;
      const t = sideA / (sideA - sideB);
      const along = dx * (ring[j] + t * (ring[i] - ring[j]) - x) + dy * (ring[j + 1] + t * (ring[i + 1] - ring[j + 1]) - y);
      if (along > 0) out.push(along);
    }
  }
  return out.sort((a, b) => a - b);
}

/** A strip from an island in one direction over the first stretch of cut, its ends well inside of what it joins. */
function strip(outline: Outline, x: number, y: number, degrees: number, width: number): Contour | undefined {
  const { cos, sin } = direction(degrees);
  const [from, to] = intersections(outline, x, y, cos, sin);
  if (to === undefined) return undefined;
  const [start, end, half] = [Math.max(0, from - width), to + width, width / 2];
  const corner = (along: number, aside: number) => [x + along * cos - aside * sin, y + along * sin + aside * cos];
  return snapRing([...corner(start, -half), ...corner(end, -half), ...corner(end, half), ...corner(start, half)]);
}
