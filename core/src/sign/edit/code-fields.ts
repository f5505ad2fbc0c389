import { symbologyOf } from '../../codes/index.js';
import { type CodeShape } from '../document/schema.js';

/** mm of bars, to begin with. */
const BARS = 15;

/** Sets a field of a code, in a sign that may be changed. */
export function setCode(shape: CodeShape, field: string, value: unknown): void {
  switch (field) {
    case 'symbology':
      shape.symbology = value as CodeShape['symbology'];
      if (symbologyOf(shape.symbology).isLinear) shape.height ??= BARS;
      else delete shape.height;
      if (shape.symbology !== 'qr') delete shape.correction;
      break;
    case 'ground':
      if (value === true || value === 'true') shape.ground = true;
      else delete shape.ground;
      break;
    case 'kind':
      break;
    default:
      (shape as unknown as Record<string, unknown>)[field] = value;
  }
}
