/**
 * Which share of the way from (ax, ay) along (dx, dy) leads to the point of that segment that is closest to (x, y): from 0 to 1, and 0
 * for a segment of no length.
 */
export function closestShare(ax: number, ay: number, dx: number, dy: number, x: number, y: number): number {
  const square = dx * dx + dy * dy;
  return square === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / square));
}

/** Square of the distance of (x, y) from the segment between two points. */
export function squareToSegment(ax: number, ay: number, bx: number, by: number, x: number, y: number): number {
  const [dx, dy] = [bx - ax, by - ay];
  const t = closestShare(ax, ay, dx, dy, x, y);
  return (ax + t * dx - x) ** 2 + (ay + t * dy - y) ** 2;
}
