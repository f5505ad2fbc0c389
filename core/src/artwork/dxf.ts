import { withoutSpikes } from '../arrangement/index.js';
import {
  bounds,
  type Box,
  compose,
  type Contour,
  HERE,
  placement,
  type Placement,
  placePolyline,
  radians,
  snapPolyline,
} from '../geometry/index.js';
import { type Drawn, type DrawnLine } from './drawn.js';
import { paletteColour, trueColour } from './dxf-colours.js';
import { bulgedEdge, ellipticArc, splinePoints } from './dxf-curves.js';
import { type DxfFile, type DxfRecord, type Group, readDxfRecords } from './dxf-records.js';
import { Findings } from './findings.js';
import { type Layer, strokeCover } from './layers.js';
import { ArtworkError, MOST_BYTES, MOST_DRAWN, MOST_LINE_CROSSINGS, MOST_POINTS } from './limits.js';
import { orderedTo, strokePieces } from './stroke-pieces.js';
import { refuseTangles } from './tangles.js';

/** How far chords may stray in mm. */
const TOLERANCE = 0.005;
const MOST_NESTED = 20;

/** Millimetres in a unit of $INSUNITS (DXF reference, header variables). */
const UNITS: Readonly<Record<number, number>> = { 1: 25.4, 2: 304.8, 4: 1, 5: 10, 6: 1000, 8: 25.4e-6, 9: 0.0254, 10: 914.4, 13: 0.001, 14: 100 }; // prettier-ignore

/** What a piece is drawn with: the layer, and the colour, that it takes over from where it stands. */
interface Context {
  readonly put: Placement;
  readonly layer: string;
  readonly colour: string;
  readonly depth: number;
}

/**
 * Reads a DXF drawing in text form: LINE, ARC, CIRCLE, ELLIPSE, LWPOLYLINE and POLYLINE with bulges, SPLINE, SOLID, HATCH, INSERT
 * of blocks, layers, $INSUNITS. Lines are given as they are drawn; hatches and solids as areas.
 * @param width the wanted width of the drawing in mm; as the file says where it is not given
 * @throws ArtworkError
 */
export function readDxf(source: string, width?: number): Drawn {
  if (source.length > MOST_BYTES) throw new ArtworkError('too-large', source.length);
  const file = readDxfRecords(source);
  const unit = UNITS[Number(file.header.get('$INSUNITS') ?? 0)];
  const natural = unit ?? (file.header.get('$MEASUREMENT') === '0' ? 25.4 : 1);
  // Drawings may lie far from their origin: the first time nothing is put on the grid.
  const box = new Reader(file, natural, false).read(HERE).box;
  if (!box) throw new ArtworkError('nothing');
  const across = Math.max(box.maxX - box.minX, 1e-6);
  const scale = width === undefined ? 1 : width / across;
  // About the middle of what is drawn; once more where the size is another, so that curves are as fine as they must be.
  const put = { ...HERE, e: (-scale * (box.minX + box.maxX)) / 2, f: (-scale * (box.minY + box.maxY)) / 2 };
  const { layers, lines, findings } = new Reader(file, natural * scale, true).read(put);
  return {
    layers,
    lines,
    findings,
    width: across * scale,
    height: (box.maxY - box.minY) * scale,
    isSized: unit !== undefined,
  };
}

class Reader {
  private readonly layers: Layer[] = [];
  private readonly lines: DrawnLine[] = [];
  private readonly findings = new Findings();
  private readonly colourOfLayer = new Map<string, string>();
  private readonly hidden = new Set<string>();
  private readonly blocks = new Map<string, { readonly base: readonly [number, number]; readonly entities: DxfRecord[] }>();
  private drawn = 0;
  private points = 0;

  constructor(
    private readonly file: DxfFile,
    /** Millimetres in a unit of the drawing. */
    private readonly unit: number,
    private readonly isOnGrid: boolean,
  ) {
    for (const record of file.tables) {
      if (record.type !== 'LAYER') continue;
      const name = record.text(2) ?? '0';
      const index = record.number(62, 7);
      this.colourOfLayer.set(name, colourOf(record) ?? paletteColour(Math.abs(index)));
      if (index < 0 || record.has(1)) this.hidden.add(name);
    }
    let current: DxfRecord[] | undefined;
    for (const record of file.blocks) {
      if (record.type === 'BLOCK') {
        current = [];
        this.blocks.set(record.text(2) ?? '', { base: [record.number(10), record.number(20)], entities: current });
      } else if (record.type === 'ENDBLK') current = undefined;
      else current?.push(record);
    }
  }

  read(put: Placement): Pick<Drawn, 'layers' | 'lines' | 'findings'> & { box: Box | undefined } {
    const scaled = compose(put, { ...HERE, a: this.unit, d: this.unit });
    this.draw(this.file.entities, { put: scaled, layer: '0', colour: '#000000', depth: 0 });
    const polylines = [...this.layers.flatMap(({ contours }) => contours), ...this.lines.map(({ points }) => points)];
    return { layers: this.layers, lines: this.lines, findings: this.findings, box: bounds(polylines) };
  }

  private draw(entities: readonly DxfRecord[], context: Context): void {
    for (let i = 0; i < entities.length; i++) {
      const entity = entities[i];
      if (entity.type === 'POLYLINE') {
        // Its vertices follow as records of their own.
        let end = i + 1;
        while (entities[end]?.type === 'VERTEX') end++;
        this.entity(entity, context, entities.slice(i + 1, end));
        i = end - 1;
      } else this.entity(entity, context, []);
    }
  }

  private entity(entity: DxfRecord, above: Context, vertices: readonly DxfRecord[]): void {
    if (entity.type === 'VERTEX' || entity.type === 'SEQEND' || entity.type === 'ATTRIB') return;
    if (entity.number(67) === 1) return entity.type === 'VIEWPORT' ? undefined : this.findings.add('paper');
    if (++this.drawn > MOST_DRAWN * 5) throw new ArtworkError('too-many-drawn', MOST_DRAWN * 5);
    const own = entity.text(8) ?? '0';
    const layer = own === '0' ? above.layer : own;
    if (this.hidden.has(layer)) return this.findings.add('hidden-layer', layer);
    if (entity.number(60) === 1) return;
    const put = this.plane(entity, above.put);
    if (!put) return this.findings.add('tilted', entity.type, spotOf(entity, above.put));
    const context = { ...above, layer, put, colour: this.colour(entity, layer, above) };
    const needed = NEEDED[entity.type]?.find((code) => !Number.isFinite(Number(entity.text(code) ?? NaN)));
    if (needed !== undefined) return this.findings.add('broken', `${entity.type} without a number ${needed}`);
    const tolerance = TOLERANCE / Math.max(Math.hypot(put.a, put.b), Math.hypot(put.c, put.d));
    const at = (code: number): readonly [number, number] => [entity.number(code), entity.number(code + 10)];
    switch (entity.type) {
      case 'LINE':
        return this.line([...at(10), ...at(11)], false, context);
      case 'CIRCLE':
        return this.line(ellipticArc(at(10), [entity.number(40), 0], 1, 0, FULL, tolerance), true, context);
      case 'ARC': {
        const from = radians(entity.number(50));
        const sweep = forward(radians(entity.number(51)) - from);
        return this.line(ellipticArc(at(10), [entity.number(40), 0], 1, from, sweep, tolerance), sweep === FULL, context);
      }
      case 'ELLIPSE': {
        const from = entity.number(41, 0);
        const sweep = forward(entity.number(42, FULL) - from);
        return this.line(ellipticArc(at(10), at(11), entity.number(40, 1), from, sweep, tolerance), sweep === FULL, context);
      }
      case 'LWPOLYLINE':
        return this.polyline(bulgedPolyline(lightVertices(entity.groups), entity.has(1), tolerance), entity.number(43), entity, context, tolerance); // prettier-ignore
      case 'POLYLINE': {
        if (entity.has(16) || entity.has(64)) return this.findings.add('unknown', 'meshes');
        // Control points of a fitted curve stand among its points.
        const polyline = vertices
          .filter((vertex) => !vertex.has(16))
          .map((vertex) => ({ x: vertex.number(10), y: vertex.number(20), bulge: vertex.number(42) }));
        const [from, to] = [entity.number(40), entity.number(41)];
        return this.polyline(
          bulgedPolyline(polyline, entity.has(1), tolerance),
          from === to ? from : 0,
          entity,
          context,
          tolerance,
        );
      }
      case 'SPLINE':
        return this.spline(entity, context, tolerance);
      case 'SOLID':
      case 'TRACE':
        return this.area([[...at(10), ...at(11), ...(entity.text(13) === undefined ? [] : at(13)), ...at(12)]], context);
      case 'HATCH':
        return this.hatch(entity, context, tolerance);
      case 'INSERT':
        return this.insert(entity, context);
      case 'TEXT':
      case 'MTEXT':
      case 'ATTDEF':
        return this.findings.add('text', plainText(entity), spotOf(entity, put));
      case 'IMAGE':
        return this.findings.add('picture', '', spotOf(entity, put));
      case 'POINT':
      case 'VIEWPORT':
        return;
      default:
        return this.findings.add('unknown', entity.type, spotOf(entity, put));
    }
  }

  /** The placement of a piece whose plane faces up or down; of another there is none. */
  private plane(entity: DxfRecord, put: Placement): Placement | undefined {
    const [x, y, z] = [entity.number(210), entity.number(220), entity.number(230, 1)];
    const length = Math.hypot(x, y, z) || 1;
    if (Math.hypot(x, y) / length > 1e-6) return undefined;
    // Lines and splines are given in the coordinates of the world whatever their plane.
    const isMirrored = z < 0 && !['LINE', 'SPLINE', 'ELLIPSE'].includes(entity.type);
    return isMirrored ? compose(put, { ...HERE, a: -1 }) : put;
  }

  private colour(entity: DxfRecord, layer: string, above: Context): string {
    const index = entity.number(62, 256);
    if (index === 0 && entity.text(420) === undefined) return above.colour;
    return colourOf(entity) ?? (index === 256 ? (this.colourOfLayer.get(layer) ?? '#000000') : paletteColour(index));
  }

  private placed(points: readonly number[], put: Placement, closed: boolean): Contour {
    this.points += points.length / 2;
    if (this.points > MOST_POINTS) throw new ArtworkError('too-many-points', MOST_POINTS);
    const polyline = placePolyline(Float64Array.from(points), put);
    return this.isOnGrid ? snapPolyline(polyline, closed) : polyline;
  }

  private line(points: readonly number[], closed: boolean, { put, layer, colour }: Context): void {
    const polyline = this.placed(points, put, closed);
    if (polyline.length >= (closed ? 6 : 4)) this.lines.push({ colour, name: layer, points: polyline, closed });
  }

  /** A polyline with a width, which is an area, or without, which is a line (DXF reference, group 43: constant width). */
  private polyline(points: number[], width: number, entity: DxfRecord, context: Context, tolerance: number): void {
    const closed = entity.has(1);
    if (!(width > 0) || points.length < 4) return this.line(points, closed, context);
    const style = { width, join: 'miter', cap: 'butt', miterLimit: 4 } as const;
    if (this.isOnGrid) refuseTangles([this.placed(points, context.put, closed)], MOST_LINE_CROSSINGS);
    const pieces = strokePieces({ points, closed }, style, tolerance, MOST_POINTS - this.points);
    const { put, layer, colour } = context;
    const isTurnedOver = put.a * put.d - put.b * put.c < 0;
    const contours = pieces
      .map((piece) => this.placed(orderedTo(piece, isTurnedOver), put, true))
      .filter((polyline) => polyline.length >= 6);
    // Not on the grid only its extent is asked for.
    const outline = this.isOnGrid ? withoutSpikes(strokeCover(contours), TOLERANCE) : contours;
    if (outline.length > 0) this.layers.push({ colour, name: layer, contours: outline, rule: 'nonzero' });
  }

  private area(polylines: readonly (readonly number[])[], { put, layer, colour }: Context): void {
    const contours = polylines.map((points) => this.placed(points, put, true)).filter((polyline) => polyline.length >= 6);
    if (contours.length > 0) this.layers.push({ colour, name: layer, contours, rule: 'evenodd' });
  }

  private spline(entity: DxfRecord, context: Context, tolerance: number): void {
    const numbers = (code: number) => entity.groups.filter((group) => group.code === code).map(({ value }) => Number(value));
    const pairs = (code: number) => {
      const ys = numbers(code + 10);
      return numbers(code).flatMap((x, i) => [x, ys[i] ?? 0]);
    };
    const degree = entity.number(71, 3);
    const control = pairs(10);
    const isClosed = entity.has(1);
    if (control.length < 4) {
      this.findings.add('fitted-spline', '', spotOf(entity, context.put));
      return this.line(pairs(11), isClosed, context);
    }
    const points = splinePolyline(degree, numbers(40), control, numbers(41), tolerance);
    if (!points) return this.findings.add('unknown', 'splines without knots');
    this.line(points, isClosed, context);
  }

  private hatch(entity: DxfRecord, context: Context, tolerance: number): void {
    const polylines = hatchPolylines(entity.groups, tolerance);
    if (polylines.length === 0) this.findings.add('unknown', 'hatches without an edge');
    this.area(polylines, context);
  }

  private insert(entity: DxfRecord, context: Context): void {
    const block = this.blocks.get(entity.text(2) ?? '');
    if (!block) return this.findings.add('outside', entity.text(2) ?? '');
    if (context.depth >= MOST_NESTED) throw new ArtworkError('too-deep', MOST_NESTED);
    const [columns, rows] = [Math.max(1, entity.number(70, 1)), Math.max(1, entity.number(71, 1))];
    // An empty block is nothing, however often it is there.
    if (block.entities.length === 0) return;
    if (columns * rows > MOST_DRAWN * 5) throw new ArtworkError('too-many-drawn', MOST_DRAWN * 5);
    const turned = placement({ x: entity.number(10), y: entity.number(20), turn: entity.number(50) });
    const [sx, sy] = [entity.number(41, 1), entity.number(42, 1)];
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        const shifted = compose(turned, { ...HERE, e: column * entity.number(44), f: row * entity.number(45) });
        const inner = { ...HERE, a: sx, d: sy, e: -sx * block.base[0], f: -sy * block.base[1] };
        this.draw(block.entities, { ...context, put: compose(context.put, compose(shifted, inner)), depth: context.depth + 1 });
        if (this.drawn > MOST_DRAWN * 5) throw new ArtworkError('too-many-drawn', MOST_DRAWN * 5);
      }
  }
}

/** Groups without which a piece is none. */
const NEEDED: Readonly<Record<string, readonly number[]>> = {
  LINE: [10, 20, 11, 21],
  CIRCLE: [10, 20, 40],
  ARC: [10, 20, 40, 50, 51],
  ELLIPSE: [10, 20, 11, 21],
};

const FULL = 2 * Math.PI;

/** A sweep brought into (0, 2π]. */
const forward = (sweep: number): number => {
  const rest = sweep % FULL;
  return rest <= 1e-12 ? rest + FULL : rest;
};

const colourOf = (record: DxfRecord): string | undefined =>
  record.text(420) === undefined ? undefined : trueColour(record.number(420));

function spotOf(entity: DxfRecord, { a, b, c, d, e, f }: Placement): { x: number; y: number } {
  const [x, y] = [entity.number(10), entity.number(20)];
  return { x: a * x + c * y + e, y: b * x + d * y + f };
}

/** Text without the codes that format it. */
const plainText = (entity: DxfRecord): string =>
  (entity.text(1) ?? '')
    .replace(/\\[A-Za-z][^;\\]*;|[{}]/gu, '')
    .replace(/\\P/gu, ' ')
    .trim();

interface Vertex {
  readonly x: number;
  readonly y: number;
  /** Of the edge that begins here. */
  readonly bulge: number;
}

function bulgedPolyline(vertices: readonly Vertex[], closed: boolean, tolerance: number): number[] {
  if (vertices.length === 0) return [];
  const out = [vertices[0].x, vertices[0].y];
  const edges = closed ? vertices.length : vertices.length - 1;
  for (let i = 0; i < edges; i++) {
    const [a, b] = [vertices[i], vertices[(i + 1) % vertices.length]];
    out.push(...bulgedEdge(a.x, a.y, b.x, b.y, a.bulge, tolerance));
  }
  return out;
}

/** Vertices as they follow each other in groups: 10 begins one, 20 and 42 add to it. */
function lightVertices(groups: readonly Group[]): Vertex[] {
  const out: { x: number; y: number; bulge: number }[] = [];
  for (const { code, value } of groups) {
    const last = out[out.length - 1];
    if (code === 10) out.push({ x: Number(value), y: 0, bulge: 0 });
    else if (code === 20 && last) last.y = Number(value);
    else if (code === 42 && last) last.bulge = Number(value);
  }
  return out.filter(({ x, y, bulge }) => Number.isFinite(x + y + bulge));
}

function splinePolyline(
  degree: number,
  knots: readonly number[],
  control: readonly number[],
  weights: readonly number[],
  tolerance: number,
): number[] | undefined {
  const n = control.length / 2;
  const isSound =
    degree >= 1 && degree <= 15 && n > degree && knots.length >= n + degree + 1 && [...knots, ...control].every(Number.isFinite);
  if (!isSound) return undefined;
  const whole =
    weights.length === n && weights.every((w) => Number.isFinite(w) && w > 0) ? weights : new Array<number>(n).fill(1);
  return splinePoints({ degree, knots, control, weights: whole }, tolerance);
}

/** The edges of a hatch as closed polylines, read in the order in which their groups stand. */
function hatchPolylines(groups: readonly Group[], tolerance: number): number[][] {
  let at = groups.findIndex(({ code }) => code === 91);
  if (at < 0) return [];
  /** The value of the next group of a code, not further than the next of `stop`. */
  const next = (code: number): number => {
    while (at < groups.length && groups[at].code !== code) at++;
    return Number(groups[at++]?.value ?? NaN);
  };
  const has = (code: number): boolean => groups[at]?.code === code;
  const point = (): [number, number] => [next(10), next(20)];
  const paths = next(91);
  const polylines: number[][] = [];
  for (let path = 0; path < paths && at < groups.length; path++) {
    const kind = next(92);
    if ((kind & 2) !== 0) {
      const hasBulge = next(72) === 1;
      next(73);
      const count = next(93);
      const vertices: Vertex[] = [];
      for (let i = 0; i < count && at < groups.length; i++) {
        const [x, y] = point();
        vertices.push({ x, y, bulge: hasBulge && has(42) ? next(42) : 0 });
      }
      polylines.push(bulgedPolyline(vertices, true, tolerance));
      continue;
    }
    const edges = next(93);
    const polyline: number[] = [];
    for (let i = 0; i < edges && at < groups.length; i++) polyline.push(...hatchEdge(next(72), next, point, has, tolerance));
    polylines.push(polyline);
  }
  return polylines.filter((polyline) => polyline.length >= 6 && polyline.every(Number.isFinite));
}

function hatchEdge(
  kind: number,
  next: (code: number) => number,
  point: () => [number, number],
  has: (code: number) => boolean,
  tolerance: number,
): number[] {
  switch (kind) {
    case 1:
      return [...point(), next(11), next(21)];
    case 2:
    case 3: {
      const centre = point();
      const axis: [number, number] = kind === 3 ? [next(11), next(21)] : [next(40), 0];
      const ratio = kind === 3 ? next(40) : 1;
      const [from, to] = [radians(next(50)), radians(next(51))];
      const sweep = forward(to - from);
      // Clockwise ones give their angles mirrored at the axis.
      return next(73) === 0
        ? ellipticArc(centre, axis, ratio, -from, -sweep, tolerance)
        : ellipticArc(centre, axis, ratio, from, sweep, tolerance);
    }
    case 4: {
      const degree = next(94);
      const isRational = next(73) === 1;
      next(74);
      const [knotCount, pointCount] = [next(95), next(96)];
      const knots: number[] = [];
      for (let i = 0; i < Math.min(knotCount, MOST_POINTS); i++) knots.push(next(40));
      const control: number[] = [];
      const weights: number[] = [];
      for (let i = 0; i < Math.min(pointCount, MOST_POINTS); i++) {
        control.push(...point());
        if (isRational && has(42)) weights.push(next(42));
      }
      return splinePolyline(degree, knots, control, weights, tolerance) ?? [];
    }
    default:
      return [];
  }
}
