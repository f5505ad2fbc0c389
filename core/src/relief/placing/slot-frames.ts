import { bounds, type Contour, direction, placePolyline } from '../../geometry/index.js';
import { type Sign, type TextPart, wordsPieces } from '../../sign/index.js';
import { plainWords } from '../../type/index.js';

/** Where the name of a slot stands in the plan, in place of what a list puts there. */
export interface SlotFrame {
  readonly name: string;
  /** Corners of a box about what is seen of it, turned with the part; one for every line that it is broken into. */
  readonly frame: Float64Array;
}

/** Part of the capitals' height that is left free about the letters. */
const ROOM = 0.2;

interface Letter {
  /** Index in the words. */
  readonly at: number;
  readonly line: number;
  readonly outline: readonly Contour[];
  readonly strokes: readonly { readonly points: Float64Array }[];
}

/** Boxes about the slots of a text. @param letters in their places */
export function slotFrames(part: TextPart, slots: Sign['slots'], letters: readonly Letter[], capHeight: number): SlotFrame[] {
  const pieces = wordsPieces(plainWords(part.words), slots).filter(({ isSlot }) => isSlot);
  if (pieces.length === 0) return [];
  const { cos, sin } = direction(part.place.turn);
  const turned = { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
  const back = { a: cos, b: -sin, c: sin, d: cos, e: 0, f: 0 };
  const room = ROOM * capHeight;
  return pieces.flatMap(({ text, at, source }) => {
    const own = letters.filter((letter) => letter.at >= at && letter.at < at + source.length);
    return [...new Set(own.map(({ line }) => line))].flatMap((line): SlotFrame[] => {
      const rings = own.filter((letter) => letter.line === line).flatMap(({ outline, strokes }) => [...outline, ...strokes.map(({ points }) => points)]); // prettier-ignore
      const box = bounds(rings.map((ring) => placePolyline(ring, back)));
      if (!box) return [];
      const [minX, minY, maxX, maxY] = [box.minX - room, box.minY - room, box.maxX + room, box.maxY + room];
      const corners = Float64Array.of(minX, minY, maxX, minY, maxX, maxY, minX, maxY);
      return [{ name: text, frame: placePolyline(corners, turned) }];
    });
  });
}
