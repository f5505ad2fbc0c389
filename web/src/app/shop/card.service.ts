import { inject, Injectable } from '@angular/core';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { Api } from '../platform/api';
import { type SheetLayout } from '@plain-relief/core/sheet';
import type { KeptLayout } from './sheet-layout';

/** What the shop says of itself on sheets and to customers. */
export interface ShopCard {
  readonly name: string;
  readonly contact: string;
  readonly terms: string;
  /** A PNG or JPEG picture in base 64. */
  readonly logo?: string;
}

/** The shop's card and its layouts of sheets. All but the observables throws ApiError. */
@Injectable({ providedIn: 'root' })
export class CardService {
  private readonly api = inject(Api);
  private readonly kept = new BehaviorSubject<readonly KeptLayout[]>([]);
  readonly layouts$: Observable<readonly KeptLayout[]> = this.kept;

  card(): Promise<ShopCard> {
    return firstValueFrom(this.api.get<ShopCard>('/shop/card'));
  }

  keep(card: ShopCard): Promise<ShopCard> {
    return firstValueFrom(this.api.put<ShopCard>('/shop/card', card));
  }

  async loadLayouts(): Promise<void> {
    this.kept.next(await firstValueFrom(this.api.get<KeptLayout[]>('/shop/layouts')));
  }

  async keepLayout(name: string, layout: SheetLayout): Promise<void> {
    await firstValueFrom(this.api.post('/shop/layouts', { name, layout }));
    await this.loadLayouts();
  }

  async dropLayout(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/shop/layouts/${id}`));
    await this.loadLayouts();
  }
}
