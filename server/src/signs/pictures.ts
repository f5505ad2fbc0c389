import { Piscina } from 'piscina';
import type { Sign } from '@plain-relief/core/sign';
import type { LoadedFont, ShopFonts } from '../shop/fonts.js';

const MOST_KEPT = 500;
const WIDTH = 360;
const HEIGHT = 240;

export interface PictureOrder {
  readonly sign: Sign;
  readonly width: number;
  readonly height: number;
  readonly fontsDir: string;
  /** Fonts of the shop's that the sign is set in. */
  readonly fonts: readonly LoadedFont[];
}

/** Small pictures of signs, made in a thread of their own and kept by sign and revision. */
export class SignPictures {
  private readonly threads: Piscina;
  private readonly kept = new Map<string, Promise<Uint8Array>>();

  constructor(
    private readonly fontsDir: string,
    private readonly shopFonts: ShopFonts,
  ) {
    this.threads = new Piscina({
      filename: new URL('./picture-thread.js', import.meta.url).href,
      minThreads: 0,
      maxThreads: 1,
      maxQueue: 200,
    });
  }

  of(id: string, revision: number, sign: Sign): Promise<Uint8Array> {
    const key = `${id} ${revision}`;
    let picture = this.kept.get(key);
    if (!picture) {
      picture = this.make(sign);
      this.kept.set(key, picture);
      picture.catch(() => this.kept.delete(key));
      if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    }
    return picture;
  }

  private async make(sign: Sign): Promise<Uint8Array> {
    const fonts = await this.shopFonts.usedBy(sign);
    const order: PictureOrder = { sign, width: WIDTH, height: HEIGHT, fontsDir: this.fontsDir, fonts };
    return (await this.threads.run(order)) as Uint8Array;
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
