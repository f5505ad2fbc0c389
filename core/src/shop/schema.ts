import { type Static, Type } from '@sinclair/typebox';
import { byKind, closed } from '../sign/index.js';

export const SHOP_VERSION = 1;

const Id = Type.String({ pattern: '^[A-Za-z0-9_-]{1,64}$' });
const Name = Type.String({ minLength: 1, maxLength: 80 });
const Diameter = Type.Number({ exclusiveMinimum: 0, maximum: 200 });
const Length = Type.Number({ exclusiveMinimum: 0, maximum: 5000 });
const Angle = Type.Number({ minimum: 10, maximum: 170 });
const Tip = Type.Number({ minimum: 0, maximum: 50 });
const Price = Type.Number({ minimum: 0, maximum: 1_000_000 });
const Feed = Type.Number({ exclusiveMinimum: 0, maximum: 200_000, description: 'mm a minute' });
const Line = Type.String({ maxLength: 120 });

const Form = byKind(
  closed({ kind: Type.Literal('end'), diameter: Diameter }, 'an end mill: flat'),
  closed({ kind: Type.Literal('ball'), diameter: Diameter }, 'a ball nose'),
  closed({ kind: Type.Literal('vee'), diameter: Diameter, angle: Angle, tip: Tip }, 'a vee bit: included angle, flat tip'),
  closed({ kind: Type.Literal('point'), diameter: Diameter, angle: Angle, tip: Tip }, 'an engraving point'),
  closed({ kind: Type.Literal('drill'), diameter: Diameter, angle: Angle }, 'a drill: point angle'),
  closed(
    { kind: Type.Literal('taper'), diameter: Diameter, angle: Angle, tip: Tip },
    'a taper ball: included angle, diameter of its ball',
  ),
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
    holder: closed({ diameter: Diameter, standOut: Length }, 'what holds it, and how far its tip stands out of that'),
    mostPlunge: Feed,
    left: Type.Integer({ minimum: 0, maximum: 10_000, description: 'how many the shop has' }),
  },
  'a cutting tool; lengths in mm, angles in degrees',
);

const Material = closed(
  {
    id: Id,
    name: Name,
    density: Type.Number({ exclusiveMinimum: 0, maximum: 25_000, description: 'kg/m³' }),
    sheets: Type.Array(closed({ width: Length, height: Length, thickness: Length, price: Price }, 'a sheet that is kept'), {
      maxItems: 100,
    }),
    leastWall: Type.Number({ minimum: 0, maximum: 50, description: 'mm of wall between two cuts that survive' }),
    leastStroke: Type.Number({ minimum: 0, maximum: 50, description: 'mm of a raised stroke that survives' }),
    slenderness: Type.Number({
      exclusiveMinimum: 0,
      maximum: 100,
      description: 'height of a raised stroke in times its width, at most',
    }),
    depthPerPass: Type.Number({ exclusiveMinimum: 0, maximum: 10, description: 'in times the diameter of the tool, at most' }),
    chipLoads: Type.Array(closed({ diameter: Diameter, chip: Type.Number({ exclusiveMinimum: 0, maximum: 5 }) }, 'mm a tooth'), {
      minItems: 1,
      maxItems: 20,
    }),
    surfaceSpeed: Type.Number({ exclusiveMinimum: 0, maximum: 5000, description: 'm/min' }),
    shrinkage: Type.Number({ minimum: 0, maximum: 10, description: 'percent when it is cast' }),
    isLaserSafe: Type.Boolean({ description: 'whether a laser may cut it' }),
  },
  'a material',
);

const Dialect = closed(
  {
    header: Type.Array(Line, { maxItems: 40 }),
    footer: Type.Array(Line, { maxItems: 40 }),
    toolChange: Type.Array(Line, { maxItems: 40, description: 'has {tool} and {name}' }),
    spindleOn: Type.Array(Line, { maxItems: 10, description: 'has {speed}' }),
    spindleOff: Type.Array(Line, { maxItems: 10 }),
    coolantOn: Type.Array(Line, { maxItems: 10 }),
    coolantOff: Type.Array(Line, { maxItems: 10 }),
    units: Type.Union([Type.Literal('mm'), Type.Literal('in')]),
    decimals: Type.Integer({ minimum: 2, maximum: 6 }),
    lineNumbers: Type.Integer({ minimum: 0, maximum: 100, description: 'step from one to the next, 0 for none' }),
    extension: Type.String({ pattern: '^[A-Za-z0-9]{1,8}$' }),
  },
  'how a machine wants its programs written, within RS274/NGC',
);

const Machine = closed(
  {
    id: Id,
    name: Name,
    kind: Type.Union(['router', 'engraver', 'laser', 'knife', 'printer'].map((kind) => Type.Literal(kind))),
    area: closed({ width: Length, height: Length }, 'what it reaches across and up, in mm'),
    travel: Length,
    rapid: Feed,
    mostFeed: Feed,
    acceleration: Type.Number({ exclusiveMinimum: 0, maximum: 50_000, description: 'mm/s²' }),
    deviation: Type.Number({ exclusiveMinimum: 0, maximum: 1, description: 'mm by which a corner may be rounded' }),
    toolChange: Type.Number({ minimum: 0, maximum: 3600, description: 'seconds that changing a tool takes' }),
    hasChanger: Type.Boolean({ description: 'changes tools by itself; else each tool has a file of its own' }),
    knowsArcs: Type.Boolean(),
    rotary: Type.Optional(
      Type.Union(
        ['none', 'x', 'y'].map((axis) => Type.Literal(axis)),
        { description: 'the axis about which it can turn its work, A in degrees' },
      ),
    ),
    spindle: closed(
      {
        least: Type.Number({ minimum: 0, maximum: 200_000 }),
        most: Type.Number({ exclusiveMinimum: 0, maximum: 200_000 }),
      },
      'revolutions a minute',
    ),
    dialect: Dialect,
  },
  'a machine',
);

const Rates = closed(
  {
    currency: Type.String({ minLength: 1, maxLength: 8 }),
    machineHour: Price,
    handHour: Price,
    toolChange: Price,
    finishing: Type.Array(closed({ finish: Name, perSquareMetre: Price }, 'a kind of finish'), { maxItems: 100 }),
    least: Price,
  },
  'what the shop charges',
);

export const ShopSchema = closed(
  {
    version: Type.Literal(SHOP_VERSION),
    materials: Type.Array(Material, { maxItems: 500 }),
    tools: Type.Array(Tool, { maxItems: 999 }),
    machines: Type.Array(Machine, { maxItems: 100 }),
    rates: Rates,
    words: Type.Optional(
      Type.Array(Type.String({ minLength: 1, maxLength: 60 }), {
        maxItems: 5000,
        description: 'words that are right whatever dictionaries say: names of people and places',
      }),
    ),
  },
  'the materials, tools, machines and rates of a shop',
);

export type Shop = Static<typeof ShopSchema>;
export type ShopTool = Static<typeof Tool>;
export type ShopMachine = Static<typeof Machine>;
export type ShopMaterial = Static<typeof Material>;
export type MachineDialect = Static<typeof Dialect>;
export type ShopRates = Static<typeof Rates>;
