import type { CrossSection, ManifoldToplevel } from 'manifold-3d';
import bwip, { type RawOptions } from 'bwip-js/node';
import svgpath from 'svgpath';
import { type Shape, type Sign } from '../src/sign/index.js';
import { boxOf } from './brute-area.js';
import { crossSection } from './referee.js';

/** Chords in a circle: their sagitta is below 0.001 mm up to radii of 100 mm. */
export const CHORDS = 720;

/** As many as keep the sagitta below 0.0005 mm: with more the general library takes minutes over growths of growths. */
export const chordsOf = (radius: number): number =>
  Math.max(24, Math.min(CHORDS, Math.ceil(Math.PI / Math.acos(1 - Math.min(1, 0.0005 / radius)))));

/**
 * A shape about its own middle, in more chords than the application draws; nothing for one that follows others.
 * @param isBlank of a blank that has open paths only, the area within them as if they were closed
 */
export function shapeOutline(m: ManifoldToplevel, shape: Shape | Sign['blank']['outline'], isBlank: boolean): CrossSection {
  const section = (points: readonly number[]): CrossSection => crossSection(m, [Float64Array.from(points)]);
  const arc = (x: number, y: number, r: number, from: number, to: number, n = 180): number[] =>
    Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n).flatMap((a) => [
      x + r * Math.cos(a),
      y + r * Math.sin(a),
    ]);
  switch (shape.kind) {
    case 'circle':
      return m.CrossSection.circle(shape.diameter / 2, CHORDS);
    case 'ellipse':
      return section(arc(0, 0, 1, 0, 2 * Math.PI, CHORDS).map((v, i) => v * (i % 2 === 0 ? shape.width / 2 : shape.height / 2)));
    case 'polygon': {
      const step = (2 * Math.PI) / shape.sides;
      const from = -Math.PI / 2 + (shape.stands === 'flat' ? step / 2 : 0);
      return section(arc(0, 0, shape.diameter / 2, from, from + 2 * Math.PI - step, shape.sides - 1));
    }
    case 'stadium':
    case 'rectangle': {
      const [w, h] = [shape.width / 2, shape.height / 2];
      const r = shape.kind === 'stadium' ? Math.min(w, h) : Math.min(shape.cornerRadius, w, h);
      const corners = shape.kind === 'stadium' ? 'rounded' : (shape.corners ?? 'rounded');
      const points = (
        [
          [1, 1],
          [-1, 1],
          [-1, -1],
          [1, -1],
        ] as const
      ).flatMap(([sx, sy], i) => {
        // prettier-ignore
        const from = (Math.PI / 2) * i;
        if (r === 0) return [sx * w, sy * h];
        if (corners === 'scooped') return arc(sx * w, sy * h, r, from + 1.5 * Math.PI, from + Math.PI);
        return arc(sx * (w - r), sy * (h - r), r, from, from + Math.PI / 2, corners === 'chamfered' ? 1 : 180);
      });
      return section(points);
    }
    case 'arch': {
      const rise = Math.min(shape.rise, shape.width / 2, shape.height);
      const [w, h] = [shape.width / 2, shape.height / 2];
      const r = (w * w + rise * rise) / (2 * rise);
      const half = Math.atan2(w, r - rise);
      return section([-w, -h, w, -h, ...arc(0, h - r, r, Math.PI / 2 - half, Math.PI / 2 + half, CHORDS)]);
    }
    case 'sector': {
      const [inner, outer] = [Math.max(0, shape.radius - shape.height / 2), shape.radius + shape.height / 2];
      const half = (shape.span / 360) * Math.PI;
      const about = Math.PI / 2;
      // Its own edge once round: out along the outer arc, back along the inner one.
      const edge = [
        ...arc(0, 0, outer, about - half, about + half, CHORDS),
        ...(inner === 0 ? [0, 0] : arc(0, 0, inner, about + half, about - half, CHORDS)),
      ];
      return section(
        shape.apex === 'below'
          ? edge.map((v, i) => (i % 2 === 0 ? v : v - shape.radius))
          : edge.map((v, i) => (i % 2 === 0 ? -v : shape.radius - v)),
      );
    }
    case 'braille':
      return brailleOutline(m, shape);
    case 'code':
      return codeOutline(m, shape);
    case 'outline':
      return pathOutline(m, shape, isBlank);
    default:
      return m.CrossSection.union([]);
  }
}

/** Columns and rows of the dots 1 to 6, which Unicode has as bits 0 to 5 (The Unicode Standard, "Braille Patterns"). */
const DOT_PLACES = [[0, 1], [0, 0], [0, -1], [1, 1], [1, 0], [1, -1]] as const; // prettier-ignore

/** Round dots: the middle row of the first line at the height of the place, the outermost sides of dots' columns aligned to it. */
function brailleOutline(m: ManifoldToplevel, shape: Extract<Shape, { kind: 'braille' }>): CrossSection {
  const { cells, dots, cell, line, align, room = Infinity } = shape;
  const across = shape.ball ?? shape.base;
  const widthOf = (count: number): number => (count === 0 ? 0 : (count - 1) * cell + dots + across);
  const lines = cells.split('\n').flatMap((all) => {
    const broken: string[][] = [[]];
    for (const word of all.split('\u2800').filter((each) => each !== '')) {
      const last = broken[broken.length - 1];
      const count = [...last, word].join(' ').length;
      if (last.length > 0 && count > 1 && widthOf(count) > room + 1e-9) broken.push([word]);
      else last.push(word);
    }
    return broken.map((words) => words.join('\u2800'));
  });
  const circles = lines.flatMap((cellsOfLine, i) => {
    const left = { left: 0, centre: -0.5, right: -1 }[align] * widthOf(cellsOfLine.length) + across / 2;
    return [...cellsOfLine].flatMap((each, at) =>
      DOT_PLACES.filter((_, bit) => ((each.charCodeAt(0) - 0x2800) >> bit) % 2 === 1).map(([column, row]) =>
        m.CrossSection.circle(across / 2, chordsOf(across / 2)).translate([
          left + at * cell + column * dots,
          row * dots - i * line,
        ]),
      ),
    );
  });
  return m.CrossSection.union(circles);
}

/** Quiet zones in modules: before, after, above and below. */
const QUIET = { qr: [4, 4, 4], 'data-matrix': [1, 1, 1], 'code-128': [10, 10, 0], 'ean-13': [11, 7, 0], 'upc-a': [9, 9, 0] } as const; // prettier-ignore

/** Squares of what the encoder says is dark, by its own raw figures; nothing where it makes none of the words. */
function codeOutline(m: ManifoldToplevel, shape: Extract<Shape, { kind: 'code' }>): CrossSection {
  const { symbology, words, module, correction = 'M', ground } = shape;
  const bcid = { qr: 'qrcode', 'data-matrix': 'datamatrix', 'code-128': 'code128', 'ean-13': 'ean13', 'upc-a': 'upca' }[symbology]; // prettier-ignore
  const isForeign = /[^ -~]/u.test(words);
  if (isForeign && symbology !== 'qr') return m.CrossSection.union([]);
  const rows: number[][] = [];
  try {
    const text = isForeign ? `^ECI000026${words.replace(/\^/gu, '^^')}` : words;
    const [raw] = bwip.raw({ bcid, text, ...(symbology === 'qr' && { eclevel: correction }), ...(isForeign && { parsefnc: true }) } as RawOptions); // prettier-ignore
    if ('pixs' in raw) for (let y = 0; y < raw.pixy; y++) rows.push(raw.pixs.slice(y * raw.pixx, (y + 1) * raw.pixx));
    else rows.push(raw.sbs.flatMap((wide, i) => new Array<number>(wide).fill(1 - (i % 2))));
  } catch {
    return m.CrossSection.union([]);
  }
  const isBars = rows.length === 1;
  const [wide, high] = [rows[0].length * module, isBars ? (shape.height ?? 15) : rows.length * module];
  const up = high / rows.length;
  const box = (x: number, y: number, w: number, h: number): CrossSection => m.CrossSection.square([w, h]).translate([x, y]);
  const dark = m.CrossSection.union(
    rows.flatMap((row, r) =>
      row.flatMap((is, c) => (is ? [box(c * module - wide / 2, high / 2 - (r + 1) * up, module, up)] : [])),
    ),
  );
  if (!ground) return dark;
  const [before, after, along] = QUIET[symbology].map((modules) => modules * module);
  return box(-wide / 2 - before, -high / 2 - along, wide + before + after, high + 2 * along).subtract(dark);
}

function pathOutline(
  m: ManifoldToplevel,
  { path, width, height }: Extract<Shape, { kind: 'outline' }>,
  isBlank: boolean,
): CrossSection {
  const runs = flattened(path);
  const [minX, minY, maxX, maxY] = boxOf(runs.map(({ points }) => points));
  const sx = maxX > minX ? width / (maxX - minX) : 1;
  const sy = maxY > minY ? height / (maxY - minY) : 1;
  const closed = runs.filter((run) => run.closed);
  const rings = (closed.length > 0 || !isBlank ? closed : runs).map(({ points }) =>
    Float64Array.from(points.flatMap(([x, y]) => [(x - (minX + maxX) / 2) * sx, (y - (minY + maxY) / 2) * sy])),
  );
  return crossSection(m, rings);
}

const PER_CURVE = 200;

/** Path data as runs of points, curves in many chords. */
function flattened(path: string): { points: [number, number][]; closed: boolean }[] {
  const runs: { points: [number, number][]; closed: boolean }[] = [];
  let run: { points: [number, number][]; closed: boolean } | undefined;
  svgpath(path)
    .abs()
    // A smooth curve after an arc begins where it stands: what arcs are made of has no say (SVG 2, section 9.3.6).
    .unshort()
    .unarc()
    .iterate((segment, _, x, y) => {
      const [letter, ...n] = segment as [string, ...number[]];
      const begin = (at: [number, number]) => runs.push((run = { points: [at], closed: false }));
      if (letter === 'M') {
        begin([n[0], n[1]]);
        return;
      }
      if (letter === 'Z' || letter === 'z') {
        if (run) run.closed = true;
        run = undefined;
        return;
      }
      if (!run) begin([x, y]);
      const { points } = run!;
      const steps = letter === 'Q' || letter === 'C' ? PER_CURVE : 1;
      for (let i = 1; i <= steps; i++) {
        const t = i / steps;
        const s = 1 - t;
        if (letter === 'L') points.push([n[0], n[1]]);
        else if (letter === 'H') points.push([n[0], y]);
        else if (letter === 'V') points.push([x, n[0]]);
        else if (letter === 'Q')
          points.push([s * s * x + 2 * s * t * n[0] + t * t * n[2], s * s * y + 2 * s * t * n[1] + t * t * n[3]]);
        else
          points.push([
            s ** 3 * x + 3 * s * s * t * n[0] + 3 * s * t * t * n[2] + t ** 3 * n[4],
            s ** 3 * y + 3 * s * s * t * n[1] + 3 * s * t * t * n[3] + t ** 3 * n[5],
          ]);
      }
    });
  return runs.filter(({ points }) => points.length >= 2);
}
