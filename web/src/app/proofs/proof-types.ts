/** A proof as the shop, and in part the customer, is told of it. */

export type ProofState = 'open' | 'approved' | 'changes asked' | 'withdrawn' | 'replaced';

export interface ProofSign {
  readonly id: string;
  readonly title: string;
  readonly revision: number;
  readonly options: readonly { readonly id: string; readonly name: string }[];
  /** Every line of words. */
  readonly spelling: readonly string[];
}

export interface Remark {
  readonly id: string;
  readonly signId: string;
  readonly option: string | null;
  /** Shares of the picture's width from the left and of its height from the top. */
  readonly across: number | null;
  readonly down: number | null;
  readonly isFromShop: boolean;
  readonly who: string;
  readonly text: string;
  readonly at: string;
}

/** What shop and customer both see. */
export interface SharedProof {
  readonly letter: string;
  readonly state: ProofState;
  readonly digest: string;
  readonly message: string;
  readonly createdAt: string;
  readonly expiresAt: string;
  readonly endedAt: string | null;
  readonly answeredBy: string | null;
  readonly choices: Readonly<Record<string, string>> | null;
  readonly wishes: string | null;
  /** Of a replaced proof what came in its place. */
  readonly newer?: { readonly letter: string; readonly token: string };
  readonly signs: readonly ProofSign[];
  readonly remarks: readonly Remark[];
}

/** A remark that is not said yet. */
export interface NewRemark {
  readonly signId: string;
  readonly option?: string;
  readonly across?: number;
  readonly down?: number;
  readonly text: string;
}
