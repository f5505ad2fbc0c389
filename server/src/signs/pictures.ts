import { costliestPart, type Sign } from '@plain-relief/core/sign';
import { errors, ServerError } from '../errors.js';
import { LimitedThreads, TooMuchWork } from '../http/limited.js';
import type { LoadedFont, ShopFonts } from '../shop/fonts.js';

/** A sign, and what of it takes longest, as the beginning of a sentence. */
export function nameOf(sign: Sign): string {
  const part = costliestPart(sign);
  return part ? `“${sign.title}”, most of all its “${part.name}”,` : `“${sign.title}”`;
}

const MOST_KEPT = 500;
const LIMITS = { threads: 2, seconds: 30, megabytes: 1500 };
const SMALL = { width: 360, height: 240 };
/** Pixels along the longer side of what a customer sees. */
const LARGE = 1200;

/** What is to be drawn: a small picture from aside, a large one from the front, the solid with its finishes, its sizes, or the plan over an earlier one. */
export type View =
  | { readonly kind: 'aside'; readonly width: number; readonly height: number }
  | { readonly kind: 'front'; readonly longest: number }
  | { readonly kind: 'model' }
  | { readonly kind: 'sizes' }
  | { readonly kind: 'notes' }
  | { readonly kind: 'comparison'; readonly was: Sign };

export interface PictureOrder {
  readonly sign: Sign;
  readonly view: View;
  readonly fontsDir: string;
  /** Fonts of the shop's that the sign is set in. */
  readonly fonts: readonly LoadedFont[];
}

/** Pictures and models of signs, made in threads of their own; pictures are kept. */
export class SignPictures {
  /** Some for the board's many, some for what a customer waits for: more than one, so that one that takes long holds up no other. */
  private readonly board: LimitedThreads<PictureOrder, Uint8Array>;
  private readonly customers: LimitedThreads<PictureOrder, Uint8Array>;
  private readonly kept = new Map<string, Promise<Uint8Array>>();

  constructor(
    private readonly fontsDir: string,
    private readonly shopFonts: ShopFonts,
  ) {
    const threads = () => new LimitedThreads<PictureOrder, Uint8Array>('./picture-thread.js', import.meta.url, LIMITS);
    this.board = threads();
    this.customers = threads();
  }

  /** A small picture of a sign at a revision, as a PNG file. */
  of(id: string, revision: number, sign: Sign): Promise<Uint8Array> {
    return this.once(`${id} ${revision}`, sign, { kind: 'aside', ...SMALL });
  }

  /** A large picture from the front of what never changes, as a PNG file; its edges are those of the blank. */
  front(key: string, sign: Sign): Promise<Uint8Array> {
    return this.once(key, sign, { kind: 'front', longest: LARGE });
  }

  /** The solid with its finishes, as a GLB file. */
  model(sign: Sign): Promise<Uint8Array> {
    return this.make(sign, { kind: 'model' });
  }

  /** Plan and section with their dimensions, as an SVG file. */
  sizes(key: string, sign: Sign): Promise<Uint8Array> {
    return this.once(`sizes ${key}`, sign, { kind: 'sizes' });
  }

  /** What there is to be looked at on a sign at a revision: the sentences of its errors and warnings. */
  async notes(id: string, revision: number, sign: Sign): Promise<string[]> {
    const bytes = await this.once(`notes ${id} ${revision}`, sign, { kind: 'notes' });
    return JSON.parse(Buffer.from(bytes).toString('utf8')) as string[];
  }

  /** The plan of a sign over that of an earlier state of it, as an SVG file. */
  comparison(was: Sign, is: Sign): Promise<Uint8Array> {
    return this.make(is, { kind: 'comparison', was });
  }

  private once(key: string, sign: Sign, view: View): Promise<Uint8Array> {
    let picture = this.kept.get(key);
    if (!picture) {
      picture = this.make(sign, view);
      this.kept.set(key, picture);
      picture.catch((error: unknown) => {
        // What takes too long does so again.
        if (!(error instanceof ServerError && error.code === 'TOO_MUCH_WORK')) this.kept.delete(key);
      });
      if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
    }
    return picture;
  }

  private async make(sign: Sign, view: View): Promise<Uint8Array> {
    const signs = view.kind === 'comparison' ? [sign, view.was] : [sign];
    const fonts = (await Promise.all(signs.map((each) => this.shopFonts.usedBy(each)))).flat();
    const order: PictureOrder = { sign, view, fontsDir: this.fontsDir, fonts };
    try {
      return await (view.kind === 'aside' ? this.board : this.customers).run(order, nameOf(sign));
    } catch (error) {
      if (error instanceof TooMuchWork) throw errors.tooMuchWork(error.message);
      throw error;
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.board.close(), this.customers.close()]);
  }
}
