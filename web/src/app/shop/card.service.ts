import { inject, Injectable } from '@angular/core';
import type { KeptLayout, ShopCard } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api } from '../platform/api';
import { type SheetLayout } from '@plain-relief/core/sheet';

/** The shop's card and its layouts of sheets. All but the observables throws ApiError. */
@Injectable({ providedIn: 'root' })
export class CardService {
  private readonly api = inject(Api);
  private readonly kept = new BehaviorSubject<readonly KeptLayout[]>([]);
  readonly layouts$: Observable<readonly KeptLayout[]> = this.kept;

  card(): Promise<ShopCard> {
    return this.api.ask('GET /shop/card');
  }

  keep(card: ShopCard): Promise<ShopCard> {
    return this.api.ask('PUT /shop/card', { body: card });
  }

  async loadLayouts(): Promise<void> {
    this.kept.next(await this.api.ask('GET /shop/layouts'));
  }

  async keepLayout(name: string, layout: SheetLayout): Promise<void> {
    await this.api.ask('POST /shop/layouts', { body: { name, layout } });
    await this.loadLayouts();
  }

  async dropLayout(id: string): Promise<void> {
    await this.api.ask('DELETE /shop/layouts/:id', { params: { id } });
    await this.loadLayouts();
  }
}
