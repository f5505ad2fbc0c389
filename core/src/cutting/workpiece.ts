import { bounds, type Box, type Contour } from '../geometry/index.js';
import { type Evaluation } from '../relief/index.js';
import { type ReliefMesh } from '../mesh/index.js';
import { solidOf } from '../solid/index.js';
import { type CutChoice, type Turning } from './choice.js';

/** What is cut, as it lies on the machine. */
export interface Workpiece {
  readonly mesh: ReliefMesh;
  readonly blank: Contour;
  readonly levels: Evaluation['levels'];
}

/** A block of material and where it is cut. */
export interface StockBox {
  readonly box: Box;
  readonly top: number;
  readonly bottom: number;
}

/** A hole that is cut through the stock and into the bed, for a pin. */
export interface PinHole {
  readonly x: number;
  readonly y: number;
  readonly diameter: number;
  /** Height of its ground. */
  readonly bottom: number;
}

/** A work in its stock, and where pins hold that. */
export interface LaidOut {
  readonly work: Workpiece;
  readonly stock: StockBox;
  readonly pins: readonly PinHole[];
}

/** mm of stock that stay around a pin. */
const AROUND_PIN = 5;

/**
 * A sign's solid as it lies on the machine, seen from above, in a stock as thick as its highest raise or what is chosen asks. The back of a
 * work that is turned about its upright middle line lies as it is seen from behind; of one that is turned about its level middle line it lies
 * turned half round from that. Stock and pins lie as before once it is turned.
 */
export function laidOut(evaluation: Evaluation, choice: Pick<CutChoice, 'turning' | 'stockThickness'>): LaidOut {
  const { levels, rearmost, side, sign } = evaluation;
  const { turning, stockThickness = 0 } = choice;
  const { thickness } = sign.blank;
  const isHalfTurned = liesHalfTurned(side, turning);
  const seen = solidOf(evaluation);
  const mesh = isHalfTurned ? { ...seen, positions: seen.positions.map((value, i) => (i % 3 === 2 ? value : -value)) } : seen;
  const blank = isHalfTurned ? evaluation.blank.map((value) => -value) : evaluation.blank;
  const around = bounds([blank])!;
  const stock = {
    box: withPins(around, turning),
    top: Math.max(highestOf(mesh), stockThickness - thickness),
    bottom: Math.min(-thickness, rearmost),
  };
  // What lies in a plane is curved over the plan, and cut as slopes are.
  const level = levels.filter(({ plane }) => !plane);
  return { work: { mesh, blank, levels: level }, stock, pins: pinHoles(around, turning, stock.bottom) };
}

/** Whether a side lies turned half round from how it is seen. */
export const liesHalfTurned = (side: Evaluation['side'], turning: Turning | undefined): boolean =>
  turning?.axis === 'level' && side === 'back';

function highestOf({ positions }: ReliefMesh): number {
  let highest = -Infinity;
  for (let i = 2; i < positions.length; i += 3) highest = Math.max(highest, positions[i]);
  return highest;
}

/** The blank, with room for pins at both ends of the axis. */
function withPins(box: Box, turning: Turning | undefined): Box {
  if (!turning?.pins) return box;
  const { apart, diameter } = turning.pins;
  const more = apart + diameter / 2 + AROUND_PIN;
  return turning.axis === 'upright'
    ? { ...box, minY: box.minY - more, maxY: box.maxY + more }
    : { ...box, minX: box.minX - more, maxX: box.maxX + more };
}

/** Holes for pins on the axis that a work is turned about; none where there are no pins. */
function pinHoles({ minX, minY, maxX, maxY }: Box, turning: Turning | undefined, underside: number): PinHole[] {
  if (!turning?.pins) return [];
  const { apart, diameter, deep } = turning.pins;
  const [x, y] = [(minX + maxX) / 2, (minY + maxY) / 2];
  const ends = turning.axis === 'upright' ? [[x, minY - apart], [x, maxY + apart]] : [[minX - apart, y], [maxX + apart, y]]; // prettier-ignore
  return ends.map(([endX, endY]) => ({ x: endX, y: endY, diameter, bottom: underside - deep }));
}
