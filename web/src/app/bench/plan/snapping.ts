import { type Box } from '@plain-relief/core/geometry';
import { type Guide } from '@plain-relief/core/sign';

/** A part, or several as one, that others may come to lie by. */
export interface Snappable {
  readonly name: string;
  readonly ink: Box;
  /** Of text, from its cap line to its last baseline. */
  readonly caps?: Box;
}

/** What a dragged part was held to: a line of the plan, across at a height or up at a distance, and why. */
export interface SnapReason {
  readonly across: boolean;
  readonly at: number;
  readonly text: string;
}

export interface Snapped {
  readonly dx: number;
  readonly dy: number;
  readonly reasons: readonly SnapReason[];
}

interface Line {
  readonly at: number;
  readonly text: string;
}

/** A place that one line of the moving part may take. */
interface Candidate extends Line {
  /** The line of the moving part that comes to lie there. */
  readonly own: number;
}

const middle = (low: number, high: number): number => (low + high) / 2;

const acrossOf = ({ ink }: Snappable): readonly number[] => [ink.minX, middle(ink.minX, ink.maxX), ink.maxX];

/** Of text the cap line, the middle of the capitals, the baseline, and the box; of other parts their edges and middle. */
const upOf = ({ ink, caps }: Snappable): readonly number[] => {
  const box = [ink.minY, ink.maxY];
  return caps ? [caps.minY, middle(caps.minY, caps.maxY), caps.maxY, ...box] : [...box, middle(ink.minY, ink.maxY)];
};

function linesAcross(blank: Box, others: readonly Snappable[], guides: readonly Guide[]): Line[] {
  return [
    { at: middle(blank.minX, blank.maxX), text: 'middle of the blank' },
    { at: blank.minX, text: 'left edge of the blank' },
    { at: blank.maxX, text: 'right edge of the blank' },
    ...guides.filter(({ across }) => !across).map(({ at }) => ({ at, text: 'guide' })),
    ...others.flatMap(({ name, ink }) => [
      { at: middle(ink.minX, ink.maxX), text: `middle of ${name}` },
      { at: ink.minX, text: `left edge of ${name}` },
      { at: ink.maxX, text: `right edge of ${name}` },
    ]),
  ];
}

function linesUp(blank: Box, others: readonly Snappable[], guides: readonly Guide[]): Line[] {
  return [
    { at: middle(blank.minY, blank.maxY), text: 'middle of the blank' },
    { at: blank.minY, text: 'bottom edge of the blank' },
    { at: blank.maxY, text: 'top edge of the blank' },
    ...guides.filter(({ across }) => across).map(({ at }) => ({ at, text: 'guide' })),
    ...others.flatMap(({ name, ink, caps }) =>
      caps
        ? [
            { at: caps.minY, text: `baseline of ${name}` },
            { at: caps.maxY, text: `cap line of ${name}` },
            { at: middle(caps.minY, caps.maxY), text: `middle of the capitals of ${name}` },
          ]
        : [
            { at: middle(ink.minY, ink.maxY), text: `middle of ${name}` },
            { at: ink.minY, text: `bottom of ${name}` },
            { at: ink.maxY, text: `top of ${name}` },
          ],
    ),
  ];
}

interface Span {
  readonly low: number;
  readonly high: number;
}

/** Places at which the gaps to two neighbours, or to a neighbour and from it to the next, are equal. */
function equalGaps(moving: Span, others: readonly Span[]): Candidate[] {
  const sorted = [...others].sort((a, b) => a.low - b.low);
  const out: Candidate[] = [];
  sorted.forEach((a, i) => {
    const b = sorted[i + 1];
    if (!b || b.low <= a.high) return;
    const gap = b.low - a.high;
    const text = 'equal gaps';
    if (gap > moving.high - moving.low) out.push({ own: middle(moving.low, moving.high), at: middle(a.high, b.low), text });
    out.push({ own: moving.low, at: b.high + gap, text }, { own: moving.high, at: a.low - gap, text });
  });
  return out;
}

function best(wish: number, candidates: readonly Candidate[], reach: number): { by: number; line: Line } | undefined {
  let nearest: { by: number; line: Line } | undefined;
  for (const { own, at, text } of candidates) {
    const by = at - own;
    if (Math.abs(by - wish) <= Math.min(reach, nearest ? Math.abs(nearest.by - wish) - 1e-9 : Infinity))
      nearest = { by, line: { at, text } };
  }
  return nearest;
}

/**
 * A wished move held to what lies near: edges and middles of the blank and of other parts, cap lines and baselines, guides, equal
 * gaps.
 * @param reach how far in mm a move is held
 */
export function snapped(
  moving: Snappable,
  dx: number,
  dy: number,
  around: { readonly blank: Box; readonly others: readonly Snappable[]; readonly guides: readonly Guide[] },
  reach: number,
): Snapped {
  const { blank, others, guides } = around;
  const pairs = (own: readonly number[], lines: readonly Line[]): Candidate[] =>
    lines.flatMap((line) => own.map((at) => ({ own: at, ...line })));
  const { ink } = moving;
  const beside = others.filter((other) => other.ink.minY < ink.maxY + dy && other.ink.maxY > ink.minY + dy);
  const above = others.filter((other) => other.ink.minX < ink.maxX + dx && other.ink.maxX > ink.minX + dx);
  const x = best(
    dx,
    [
      ...pairs(acrossOf(moving), linesAcross(blank, others, guides)),
      ...equalGaps({ low: ink.minX, high: ink.maxX }, beside.map((other) => ({ low: other.ink.minX, high: other.ink.maxX }))), // prettier-ignore
    ],
    reach,
  );
  const y = best(
    dy,
    [
      ...pairs(upOf(moving), linesUp(blank, others, guides)),
      ...equalGaps({ low: ink.minY, high: ink.maxY }, above.map((other) => ({ low: other.ink.minY, high: other.ink.maxY }))), // prettier-ignore
    ],
    reach,
  );
  return {
    dx: x?.by ?? dx,
    dy: y?.by ?? dy,
    reasons: [...(x ? [{ across: false, ...x.line }] : []), ...(y ? [{ across: true, ...y.line }] : [])],
  };
}
