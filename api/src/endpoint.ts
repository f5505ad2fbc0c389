import type { Static, TSchema } from '@sinclair/typebox';

/** What is sent to an address, and what comes back. */
export interface EndpointSchema {
  readonly params?: TSchema;
  readonly query?: TSchema;
  readonly body?: TSchema;
  /** The body is a form with one file, in multipart/form-data (RFC 7578). */
  readonly isUpload?: true;
  /** Of an answer that is no error; 200 where nothing is said, 204 where nothing is answered. */
  readonly status?: 201 | 202;
  /** Nothing where there is none. */
  readonly answer?: TSchema;
}

/** Endpoints by method and address below /api, with its parameters behind colons. */
export type EndpointTable = Readonly<Record<`${'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'} /${string}`, EndpointSchema>>;

/** A value that nobody is going to change. */
export type Frozen<T> = T extends (infer U)[]
  ? readonly Frozen<U>[]
  : T extends object
    ? { readonly [K in keyof T]: Frozen<T[K]> }
    : T;

/** The type of a schema of an endpoint, undefined where it has none. */
export type PartOf<E extends EndpointSchema, Part extends 'params' | 'query' | 'body' | 'answer'> =
  E extends Readonly<Record<Part, infer S extends TSchema>> ? Static<S> : undefined;

/** The fields of a request that are asked for, and no others. */
export type RequestOf<E extends EndpointSchema> = {
  readonly [Part in keyof E & ('params' | 'query' | 'body')]: E[Part] extends TSchema ? Frozen<Static<E[Part]>> : never;
};
