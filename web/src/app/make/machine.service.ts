import { inject, Injectable } from '@angular/core';
import type { MachineView } from '@plain-relief/api';
import type { MachineCommand } from '@plain-relief/api/states';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api, type ApiError } from '../platform/api';

const POLL_MS = 400;

/** The machine of the shop, asked again and again for as long as somebody looks. Commands throw ApiError. */
@Injectable()
export class MachineService {
  private readonly api = inject(Api);
  private readonly seen = new BehaviorSubject<MachineView | undefined>(undefined);
  /** Undefined until it is asked. */
  readonly view$: Observable<MachineView | undefined> = this.seen;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private isOpen = false;

  open(): void {
    if (this.isOpen) return;
    this.isOpen = true;
    void this.look();
  }

  close(): void {
    this.isOpen = false;
    clearTimeout(this.timer);
  }

  /** @param instead whether what somebody else sent and has not run is taken out */
  async send(plan: string, file: number, instead = false): Promise<void> {
    this.seen.next(await this.api.ask('POST /machine/programs', { body: { plan, file, ...(instead && { instead }) } }));
  }

  async tell(command: MachineCommand, value?: number): Promise<void> {
    this.seen.next(await this.api.ask('POST /machine/commands', { body: { command, ...(value !== undefined && { value }) } }));
  }

  private async look(): Promise<void> {
    try {
      const view = await this.api.ask('GET /machine');
      if (this.isOpen) this.seen.next(view);
    } catch (error) {
      if (this.isOpen) this.seen.next({ run: this.seen.value?.run ?? null, trouble: (error as ApiError).message });
    }
    if (this.isOpen) this.timer = setTimeout(() => void this.look(), POLL_MS);
  }
}
