import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import type { NewRemark, SharedProof } from '../proofs/proof-types';
import { Api, type ApiError } from '../platform/api';

/** A proof as its customer sees it. */
export interface CustomerProof extends SharedProof {
  readonly shop: string;
  readonly customer: string;
  readonly job?: { readonly number: string; readonly title: string; readonly quantity: number };
  /** Of all but the first proof: what was changed since the one before. */
  readonly changes?: { readonly since: string; readonly changes: readonly string[] };
  readonly isSheetReady: boolean;
}

export interface CustomerState {
  readonly proof?: CustomerProof;
  readonly error?: string;
}

/** How often it is looked whether the sheet is ready, or the shop has said something. */
const POLL_MS = 5000;

/** The proof of one address: what it shows, and the answer to it. */
@Injectable()
export class CustomerService {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<CustomerState>({});
  readonly state$: Observable<CustomerState> = this.state;
  private token = '';
  private query = '';
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** @param by "shop" where the shop itself looks */
  async open(token: string, by?: string): Promise<void> {
    this.token = token;
    this.query = by === 'shop' ? '?by=shop' : '';
    await this.refresh();
  }

  close(): void {
    clearTimeout(this.timer);
    this.token = '';
  }

  /** @throws ApiError */
  remark(who: string, remark: NewRemark): Promise<void> {
    return this.answer('remarks', { ...remark, who });
  }

  /** @throws ApiError */
  approve(name: string, ticks: Readonly<Record<string, boolean>>, choices: Readonly<Record<string, string>>): Promise<void> {
    return this.answer('approval', { name, ticks, choices, digest: this.state.value.proof?.digest });
  }

  /** @throws ApiError */
  askChanges(name: string, wishes: string): Promise<void> {
    return this.answer('wishes', { name, wishes });
  }

  private async answer(what: string, body: unknown): Promise<void> {
    const proof = await firstValueFrom(this.api.post<CustomerProof>(`/proof-links/${this.token}/${what}`, body));
    this.state.next({ proof });
  }

  private async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { token } = this;
    if (token === '') return;
    try {
      const proof = await firstValueFrom(this.api.get<CustomerProof>(`/proof-links/${token}${this.query}`));
      if (this.token !== token) return;
      if (JSON.stringify(proof) !== JSON.stringify(this.state.value.proof)) this.state.next({ proof });
    } catch (error) {
      const { message, isPassing } = error as ApiError;
      // What is shown stays while the server is away for a moment.
      if (!isPassing || !this.state.value.proof) this.state.next({ error: message });
      if (!isPassing) return;
    }
    if (this.token === token) this.timer = setTimeout(() => void this.refresh(), POLL_MS);
  }
}
