import type { Proof, Remark } from '@plain-relief/api';
import { inject, Injectable, signal } from '@angular/core';
import { Api } from '../../platform/api';

/** A place of the blank about which somebody said something in a proof. */
export interface CustomerPin {
  readonly id: string;
  /** As on the proof. */
  readonly number: number;
  /** Shares of the blank's width from the left and of its height from the top. */
  readonly across: number;
  readonly down: number;
  readonly text: string;
}

/** The remarks on the newest proof of a sign that have a place, for the plan. */
@Injectable()
export class CustomerPins {
  private readonly api = inject(Api);
  private opened = '';
  readonly pins = signal<readonly CustomerPin[]>([]);

  async open(jobId: string, signId: string): Promise<void> {
    this.opened = signId;
    this.pins.set([]);
    const { proofs } = await this.api.ask('GET /jobs/:id/proofs', { params: { id: jobId } });
    if (this.opened === signId) this.pins.set(pinsOf(proofs, signId));
  }
}

/** Of the newest proof that shows the sign and was not taken back, numbered as it numbers them. */
export function pinsOf(
  proofs: readonly Pick<Proof, 'letter' | 'state' | 'createdAt' | 'signs' | 'remarks'>[],
  signId: string,
): CustomerPin[] {
  const [newest] = proofs
    .filter(({ state, signs }) => state !== 'withdrawn' && signs.some(({ id }) => id === signId))
    .sort((a, b) => b.createdAt.localeCompare(a.createdAt));
  if (!newest || newest.state === 'approved') return [];
  const hasPlace = (remark: Remark): remark is Remark & { across: number; down: number } =>
    remark.across !== null && remark.down !== null;
  return newest.remarks
    .filter((remark) => remark.signId === signId)
    .map((remark, i) => ({ remark, number: i + 1 }))
    .flatMap(({ remark, number }) => {
      if (!hasPlace(remark)) return [];
      const { id, across, down, text, isFromShop, who } = remark;
      return [{ id, number, across, down, text: `${isFromShop ? 'The shop' : who} on proof ${newest.letter}: ${text}` }];
    });
}
