import { withOption } from '@plain-relief/core/sign';
import { errors } from '../errors.js';
import type { Proof, ProofSign } from './model.js';

/** A sign of a proof as it was frozen, or as one of its options is. */
export function frozenSign(proof: Proof, signId: string, option?: string): ProofSign {
  const sign = proof.contents.find((one) => one.signId === signId);
  if (!sign) throw errors.notFound('sign', signId);
  if (option !== undefined && !sign.document.options?.some(({ id }) => id === option)) throw errors.notFound('option', option);
  return { ...sign, document: withOption(sign.document, option) };
}
