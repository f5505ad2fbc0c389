import { MOST_SIGNS, type Place, sizeOfPlace } from '@plain-relief/core/in-place';
import { withOption } from '@plain-relief/core/sign';
import { randomUUID } from 'node:crypto';
import type { Transaction } from 'sequelize';
import type { Database } from '../../platform/database/database.js';
import type { ProofPlace } from '../../platform/database/models/places.js';
import type { Proof } from '../../platform/database/models/proofs.js';
import { errors } from '../../platform/errors.js';
import type { NamedPicture, SignPictures } from '../signs/pictures.js';

/** Pixels along the longer side of what a customer sees of a place. */
export const PLACE_PIXELS = 1600;

/**
 * Freezes places of a job with a proof: each with its signs and its photograph as they are now.
 * @param wanted ids; all of the job where nothing is said
 */
export async function freezePlaces(
  db: Database,
  proof: Proof,
  wanted: readonly string[] | undefined,
  transaction: Transaction,
): Promise<void> {
  const { id: proofId, jobId } = proof;
  const rows = await db.PlaceRow.findAll({ where: { jobId }, order: [['createdAt', 'ASC']], transaction });
  const strange = wanted?.findIndex((id) => !rows.some((row) => row.id === id)) ?? -1;
  if (strange >= 0)
    throw errors.badRequest([{ path: `places.${strange}`, message: `The job has no place “${wanted![strange]}”: choose from its places.` }]); // prettier-ignore
  const signs = await db.SignRow.findAll({ where: { jobId }, transaction });
  const shown = rows.filter(({ id, document }) => document.signs.length > 0 && (wanted?.includes(id) ?? true));
  for (const [position, { title, document }] of shown.entries()) {
    const { ground } = document;
    const file = ground.kind === 'photograph' ? await db.JobFile.findByPk(ground.file, { transaction }) : null;
    const isGone = ground.kind === 'photograph' && !file;
    const place: Place = isGone ? { ...document, ground: { kind: 'none' } } : document;
    const frozen = document.signs.slice(0, MOST_SIGNS).map(({ sign, option }) => {
      // What the proof shows is what hangs there.
      const own = proof.contents.find(({ signId }) => signId === sign)?.document ?? signs.find(({ id }) => id === sign)?.document;
      return own ? withOption(own, own.options?.some(({ id }) => id === option) ? option : undefined) : null;
    });
    const row = { id: randomUUID(), proofId, position, title, document: place, signs: frozen, photograph: file?.content ?? null };
    await db.ProofPlace.create(row, { transaction });
  }
}

/** The frozen places of a proof, in their order, without their photographs. */
export function placesOf(db: Database, { id: proofId }: Pick<Proof, 'id'>): Promise<ProofPlace[]> {
  return db.ProofPlace.findAll({ where: { proofId }, attributes: { exclude: ['photograph'] }, order: [['position', 'ASC']] });
}

/** What a customer is told of a frozen place. */
export function placeView({ id, title, document }: ProofPlace) {
  return { id, title, hasPhotograph: document.ground.kind === 'photograph', ...sizeOfPlace(document, PLACE_PIXELS) };
}

/** The signs of a frozen place, over its photograph where it has one, as a PNG file. */
export async function placePicture(db: Database, pictures: SignPictures, proof: Proof, placeId: string): Promise<NamedPicture> {
  const place = await db.ProofPlace.findOne({
    where: { id: placeId, proofId: proof.id },
    attributes: { exclude: ['photograph'] },
  });
  if (!place) throw errors.notFound('place', placeId);
  return pictures.inPlace(`place ${place.id}`, { place: place.document, signs: place.signs, longest: PLACE_PIXELS });
}

/** The photograph of a frozen place. */
export async function placePhotograph(db: Database, proof: Proof, placeId: string): Promise<Buffer> {
  const place = await db.ProofPlace.findOne({ where: { id: placeId, proofId: proof.id }, attributes: ['photograph'] });
  if (!place?.photograph) throw errors.notFound('photograph', placeId);
  return place.photograph;
}
