import { colord } from 'colord';
import { grouped } from './arranging.js';
import { finishNamed } from '../document/finishes.js';
import { newOutline } from '../document/new-sign.js';
import { type Finish, type Sign } from '../document/schema.js';

/** What is of one colour in a customer's drawing, in mm about the middle of the drawing. */
export interface TakenColour {
  readonly colour: string;
  readonly width: number;
  readonly height: number;
  readonly path: string;
  readonly x: number;
  readonly y: number;
}

/** A sign has no more finishes of its own than this, by its schema. */
const MOST_FINISHES = 100;

/**
 * Adds a part for every colour of a drawing, each in its place in it; several are a group, and their tops have the drawing's colours.
 * @returns ids of the parts
 */
export function takeOver(sign: Sign, name: string, colours: readonly TakenColour[]): string[] {
  const ids = colours.map(({ colour, width, height, path, x, y }, i) => {
    const part = newOutline(sign, colours.length > 1 ? `${name} ${i + 1}` : name, { width, height, path }, { x, y });
    if (colours.length > 1) {
      const finish = ownFinish(sign, colour);
      if (finish) for (const tier of part.tiers) tier.finish = { ...tier.finish, top: finish.id };
    }
    sign.parts.push(part);
    return part.id;
  });
  if (ids.length > 1) grouped(sign, ids);
  return ids;
}

/** The finish of the sign's own for a colour of a drawing, named as CSS names the nearest; none where there are too many. */
function ownFinish(sign: Sign, colour: string): Finish | undefined {
  const known = colord(colour);
  if (!known.isValid()) return undefined;
  const hex = known.toHex().slice(0, 7);
  const own = sign.finishes?.find((finish) => finish.colour === hex);
  if (own) return own;
  if ((sign.finishes?.length ?? 0) >= MOST_FINISHES) return undefined;
  const finish: Finish = { ...finishNamed(hex), id: `colour-${hex.slice(1)}`, name: known.toName({ closest: true }) ?? hex };
  sign.finishes = [...(sign.finishes ?? []), finish];
  return finish;
}
