import { bounds, contains, type Contour, contourArea, type Outline } from './contour.js';

/** One connected piece of an outline: its outer ring and the holes in it. */
export interface Polygon {
  readonly outer: Contour;
  readonly holes: readonly Contour[];
}

/** The connected pieces of an outline, largest outer ring first. A hole goes to the smallest outer ring around it. */
export function polygonsOf(outline: Outline): Polygon[] {
  const pieces = outline
    .filter((ring) => contourArea(ring) > 0)
    .map((outer) => ({ outer, holes: [] as Contour[], size: contourArea(outer), box: bounds([outer])! }))
    .sort((a, b) => b.size - a.size);
  for (const hole of outline) {
    if (contourArea(hole) >= 0) continue;
    // In the middle of an edge: a hole may touch its outer ring in corners, never along an edge.
    const [x, y] = [(hole[0] + hole[2]) / 2, (hole[1] + hole[3]) / 2];
    for (let i = pieces.length - 1; i >= 0; i--) {
      const { box, outer, holes } = pieces[i];
      if (x < box.minX || x > box.maxX || y < box.minY || y > box.maxY || !contains([outer], x, y)) continue;
      holes.push(hole);
      break;
    }
  }
  return pieces.map(({ outer, holes }) => ({ outer, holes }));
}
