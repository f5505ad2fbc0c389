import { type Static, type TObject, type TProperties, Type } from '@sinclair/typebox';

/** An object with these fields and no others. */
export const closed = <P extends TProperties>(properties: P, description: string) =>
  Type.Object(properties, { additionalProperties: false, description });

/** One of several objects told apart by `kind`; Ajv then judges by that one alone and names its fields. */
export function byKind<T extends TObject[]>(...variants: T) {
  return Type.Unsafe<Static<T[number]>>({
    type: 'object',
    required: ['kind'],
    discriminator: { propertyName: 'kind' },
    oneOf: variants,
  });
}

export const Id = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$', description: 'letters, digits, hyphen, underscore' });
export const Coordinate = Type.Number({ minimum: -4000, maximum: 4000 });
export const Extent = Type.Number({ exclusiveMinimum: 0, maximum: 8000 });
export const Height = Type.Number({ minimum: 0, maximum: 1000 });
export const Name = Type.String({ minLength: 1, maxLength: 80 });

export const Radius = Type.Number({ exclusiveMinimum: 0, maximum: 500 });

export const Percent = (minimum: number, maximum: number) => Type.Number({ minimum, maximum });

/** Characters of words: of a text or of braille, and of a code to scan. */
export const MOST_WORDS = 4000;
export const MOST_CODED = 2000;
