import { union } from '../arrangement/index.js';
import { bounds, type Box, type Contour, flatten, type Outline, snapRing, snapPolyline, type Stroke } from '../geometry/index.js';
import { covers, type FontEntry } from './catalogue.js';
import { FontError, type LetterFont } from './letter-font.js';
import { openOutlineFont } from './outline-font.js';
import { openSingleLineFont } from './single-line-font.js';

/** Brings the bytes of a font; how is the caller's affair. */
export type FontLoader = (entry: FontEntry) => Promise<Uint8Array>;

/** A glyph at a size, about its own origin on the baseline. One of the two lists is empty. */
export interface GlyphShape {
  /** Outer rings anticlockwise, holes clockwise, none crossing. */
  readonly outline: Outline;
  /** Strokes of a single-line font. */
  readonly strokes: readonly Stroke[];
}

const MOST_SHAPES = 20_000;

/** The fonts at hand: their catalogue, those loaded, and a cache of their glyphs at the sizes in use. */
export class FontBook {
  private readonly entries: Map<string, FontEntry>;
  private readonly loaded = new Map<string, LetterFont>();
  private readonly loading = new Map<string, Promise<LetterFont>>();
  private readonly shapes = new Map<string, GlyphShape>();
  private readonly boxes = new Map<string, Box | null>();

  constructor(
    catalogue: readonly FontEntry[],
    private readonly load: FontLoader,
  ) {
    this.entries = new Map(catalogue.map((entry) => [entry.id, entry]));
  }

  get catalogue(): readonly FontEntry[] {
    return [...this.entries.values()];
  }

  /** Adds fonts that came later; known ids stay what they are. */
  learn(entries: readonly FontEntry[]): void {
    for (const entry of entries) if (!this.entries.has(entry.id)) this.entries.set(entry.id, entry);
  }

  entry(id: string): FontEntry | undefined {
    return this.entries.get(id);
  }

  /** Loads fonts that are not loaded yet. Unknown ids are passed over: {@link font} refuses them. */
  async need(ids: Iterable<string>): Promise<void> {
    await Promise.all([...new Set(ids)].map((id) => this.fetch(id)));
  }

  private async fetch(id: string): Promise<void> {
    const entry = this.entries.get(id);
    if (!entry || this.loaded.has(id)) return;
    let pending = this.loading.get(id);
    if (!pending) {
      pending = this.load(entry).then((bytes) =>
        entry.kind === 'outline' ? openOutlineFont(id, bytes) : openSingleLineFont(id, bytes),
      );
      this.loading.set(id, pending);
    }
    try {
      this.loaded.set(id, await pending);
    } finally {
      this.loading.delete(id);
    }
  }

  /** A loaded font. @throws FontError where it is unknown or was not asked for with {@link need} */
  font(id: string): LetterFont {
    const font = this.loaded.get(id);
    if (!font) throw new FontError(id, this.entries.has(id) ? 'it is not loaded' : 'no font has this name');
    return font;
  }

  /** Fonts of the catalogue that have a glyph for the code point, outline fonts first. */
  covering(codePoint: number): FontEntry[] {
    return this.catalogue
      .filter((entry) => covers(entry, codePoint))
      .sort((a, b) => Number(a.kind === 'single-line') - Number(b.kind === 'single-line'));
  }

  /** What is seen of a glyph in font units, y up; undefined where nothing is. */
  extents(font: LetterFont, glyph: number): Box | undefined {
    const key = `${font.id}|${glyph}`;
    let box = this.boxes.get(key);
    if (box === undefined) {
      const runs = flatten(font.glyphPath(glyph), font.unitsPerEm / 10_000);
      box = bounds(runs.map(({ points }) => Float64Array.from(points))) ?? null;
      this.boxes.set(key, box);
    }
    return box ?? undefined;
  }

  /** A glyph flattened at a scale (mm a font unit, across and up), cached. */
  glyph(font: LetterFont, glyph: number, scaleX: number, scaleY: number, tolerance: number): GlyphShape {
    const key = `${font.id}|${glyph}|${scaleX}|${scaleY}|${tolerance}`;
    let shape = this.shapes.get(key);
    if (!shape) {
      shape = shapeOf(font, glyph, scaleX, scaleY, tolerance);
      if (this.shapes.size >= MOST_SHAPES) this.shapes.clear();
      this.shapes.set(key, shape);
    }
    return shape;
  }
}

function shapeOf(font: LetterFont, glyph: number, scaleX: number, scaleY: number, tolerance: number): GlyphShape {
  const runs = flatten(font.glyphPath(glyph), tolerance / Math.max(scaleX, scaleY)).map(({ points, closed }) => ({
    closed,
    points: points.map((value, i) => value * (i % 2 === 0 ? scaleX : scaleY)),
  }));
  if (font.kind === 'single-line') {
    const strokes = runs.map(({ points, closed }) => ({ points: snapPolyline(points, closed), closed }));
    return { outline: [], strokes };
  }
  const contours: Contour[] = runs.map(({ points }) => snapRing(points));
  return { outline: union(contours), strokes: [] };
}
