import { type PathCommand, readPathData } from '../geometry/index.js';
import { CAP_LETTERS, FontError, heightOf, type LetterFont, type ShapedGlyph, type ShapingChoice } from './letter-font.js';

interface SingleLineGlyph {
  readonly advance: number;
  readonly path: readonly PathCommand[];
}

const ENTITIES: Readonly<Record<string, string>> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" };

function unescaped(text: string): string {
  return text.replace(/&(?:#x([0-9a-fA-F]+)|#(\d+)|(\w+));/gu, (whole, hex, decimal, name) => {
    if (hex) return String.fromCodePoint(parseInt(hex, 16));
    if (decimal) return String.fromCodePoint(Number(decimal));
    return ENTITIES[name] ?? whole;
  });
}

/** Glyphs of an SVG 1.1 font (W3C, chapter 20) by their character; ligature glyphs are left out. */
function readGlyphs(source: string): Map<number, SingleLineGlyph> {
  const glyphs = new Map<number, SingleLineGlyph>();
  for (const [, attributes] of source.matchAll(/<glyph\s([^>]*?)\/?>/gu)) {
    const value = (name: string) => new RegExp(`(?:^|\\s)${name}="([^"]*)"`, 'u').exec(attributes)?.[1];
    const character = unescaped(value('unicode') ?? '');
    const codePoint = character.codePointAt(0);
    if (codePoint === undefined || String.fromCodePoint(codePoint) !== character) continue;
    glyphs.set(codePoint, { advance: Number(value('horiz-adv-x') ?? 0), path: readPathData(value('d') ?? '') });
  }
  return glyphs;
}

/**
 * A font of open strokes from an SVG font file. Its glyph numbers are code points. Capitals are measured on the letter,
 * since the files' own cap-height is not that of their letters.
 * @throws FontError where the file holds no capitals
 */
export function openSingleLineFont(id: string, bytes: Uint8Array): LetterFont {
  const source = decodeUtf8(bytes);
  const glyphs = readGlyphs(source);
  const capLetter = CAP_LETTERS[0];
  const capHeight = heightOf(glyphs.get(capLetter.codePointAt(0)!)?.path ?? []);
  if (!(capHeight > 0)) throw new FontError(id, `it has no “${capLetter}”`);
  return {
    id,
    kind: 'single-line',
    unitsPerEm: Number(/units-per-em="(\d+)"/u.exec(source)?.[1] ?? 1000),
    capHeight,
    capLetter,
    features: new Set(),
    covers: (codePoint) => glyphs.has(codePoint),
    shape(text: string, { rightToLeft }: ShapingChoice): ShapedGlyph[] {
      const out: ShapedGlyph[] = [];
      let cluster = 0;
      for (const character of text) {
        const glyph = character.codePointAt(0)!;
        out.push({ glyph, cluster, advance: glyphs.get(glyph)?.advance ?? 0, dx: 0, dy: 0 });
        cluster += character.length;
      }
      return rightToLeft ? out.reverse() : out;
    },
    glyphPath: (glyph) => glyphs.get(glyph)?.path ?? [],
    advanceOf: (glyph) => glyphs.get(glyph)?.advance ?? 0,
  };
}

/** Code points of an SVG font file. */
export const codePointsOfSingleLine = (bytes: Uint8Array): number[] => [...readGlyphs(decodeUtf8(bytes)).keys()];

// UTF-8 after RFC 3629, without the TextDecoder that belongs to the surroundings.
function decodeUtf8(bytes: Uint8Array): string {
  let text = '';
  for (let i = 0; i < bytes.length;) {
    const lead = bytes[i++];
    const more = lead < 0x80 ? 0 : lead < 0xe0 ? 1 : lead < 0xf0 ? 2 : 3;
    let point = more === 0 ? lead : lead & (0x3f >> more);
    for (let k = 0; k < more; k++) point = (point << 6) | (bytes[i++] & 0x3f);
    text += String.fromCodePoint(point);
  }
  return text;
}
