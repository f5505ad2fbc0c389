import { Piscina } from 'piscina';
import type { Sign } from '@plain-relief/core/sign';

const MOST_KEPT = 500;
const WIDTH = 360;
const HEIGHT = 240;

export interface PictureOrder {
  readonly sign: Sign;
  readonly width: number;
  readonly height: number;
  readonly fontsDir: string;
}

/** Small pictures of signs, made in a thread of their own and kept by sign and revision. */
export class SignPictures {
  private readonly threads: Piscina;
  private readonly kept = new Map<string, Promise<Uint8Array>>();

  constructor(private readonly fontsDir: string) {
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
      const order: PictureOrder = { sign, width: WIDTH, height: HEIGHT, fontsDir: this.fontsDir };
      picture = this.threads.run(order) as Promise<Uint8Array>;
      this.kept.set(key, picture);
      picture.catch(() => this.kept.delete(key));
      if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    }
    return picture;
  }

  close(): Promise<void> {
    return this.threads.destroy();
  }
}
