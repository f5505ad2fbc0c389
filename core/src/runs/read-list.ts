import { LIST_LIMITS, type List, ListError, listOf } from './list.js';
import { isZip, readWorkbook } from './workbook.js';

/** What Windows-1252 has from 0x80 to 0x9f, where ISO 8859-1 has controls (WHATWG Encoding Standard, index windows-1252). */
const WESTERN = '€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ';

/** Node.js 20 reads the label as ISO 8859-1, browsers as it is meant. */
const western = (bytes: Uint8Array): string =>
  new TextDecoder('windows-1252')
    .decode(bytes)
    .replace(/[\u0080-\u009f]/gu, (character) => WESTERN[character.charCodeAt(0) - 0x80]);

/** The text of a file: by its byte order mark, else UTF-8, else Windows-1252, which is said. */
function decoded(bytes: Uint8Array): { readonly text: string; readonly notes: readonly string[] } {
  const [a, b] = bytes;
  if (a === 0xff && b === 0xfe) return { text: new TextDecoder('utf-16le').decode(bytes), notes: [] };
  if (a === 0xfe && b === 0xff) return { text: new TextDecoder('utf-16be').decode(bytes), notes: [] };
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), notes: [] };
  } catch {
    return {
      text: western(bytes),
      notes: ['The list is not UTF-8: it was read as Windows-1252.'],
    };
  }
}

/**
 * A list of values with a head of names, as spreadsheets write them: a workbook's first sheet, or RFC 4180, with whatever parts its
 * values, any line ends and quotes.
 * @throws ListError where there is none, or it has more than {@link LIST_LIMITS}
 */
export function readList(bytes: Uint8Array): List {
  if (bytes.length > LIST_LIMITS.bytes)
    throw new ListError(`The list has ${(bytes.length / 1e6).toFixed(0)} MB: ${LIST_LIMITS.bytes / 1e6} MB are read. Part it into several.`); // prettier-ignore
  if (isZip(bytes)) return readWorkbook(bytes);
  const { text, notes } = decoded(bytes);
  const list = listOf(text);
  return { ...list, notes: [...notes, ...list.notes] };
}
