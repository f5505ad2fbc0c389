import {
  type Place,
  placedPicture,
  pictureOfPlace,
  readingView,
  type SignSize,
  sizeOfSolid,
  cameraOfPlace,
  sizeOfPlace,
} from '@plain-relief/core/in-place';
import { Evaluator } from '@plain-relief/core/relief';
import { type Sign, withOption } from '@plain-relief/core/sign';
import { type ColouredMesh, signModel } from '@plain-relief/core/solid';
import { type FontBook } from '@plain-relief/core/type';
import type { Fetch } from '../relief/fetch-bytes';
import { pageFonts } from '../relief/page-fonts';

/** The documents of a job's signs, by their ids. */
export type Documents = Readonly<Record<string, Sign>>;

/** A picture of a place, and what is known of its signs. */
export interface PlacePicture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
  /** In the order of the place; undefined of those that are gone. */
  readonly sizes: readonly (SignSize | undefined)[];
  /** Whether the photograph does not tell the lens that it was taken with. */
  readonly isAssumed: boolean;
}

/** One sign as it is seen from where it is read. */
export interface ReadingPicture {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
  /** Pixels of CSS at which it is as large on a screen at arm’s length. */
  readonly shownWidth: number;
  readonly shownHeight: number;
  /** m, and degrees that one looks up. */
  readonly away: number;
  readonly lookUp: number;
  /** mm of the capitals of its texts, the lowest first, each with the name of its part. */
  readonly capitals: readonly { readonly name: string; readonly height: number }[];
}

interface Made {
  readonly document: Sign;
  readonly solid: ColouredMesh;
  readonly capitals: ReadingPicture['capitals'];
}

/** The worker's side of places: draws signs as they will hang. */
export class PlaceDesk {
  private book: Promise<FontBook> | undefined;
  private evaluator: Evaluator | undefined;
  /** By sign and option. */
  private readonly made = new Map<string, Made>();

  constructor(private readonly fetch: Fetch) {}

  /** @throws Error with a sentence where the place cannot be */
  async draw(place: Place, documents: Documents, longest: number): Promise<PlacePicture> {
    const made = await this.madeOf(place, documents);
    const sizes = made.map((each) => each && sizeOfSolid(each.solid));
    const { width, height, rgba } = pictureOfPlace(place, made.map((each) => each?.solid), longest); // prettier-ignore
    const full = sizeOfPlace(place, longest);
    const { isAssumed } = cameraOfPlace(place, sizes.map((size) => size ?? { width: 0, height: 0, depth: 0 }), full.width, full.height); // prettier-ignore
    return { width, height, rgba: clamped(rgba), sizes, isAssumed };
  }

  /** A sign of a place from where it is read; undefined where it is gone. @param factor pixels for one of CSS */
  async read(place: Place, index: number, documents: Documents, factor: number): Promise<ReadingPicture | undefined> {
    const at = place.signs[index];
    const made = at && (await this.madeOf({ signs: [at] }, documents))[0];
    if (!made) return undefined;
    const { camera, width, height, away, lookUp } = readingView(place, at, sizeOfSolid(made.solid), factor);
    const [w, h] = [Math.ceil(width * factor), Math.ceil(height * factor)];
    const { rgba } = placedPicture([{ at, solid: made.solid }], camera, place.light, w, h);
    return {
      width: w,
      height: h,
      rgba: clamped(rgba),
      shownWidth: width,
      shownHeight: height,
      away,
      lookUp,
      capitals: made.capitals,
    };
  }

  private async madeOf({ signs }: Pick<Place, 'signs'>, documents: Documents): Promise<(Made | undefined)[]> {
    this.book ??= pageFonts(this.fetch);
    this.book.catch(() => (this.book = undefined));
    const evaluator = (this.evaluator ??= new Evaluator(await this.book));
    const all: (Made | undefined)[] = [];
    for (const { sign, option } of signs) {
      const document = documents[sign] as Sign | undefined;
      all.push(document && (await this.one(evaluator, `${sign} ${option ?? ''}`, document, option)));
    }
    return all;
  }

  private async one(evaluator: Evaluator, key: string, document: Sign, option: string | undefined): Promise<Made> {
    const known = this.made.get(key);
    if (known?.document === document || (known && JSON.stringify(known.document) === JSON.stringify(document))) return known;
    const evaluation = await evaluator.evaluate(withOption(document, option));
    const capitals = evaluation.parts
      .flatMap(({ id, text }) => {
        const part = document.parts.find((each) => each.id === id);
        return text && part && text.capHeight > 0 ? [{ name: part.name, height: text.capHeight }] : [];
      })
      .sort((a, b) => a.height - b.height);
    const made = { document, solid: signModel(evaluation), capitals };
    this.made.set(key, made);
    return made;
  }
}

const clamped = (rgba: Uint8Array): Uint8ClampedArray<ArrayBuffer> => new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.byteLength); // prettier-ignore
