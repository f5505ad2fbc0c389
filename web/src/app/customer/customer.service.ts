import { inject, Injectable } from '@angular/core';
import type { CustomerProof, Frozen, NewCorrection, ShopRemark, Ticks } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';

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
  private query: { readonly by?: 'shop' } = {};
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** @param by "shop" where the shop itself looks */
  async open(token: string, by?: string): Promise<void> {
    this.token = token;
    this.query = by === 'shop' ? { by } : {};
    await this.refresh();
  }

  close(): void {
    clearTimeout(this.timer);
    this.token = '';
  }

  /** @throws ApiError */
  async remark(who: string, remark: Frozen<ShopRemark>): Promise<void> {
    this.show(await this.api.ask('POST /proof-links/:token/remarks', { ...this.params, body: { ...remark, who } }));
  }

  /** Would have a value of a plate otherwise. @throws ApiError */
  async correct(who: string, correction: Omit<NewCorrection, 'who'>): Promise<void> {
    this.show(await this.api.ask('POST /proof-links/:token/corrections', { ...this.params, body: { ...correction, who } }));
  }

  /** @throws ApiError */
  async approve(name: string, ticks: Ticks, choices: Readonly<Record<string, string>>): Promise<void> {
    const { spelling, sizes, colours } = ticks;
    const digest = this.state.value.proof?.digest;
    if (!spelling || !sizes || !colours || digest === undefined) return;
    const body = { name, ticks: { spelling, sizes, colours }, choices, digest };
    this.show(await this.api.ask('POST /proof-links/:token/approval', { ...this.params, body }));
  }

  /** @throws ApiError */
  async askChanges(name: string, wishes: string): Promise<void> {
    this.show(await this.api.ask('POST /proof-links/:token/wishes', { ...this.params, body: { name, wishes } }));
  }

  private get params() {
    return { params: { token: this.token } };
  }

  private show(proof: CustomerProof): void {
    this.state.next({ proof });
  }

  private async refresh(): Promise<void> {
    clearTimeout(this.timer);
    const { token } = this;
    if (token === '') return;
    try {
      const proof = await this.api.ask('GET /proof-links/:token', { params: { token }, query: this.query });
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
