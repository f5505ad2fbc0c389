import { inject, Injectable } from '@angular/core';
import { type Blank, type Finish } from '@plain-relief/core/sign';
import { type FontEntry } from '@plain-relief/core/type';
import { BehaviorSubject, firstValueFrom, type Observable } from 'rxjs';
import { Api } from '../platform/api';

/** A font that the shop added. */
export interface ShopFontView {
  readonly id: string;
  readonly entry: FontEntry;
  readonly isRestricted: boolean;
  readonly fileName: string;
}

/** A blank that the shop uses often. */
export interface ShopBlankView {
  readonly id: string;
  readonly name: string;
  readonly blank: Blank;
}

export interface ShopState {
  readonly shipped: readonly FontEntry[];
  readonly fonts: readonly ShopFontView[];
  readonly blanks: readonly ShopBlankView[];
  readonly finishes: readonly Finish[];
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
      const [fonts, blanks, finishes, shipped] = await Promise.all([
        firstValueFrom(this.api.get<ShopFontView[]>('/shop/fonts')),
        firstValueFrom(this.api.get<ShopBlankView[]>('/shop/blanks')),
        firstValueFrom(this.api.get<Finish[]>('/shop/finishes')),
        fetch('/fonts/catalogue.json').then((answer) => answer.json() as Promise<FontEntry[]>),
      ]);
      this.state.next({ shipped, fonts, blanks, finishes, isLoading: false, error: '' });
    } catch (error) {
      this.state.next({ ...this.state.value, isLoading: false, error: (error as Error).message });
    }
  }

  /** @throws ApiError with the reason why a font is not taken */
  async addFont(file: File): Promise<ShopFontView> {
    const added = await firstValueFrom(
      this.api.post<ShopFontView>('/shop/fonts', { name: file.name, base64: await inBase64(file) }),
    );
    await this.load();
    return added;
  }

  /** @throws ApiError where a sign is set in it */
  async removeFont(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/shop/fonts/${id}`));
    await this.load();
  }

  /** @throws ApiError */
  async addBlank(name: string, blank: Blank): Promise<void> {
    await firstValueFrom(this.api.post<ShopBlankView>('/shop/blanks', { name, blank }));
    await this.load();
  }

  /** @throws ApiError with the field that is wrong */
  async addFinish(finish: Omit<Finish, 'id'>): Promise<void> {
    await firstValueFrom(this.api.post<Finish>('/shop/finishes', finish));
    await this.load();
  }

  async removeFinish(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/shop/finishes/${id}`));
    await this.load();
  }

  async removeBlank(id: string): Promise<void> {
    await firstValueFrom(this.api.delete(`/shop/blanks/${id}`));
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
