import type { SignProof } from '@plain-relief/api';

/** "approved with proof B", "changed since proof B"; empty where no proof shows the sign. */
export function proofWords(proof: SignProof | undefined, revision: number): string {
  if (!proof) return '';
  const { letter, state } = proof;
  if (state === 'changes asked') return `changes asked in proof ${letter}`;
  if (proof.revision !== revision) return `changed since proof ${letter}`;
  return state === 'approved' ? `approved with proof ${letter}` : `proof ${letter} is with the customer`;
}
