import { withOption } from '@plain-relief/core/sign';
import { errors } from '../../platform/errors.js';
import type { NamedPicture, SignPictures } from '../signs/pictures.js';
import { sampleOf } from '../proof-states/shown-signs.js';
import type { Proof, ProofSign } from '../../platform/database/models/proofs.js';

/** A sign of a proof as it was frozen, or as one of its options is. */
export function frozenSign(proof: Proof, signId: string, option?: string): ProofSign {
  const sign = proof.contents.find((one) => one.signId === signId);
  if (!sign) throw errors.notFound('sign', signId);
  if (option !== undefined && !sign.document.options?.some(({ id }) => id === option)) throw errors.notFound('option', option);
  const shown = sampleOf(proof, signId, option) ?? withOption(sign.document, option);
  return { ...sign, document: shown };
}

/** What a customer sees of a sign of a proof, or of one of its options, from the front, as a PNG file. */
export function customerPicture(pictures: SignPictures, proof: Proof, id: string, option?: string): NamedPicture {
  const { signId, document } = frozenSign(proof, id, option);
  return pictures.front(`${proof.id} ${signId} ${option ?? ''}`, document);
}
