import { LRUCache } from 'lru-cache';
import { type Place } from '@plain-relief/core/in-place';
import { type Run } from '@plain-relief/core/runs';
import { costliestPart, type Sign } from '@plain-relief/core/sign';
import { errors, ServerError } from '../../platform/errors.js';
import { LimitedThreads, TooMuchWork } from '../../platform/http/limited.js';
import type { LoadedFont, ShopFonts } from '../fonts/fonts.js';
import { entityTag, keepPicture, pictureKept, type PictureName } from '../../platform/database/models/kept-pictures.js';

/** A sign, and what of it takes longest, as the beginning of a sentence. */
export function nameOf(sign: Sign): string {
  const part = costliestPart(sign);
  return part ? `“${sign.title}”, most of all its “${part.name}”,` : `“${sign.title}”`;
}

/** Bytes of pictures that are held beside the database. */
const MOST_BYTES = 64_000_000;
/** Of signs that take too long so many are remembered. */
const MOST_REFUSED = 500;
const LIMITS = { threads: 2, seconds: 30, megabytes: 1500 };
const SMALL = { width: 360, height: 240 };
/** Pixels along the longer side of what a customer sees, and of a plate among many. */
const LARGE = 1200;
const PLATE = 560;

/** What is to be drawn: a small picture from aside, a large one from the front, the solid with its finishes, its sizes, or the plan over an earlier one. */
export type View =
  | { readonly kind: 'aside'; readonly width: number; readonly height: number }
  | { readonly kind: 'front'; readonly longest: number }
  | { readonly kind: 'model' }
  | { readonly kind: 'sizes' }
  | { readonly kind: 'notes' }
  | { readonly kind: 'plates'; readonly run: Run }
  | { readonly kind: 'comparison'; readonly was: Sign }
  | ({ readonly kind: 'in place' } & PlaceView);

/** A place with its signs, of which some may be gone. */
export interface PlaceView {
  readonly place: Place;
  readonly signs: readonly (Sign | null)[];
  readonly longest: number;
}

export interface PictureOrder {
  /** Of a place the first of its signs. */
  readonly sign?: Sign;
  readonly view: View;
  readonly fontsDir: string;
  /** Fonts of the shop's that the sign is set in. */
  readonly fonts: readonly LoadedFont[];
}

/** A picture with the name of its contents, which is known without it. */
export interface NamedPicture {
  readonly tag: string;
  bytes(): Promise<Uint8Array>;
}

/** Pictures and models of signs, made in threads of their own; pictures are kept in the database. */
export class SignPictures {
  /** Some for the board's many, some for what a customer waits for: more than one, so that one that takes long holds up no other. */
  private readonly board: LimitedThreads<PictureOrder, Uint8Array>;
  private readonly customers: LimitedThreads<PictureOrder, Uint8Array>;
  /** What is being fetched or made, by its tag. */
  private readonly underWay = new Map<string, Promise<Uint8Array>>();
  /** What was asked for of late. */
  private readonly recent = new LRUCache<string, Uint8Array>({
    maxSize: MOST_BYTES,
    sizeCalculation: ({ length }) => length + 1,
  });
  /** What takes too long does so again. */
  private readonly refused = new LRUCache<string, ServerError>({ max: MOST_REFUSED });

  constructor(
    private readonly fontsDir: string,
    private readonly shopFonts: ShopFonts,
  ) {
    const threads = () => new LimitedThreads<PictureOrder, Uint8Array>('./picture-thread.js', import.meta.url, LIMITS);
    this.board = threads();
    this.customers = threads();
  }

  /**
   * A small picture of a sign at a revision, as a PNG file.
   * @param sign is asked for only where the picture was not made yet
   */
  of(signId: string, revision: number, sign: () => Promise<Sign>): NamedPicture {
    return this.named({ subject: `sign ${signId}`, revision, signId }, sign, { kind: 'aside', ...SMALL });
  }

  /** A small picture of a sign that is none of a job's, and never changes, as a PNG file. */
  sample(subject: string, sign: Sign): NamedPicture {
    return this.named({ subject }, sign, { kind: 'aside', ...SMALL });
  }

  /** A large picture from the front of what never changes, as a PNG file; its edges are those of the blank. */
  front(subject: string, sign: Sign): NamedPicture {
    return this.named({ subject: `front ${subject}` }, sign, { kind: 'front', longest: LARGE });
  }

  /** A plate of a run that never changes, from the front, as a PNG file: there are many, so that none is kept beside what was seen of late. */
  plate(subject: string, sign: Sign): NamedPicture {
    const tag = entityTag({ subject: `plate ${subject}` });
    return { tag, bytes: () => this.once(tag, undefined, () => this.make(sign, { kind: 'front', longest: PLATE })) };
  }

  /** The solid with its finishes, as a GLB file. */
  model(sign: Sign): Promise<Uint8Array> {
    return this.make(sign, { kind: 'model' });
  }

  /** Plan and section of what never changes with their dimensions, as an SVG file. */
  sizes(subject: string, sign: Sign): NamedPicture {
    return this.named({ subject: `sizes ${subject}` }, sign, { kind: 'sizes' });
  }

  /** What never changes as it will hang, as a PNG file: clear beside its signs where it has no ground of its own. */
  inPlace(subject: string, view: PlaceView): NamedPicture {
    const tag = entityTag({ subject });
    return { tag, bytes: () => this.once(tag, { subject }, () => this.make(undefined, { kind: 'in place', ...view })) };
  }

  /** What there is to be looked at on a sign at a revision: the sentences of its errors and warnings. */
  async notes(signId: string, revision: number, sign: Sign): Promise<string[]> {
    const bytes = await this.named({ subject: `notes ${signId}`, revision, signId }, sign, { kind: 'notes' }).bytes();
    return JSON.parse(Buffer.from(bytes).toString('utf8')) as string[];
  }

  /** Which plates of a run, at revisions of it and of its sign, cannot be made as they are, in sentences. */
  async heldPlates(subject: string, sign: Sign, run: Run): Promise<string[]> {
    const tag = entityTag({ subject: `plates ${subject}` });
    const bytes = await this.once(tag, undefined, () => this.make(sign, { kind: 'plates', run }));
    return JSON.parse(Buffer.from(bytes).toString('utf8')) as string[];
  }

  /** The plan of a sign over that of an earlier state of it, as an SVG file. */
  comparison(was: Sign, is: Sign): Promise<Uint8Array> {
    return this.make(is, { kind: 'comparison', was });
  }

  private named(name: PictureName, sign: Sign | (() => Promise<Sign>), view: View): NamedPicture {
    const tag = entityTag(name);
    const make = async () => this.make(typeof sign === 'function' ? await sign() : sign, view);
    return { tag, bytes: () => this.once(tag, name, make) };
  }

  /** @param name none of what is not kept in the database */
  private once(tag: string, name: PictureName | undefined, make: () => Promise<Uint8Array>): Promise<Uint8Array> {
    const refusal = this.refused.get(tag);
    if (refusal) return Promise.reject(refusal);
    const recent = this.recent.get(tag);
    if (recent) return Promise.resolve(recent);
    let picture = this.underWay.get(tag);
    if (!picture) {
      picture = this.fetched(tag, name, make)
        .then((made) => {
          this.recent.set(tag, made);
          return made;
        })
        .finally(() => this.underWay.delete(tag));
      this.underWay.set(tag, picture);
    }
    return picture;
  }

  private async fetched(tag: string, name: PictureName | undefined, make: () => Promise<Uint8Array>): Promise<Uint8Array> {
    const kept = name && (await pictureKept(name));
    if (kept) return kept;
    try {
      const made = await make();
      // A sign that was removed meanwhile, or a database away: the picture is shown all the same.
      if (name) await keepPicture(name, made).catch(() => undefined);
      return made;
    } catch (error) {
      if (error instanceof ServerError && error.code === 'TOO_MUCH_WORK') {
        this.refused.set(tag, error);
      }
      throw error;
    }
  }

  private async make(sign: Sign | undefined, view: View): Promise<Uint8Array> {
    const signs = [sign, ...(view.kind === 'comparison' ? [view.was] : view.kind === 'in place' ? view.signs : [])].filter(
      (each) => each instanceof Object,
    );
    const fonts = (await Promise.all(signs.map((each) => this.shopFonts.usedBy(each)))).flat();
    const order: PictureOrder = { sign, view, fontsDir: this.fontsDir, fonts };
    try {
      return await (view.kind === 'aside' ? this.board : this.customers).run(order, sign ? nameOf(sign) : 'The place');
    } catch (error) {
      if (error instanceof TooMuchWork) throw errors.tooMuchWork(error.message);
      throw error;
    }
  }

  async close(): Promise<void> {
    await Promise.all([this.board.close(), this.customers.close()]);
  }
}
