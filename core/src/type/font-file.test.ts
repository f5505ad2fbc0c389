import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { zlibSync } from 'fflate';
import * as fontkit from 'fontkit';
import { covers, type FontEntry } from './catalogue.js';
import { fontNames, fontWrapping, scriptsOf, unpackWoff } from './font-file.js';
import { FontError } from './letter-font.js';
import { openOutlineFont } from './outline-font.js';

const FONTS = new URL('../../../fonts/', import.meta.url);
const catalogue = JSON.parse(readFileSync(new URL('catalogue.json', FONTS), 'utf8')) as FontEntry[];
const outlines = catalogue.filter(({ kind }) => kind === 'outline');
const bytesOf = ({ file }: FontEntry) => new Uint8Array(readFileSync(new URL(file, FONTS)));

/** A font wrapped as WOFF 1.0 (W3C) says: 44 bytes of head, 20 a table, tables packed one by one where that is smaller. */
function woff(font: Uint8Array): Uint8Array {
  const from = new DataView(font.buffer, font.byteOffset);
  const count = from.getUint16(4);
  const tables = Array.from({ length: count }, (_, i) => {
    const record = 12 + 16 * i;
    const data = font.subarray(from.getUint32(record + 8), from.getUint32(record + 8) + from.getUint32(record + 12));
    const packed = zlibSync(data);
    return { record, data, packed: packed.length < data.length ? packed : data };
  });
  const size = tables.reduce((sum, { packed }) => sum + ((packed.length + 3) & ~3), 44 + 20 * count);
  const out = new Uint8Array(size);
  const to = new DataView(out.buffer);
  to.setUint32(0, 0x774f4646);
  to.setUint32(4, from.getUint32(0));
  to.setUint32(8, size);
  to.setUint16(12, count);
  to.setUint32(16, font.length);
  let at = 44 + 20 * count;
  tables.forEach(({ record, data, packed }, i) => {
    [from.getUint32(record), at, packed.length, data.length, from.getUint32(record + 4)].forEach((value, k) => to.setUint32(44 + 20 * i + 4 * k, value)); // prettier-ignore
    out.set(packed, at);
    at += (packed.length + 3) & ~3;
  });
  return out;
}

describe('font files', () => {
  it.each(outlines.map((entry) => [entry.id, entry] as const))('%s: names as fontkit reads them', (_, entry) => {
    const bytes = bytesOf(entry);
    const other = fontkit.create(Buffer.from(bytes)) as fontkit.Font;
    const { family, style } = fontNames(bytes);
    const named = (key: string) => (other as unknown as { getName(key: string): string | null }).getName(key);
    expect(family).toBe(named('preferredFamily') ?? other.familyName);
    expect(style).toBe(named('preferredSubfamily') ?? other.subfamilyName);
    expect(fontWrapping(entry.id, bytes)).toBe('plain');
  });

  it('unwrapped from WOFF have the same tables and the same letters', () => {
    const bytes = bytesOf(outlines[0]);
    const wrapped = woff(bytes);
    expect(wrapped.length).toBeLessThan(bytes.length * 0.8);
    expect(fontWrapping('x', wrapped)).toBe('woff');
    const again = unpackWoff('x', wrapped);
    const [a, b] = [openOutlineFont('a', bytes), openOutlineFont('b', again)];
    const shaped = (font: typeof a) => font.shape('Fernhollow', { rightToLeft: false, script: 'Latn', features: {} });
    expect(shaped(b)).toEqual(shaped(a));
    expect(b.glyphPath(shaped(b)[0].glyph)).toEqual(a.glyphPath(shaped(a)[0].glyph));
    // fontkit takes both files as well.
    expect((fontkit.create(Buffer.from(wrapped)) as fontkit.Font).numGlyphs).toBe(
      (fontkit.create(Buffer.from(again)) as fontkit.Font).numGlyphs,
    );
  });

  it('tell their scripts', () => {
    const scripts = (id: string) =>
      scriptsOf((point) =>
        covers(
          catalogue.find((entry) => entry.id.startsWith(id))!,
          point,
        ),
      );
    expect(scripts('alegreya-sans')).toEqual(['Latin', 'Greek', 'Cyrillic']);
    for (const script of ['Hebrew', 'Arabic', 'Devanagari'])
      expect(catalogue.some((entry) => scriptsOf((point) => covers(entry, point)).includes(script))).toBe(true);
  });

  it.each<[string, Uint8Array, string]>([
    ['nothing', new Uint8Array(0), 'it is none: choose a file'],
    ['words', new TextEncoder().encode('hello, this is no font at all, though it is long enough'), 'it is none'],
    ['a collection', new TextEncoder().encode('ttcf\0\0\0\0\0\0\0\0'), 'it holds several fonts'],
    ['half a head', new TextEncoder().encode('wOFF1234'), 'its file is cut off'],
    ['a bomb', Uint8Array.from({ length: 60 }, (_, i) => [...new TextEncoder().encode('wOF2'), ...new Array(12).fill(0), 0x7f, 255, 255, 255][i] ?? 0), 'larger than 30 MB'], // prettier-ignore
  ])('%s is refused with a sentence', (_, bytes, sentence) => {
    expect(() => fontWrapping('Herb.ttf', bytes)).toThrow(sentence);
    expect(() => fontWrapping('Herb.ttf', bytes)).toThrow(FontError);
  });

  it('damaged ones are refused or give no letters, and never hang', () => {
    const wrapped = woff(bytesOf(outlines[0]));
    for (let i = 0; i < 60; i++) {
      const broken = Uint8Array.from(wrapped);
      for (let k = 0; k < 8; k++) broken[44 + ((i * 7919 + k * 104_729) % (wrapped.length - 44))] ^= 1 + (i % 255);
      const began = performance.now();
      try {
        const font = openOutlineFont('x', unpackWoff('x', broken));
        font.shape('Fern', { rightToLeft: false, script: 'Latn', features: {} });
      } catch (error) {
        expect((error as Error).message).toMatch(/cannot be used|Path command/u);
      }
      expect(performance.now() - began).toBeLessThan(20_000);
    }
  });
});
