import { type FontEntry } from '../../type/index.js';
import { formatLength, type LengthUnit } from '../../units/index.js';
import { symbologyOf } from '../../codes/index.js';
import { type BlockBody, type Part, type Shape, type Sign, type TextPart, type Tier } from '../document/schema.js';
import { Writer } from './sentence.js';

/** Between the facts of a line. */
const BETWEEN = ' · ';

/**
 * A part in one line: its words or its name, how it is set or what shape it is, and what its tiers do:
 * "FERNHOLLOW · Cinzel Bold 44 mm · raised 6 mm".
 */
export function partLine({ unit }: Pick<Sign, 'unit'>, part: Part, catalogue: readonly FontEntry[]): string {
  const first = part.kind === 'text' ? [wordsOf(part), `${fontOf(part, catalogue)} ${sizeOf(part, unit)}`] : [part.name, shapeLine(part.shape, unit)]; // prettier-ignore
  const made = part.tiers.filter(({ on }) => on).map((tier) => tierLine(tier, unit));
  const whole = part.hidden ? 'hidden' : made.join(', ');
  return [...first, whole].filter((fact) => fact !== '').join(BETWEEN);
}

/** A blank in one line: "rectangle 520 × 240 mm · 19 mm · oak". */
export const blankLine = ({
  blank: { outline, thickness, material, cutTo },
  unit,
  support,
}: Pick<Sign, 'blank' | 'unit' | 'support'>): string =>
  [
    ...(support?.kind === 'block'
      ? [bodyLine(support.body, unit)]
      : [shapeLine(outline, unit), `${formatLength(thickness, unit)} thick`]),
    material,
    cutTo ? 'cut to its letters' : '',
  ]
    .filter((fact) => fact !== '')
    .join(BETWEEN);

function bodyLine(body: BlockBody, unit: LengthUnit): string {
  switch (body.kind) {
    case 'box':
      return `box ${times(body.width, body.height, unit)} × ${formatLength(body.depth, unit)}`;
    case 'prism':
      return `prism with ${body.sides} sides ${times(body.width, body.height, unit)}`;
    case 'wedge':
      return `wedge ${times(body.width, body.depth, unit)}, ${formatLength(body.back, unit)} high`;
  }
}

function wordsOf({ words }: TextPart): string {
  const lines = words.split('\n').map((line) => line.trim());
  return lines.filter((line) => line !== '').join(' / ') || 'no words yet';
}

const fontOf = ({ font }: TextPart, catalogue: readonly FontEntry[]): string => new Writer('mm', catalogue).font('', font).text;

function sizeOf({ size }: TextPart, unit: LengthUnit): string {
  switch (size.kind) {
    case 'capitals':
      return formatLength(size.height, unit);
    case 'em':
      return `${formatLength(size.size, unit)} em`;
    case 'seen-width':
      return `${formatLength(size.width, unit)} wide`;
    case 'seen-height':
      return `${formatLength(size.height, unit)} high`;
    case 'seen':
      return times(size.width, size.height, unit);
  }
}

/** "520 × 240 mm": the unit once where both have the same. */
function times(width: number, height: number, unit: LengthUnit): string {
  const [across, up] = [formatLength(width, unit), formatLength(height, unit)];
  const own = / \D+$/u.exec(up)?.[0];
  return `${own && across.endsWith(own) ? across.slice(0, -own.length) : across} × ${up}`;
}

function shapeLine(shape: Shape, unit: LengthUnit): string {
  switch (shape.kind) {
    case 'circle':
      return `⌀ ${formatLength(shape.diameter, unit)}`;
    case 'polygon':
      return `${shape.sides} sides, ${formatLength(shape.diameter, unit)}`;
    case 'line':
      return `rule ${formatLength(shape.length, unit)}`;
    case 'border':
      return shape.width === 0 ? `inset ${formatLength(shape.inset, unit)}` : `${formatLength(shape.width, unit)} wide, inset ${formatLength(shape.inset, unit)}`; // prettier-ignore
    case 'fixings':
      return `holes ⌀ ${formatLength(shape.diameter, unit)}`;
    case 'braille':
      return ['braille', shape.translated && `“${shape.translated.words.replace(/\n/gu, ' / ')}”`].filter(Boolean).join(' ');
    case 'code':
      return `${symbologyOf(shape.symbology).name} “${shape.words.replace(/\n/gu, ' / ')}”`;
    case 'sector':
      return `ring piece ${times(shape.radius, shape.height, unit)}`;
    case 'combined':
      return { join: 'joined', cut: 'cut out', common: 'in common' }[shape.how];
    default:
      return `${shape.kind} ${times(shape.width, shape.height, unit)}`;
  }
}

function tierLine({ action }: Tier, unit: LengthUnit): string {
  switch (action.kind) {
    case 'raise':
      return `raised ${formatLength(action.by, unit)}`;
    case 'carve':
      return `carved ${formatLength(action.by, unit)}`;
    case 'set':
      return `set at ${formatLength(action.to, unit)}${action.flat ? ', flat' : ''}`;
    case 'line':
      return `engraved ${formatLength(action.depth, unit)}`;
    case 'insert':
      return `insert of ${action.material}`;
    case 'mark':
      return 'coloured';
    case 'cut-through':
      return 'cut through';
  }
}
