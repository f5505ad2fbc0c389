import { ringsOf } from '../arrangement/index.js';
import { bounds, type Contour, contourArea } from '../geometry/index.js';
import { type Note, note } from '../notes/index.js';
import { type Evaluation, isSolid } from '../relief/index.js';
import { type BlockFace, type CutTo, faceAt, facesOf } from '../sign/index.js';
import { liesIn } from './boxes.js';

/** A floor thinner than this, in mm, is told of (common practice, no source). */
const THIN_FLOOR_MM = 1;

/** What is told of all the material that is left. */
export function materialNotes({ sign, arrangement, layers, places, thinnest: floor }: Evaluation): Note[] {
  if (places.length === 0) return [note('no-material', {})];
  const out: Note[] = [];
  if (floor > 1e-6 && floor < Math.min(THIN_FLOOR_MM, sign.blank.thickness)) out.push(note('thin-floor', {}, floor, sign.unit));
  const pieces = ringsOf(arrangement, isSolid)
    .map((ring) => ({ ring, size: contourArea(ring) }))
    .filter(({ size }) => size > 0)
    .sort((a, b) => b.size - a.size);
  const loose = piecesApart(pieces, facesOf(sign.support));
  if (loose.length > 0) {
    const box = bounds([loose[0].ring])!;
    const place = { x: (box.minX + box.maxX) / 2, y: (box.minY + box.maxY) / 2 };
    // Whose cut it is that has the piece in it.
    const layer = [...layers]
      .reverse()
      .find(({ operation, area }) => operation === 'through' && liesIn(box, bounds(area.contours)));
    const part = sign.parts.find(({ id }) => id === layer?.part);
    if (sign.blank.cutTo) return [...out, cutToNote(sign.blank.cutTo, pieces.length, place)];
    const mend = part && !part.bridges ? ({ part: part.id, remedy: { kind: 'bridges' } } as const) : { part: part?.id };
    out.push(note('loose-pieces', { ...place, ...mend }, loose.length, loose[0].size, sign.unit));
  }
  return out;
}

/** All pieces but the largest; of a block all but the largest of every face. @param pieces the largest first */
function piecesApart<P extends { readonly ring: Contour }>(pieces: readonly P[], faces: readonly BlockFace[]): readonly P[] {
  if (faces.length === 0) return pieces.slice(1);
  const known = new Set<string | undefined>();
  return pieces.filter(({ ring }) => {
    const face = faceAt(faces, ring[0], ring[1])?.id;
    return known.has(face) || !known.add(face);
  });
}

/** What is said of letters that are several pieces. */
function cutToNote({ studs, backer }: CutTo, count: number, at: { x: number; y: number }): Note {
  if (backer) return note('not-backed', at, count);
  if (studs) return note('letters-apart', {}, count);
  return note('loose-letters', { ...at, remedy: { kind: 'backer' } }, count);
}
