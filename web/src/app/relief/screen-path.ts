/** What a polyline looks like after its first point, kept as long as the polyline: most of a sign stays as it is from edit to edit. */
const known = new WeakMap<Float64Array, string>();

/**
 * Path data for the screen in whole micrometres, y downwards, every point relative to the one before: a third of the
 * characters of absolute millimetres, which the browser parses on its main thread. To be drawn under scale(0.001).
 */
export const screenRings = (rings: Iterable<Float64Array>): string => pathOf(rings, 'z');

/** The same of open strokes. */
export const screenStrokes = (strokes: Iterable<Float64Array>): string => pathOf(strokes, '');

function pathOf(polylines: Iterable<Float64Array>, end: string): string {
  let path = '';
  for (const polyline of polylines) {
    let body = known.get(polyline);
    if (body === undefined) known.set(polyline, (body = bodyOf(polyline)));
    path += `M${Math.round(polyline[0] * 1000)} ${Math.round(-polyline[1] * 1000)}${body}${end}`;
  }
  return path;
}

function bodyOf(polyline: Float64Array): string {
  let [penX, penY] = [Math.round(polyline[0] * 1000), Math.round(-polyline[1] * 1000)];
  let body = '';
  for (let i = 2; i < polyline.length; i += 2) {
    const [x, y] = [Math.round(polyline[i] * 1000), Math.round(-polyline[i + 1] * 1000)];
    if (x === penX && y === penY) continue;
    body += y < penY ? `l${x - penX}${y - penY}` : `l${x - penX} ${y - penY}`;
    [penX, penY] = [x, y];
  }
  return body;
}
