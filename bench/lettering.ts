import { newSign, newText, type Sign, type TextPart } from '../core/src/sign/index.js';

/** The letters that the benchmarks set, over and over: capitals and small letters, with counters and without. */
const ROW = 'ABCDEGQRSaegbdkymwot';

/** A plate with about n letters raised on it, in rows of twenty. */
export function plateOf(letters: number): Sign {
  const sign = newSign('Bench', 'mm');
  const rows = Math.ceil(letters / ROW.length);
  const part: TextPart = { ...newText(sign, 'barlow-semibold'), capHeight: 8, words: Array(rows).fill(ROW).join('\n') };
  sign.blank.outline = { kind: 'rectangle', width: 260, height: rows * 13 + 20, cornerRadius: 5 };
  sign.parts.push(part);
  return sign;
}
