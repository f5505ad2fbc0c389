import { type Static, type TObject, type TProperties, Type } from '@sinclair/typebox';
import { SIGN_VERSION } from './version.js';

/** The sign document: one JSON value, described for people in docs/sign-format.md. Lengths in mm, angles in degrees. */

const closed = <P extends TProperties>(properties: P, description: string) =>
  Type.Object(properties, { additionalProperties: false, description });

/** One of several objects told apart by `kind`; Ajv then judges by that one alone and names its fields. */
function byKind<T extends TObject[]>(...variants: T) {
  return Type.Unsafe<Static<T[number]>>({
    type: 'object',
    required: ['kind'],
    discriminator: { propertyName: 'kind' },
    oneOf: variants,
  });
}

const Id = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$', description: 'letters, digits, hyphen, underscore' });
const Coordinate = Type.Number({ minimum: -4000, maximum: 4000 });
const Extent = Type.Number({ exclusiveMinimum: 0, maximum: 8000 });
const Height = Type.Number({ minimum: 0, maximum: 1000 });
const Name = Type.String({ minLength: 1, maxLength: 80 });

const Rectangle = closed(
  {
    kind: Type.Literal('rectangle'),
    width: Extent,
    height: Extent,
    cornerRadius: Type.Number({ minimum: 0, maximum: 4000 }),
  },
  'a rectangle about its middle',
);
const Circle = closed({ kind: Type.Literal('circle'), diameter: Extent }, 'a circle about its middle');

const Blank = closed(
  {
    outline: byKind(Rectangle),
    thickness: Type.Number({ minimum: 0.1, maximum: 1000 }),
    material: Type.String({ maxLength: 80 }),
  },
  'the panel the sign is made from, its middle at x = 0, y = 0, its face at z = 0',
);

const Place = closed(
  {
    x: Coordinate,
    y: Coordinate,
    turn: Type.Number({ minimum: -360, maximum: 360 }),
    mirror: Type.Boolean(),
  },
  'where the middle of the part is, how far it is turned anticlockwise and whether it is mirrored',
);

const SitsOn = byKind(
  closed({ kind: Type.Literal('face') }, 'heights are measured from the face of the blank'),
  closed(
    { kind: Type.Literal('part'), part: Id, at: Type.Union([Type.Literal('floor'), Type.Literal('top')]) },
    'heights are measured from the lowest or highest level of an earlier part',
  ),
);

const Area = byKind(
  closed({ kind: Type.Literal('outline') }, 'the outline itself'),
  closed(
    { kind: Type.Literal('offset'), by: Type.Number({ minimum: -500, maximum: 500 }) },
    'the outline grown, or shrunk by a negative amount',
  ),
);

const Action = byKind(
  closed({ kind: Type.Literal('raise'), by: Height }, 'material standing above the level the part sits on'),
  closed({ kind: Type.Literal('carve'), by: Height }, 'material taken out below that level'),
  closed(
    { kind: Type.Literal('set'), to: Type.Number({ minimum: -1000, maximum: 1000 }) },
    'whatever is there becomes this level, measured from the level the part sits on',
  ),
  closed({ kind: Type.Literal('cut-through') }, 'a hole from face to back; nothing later closes it'),
  closed(
    {
      kind: Type.Literal('line'),
      depth: Height,
      width: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
    },
    'a groove of this width and depth that follows the strokes, or the edge, of the part',
  ),
);

const Tier = closed({ id: Id, on: Type.Boolean(), area: Area, action: Action }, 'something built from the outline');

const common = { id: Id, name: Name, place: Place, sitsOn: SitsOn, tiers: Type.Array(Tier, { maxItems: 20 }) };

const TextPart = closed(
  {
    kind: Type.Literal('text'),
    ...common,
    words: Type.String({ maxLength: 4000 }),
    font: Type.String({ minLength: 1, maxLength: 100 }),
    capHeight: Type.Number({ minimum: 0.5, maximum: 4000 }),
    tracking: Type.Number({ minimum: -50, maximum: 500 }),
    leading: Type.Number({ minimum: 50, maximum: 1000 }),
    align: Type.Union([Type.Literal('left'), Type.Literal('centre'), Type.Literal('right')]),
  },
  'words in a font; they stay words for ever',
);
const ShapePart = closed(
  { kind: Type.Literal('shape'), ...common, shape: byKind(Rectangle, Circle) },
  'a plain shape: a panel, a border, a hole',
);

export const SignSchema = closed(
  {
    version: Type.Literal(SIGN_VERSION),
    title: Type.String({ minLength: 1, maxLength: 200 }),
    unit: Type.Union([Type.Literal('mm'), Type.Literal('in')]),
    blank: Blank,
    parts: Type.Array(byKind(TextPart, ShapePart), { maxItems: 500 }),
    section: closed(
      { x: Coordinate, y: Coordinate, turn: Type.Number({ minimum: -360, maximum: 360 }) },
      'the line along which the section is cut: a point on it and its direction',
    ),
  },
  'a sign',
);

export type Sign = Static<typeof SignSchema>;
export type Blank = Static<typeof Blank>;
export type TextPart = Static<typeof TextPart>;
export type ShapePart = Static<typeof ShapePart>;
export type Part = TextPart | ShapePart;
export type Shape = ShapePart['shape'];
export type Tier = Static<typeof Tier>;
export type Action = Static<typeof Action>;
export type Area = Static<typeof Area>;
export type SitsOn = Static<typeof SitsOn>;
export type Place = Static<typeof Place>;
export type SectionLine = Sign['section'];
