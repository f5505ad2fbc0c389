import { bounds } from '../../geometry/index.js';
import { tidy } from '../document/new-sign.js';
import { outlinesUsed } from '../document/references.js';
import { type Blank, type Part, type Sign } from '../document/schema.js';
import { type BlockFace, faceAt, facesOf } from './block-faces.js';

/** One face of a block as a flat sign of its own, as deep as the block is behind it; what is on other faces is left out. */
export function signOfFace(sign: Sign, face: BlockFace): Sign {
  const { support, ...rest } = sign;
  const faces = facesOf(support);
  const made = new Map(sign.parts.flatMap((part) => onThatFace(part, faces, face)).map((part) => [part.id, part]));
  // What others sit on or follow is there as well, and not made.
  for (const part of [...sign.parts].reverse()) {
    const user = made.get(part.id);
    if (!user) continue;
    const used = [...outlinesUsed(user).map(({ id }) => id), ...(user.sitsOn.kind === 'part' ? [user.sitsOn.part] : [])];
    for (const id of used) {
      const other = sign.parts.find((one) => one.id === id);
      if (other && !made.has(id)) made.set(id, { ...moved(other, face), hidden: true });
    }
  }
  const parts = sign.parts.flatMap(({ id }) => made.get(id) ?? []);
  const options = sign.options?.map((option) => ({ ...option, tiers: option.tiers.filter(({ part }) => made.has(part)) }));
  const section = { ...sign.section, x: 0, y: 0 };
  const blank = { ...sign.blank, outline: outlineOf(face), thickness: tidy(face.depth) };
  const own: Sign = { ...rest, title: `${sign.title}, ${face.name}`, blank, parts, section, ...(options && { options }) };
  delete own.sections;
  delete own.guides;
  return own;
}

/** A part as it is on a face; none where it is on others alone. */
function onThatFace(part: Part, faces: readonly BlockFace[], face: BlockFace): Part[] {
  const own = faceAt(faces, part.place.x, part.place.y);
  if (part.copies?.kind !== 'faces') return own?.id === face.id ? [moved(part, face)] : [];
  const { copies, ...once } = part;
  if (!own || (own.id !== face.id && copies.on === 'sides' && !face.isSide)) return [];
  return [moved(once, own)];
}

const moved = (part: Part, { x, y }: BlockFace): Part => ({
  ...part,
  place: { ...part.place, x: tidy(part.place.x - x), y: tidy(part.place.y - y) },
});

function outlineOf({ outline, x, y }: BlockFace): Blank['outline'] {
  const { minX, maxX, minY, maxY } = bounds([outline])!;
  const [width, height] = [tidy(maxX - minX), tidy(maxY - minY)];
  const isRectangle = outline.length === 8 && outline.every((value, i) => [minX, maxX, minY, maxY].slice(i % 2 === 0 ? 0 : 2, i % 2 === 0 ? 2 : 4).includes(value)); // prettier-ignore
  if (isRectangle) return { kind: 'rectangle', width, height, cornerRadius: 0 };
  const points = Array.from(
    { length: outline.length / 2 },
    (_, i) => `${tidy(outline[2 * i] - x)} ${tidy(outline[2 * i + 1] - y)}`,
  );
  return { kind: 'outline', width, height, path: `M${points.join('L')}Z` };
}

/** A part that is made as it would be for one face of a block by itself, and lies there; for a sign that is none as it would be for that. */
export function madeOnFace<P extends Part>(sign: Sign, id: string, make: (sign: Sign) => P): P {
  const faces = facesOf(sign.support);
  const face = faces.find((one) => one.id === id) ?? faces[0];
  if (!face) return make(sign);
  const own = signOfFace(sign, face);
  // Parts of other faces have ids, too.
  const others = sign.parts
    .filter((part) => own.parts.every((one) => one.id !== part.id))
    .map((part) => ({ ...part, hidden: true }));
  const part = make({ ...own, parts: [...own.parts, ...others] });
  return { ...part, place: { ...part.place, x: tidy(part.place.x + face.x), y: tidy(part.place.y + face.y) } };
}

/** How a block lies where one of its faces is worked on: "right side up, its upper edge away from you, on the left side". */
export function layingWords(faces: readonly BlockFace[], face: BlockFace): string {
  const under = faces.find(({ out }) => out.every((value, k) => Math.abs(value + face.out[k]) < 1e-9));
  const words = `${face.name} up, its upper edge away from you`;
  return under ? `${words}, on the ${under.name}` : `${words}, held so that it is level`;
}
