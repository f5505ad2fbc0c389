/**
 * Path data for the screen in whole micrometres, y downwards, every point relative to the one before: a third of the
 * characters of absolute millimetres, which the browser parses on its main thread. To be drawn under scale(0.001).
 */
export function screenPath(runs: Iterable<Float64Array>, closed: boolean): string {
  const pieces: string[] = [];
  let [penX, penY] = [0, 0];
  for (const run of runs) {
    const [startX, startY] = [Math.round(run[0] * 1000), Math.round(-run[1] * 1000)];
    // Moves are relative to where the last run ended, which a closed one does at its start.
    pieces.push(pair('m', startX - penX, startY - penY));
    [penX, penY] = [startX, startY];
    for (let i = 2; i < run.length; i += 2) {
      const [x, y] = [Math.round(run[i] * 1000), Math.round(-run[i + 1] * 1000)];
      if (x === penX && y === penY) continue;
      pieces.push(pair('l', x - penX, y - penY));
      [penX, penY] = [x, y];
    }
    if (closed) {
      pieces.push('z');
      [penX, penY] = [startX, startY];
    }
  }
  return pieces.join('');
}

const pair = (command: string, dx: number, dy: number): string => (dy < 0 ? `${command}${dx}${dy}` : `${command}${dx} ${dy}`);
