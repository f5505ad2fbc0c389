import { inject, Injectable } from '@angular/core';
import type { ShopLibrary } from '@plain-relief/api';
import type { Shop } from '@plain-relief/core/shop';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api } from '../platform/api';

/** The shop's materials, tools, machines and rates. */
@Injectable({ providedIn: 'root' })
export class LibraryService {
  private readonly api = inject(Api);
  private readonly kept = new BehaviorSubject<ShopLibrary | undefined>(undefined);
  /** Undefined until they are fetched. */
  readonly library$: Observable<ShopLibrary | undefined> = this.kept;

  /** @throws ApiError */
  async load(): Promise<ShopLibrary> {
    const library = await this.api.ask('GET /shop/library');
    this.kept.next(library);
    return library;
  }

  /**
   * Keeps the lists as they are given, unless somebody else changed them since they were loaded.
   * @throws ApiError with every fault, or where they were changed meanwhile
   */
  async keep(library: Shop): Promise<void> {
    const base = this.kept.value?.revision ?? 0;
    this.kept.next(await this.api.ask('PUT /shop/library', { body: { base, library } }));
  }
}
