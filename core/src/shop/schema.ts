import { type Static, Type } from '@sinclair/typebox';
import { byKind, closed } from '../sign/index.js';

export const SHOP_VERSION = 1;

const Id = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
const Name = Type.String({ minLength: 1, maxLength: 80 });
const Diameter = Type.Number({ exclusiveMinimum: 0, maximum: 200 });
const Length = Type.Number({ exclusiveMinimum: 0, maximum: 5000 });
const Angle = Type.Number({ minimum: 10, maximum: 170 });
const Tip = Type.Number({ minimum: 0, maximum: 50 });

const Form = byKind(
  closed({ kind: Type.Literal('end'), diameter: Diameter }, 'an end mill: flat'),
  closed({ kind: Type.Literal('ball'), diameter: Diameter }, 'a ball nose'),
  closed({ kind: Type.Literal('vee'), diameter: Diameter, angle: Angle, tip: Tip }, 'a vee bit: included angle, flat tip'),
  closed({ kind: Type.Literal('point'), diameter: Diameter, angle: Angle, tip: Tip }, 'an engraving point'),
  closed({ kind: Type.Literal('drill'), diameter: Diameter, angle: Angle }, 'a drill: point angle'),
);

const Tool = closed(
  {
    id: Id,
    name: Name,
    number: Type.Integer({ minimum: 1, maximum: 999, description: 'place in the changer, the T of a program' }),
    form: Form,
    flutes: Type.Integer({ minimum: 1, maximum: 20 }),
    cuttingLength: Length,
    shank: Diameter,
  },
  'a cutting tool; lengths in mm, angles in degrees',
);

const Machine = closed(
  {
    id: Id,
    name: Name,
    kind: Type.Union(['router', 'engraver'].map((kind) => Type.Literal(kind))),
    area: closed({ width: Length, height: Length }, 'what it reaches across and up, in mm'),
    travel: Length,
    rapid: Type.Number({ exclusiveMinimum: 0, maximum: 200_000, description: 'mm a minute' }),
    mostFeed: Type.Number({ exclusiveMinimum: 0, maximum: 200_000, description: 'mm a minute' }),
    acceleration: Type.Number({ exclusiveMinimum: 0, maximum: 50_000, description: 'mm/s²' }),
    deviation: Type.Number({ exclusiveMinimum: 0, maximum: 1, description: 'mm by which a corner may be rounded' }),
    toolChange: Type.Number({ minimum: 0, maximum: 3600, description: 'seconds that changing a tool takes' }),
  },
  'a machine',
);

export const ShopSchema = closed(
  {
    version: Type.Literal(SHOP_VERSION),
    tools: Type.Array(Tool, { maxItems: 999 }),
    machines: Type.Array(Machine, { maxItems: 100 }),
  },
  'the tools and machines of a shop',
);

export type Shop = Static<typeof ShopSchema>;
export type ShopTool = Static<typeof Tool>;
export type ShopMachine = Static<typeof Machine>;
