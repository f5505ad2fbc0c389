import { MaxRectsPacker } from 'maxrects-packer/dist/maxrects-packer.mjs';
import { bounds, type Box, type Outline } from '../geometry/index.js';
import { isBetter, type Laid, type Nest, type NestChoice, shareOf } from './nest-choice.js';

/** Orders in which rectangles are given to the packer, by what is first. */
const SORTS: readonly ((box: Box) => number)[] = [
  (box) => width(box) * height(box),
  (box) => Math.max(width(box), height(box)),
  (box) => height(box),
];

const width = ({ minX, maxX }: Box): number => maxX - minX;
const height = ({ minY, maxY }: Box): number => maxY - minY;

/**
 * Outlines on sheets by the boxes around them, exactly: of plates that are rectangles. The best of rows, upright and turned, and of three
 * orders of a packer by maximal rectangles (J. Jylänki, A Thousand Ways to Pack the Bin, 2010); where their order is kept in rows alone.
 */
export function packed(outlines: readonly Outline[], choice: NestChoice): Nest {
  const { sheet, margin, spacing, turns, keepsOrder = false } = choice;
  const room = { width: sheet.width - 2 * margin, height: sheet.height - 2 * margin };
  const boxes = outlines.map((outline) => bounds(outline)!);
  const mayTurn = turns.some((turn) => Math.abs(turn % 180) === 90);
  const fits = (box: Box, turn: 0 | 90): boolean => {
    const [w, h] = turn === 0 ? [width(box), height(box)] : [height(box), width(box)];
    return w <= room.width + 1e-9 && h <= room.height + 1e-9;
  };
  const isLeft = (box: Box): boolean => !fits(box, 0) && !(mayTurn && fits(box, 90));
  const left = boxes.flatMap((box, i) => (isLeft(box) ? [i] : []));
  const given = boxes.flatMap((box, i) => (isLeft(box) ? [] : [i]));
  const at = (item: number, on: number, x: number, y: number, turn: 0 | 90): Laid => {
    const { minX, minY, maxY } = boxes[item];
    const [px, py] = [x + margin, y + margin];
    return turn === 0
      ? { item, sheet: on, x: px - minX, y: py - minY, turn }
      : { item, sheet: on, x: px + maxY, y: py - minX, turn };
  };
  const nestOf = (laid: readonly Laid[]): Nest => {
    const sheets = laid.reduce((most, each) => Math.max(most, each.sheet + 1), 0);
    const last = laid.filter((each) => each.sheet === sheets - 1);
    const tops = last.map(({ item, y, turn }) => y + (turn === 0 ? boxes[item].maxY : boxes[item].maxX));
    return {
      laid,
      left,
      sheets,
      share: shareOf(outlines, laid, sheets, choice),
      lastMm: Math.max(0, ...tops),
    };
  };
  if (keepsOrder) return nestOf(inRows(given, boxes, room, spacing, fits, at));
  // Plates of one size stand best in rows, which packers do not find.
  let best = nestOf(inRows(given, boxes, room, spacing, fits, at));
  if (mayTurn)
    best = better(nestOf(inRows(given, boxes, room, spacing, (box, turn) => fits(box, turn === 0 ? 90 : 0), at, 90)), best);
  for (const sort of SORTS) {
    const packer = new MaxRectsPacker(room.width + spacing, room.height + spacing, 0, { smart: false, pot: false, square: false, allowRotation: mayTurn, border: 0 }); // prettier-ignore
    for (const item of [...given].sort((a, b) => sort(boxes[b]) - sort(boxes[a]) || a - b))
      packer.add(width(boxes[item]) + spacing, height(boxes[item]) + spacing, item);
    const laid = packer.bins.flatMap((bin, on) =>
      bin.rects.map((rect) => at(rect.data as number, on, rect.x, rect.y, rect.rot ? 90 : 0)),
    );
    best = better(nestOf(laid), best);
  }
  return best;
}

const better = (one: Nest, other: Nest): Nest => (isBetter(one, other) ? one : other);

type At = (item: number, on: number, x: number, y: number, turn: 0 | 90) => Laid;

/** From left to right, row upon row, sheet after sheet; each turned only where it does not fit otherwise. @param usual turn of those that fit */
function inRows(
  given: readonly number[],
  boxes: readonly Box[],
  room: { readonly width: number; readonly height: number },
  spacing: number,
  fits: (box: Box, turn: 0 | 90) => boolean,
  at: At,
  usual: 0 | 90 = 0,
): Laid[] {
  let [on, x, y, tallest] = [0, 0, 0, 0];
  return given.map((item) => {
    const other = usual === 0 ? 90 : 0;
    const turn = fits(boxes[item], 0) ? usual : other;
    const [w, h] = turn === 0 ? [width(boxes[item]), height(boxes[item])] : [height(boxes[item]), width(boxes[item])];
    if (x > 0 && x + w > room.width + 1e-9) [x, y, tallest] = [0, y + tallest + spacing, 0];
    if (y > 0 && y + h > room.height + 1e-9) [on, x, y, tallest] = [on + 1, 0, 0, 0];
    const laid = at(item, on, x, y, turn);
    x += w + spacing;
    tallest = Math.max(tallest, h);
    return laid;
  });
}
