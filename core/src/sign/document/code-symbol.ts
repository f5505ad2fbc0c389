import { extentOfCode, symbolOf, symbologyOf } from '../../codes/index.js';
import { type CodeShape } from './schema.js';

/** mm of bars where nothing is said. */
const BARS = 15;

/** How large the modules of a code are, in mm. */
export const codeSize = ({ module, height = BARS }: CodeShape): { readonly module: number; readonly height: number } => ({
  module,
  height,
});

/** The modules of a code, or why there are none. */
export const symbolOfShape = ({ symbology, words, correction }: CodeShape): ReturnType<typeof symbolOf> =>
  symbolOf(symbology, words, correction);

/** Width and height of a code without its quiet zone, in mm; one that cannot be made is as large as an empty one about. */
export function extentOfCodeShape(shape: CodeShape): { width: number; height: number } {
  const made = symbolOfShape(shape);
  const size = 'fault' in made ? UNMADE[symbologyOf(shape.symbology).isLinear ? 1 : 0] : made;
  return extentOfCode(size, codeSize(shape));
}

/** Modules of the smallest QR code, and of a usual row of bars. */
const UNMADE = [
  { columns: 21, rows: 21 },
  { columns: 95, rows: 1 },
] as const;
