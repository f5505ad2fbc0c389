import { inject, Injectable } from '@angular/core';
import { type Blank, type Finish, type Sign } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import type { ShopBlank, AddedFont, ShopFont, ShopKind } from '@plain-relief/api';
import { BehaviorSubject, type Observable } from 'rxjs';
import { Api } from '../platform/api';

export interface ShopState {
  readonly shipped: readonly FontEntry[];
  readonly fonts: readonly ShopFont[];
  readonly blanks: readonly ShopBlank[];
  readonly finishes: readonly Finish[];
  /** Signs that others are begun from. */
  readonly kinds: readonly ShopKind[];
  readonly isLoading: boolean;
  readonly error: string;
}

/** What the shop has of its own: fonts, usual blanks and finishes. */
@Injectable({ providedIn: 'root' })
export class ShopService {
  private readonly api = inject(Api);
  private readonly state = new BehaviorSubject<ShopState>({
    shipped: [],
    fonts: [],
    blanks: [],
    finishes: [],
    kinds: [],
    isLoading: true,
    error: '',
  });
  readonly state$: Observable<ShopState> = this.state;

  /** The shop's finishes, as far as they are loaded. */
  get finishes(): readonly Finish[] {
    return this.state.value.finishes;
  }

  async load(): Promise<void> {
    try {
      const [fonts, blanks, finishes, kinds, shipped] = await Promise.all([
        this.api.ask('GET /shop/fonts'),
        this.api.ask('GET /shop/blanks'),
        this.api.ask('GET /shop/finishes'),
        this.api.ask('GET /shop/kinds'),
        fetch('/fonts/catalogue.json').then((answer) => answer.json() as Promise<FontEntry[]>),
      ]);
      this.state.next({ shipped, fonts, blanks, finishes, kinds, isLoading: false, error: '' });
    } catch (error) {
      this.state.next({ ...this.state.value, isLoading: false, error: (error as Error).message });
    }
  }

  /** @throws ApiError with the reason why a font is not taken */
  async addFont(file: File): Promise<AddedFont> {
    const added = await this.api.upload('POST /shop/fonts', file, file.name);
    await this.load();
    return added;
  }

  /** @throws ApiError where a sign is set in it */
  async removeFont(id: string): Promise<void> {
    await this.api.ask('DELETE /shop/fonts/:id', { params: { id } });
    await this.load();
  }

  /** @throws ApiError */
  async addBlank(name: string, blank: Blank): Promise<void> {
    await this.api.ask('POST /shop/blanks', { body: { name, blank } });
    await this.load();
  }

  /** @throws ApiError with the field that is wrong */
  async addFinish(finish: Omit<Finish, 'id'>): Promise<void> {
    await this.api.ask('POST /shop/finishes', { body: finish });
    await this.load();
  }

  async removeFinish(id: string): Promise<void> {
    await this.api.ask('DELETE /shop/finishes/:id', { params: { id } });
    await this.load();
  }

  /** Keeps a sign as one that others are begun from. @throws ApiError */
  async addKind(name: string, document: Sign): Promise<void> {
    await this.api.ask('POST /shop/kinds', { body: { name, document } });
    await this.load();
  }

  async removeKind(id: string): Promise<void> {
    await this.api.ask('DELETE /shop/kinds/:id', { params: { id } });
    await this.load();
  }

  async removeBlank(id: string): Promise<void> {
    await this.api.ask('DELETE /shop/blanks/:id', { params: { id } });
    await this.load();
  }
}

/** Bytes in base 64, by the browser's own reader. */
export function inBase64(content: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done((reader.result as string).replace(/^[^,]*,/u, ''));
    reader.onerror = () => failed(new Error('The file could not be read: choose it again.'));
    reader.readAsDataURL(content);
  });
}
