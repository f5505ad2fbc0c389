/** What a run looks like after its first point, kept as long as the run: most of a sign stays as it is from edit to edit. */
const known = new WeakMap<Float64Array, string>();

/**
 * Path data for the screen in whole micrometres, y downwards, every point relative to the one before: a third of the
 * characters of absolute millimetres, which the browser parses on its main thread. To be drawn under scale(0.001).
 */
export const screenRings = (rings: Iterable<Float64Array>): string => pathOf(rings, 'z');

/** The same of open strokes. */
export const screenStrokes = (strokes: Iterable<Float64Array>): string => pathOf(strokes, '');

function pathOf(runs: Iterable<Float64Array>, end: string): string {
  let path = '';
  for (const run of runs) {
    let body = known.get(run);
    if (body === undefined) known.set(run, (body = bodyOf(run)));
    path += `M${Math.round(run[0] * 1000)} ${Math.round(-run[1] * 1000)}${body}${end}`;
  }
  return path;
}

function bodyOf(run: Float64Array): string {
  let [penX, penY] = [Math.round(run[0] * 1000), Math.round(-run[1] * 1000)];
  let body = '';
  for (let i = 2; i < run.length; i += 2) {
    const [x, y] = [Math.round(run[i] * 1000), Math.round(-run[i + 1] * 1000)];
    if (x === penX && y === penY) continue;
    body += y < penY ? `l${x - penX}${y - penY}` : `l${x - penX} ${y - penY}`;
    [penX, penY] = [x, y];
  }
  return body;
}
