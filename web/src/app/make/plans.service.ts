import { inject, Injectable } from '@angular/core';
import type { Clearance, Frozen, KeptPlan, PlanOrder, PlanPrograms } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';
import { isUnderWay } from '../tasks/tasks.service';

const POLL_MS = 500;

/** Plans of the cuts of a sign, newest first, followed until they are laid. All that asks the server throws ApiError. */
@Injectable()
export class PlansService {
  private readonly api = inject(Api);
  private readonly plans = new BehaviorSubject<readonly KeptPlan[] | undefined>(undefined);
  /** Undefined until they are fetched. */
  readonly plans$: Observable<readonly KeptPlan[] | undefined> = this.plans;
  private signId: string | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  async open(signId: string): Promise<void> {
    this.signId = signId;
    this.plans.next(undefined);
    await this.refresh();
  }

  async ask(order: Frozen<PlanOrder>): Promise<void> {
    if (this.signId === undefined) return;
    this.add(await this.api.ask('POST /signs/:id/plans', { params: { id: this.signId }, body: order }));
  }

  /** Lays a plan once more, with the very tools of then. */
  async again(id: string): Promise<void> {
    this.add(await this.api.ask('POST /plans/:id/again', { params: { id } }));
  }

  async stop({ taskId }: KeptPlan): Promise<void> {
    await this.api.ask('POST /tasks/:id/cancel', { params: { id: taskId } });
    await this.refresh();
  }

  async remove(id: string): Promise<void> {
    await this.api.ask('DELETE /plans/:id', { params: { id } });
    await this.refresh();
  }

  /** Lets the programs of a plan out. @param override why, where it is not proven or not approved */
  async release(id: string, override?: string): Promise<void> {
    await this.api.ask('POST /plans/:id/release', { params: { id }, body: override === undefined ? {} : { override } });
    await this.refresh();
  }

  clearance(id: string): Promise<Clearance> {
    return this.api.ask('GET /plans/:id/clearance', { params: { id } });
  }

  programs(id: string): Promise<PlanPrograms> {
    return this.api.ask('GET /plans/:id/programs', { params: { id } });
  }

  close(): void {
    clearTimeout(this.timer);
    this.signId = undefined;
  }

  private add(plan: KeptPlan): void {
    this.plans.next([plan, ...(this.plans.value ?? [])]);
    this.follow();
  }

  private follow(): void {
    clearTimeout(this.timer);
    if (this.plans.value?.some(isUnderWay)) this.timer = setTimeout(() => void this.refresh().catch(() => undefined), POLL_MS);
  }

  private async refresh(): Promise<void> {
    const { signId } = this;
    if (!signId) return;
    try {
      const { plans } = await this.api.ask('GET /signs/:id/plans', { params: { id: signId } });
      if (this.signId === signId) this.plans.next(plans);
    } catch (error) {
      // While the server is away the work goes on in the queue: ask again.
      if (!(error as ApiError).isPassing) throw error;
    }
    this.follow();
  }
}
