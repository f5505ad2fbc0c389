import { type CodeFault, outlineOfCode, symbologyOf } from '../../codes/index.js';
import { type Box, type Outline } from '../../geometry/index.js';
import { type CodeShape, codeSize, extentOfCodeShape, symbolOfShape } from '../../sign/index.js';

/** Dark modules, or the ground around them, about the middle of a code; or why it cannot be made. */
export function ringsOfCode(shape: CodeShape): Outline | CodeFault {
  const made = symbolOfShape(shape);
  if ('fault' in made) return made;
  return outlineOfCode(made, codeSize(shape), shape.ground ? symbologyOf(shape.symbology).quiet : undefined);
}

/** The box of a code without its quiet zone, about its middle. */
export function boxOfCode(shape: CodeShape): Box {
  const { width, height } = extentOfCodeShape(shape);
  return { minX: -width / 2, minY: -height / 2, maxX: width / 2, maxY: height / 2 };
}
