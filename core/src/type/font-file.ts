import { unzlibSync } from 'fflate';
import { FontError } from './letter-font.js';

/** What wraps a font: bare TrueType or OpenType, or compressed for the web. */
export type FontWrapping = 'plain' | 'woff' | 'woff2';

/** Most bytes of a font, unwrapped. */
export const MOST_FONT_BYTES = 30_000_000;

const tag = (view: DataView, at: number): string =>
  at + 4 <= view.byteLength ? String.fromCharCode(...[0, 1, 2, 3].map((i) => view.getUint8(at + i))) : '';

const viewOf = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/**
 * How a font file is wrapped, by how it begins.
 * @throws FontError where it is no single font, or says that it is larger than a font may be
 */
export function fontWrapping(name: string, bytes: Uint8Array): FontWrapping {
  const view = viewOf(bytes);
  const start = tag(view, 0);
  if (start === 'ttcf') throw new FontError(name, 'it holds several fonts: save the one that is wanted as a file of its own');
  if (start === '\0\u0001\0\0' || start === 'OTTO' || start === 'true') return 'plain';
  if (start !== 'wOFF' && start !== 'wOF2')
    throw new FontError(name, 'it is none: choose a file in one of the formats TTF, OTF, WOFF and WOFF2');
  if (bytes.length < 44) throw new FontError(name, 'its file is cut off');
  // Both formats give the size of the font itself at byte 16 (WOFF 1.0, W3C, chapter 3; WOFF 2.0, chapter 4.1).
  if (view.getUint32(16) > MOST_FONT_BYTES)
    throw new FontError(name, `it is larger than ${MOST_FONT_BYTES / 1e6} MB when unpacked`);
  return start === 'wOFF' ? 'woff' : 'woff2';
}

/**
 * What is wrong with the file of an unwrapped font, by the directory of its tables: `cut off` where one reaches past its end, `damaged`
 * where one has not the checksum that is written there (OpenType, "Table Directory": the sum of its 32-bit words).
 */
export function fontDamage(bytes: Uint8Array): 'cut off' | 'damaged' | undefined {
  const view = viewOf(bytes);
  const tables = bytes.length >= 12 ? view.getUint16(4) : 0;
  if (12 + 16 * tables > bytes.length) return 'cut off';
  let isDamaged = tables === 0;
  for (let i = 0; i < tables; i++) {
    const [sum, offset, length] = [4, 8, 12].map((at) => view.getUint32(12 + 16 * i + at));
    if (offset + length > bytes.length) return 'cut off';
    // The head's own sum leaves out the field that makes the whole file's come out.
    const left = tag(view, 12 + 16 * i) === 'head' && length >= 12 ? view.getUint32(offset + 8) : 0;
    if ((checksum(view, offset, length) - left) >>> 0 !== sum) isDamaged = true;
  }
  return isDamaged ? 'damaged' : undefined;
}

/** The sum of the 32-bit words of a table, modulo 2³²; what is missing to the last word counts as 0. */
function checksum(view: DataView, offset: number, length: number): number {
  let sum = 0;
  for (let at = 0; at < length; at += 4) {
    let word = 0;
    for (let k = 0; k < 4; k++) word = word * 256 + (at + k < length ? view.getUint8(offset + at + k) : 0);
    sum = (sum + word) >>> 0;
  }
  return sum;
}

/** The font in a WOFF file (WOFF 1.0, W3C). @throws FontError */
export function unpackWoff(name: string, bytes: Uint8Array): Uint8Array {
  const view = viewOf(bytes);
  const tables = view.getUint16(12);
  const damaged = () => new FontError(name, 'its file is damaged');
  if (44 + 20 * tables > bytes.length) throw damaged();
  const parts: { entry: number; data: Uint8Array }[] = [];
  let size = 12 + 16 * tables;
  for (let i = 0; i < tables; i++) {
    const entry = 44 + 20 * i;
    const [offset, packed, length] = [4, 8, 12].map((at) => view.getUint32(entry + at));
    if (offset + packed > bytes.length || size + length > MOST_FONT_BYTES) throw damaged();
    const raw = bytes.subarray(offset, offset + packed);
    let data: Uint8Array;
    try {
      data = packed === length ? raw : unzlibSync(raw, { out: new Uint8Array(length) });
    } catch {
      throw damaged();
    }
    if (data.length !== length) throw damaged();
    parts.push({ entry, data });
    size += (length + 3) & ~3;
  }
  const out = new Uint8Array(size);
  const to = viewOf(out);
  to.setUint32(0, view.getUint32(4));
  to.setUint16(4, tables);
  // The head of a font lets its tables be found by halving: the largest power of two not above their number.
  const power = Math.floor(Math.log2(Math.max(1, tables)));
  to.setUint16(6, 16 * 2 ** power);
  to.setUint16(8, power);
  to.setUint16(10, 16 * tables - 16 * 2 ** power);
  let at = 12 + 16 * tables;
  parts.forEach(({ entry, data }, i) => {
    const record = 12 + 16 * i;
    to.setUint32(record, view.getUint32(entry));
    to.setUint32(record + 4, view.getUint32(entry + 16));
    to.setUint32(record + 8, at);
    to.setUint32(record + 12, data.length);
    out.set(data, at);
    at += (data.length + 3) & ~3;
  });
  return out;
}

/** What a font says of itself. */
export interface FontNames {
  readonly family: string;
  readonly style: string;
  /** Its maker forbids putting it into documents (OS/2 table, fsType, bit 1). */
  readonly isRestricted: boolean;
}

/** Family and style of a font, typographic names before those of the four-style family (OpenType, name table). */
export function fontNames(bytes: Uint8Array): FontNames {
  const view = viewOf(bytes);
  const names = nameTable(view, tableOf(view, 'name'));
  const os2 = tableOf(view, 'OS/2');
  const name = (...ids: readonly number[]) => ids.map((id) => names.get(id)?.trim()).find((text) => text) ?? '';
  return {
    family: name(16, 1),
    style: name(17, 2) || 'Regular',
    isRestricted: os2 !== undefined && os2 + 10 <= view.byteLength && (view.getUint16(os2 + 8) & 2) !== 0,
  };
}

function tableOf(view: DataView, wanted: string): number | undefined {
  const count = view.byteLength >= 12 ? view.getUint16(4) : 0;
  for (let i = 0; i < count; i++) {
    const record = 12 + 16 * i;
    if (record + 16 > view.byteLength) return undefined;
    if (tag(view, record) === wanted) return view.getUint32(record + 8);
  }
  return undefined;
}

/** Names by their number, English before others. */
function nameTable(view: DataView, at: number | undefined): Map<number, string> {
  const out = new Map<number, string>();
  if (at === undefined || at + 6 > view.byteLength) return out;
  const [count, storage] = [view.getUint16(at + 2), at + view.getUint16(at + 4)];
  const english = new Set<number>();
  for (let i = 0; i < count; i++) {
    const record = at + 6 + 12 * i;
    if (record + 12 > view.byteLength) break;
    const [platform, , language, id, length, offset] = [0, 2, 4, 6, 8, 10].map((k) => view.getUint16(record + k));
    const start = storage + offset;
    // Windows and Unicode platforms write two bytes a character, big end first.
    if ((platform !== 3 && platform !== 0) || start + length > view.byteLength || length > 400) continue;
    if (english.has(id)) continue;
    let text = '';
    for (let k = 0; k + 1 < length; k += 2) text += String.fromCharCode(view.getUint16(start + k));
    out.set(id, text);
    if (platform === 3 && language === 0x409) english.add(id);
  }
  return out;
}

/** A letter that stands for each script that signs are set in. */
const SCRIPTS: readonly (readonly [string, string])[] = [
  ['Latin', 'Aaéß'],
  ['Greek', 'Ωα'],
  ['Cyrillic', 'Жя'],
  ['Hebrew', 'א'],
  ['Arabic', 'ع'],
  ['Devanagari', 'क'],
  ['Braille', '⠿'],
];

/** The scripts of which a font has the letters, by what covers them. */
export const scriptsOf = (covers: (codePoint: number) => boolean): string[] =>
  SCRIPTS.filter(([, letters]) => [...letters].every((letter) => covers(letter.codePointAt(0)!))).map(([name]) => name);
