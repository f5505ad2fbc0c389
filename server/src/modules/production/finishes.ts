import { type CallOut, callOutsOf, callOutWords, INK } from '@plain-relief/core/drawing';
import { type Sign } from '@plain-relief/core/sign';
import type { Columns } from './columns.js';
import { POINTS_PER_MM } from './pdf-drawing.js';
import { ordinary, type Sheet, strong } from './sheet.js';
import { figuresOfView, type SignViews, solidOfView } from './sign-views.js';

/** Call-outs of the front and of the back, and each finish of either once. */
export function callOutsOfViews({ front, back }: SignViews): Record<'front' | 'back' | 'all', readonly CallOut[]> {
  const sides = [front, ...(back ? [back] : [])].map((side) => ({ solid: solidOfView(side), areas: figuresOfView(side).areas }));
  const [ofFront, ofBack = []] = callOutsOf(sides);
  const byNumber = new Map([...ofBack, ...ofFront].map((callOut) => [callOut.number, callOut]));
  const all = [...byNumber.values()].sort((a, b) => a.number - b.number);
  return { front: ofFront, back: ofBack, all };
}

/** The finishes with the numbers by which the plan calls them out; the material's own colour by its name. */
export function listFinishes(sheet: Sheet, words: Columns, { blank }: Sign, callOuts: readonly CallOut[]): void {
  if (callOuts.length === 0) return;
  words.put(strong('Finishes'));
  words.down(1);
  for (const callOut of callOuts) {
    words.room(7);
    words.down(1);
    const { x, y, width } = words.at;
    const number = callOuts.length > 1 ? 5 : 0;
    if (number > 0) sheet.write([ordinary(String(callOut.number), 0)], { x, y: y - 0.4, width: number, height: 12 });
    sheet.pdf.rect((x + number) * POINTS_PER_MM, y * POINTS_PER_MM, 7 * POINTS_PER_MM, 4 * POINTS_PER_MM);
    sheet.pdf.undash().lineWidth(0.5).fillAndStroke(callOut.finish.colour, INK);
    sheet.write([ordinary(callOutWords(callOut, blank.material), 0)], {
      x: x + number + 9,
      y: y - 0.4,
      width: width - number - 9,
      height: 12,
    });
    words.down(4);
  }
}
