import { type Evaluation, insertAt, insertMaterial, placeOf } from '../relief/index.js';
import { belongsTo, type ReliefMesh, piecesOf } from '../mesh/index.js';
import { solidOf } from './solid.js';

/** A piece of a sign with a name that no other piece has, safe on any file system: "window-2-clear-acrylic". */
export interface NamedPiece {
  readonly name: string;
  readonly mesh: ReliefMesh;
}

/**
 * The solids of a sign: every piece that hangs together, and every insert, named by part, number and material. What is of the blank
 * itself is "blank", or "letters" where the blank is cut to them.
 */
export function namedPieces(evaluation: Evaluation): NamedPiece[] {
  const { sign, kept } = evaluation;
  if (sign.support?.kind === 'block')
    return [{ name: ['block', slug(sign.blank.material)].filter(Boolean).join('-'), mesh: solidOf(evaluation) }];
  const inserts = solidOf(evaluation, 'inserts');
  const hasInserts = inserts.triangles.length > 0;
  const bodies = piecesOf(hasInserts ? solidOf(evaluation, 'all but inserts') : solidOf(evaluation)).map((mesh) => ({
    mesh,
    what: kept ? 'letters' : 'blank',
    material: sign.blank.material,
  }));
  const filled = hasInserts ? piecesOf(inserts).map((mesh) => ({ mesh, ...insertOf(evaluation, mesh) })) : [];
  const all = [...bodies, ...filled];
  const keyOf = ({ what, material }: (typeof all)[number]): string => `${slug(what)} ${slug(material)}`;
  const counts = new Map<string, number>();
  for (const piece of all) counts.set(keyOf(piece), (counts.get(keyOf(piece)) ?? 0) + 1);
  const given = new Map<string, number>();
  return all.map((piece) => {
    const key = keyOf(piece);
    const number = (given.get(key) ?? 0) + 1;
    given.set(key, number);
    const of = counts.get(key)!;
    const padded = of === 1 ? '' : String(number).padStart(String(of).length, '0');
    return { name: [slug(piece.what), padded, slug(piece.material)].filter(Boolean).join('-') || 'piece', mesh: piece.mesh };
  });
}

/** The part that an insert is of, and its material. */
function insertOf(evaluation: Evaluation, { belongs }: ReliefMesh): { what: string; material: string } {
  for (const value of belongs) {
    const { label } = belongsTo(value);
    const place = label === undefined ? undefined : placeOf(evaluation, label);
    const layer = place && insertAt(evaluation, place);
    if (layer === undefined) continue;
    const own = evaluation.layers[layer];
    const part = evaluation.sign.parts.find(({ id }) => id === own.part);
    return { what: part?.name ?? '', material: insertMaterial(evaluation.sign, own) };
  }
  return { what: 'insert', material: '' };
}

const MOST_LETTERS = 40;

/** Words as a part of a file's name: letters and digits in small letters, hyphens between. */
function slug(words: string): string {
  const hyphened = words
    .normalize('NFKD')
    .toLowerCase()
    .replace(/\p{M}/gu, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/gu, '');
  return Array.from(hyphened).slice(0, MOST_LETTERS).join('');
}
