import { deserialize, serialize } from 'node:v8';
import { deflateRawSync, inflateRawSync } from 'node:zlib';

/** Something of a row, by the number of the row, from 0. */
export type OfRow<T> = readonly [row: number, value: T];

/** What later lots need of rows, as it is kept until then. */
export const laidAside = <T>(values: readonly OfRow<T>[]): Uint8Array => deflateRawSync(serialize(values), { level: 1 });

export const broughtBack = <T>(bytes: Uint8Array): readonly OfRow<T>[] => deserialize(inflateRawSync(bytes)) as OfRow<T>[];

/** What was laid aside apart, in one; undefined where nothing was. */
export const joined = (parts: readonly (Uint8Array | undefined)[]): Uint8Array | undefined => {
  const own = parts.flatMap((part) => part ?? []);
  return own.length === 0 ? undefined : laidAside(own.flatMap((part) => broughtBack<unknown>(part)));
};
