import { type FontBook } from '@plain-relief/core/type';
import type { LoadedFont } from './fonts.js';
import { openFontBook } from './font-files.js';

/** The fonts of a thread: those of a folder, and those of the shop's that came with an order. */
export class ThreadBook {
  private readonly shop = new Map<string, Uint8Array>();
  private book: FontBook | undefined;

  with(fontsDir: string, fonts: readonly LoadedFont[]): FontBook {
    for (const { entry, bytes } of fonts) this.shop.set(entry.id, bytes);
    this.book ??= openFontBook(fontsDir, ({ id }) => {
      const own = this.shop.get(id);
      return own && Promise.resolve(own);
    });
    this.book.learn(fonts.map(({ entry }) => entry));
    return this.book;
  }
}
