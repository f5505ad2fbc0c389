import { ballCap, BLANK_CELL, USUAL_BRAILLE } from '../../braille/index.js';
import { saidBy } from '../document/braille-words.js';
import { type BrailleShape, type ShapePart, type Sign } from '../document/schema.js';

/** mm of a ball that is pressed in, to begin with. */
const BALL = 1.6;
const tidy = (mm: number): number => Number(mm.toFixed(3));

/** Sets a field of a part in braille, in a sign that may be changed. */
export function setBraille(sign: Sign, part: ShapePart, shape: BrailleShape, field: string, value: unknown): void {
  const isYes = value === true || value === 'true';
  switch (field) {
    case 'follows':
      if (value === 'own') {
        shape.words =
          sign.parts.find(({ id }) => id === shape.follows)?.kind === 'text' ? wordsFollowed(sign, shape) : shape.words;
        delete shape.follows;
      } else shape.follows = value as string;
      break;
    case 'capitals':
      if (isYes) shape.capitals = true;
      else delete shape.capitals;
      break;
    case 'cells':
      shape.cells = cellsOnly(value as string);
      shape.corrected = true;
      shape.translated = { words: saidBy(sign, shape), table: shape.table };
      break;
    case 'corrected':
      if (isYes) shape.corrected = true;
      else {
        delete shape.corrected;
        delete shape.translated;
      }
      break;
    case 'limited':
      if (isYes) shape.room ??= 100;
      else delete shape.room;
      break;
    case 'base':
      setBase(part, shape, value as number);
      break;
    case 'isBalls':
      setBalls(part, shape, isYes);
      break;
    case 'kind':
      break;
    default:
      (shape as unknown as Record<string, unknown>)[field] = value;
  }
}

function wordsFollowed(sign: Sign, { follows }: BrailleShape): string {
  const text = sign.parts.find(({ id }) => id === follows);
  return text?.kind === 'text' ? text.words : '';
}

/** Only cells of six dots; what is between words becomes a blank one. */
const cellsOnly = (text: string): string =>
  [...text.replace(/[ \t]/gu, BLANK_CELL)].filter((cell) => cell === '\n' || (cell >= BLANK_CELL && cell <= '\u283f')).join('');

/** Dots of another size stay domes. */
function setBase(part: ShapePart, shape: BrailleShape, base: number): void {
  for (const { edge } of part.tiers)
    if (edge?.kind === 'domed' && edge.width === tidy(shape.base / 2)) edge.width = tidy(base / 2);
  shape.base = base;
}

/** Holes for balls that stand as high as the dots did, or dots again. */
function setBalls(part: ShapePart, shape: BrailleShape, isBalls: boolean): void {
  const [tier] = part.tiers;
  if (!tier || isBalls === (shape.ball !== undefined)) return;
  if (isBalls) {
    const height = tier.action.kind === 'raise' ? tier.action.by : USUAL_BRAILLE.height;
    shape.ball = BALL;
    tier.action = { kind: 'carve', by: tidy(Math.max(0, BALL - height)) };
    delete tier.edge;
    return;
  }
  const depth = tier.action.kind === 'carve' ? tier.action.by : 0;
  tier.action = { kind: 'raise', by: tidy(ballCap(shape.ball!, depth).height) || USUAL_BRAILLE.height };
  tier.edge = { kind: 'domed', width: tidy(shape.base / 2) };
  delete shape.ball;
}
