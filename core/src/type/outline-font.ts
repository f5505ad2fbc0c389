import * as hb from 'harfbuzzjs';
import { type PathCommand, readPathData } from '../geometry/index.js';
import { CAP_LETTERS, FontError, heightOf, type LetterFont, type ShapedGlyph, type ShapingChoice } from './letter-font.js';

/**
 * A TrueType or OpenType font, shaped by HarfBuzz (kerning, ligatures, marks and joining forms).
 * @throws FontError where the bytes are not such a font or it has no letter to measure capitals on
 */
export function openOutlineFont(id: string, bytes: Uint8Array): LetterFont {
  const face = new hb.Face(new hb.Blob(bytes), 0);
  const font = new hb.Font(face);
  const unitsPerEm = face.upem;
  const paths = new Map<number, readonly PathCommand[]>();
  const glyphPath = (glyph: number): readonly PathCommand[] => {
    let path = paths.get(glyph);
    if (!path) {
      path = readPathData(font.glyphToPath(glyph));
      paths.set(glyph, path);
    }
    return path;
  };
  const nominal = (codePoint: number): number => font.nominalGlyph(codePoint) ?? 0;

  const capLetter = CAP_LETTERS.find((letter) => nominal(letter.codePointAt(0)!) !== 0);
  if (!capLetter) throw new FontError(id, 'it has no letters that signs are set in');
  const capHeight = heightOf(glyphPath(nominal(capLetter.codePointAt(0)!)));
  if (!(capHeight > 0)) throw new FontError(id, `its “${capLetter}” has no height`);

  return {
    id,
    kind: 'outline',
    unitsPerEm,
    capHeight,
    capLetter,
    features: new Set(face.getTableFeatureTags('GSUB')),
    covers: (codePoint) => nominal(codePoint) !== 0,
    shape(text: string, choice: ShapingChoice): ShapedGlyph[] {
      const buffer = new hb.Buffer();
      buffer.addText(text);
      buffer.setDirection(choice.rightToLeft ? hb.Direction.RTL : hb.Direction.LTR);
      buffer.setScript(choice.script);
      buffer.guessSegmentProperties();
      const features = Object.entries(choice.features).map(([tag, isOn]) => new hb.Feature(tag, isOn ? 1 : 0));
      hb.shape(font, buffer, features);
      return buffer.getGlyphInfosAndPositions().map((info) => ({
        glyph: info.codepoint,
        cluster: info.cluster,
        advance: info.xAdvance ?? 0,
        dx: info.xOffset ?? 0,
        dy: info.yOffset ?? 0,
      }));
    },
    glyphPath,
    advanceOf: (glyph) => font.glyphHAdvance(glyph),
  };
}

/** Code points that a TrueType or OpenType font maps to glyphs. */
export function codePointsOf(bytes: Uint8Array): number[] {
  return Array.from(new hb.Face(new hb.Blob(bytes), 0).collectUnicodes());
}
