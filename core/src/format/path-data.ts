/** Bytes that one coordinate takes at most, with what stands before it. */
const LONGEST = 20;
/** From so many units on figures are written as numbers are: nothing that is drawn is that far away. */
const FAR = 1e9;
/** Characters that are made words at once. */
const AT_ONCE = 8192;
const [MINUS, POINT, ZERO, SPACE, MOVE, LINE, CLOSE] = [...'-.0 MLZ'].map((each) => each.charCodeAt(0));

// Six decimals keep a grid step (0.000244 mm) to within a thousandth of itself.
export const figure = (value: number): string => String(Math.round(value * 1e6) / 1e6);

let bytes = new Uint8Array(1 << 16);

/**
 * Path data of one run (SVG 1.1, W3C, 8.3), y turned downwards, every coordinate divided by `per`; written digit by digit, since outlines of
 * a sheet have a million figures, and are mostly this.
 */
export function runPath(points: Float64Array, closed: boolean, per = 1): string {
  const most = LONGEST * points.length + 1;
  if (bytes.length < most) bytes = new Uint8Array(2 * most);
  let at = 0;
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = [points[i] / per, -points[i + 1] / per];
    if (!(Math.abs(x) < FAR && Math.abs(y) < FAR)) return farPath(points, closed, per);
    bytes[at++] = i === 0 ? MOVE : LINE;
    at = write(x, at);
    bytes[at++] = SPACE;
    at = write(y, at);
  }
  if (closed) bytes[at++] = CLOSE;
  let text = '';
  for (let from = 0; from < at; from += AT_ONCE) text += String.fromCharCode.apply(null, bytes.subarray(from, Math.min(at, from + AT_ONCE)) as unknown as number[]); // prettier-ignore
  return text;
}

/** Writes a figure with up to six decimals at a place. @returns where it ends */
function write(value: number, from: number): number {
  let at = from;
  let millionths = Math.round(value * 1e6);
  if (millionths < 0) {
    bytes[at++] = MINUS;
    millionths = -millionths;
  }
  let whole = Math.floor(millionths / 1e6);
  let part = millionths - whole * 1e6;
  let step = 1;
  while (step * 10 <= whole) step *= 10;
  for (; step >= 1; step /= 10) {
    const digit = Math.floor(whole / step);
    bytes[at++] = ZERO + digit;
    whole -= digit * step;
  }
  if (part === 0) return at;
  bytes[at++] = POINT;
  for (step = 1e5; part > 0; step /= 10) {
    const digit = Math.floor(part / step);
    bytes[at++] = ZERO + digit;
    part -= digit * step;
  }
  return at;
}

function farPath(points: Float64Array, closed: boolean, per: number): string {
  let text = '';
  for (let i = 0; i < points.length; i += 2)
    text += `${i === 0 ? 'M' : 'L'}${figure(points[i] / per)} ${figure(-points[i + 1] / per)}`;
  return closed ? `${text}Z` : text;
}
