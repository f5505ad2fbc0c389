import { intersection, withoutSpikes } from '../arrangement/index.js';
import {
  compose,
  type Contour,
  type FlatPath,
  flatten,
  HERE,
  type Outline,
  type PathCommand,
  type Placement,
  snapPolyline,
  TooManyPointsError,
} from '../geometry/index.js';
import { fitted, inMm, inUser, readLength, readNumbers, readTransform } from './coordinates.js';
import { type Drawn, type DrawnLine } from './drawn.js';
import { type FindingKind, Findings, type Spot } from './findings.js';
import { ArtworkError, MOST_BYTES, MOST_DEPTH, MOST_DRAWN, MOST_LINE_CROSSINGS, MOST_POINTS } from './limits.js';
import { covered, type Layer, type Rule, strokeCover } from './layers.js';
import { pathOf, type Viewport } from './shapes.js';
import { orderedTo, strokePieces, type StrokeStyle } from './stroke-pieces.js';
import { refuseTangles } from './tangles.js';
import { meanColour, readPaint, type Style, StyleSheet } from './style.js';
import { type Element, readXml } from './xml.js';

/** How far chords may stray in mm. */
const TOLERANCE = 0.005;
/** mm beyond which nothing is drawn out: a sign spans ±4 m. */
const FARTHEST = 20_000;

const NOT_DRAWN = new Set(['defs', 'symbol', 'clipPath', 'mask', 'marker', 'pattern', 'linearGradient', 'radialGradient', 'style', 'title', 'desc', 'metadata', 'namedview', 'filter', 'script']); // prettier-ignore

/**
 * Reads an SVG drawing (SVG 2): all basic shapes, paths, groups, transforms, `use`, `symbol`, nested drawings, units and view
 * boxes, strokes as areas with their joins and caps, clip paths by area, colours from attributes, style and style sheets.
 * @param strokes whether lines are drawn as areas of their width, or are themselves the outlines that are meant
 * @param width the wanted width of the page in mm; as the file says where it is not given
 * @throws ArtworkError
 */
export function readSvg(source: string, width?: number, strokes: 'areas' | 'outlines' = 'areas'): Drawn {
  if (source.length > MOST_BYTES) throw new ArtworkError('too-large', source.length);
  const root = readXml(source);
  if (root.name !== 'svg') throw new ArtworkError('not-svg', root.name);
  return new Reader(root, width, strokes === 'outlines').read();
}

/** What an element is drawn with. */
interface Context {
  readonly style: Style;
  readonly put: Placement;
  readonly view: Viewport;
  readonly depth: number;
  /** What everything drawn is cut to. */
  readonly clip?: Outline;
}

class Reader {
  private readonly layers: Layer[] = [];
  private readonly lines: DrawnLine[] = [];
  private readonly findings = new Findings();
  private readonly byId = new Map<string, Element>();
  private readonly sheet: StyleSheet;
  private drawn = 0;
  private points = 0;
  /** Millimetres in a pixel of the page. */
  private pixel = 25.4 / 96;

  constructor(
    private readonly root: Element,
    private readonly asked: number | undefined,
    private readonly isOutlined: boolean,
  ) {
    const sheets: string[] = [];
    this.each(root, (element) => {
      const { id } = element.attributes;
      if (id !== undefined && !this.byId.has(id)) this.byId.set(id, element);
      if (element.name === 'style') sheets.push(element.text);
      if (element.name === 'script') this.found('script', '');
    });
    this.sheet = new StyleSheet(sheets.join('\n'));
    for (const selector of this.sheet.passedOver) this.found('selector', selector);
  }

  read(): Drawn {
    const { attributes } = this.root;
    const box = viewBox(attributes.viewBox);
    const [w, h] = [readLength(attributes.width), readLength(attributes.height)];
    const [natural, tall] = [w && inMm(w), h && inMm(h)];
    const ratio = box ? box[3] / box[2] : undefined;
    const px = 25.4 / 96;
    const pageWidth = natural ?? (tall !== undefined && ratio ? tall / ratio : (box?.[2] ?? 300) * px);
    const pageHeight = tall ?? (ratio ? pageWidth * ratio : (box?.[3] ?? 150) * px);
    if (!(pageWidth > 0 && pageHeight > 0)) throw new ArtworkError('nothing');
    const scale = this.asked === undefined ? 1 : this.asked / pageWidth;
    const [width, height] = [pageWidth * scale, pageHeight * scale];
    this.pixel = px * scale;
    const isSized = natural !== undefined && !['', 'px'].includes(w!.unit);
    // Pixels of the page to mm, y up, about its middle.
    const page: Placement = { a: px * scale, b: 0, c: 0, d: -px * scale, e: -width / 2, f: height / 2 };
    const [across, down] = [pageWidth / px, pageHeight / px];
    const inner = box ? fitted(box, across, down, attributes.preserveAspectRatio) : HERE;
    const view = box ? { width: box[2], height: box[3] } : { width: across, height: down };
    const style = this.sheet.apply(this.root, {});
    this.children(this.root, { style, put: compose(page, inner), view, depth: 0 });
    return { layers: this.layers, lines: this.lines, width, height, isSized, findings: this.findings };
  }

  private each(element: Element, visit: (element: Element) => void): void {
    visit(element);
    for (const child of element.children) this.each(child, visit);
  }

  private found(kind: FindingKind, text: string, spot?: Spot): void {
    this.findings.add(kind, text, spot);
  }

  private children(element: Element, context: Context): void {
    for (const child of element.children) this.draw(child, context);
  }

  private draw(given: Element, above: Context): void {
    if (NOT_DRAWN.has(given.name) || !isForUs(given)) return;
    const element = this.sheet.withGeometry(given);
    const { name, attributes } = element;
    if (above.depth > MOST_DEPTH) throw new ArtworkError('too-deep', MOST_DEPTH);
    if (++this.drawn > MOST_DRAWN) throw new ArtworkError('too-many-drawn', MOST_DRAWN);
    const style = this.sheet.apply(element, above.style);
    if (style.display === 'none' || Number(style.opacity) === 0) return;
    if (style.mask !== undefined && style.mask !== 'none') this.found('mask', '');
    if (style.filter !== undefined && style.filter !== 'none') this.found('filter', '');
    const put = compose(above.put, this.transformOf(element));
    const context = {
      ...above,
      style,
      put,
      depth: above.depth + 1,
      clip: this.clipOf(style, element, put, above),
    };
    switch (name) {
      case 'g':
      case 'a':
        return this.children(element, context);
      case 'switch': {
        // The first that is for us, and no other (SVG 2, chapter 5.9.2).
        const chosen = element.children.find((child) => child.name !== 'foreignObject' && isForUs(child));
        return chosen && this.draw(chosen, context);
      }
      case 'foreignObject':
        return this.found('unknown', name, spotIn(element, put, above.view));
      case 'svg':
        return this.nested(element, context, inUser(attributes.x, above.view.width), inUser(attributes.y, above.view.height));
      case 'use':
        return this.use(element, context);
      case 'text':
        return this.found('text', textOf(element).replace(/\s+/gu, ' ').trim(), spotIn(element, put, above.view));
      case 'image':
        return this.found('picture', '', spotIn(element, put, above.view));
      default:
        return this.shape(element, context);
    }
  }

  private nested(element: Element, context: Context, x: number, y: number, asked?: { width?: string; height?: string }): void {
    const { attributes } = element;
    const width = inUser(asked?.width ?? attributes.width, context.view.width, context.view.width);
    const height = inUser(asked?.height ?? attributes.height, context.view.height, context.view.height);
    if (!(width > 0 && height > 0)) return;
    const put = compose(context.put, { ...HERE, e: x, f: y });
    const box = viewBox(attributes.viewBox);
    const inner = box ? fitted(box, width, height, attributes.preserveAspectRatio) : HERE;
    const view = box ? { width: box[2], height: box[3] } : { width, height };
    const isOpen = context.style.overflow === 'visible' || context.style.overflow === 'auto';
    const window = this.placed([{ points: [0, 0, width, 0, width, height, 0, height], closed: true }], put);
    this.children(element, {
      ...context,
      put: compose(put, inner),
      view,
      clip: isOpen ? context.clip : common(context.clip, window),
    });
  }

  private use(element: Element, context: Context): void {
    const { attributes } = element;
    const href = attributes.href ?? '';
    const target = href.startsWith('#') ? this.byId.get(href.slice(1)) : undefined;
    if (!target) return this.found('outside', href.slice(0, 80));
    const [x, y] = [inUser(attributes.x, context.view.width), inUser(attributes.y, context.view.height)];
    if (target.name === 'symbol' || target.name === 'svg') {
      const style = this.sheet.apply(target, context.style);
      return this.nested(target, { ...context, style }, x, y, attributes);
    }
    return this.draw(target, { ...context, put: compose(context.put, { ...HERE, e: x, f: y }) });
  }

  /** The transform of an element, about its origin where it has one. */
  private transformOf({ attributes }: Element): Placement {
    const own = readTransform(attributes.transform);
    const origin = attributes['transform-origin']?.trim();
    if (!origin || own === HERE) return own;
    const figures = /^([-+.\deE]+)(?:px)?\s+([-+.\deE]+)(?:px)?(?:\s|$)/u.exec(origin);
    const [x, y] = [Number(figures?.[1]), Number(figures?.[2])];
    if (!Number.isFinite(x + y)) {
      this.found('origin', origin);
      return own;
    }
    return compose(compose({ ...HERE, e: x, f: y }, own), { ...HERE, e: -x, f: -y });
  }

  private clipOf(style: Style, element: Element, put: Placement, above: Context): Outline | undefined {
    const reference = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)/u.exec(style['clip-path'] ?? '');
    if (!reference) return above.clip;
    const clip = this.byId.get(reference[1]);
    if (clip?.name !== 'clipPath') return above.clip;
    let inner = put;
    if (clip.attributes.clipPathUnits === 'objectBoundingBox') {
      const path = pathOf(element, above.view);
      const box = path && boxOf(path);
      if (!box) return above.clip;
      inner = compose(put, { ...HERE, a: box.width, d: box.height, e: box.x, f: box.y });
    }
    inner = compose(inner, readTransform(clip.attributes.transform));
    const pieces = clip.children.flatMap((child): Contour[] => {
      const own = this.sheet.apply(child, this.sheet.apply(clip, {}));
      if (own.display === 'none') return [];
      if (child.name === 'text') this.found('text', textOf(child).replace(/\s+/gu, ' ').trim());
      const target = child.name === 'use' ? this.byId.get((child.attributes.href ?? '').slice(1)) : child;
      const path = target && pathOf(target, above.view);
      if (!path) return [];
      let at = compose(inner, readTransform(child.attributes.transform));
      if (child.name === 'use') {
        at = compose(at, {
          ...HERE,
          e: inUser(child.attributes.x, above.view.width),
          f: inUser(child.attributes.y, above.view.height),
        });
        at = compose(at, readTransform(target.attributes.transform));
      }
      return [...covered(this.placed(this.flattened(path, at), at), ruleOf(own['clip-rule']))];
    });
    return common(above.clip, pieces);
  }

  private toleranceAt({ a, b, c, d }: Placement): number {
    const scale = Math.max(Math.hypot(a, b), Math.hypot(c, d));
    if (!(scale > 0) || !Number.isFinite(scale)) return Infinity;
    return TOLERANCE / scale;
  }

  /** Polylines under a placement, in mm on the grid. */
  private placed(polylines: readonly FlatPath[], put: Placement): Contour[] {
    return polylines.map(({ points }) => this.snapped(points, put)).filter((polyline) => polyline.length >= 6);
  }

  private snapped(points: readonly number[], put: Placement, closed = true): Contour {
    this.points += points.length / 2;
    if (this.points > MOST_POINTS) throw new ArtworkError('too-many-points', MOST_POINTS);
    return onGrid(points, put, closed);
  }

  /** Chords of a path, as many as the whole drawing may have. @throws ArtworkError where it reaches too far or has more */
  private flattened(path: readonly PathCommand[], put: Placement): FlatPath[] {
    const scale = TOLERANCE / this.toleranceAt(put);
    for (const command of path)
      if (command.kind !== 'close' && Math.max(Math.abs(command.x), Math.abs(command.y)) * scale > FARTHEST)
        throw new ArtworkError('too-far');
    try {
      return flatten(path, this.toleranceAt(put), MOST_POINTS - this.points);
    } catch (error) {
      if (error instanceof TooManyPointsError) throw new ArtworkError('too-many-points', MOST_POINTS);
      throw error;
    }
  }

  /** The pieces of a drawn line. @throws ArtworkError where it is too wide, or has too many points */
  private strokePieces(polyline: FlatPath, line: StrokeStyle, tolerance: number): number[][] {
    if ((line.width * TOLERANCE) / tolerance > FARTHEST) throw new ArtworkError('too-far');
    try {
      return strokePieces(polyline, line, tolerance, MOST_POINTS - this.points);
    } catch (error) {
      if (error instanceof TooManyPointsError) throw new ArtworkError('too-many-points', MOST_POINTS);
      throw error;
    }
  }

  private shape(element: Element, { style, put, view, clip }: Context): void {
    const path = pathOf(element, view, (figure) => this.found('broken', figure));
    if (!path) return this.found('unknown', element.name);
    if (style.visibility === 'hidden' || style.visibility === 'collapse') return;
    const tolerance = this.toleranceAt(put);
    if (tolerance === Infinity) return;
    const finite = path.filter(isFinitePoint);
    if (finite.length < path.length) this.found('broken', element.name);
    const polylines = this.flattened(finite, put);
    const fill = this.colourOf(style.fill ?? 'black', style, style['fill-opacity']);
    if (fill !== undefined && !(this.isOutlined && style.fill === undefined))
      this.add(fill, this.placed(polylines, put), ruleOf(style['fill-rule']), clip);
    const stroke = this.colourOf(style.stroke, style, style['stroke-opacity']);
    if (stroke === undefined) return;
    const line = this.strokeOf(style, view, put);
    if (!(line.width > 0)) return;
    if (['marker', 'marker-start', 'marker-mid', 'marker-end'].some((key) => (style[key] ?? 'none') !== 'none'))
      this.found('markers', '', spotIn(element, put, view));
    if ((style['stroke-dasharray'] ?? 'none') !== 'none') this.found('dashes', '');
    if (this.isOutlined) {
      for (const { points, closed } of polylines) {
        const polyline = this.snapped(points, put, closed);
        if (polyline.length >= (closed ? 6 : 4)) this.lines.push({ colour: stroke, points: polyline, closed });
      }
      return;
    }
    const isTurnedOver = put.a * put.d - put.b * put.c < 0;
    const drawn = polylines.map(({ points, closed }) => onGrid(points, put, closed));
    refuseTangles(drawn, MOST_LINE_CROSSINGS);
    const pieces = [...polylines, ...dotsOf(path)].flatMap((polyline) =>
      this.strokePieces(polyline, line, tolerance).map((piece) => this.snapped(orderedTo(piece, isTurnedOver), put)),
    );
    const area = strokeCover(pieces.filter((piece) => piece.length >= 6));
    this.add(stroke, withoutSpikes(area, TOLERANCE), 'nonzero', clip);
  }

  private add(colour: string, contours: readonly Contour[], rule: Rule, clip: Outline | undefined): void {
    if (contours.length === 0) return;
    const layer = clip
      ? { colour, contours: common(clip, covered(contours, rule)), rule: 'nonzero' as const }
      : { colour, contours, rule };
    if (layer.contours.length > 0) this.layers.push(layer);
  }

  /** How a line is drawn; one that does not scale has its width in pixels of the page. */
  private strokeOf(style: Style, view: Viewport, put: Placement): StrokeStyle {
    const line = strokeOf(style, view);
    if (style['vector-effect'] !== 'non-scaling-stroke') return line;
    const scale = Math.sqrt(Math.abs(put.a * put.d - put.b * put.c));
    return scale > 0 ? { ...line, width: (line.width * this.pixel) / scale } : line;
  }

  private colourOf(value: string | undefined, style: Style, opacity: string | undefined): string | undefined {
    if (opacity !== undefined && Number(opacity) === 0) return undefined;
    const paint = readPaint(value, style.color);
    if (paint?.kind !== 'reference') return paint?.colour;
    const target = this.byId.get(paint.id);
    if (target?.name === 'pattern') {
      this.found('pattern', paint.id);
      return '#808080';
    }
    if (!target)
      return readPaint((value ?? '').replace(/^url\([^)]*\)/u, ''), style.color)?.kind === 'plain' ? '#000000' : undefined;
    this.found('gradient', paint.id);
    return meanColour(this.stopsOf(target, 0));
  }

  private stopsOf(gradient: Element, depth: number): string[] {
    const own = gradient.children
      .filter(({ name }) => name === 'stop')
      .map(
        ({ attributes }) =>
          /stop-color\s*:\s*([^;]+)/u.exec(attributes.style ?? '')?.[1].trim() ?? attributes['stop-color'] ?? 'black',
      );
    const next = this.byId.get((gradient.attributes.href ?? '').slice(1));
    return own.length > 0 || !next || depth > 20 ? own : this.stopsOf(next, depth + 1);
  }
}

/** Points under a placement, in mm on the grid. */
function onGrid(points: readonly number[], { a, b, c, d, e, f }: Placement, closed: boolean): Contour {
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 2) {
    out[i] = a * points[i] + c * points[i + 1] + e;
    out[i + 1] = b * points[i] + d * points[i + 1] + f;
  }
  return snapPolyline(out, closed);
}

/** What lies in both of two areas; the second alone where there is no first. */
function common(first: Outline | undefined, second: Outline): Outline {
  if (!first || first === second) return second;
  return first.length === 0 || second.length === 0 ? [] : intersection(first, second);
}

/** Whether an element is drawn for those who read English and have no extensions (SVG 2, chapter 5.9). */
function isForUs({ attributes }: Element): boolean {
  const { systemLanguage, requiredExtensions } = attributes;
  if (requiredExtensions !== undefined && requiredExtensions.trim() !== '') return false;
  return systemLanguage === undefined || systemLanguage.split(',').some((each) => /^\s*en(-|\s*$)/iu.test(each));
}

const isFinitePoint = (command: PathCommand): boolean =>
  command.kind === 'close' || Object.values(command).every((value) => typeof value === 'string' || Number.isFinite(value));

const ruleOf = (value: string | undefined): Rule => (value === 'evenodd' ? 'evenodd' : 'nonzero');

function viewBox(text: string | undefined): [number, number, number, number] | undefined {
  const n = readNumbers(text);
  return n.length === 4 && n[2] > 0 && n[3] > 0 ? [n[0], n[1], n[2], n[3]] : undefined;
}

function strokeOf(style: Style, view: Viewport): StrokeStyle {
  const join = style['stroke-linejoin'];
  const cap = style['stroke-linecap'];
  const limit = Number(style['stroke-miterlimit'] ?? 4);
  return {
    width: inUser(style['stroke-width'], Math.hypot(view.width, view.height) / Math.SQRT2, 1),
    join: join === 'round' || join === 'bevel' ? join : 'miter',
    cap: cap === 'round' || cap === 'square' ? cap : 'butt',
    miterLimit: limit >= 1 ? limit : 4,
  };
}

/** Subpaths of no length, which flattening leaves out and round and square caps show. */
function dotsOf(path: readonly PathCommand[]): FlatPath[] {
  const out: FlatPath[] = [];
  path.forEach((command, i) => {
    const next = path[i + 1];
    const after = path[i + 2];
    if (command.kind !== 'move' || !next || next.kind === 'move') return;
    const isStill = next.kind === 'close' || (next.x === command.x && next.y === command.y && next.kind === 'line');
    if (isStill && (next.kind === 'close' || !after || after.kind === 'move' || after.kind === 'close'))
      out.push({ points: [command.x, command.y], closed: false });
  });
  return out;
}

function boxOf(path: readonly PathCommand[]): { x: number; y: number; width: number; height: number } | undefined {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { points } of flatten(path, 0.01)) {
    for (let i = 0; i < points.length; i += 2) {
      [minX, maxX] = [Math.min(minX, points[i]), Math.max(maxX, points[i])];
      [minY, maxY] = [Math.min(minY, points[i + 1]), Math.max(maxY, points[i + 1])];
    }
  }
  return minX < maxX && minY < maxY ? { x: minX, y: minY, width: maxX - minX, height: maxY - minY } : undefined;
}

/** Where an element begins. */
function spotIn({ attributes }: Element, { a, b, c, d, e, f }: Placement, view: Viewport): Spot {
  const [x, y] = [inUser(attributes.x, view.width), inUser(attributes.y, view.height)];
  return { x: a * x + c * y + e, y: b * x + d * y + f };
}

const textOf = (element: Element): string => element.text + element.children.map(textOf).join(' ');
