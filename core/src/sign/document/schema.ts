import { type Static, Type } from '@sinclair/typebox';
import { byKind, closed, Coordinate, Extent, Height, Id, MOST_WORDS, Name, Percent, Radius } from './schema-basics.js';
import {
  Arch,
  Blank,
  BlankFinish,
  Border,
  Braille,
  Code,
  Circle,
  Combined,
  Ellipse,
  Fixings,
  Outline,
  Polygon,
  Rectangle,
  Sector,
  Stadium,
} from './schema-blank.js';
import { Slot } from './schema-slots.js';
import { Support } from './schema-support.js';
import { SIGN_VERSION } from './version.js';

export { type Counter, type Slot, type SlotSetting, SlotSettingSchema } from './schema-slots.js';
export { type BlockBody, type LinePiece, type Support } from './schema-support.js';
export { type Backer, type Blank, type BlankEdge, type CutTo, type Laminate } from './schema-blank.js';

/** The sign document: one JSON value, described for people in docs/sign-format.md. Lengths in mm, angles in degrees. */

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

const CornerForm = Type.Union([Type.Literal('round'), Type.Literal('mitred'), Type.Literal('square')]);
const Area = byKind(
  closed({ kind: Type.Literal('outline') }, 'the outline itself'),
  closed(
    {
      kind: Type.Literal('offset'),
      by: Type.Number({ minimum: -500, maximum: 500 }),
      corners: Type.Optional(CornerForm),
      scales: Type.Optional(Type.Boolean()),
    },
    'the outline grown, or shrunk by a negative amount; its corners are round where nothing else is said. One that scales is given in percent of the cap height, or of the height of what is seen',
  ),
  closed(
    {
      kind: Type.Literal('stroke'),
      width: Type.Number({ exclusiveMinimum: 0, maximum: 500 }),
      side: Type.Union([Type.Literal('inside'), Type.Literal('on'), Type.Literal('outside')]),
      corners: Type.Optional(CornerForm),
      scales: Type.Optional(Type.Boolean()),
    },
    'a stroke along the outline: inside it, half on either side, or outside it',
  ),
);

const Slope = Type.Number({ minimum: 0.5, maximum: 85 });
const Edge = byKind(
  closed(
    { kind: Type.Literal('sloped'), angle: Slope, sized: Type.Union([Type.Literal('foot'), Type.Literal('top')]) },
    'sides that lean by this angle from upright; the outline is their foot or their top',
  ),
  closed({ kind: Type.Literal('rounded'), radius: Radius }, 'a quarter circle where the sides meet the top, or the floor'),
  closed(
    { kind: Type.Literal('chamfered'), width: Radius, height: Radius },
    'a flat slope where the sides meet the top, or the floor',
  ),
  closed(
    { kind: Type.Literal('cove'), radius: Radius },
    'a hollow quarter circle in place of the upper, or the lower, part of the sides',
  ),
  closed(
    { kind: Type.Literal('domed'), width: Radius },
    'an arc that rises, or sinks, over this width and is level at its end: over half of a round dot a spherical cap',
  ),
  closed(
    { kind: Type.Literal('ridged'), angle: Type.Number({ minimum: 5, maximum: 170 }), capped: Type.Boolean() },
    'slopes from both sides that meet in the middle of the stroke at this included angle: a ridge, or a vee groove; capped at the amount of the action, or as high as the stroke is wide',
  ),
);

const Action = byKind(
  closed({ kind: Type.Literal('raise'), by: Height }, 'material standing above the level the part sits on'),
  closed({ kind: Type.Literal('carve'), by: Height }, 'material taken out below that level'),
  closed(
    {
      kind: Type.Literal('set'),
      to: Type.Number({ minimum: -1000, maximum: 1000 }),
      flat: Type.Optional(
        Type.Literal(true, {
          description:
            'on what a sign is bent around, the level lies flat: in a plane square to the surface at the place of the part',
        }),
      ),
    },
    'whatever is there becomes this level, measured from the level the part sits on',
  ),
  closed({ kind: Type.Literal('mark') }, 'colour only: what is there keeps its height and takes the finish of this tier'),
  closed({ kind: Type.Literal('cut-through') }, 'a hole from face to back; nothing later closes it'),
  closed(
    {
      kind: Type.Literal('insert'),
      below: Height,
      thickness: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }),
      material: Type.String({ maxLength: 80 }),
      clearance: Type.Optional(
        Type.Number({
          minimum: 0,
          maximum: 10,
          description: 'mm by which the insert is smaller all round than its window; 0 where nothing is said',
        }),
      ),
    },
    'a window cut through and filled with an insert of another material, its face so far below that level',
  ),
  closed(
    {
      kind: Type.Literal('line'),
      depth: Height,
      width: Type.Number({ exclusiveMinimum: 0, maximum: 100 }),
    },
    'a groove of this width and depth that follows the strokes, or the edge, of the part',
  ),
);

const TierFinish = closed(
  { top: Type.Optional(Id), sides: Type.Optional(Id) },
  'ids of finishes of the sign: of the level top, or floor, and of the sides with their slopes; bare material where nothing is said',
);
const Tier = closed(
  { id: Id, on: Type.Boolean(), area: Area, action: Action, edge: Type.Optional(Edge), finish: Type.Optional(TierFinish) },
  'something built from the outline; its edge is upright where nothing else is said',
);

const Copies = byKind(
  closed(
    { kind: Type.Literal('row'), count: Type.Integer({ minimum: 1, maximum: 200 }), stepX: Coordinate, stepY: Coordinate },
    'so many in a row about the place, each a step from the one before',
  ),
  closed(
    {
      kind: Type.Literal('ring'),
      count: Type.Integer({ minimum: 1, maximum: 200 }),
      radius: Type.Number({ minimum: 0, maximum: 4000 }),
      turning: Type.Boolean(),
    },
    'so many evenly around the place, the first at the top, upright or turning with the ring',
  ),
  closed(
    { kind: Type.Literal('faces'), on: Type.Union([Type.Literal('sides'), Type.Literal('all')]) },
    'once on every side of a block, or on every face, in the same place of each',
  ),
);

const Bridges = closed(
  {
    width: Type.Number({ minimum: 0.1, maximum: 500 }),
    count: Type.Integer({ minimum: 1, maximum: 8 }),
    turn: Type.Number({ minimum: -360, maximum: 360 }),
  },
  'what holds the islands of letters that are cut through: so many bridges of this width from every island, the first in this direction',
);

const common = {
  id: Id,
  name: Name,
  place: Place,
  sitsOn: SitsOn,
  tiers: Type.Array(Tier, { maxItems: 20 }),
  copies: Type.Optional(Copies),
  bridges: Type.Optional(Bridges),
  side: Type.Optional(Type.Literal('back')),
  group: Type.Optional(Id),
  locked: Type.Optional(Type.Boolean({ description: 'held in its place on the bench' })),
  dimensioned: Type.Optional(Type.Boolean({ description: 'its size and place stand on the proof' })),
  hidden: Type.Optional(Type.Boolean({ description: 'left out of the sign until it is shown again' })),
};

const Stretch = Percent(10, 1000);
const TextSize = byKind(
  closed(
    { kind: Type.Literal('capitals'), height: Type.Number({ minimum: 0.5, maximum: 4000 }), stretch: Stretch },
    'the height of capitals',
  ),
  closed(
    { kind: Type.Literal('em'), size: Type.Number({ minimum: 0.5, maximum: 4000 }), stretch: Stretch },
    'the size of the font, from the top of the tallest to the bottom of the lowest letter or so',
  ),
  closed(
    { kind: Type.Literal('seen-width'), width: Extent, stretch: Stretch },
    'the overall width of what is seen; the height follows',
  ),
  closed(
    { kind: Type.Literal('seen-height'), height: Extent, stretch: Stretch },
    'the overall height of what is seen; the width follows',
  ),
  closed({ kind: Type.Literal('seen'), width: Extent, height: Extent }, 'width and height of what is seen, each as given'),
);
const Leading = byKind(
  closed({ kind: Type.Literal('percent'), of: Percent(50, 1000) }, 'in percent of the cap height'),
  closed({ kind: Type.Literal('length'), length: Extent }, 'in mm'),
);
const Features = closed(
  { ligatures: Type.Boolean(), smallCapitals: Type.Boolean(), oldStyleFigures: Type.Boolean() },
  'alternates of the font, used where it has them',
);
const Letter = closed(
  {
    at: Type.Integer({ minimum: 0, maximum: 4000 }),
    kern: Type.Optional(Type.Number({ minimum: -1000, maximum: 1000 })),
    x: Type.Optional(Coordinate),
    y: Type.Optional(Coordinate),
    turn: Type.Optional(Type.Number({ minimum: -360, maximum: 360 })),
    size: Type.Optional(Percent(10, 1000)),
    more: Type.Optional(Type.Number({ minimum: -100, maximum: 100 })),
    bridges: Type.Optional(Type.Integer({ minimum: 0, maximum: 8 })),
    bridgeTurn: Type.Optional(Type.Number({ minimum: -360, maximum: 360 })),
  },
  'what was set by hand on the letter at this index of the words: space to the next, shift, turn, size in percent, mm that it rises or sinks more than the others, and how many bridges its islands have and how far those are turned on',
);
const Margin = byKind(
  closed({ kind: Type.Literal('length'), length: Type.Number({ minimum: 0, maximum: 4000 }) }, 'in mm'),
  closed({ kind: Type.Literal('percent'), of: Percent(0, 50) }, "in percent of the frame's side"),
);
const FitStep = byKind(
  closed({ kind: Type.Literal('tighten'), floor: Percent(-50, 500) }, 'tracking down to this'),
  closed({ kind: Type.Literal('narrow'), floor: Percent(10, 100) }, 'letters as narrow as this, in percent'),
  closed({ kind: Type.Literal('reduce'), floor: Percent(10, 100) }, 'letters as small as this, in percent'),
  closed(
    { kind: Type.Literal('wrap'), lines: Type.Integer({ minimum: 2, maximum: 20 }) },
    'each line broken into at most so many',
  ),
);
const Frame = closed(
  {
    width: Extent,
    height: Extent,
    marginAcross: Margin,
    marginUp: Margin,
    upright: Type.Union([Type.Literal('top'), Type.Literal('middle'), Type.Literal('bottom')]),
    fit: Type.Array(FitStep, { maxItems: 4 }),
  },
  'a rectangle about the place that the words must fit, and the ways to make them, in the order in which they are tried',
);
const Shift = { shift: Coordinate };
const TextPath = byKind(
  closed(
    {
      kind: Type.Literal('arc'),
      radius: Type.Number({ minimum: 0.5, maximum: 4000 }),
      span: Percent(1, 360),
      reads: Type.Union([Type.Literal('top'), Type.Literal('bottom')]),
      side: Type.Union([Type.Literal('outside'), Type.Literal('inside')]),
      ...Shift,
    },
    'an arc, or with 360 a circle, about the place; letters outside or inside it, read from the top or from the bottom',
  ),
  closed({ kind: Type.Literal('straight'), length: Extent, ...Shift }, 'a straight line about the place'),
  closed(
    {
      kind: Type.Literal('part'),
      part: Id,
      side: Type.Union([Type.Literal('outside'), Type.Literal('inside')]),
      ...Shift,
    },
    'the outline, or the line, of an earlier part',
  ),
  closed(
    { kind: Type.Literal('sides'), ...Shift },
    'around the upright sides of a block at the height of the place, from face to face; as if there were none on anything else',
  ),
);

const TextPart = closed(
  {
    kind: Type.Literal('text'),
    ...common,
    words: Type.String({ maxLength: MOST_WORDS }),
    font: Type.String({ minLength: 1, maxLength: 100 }),
    size: TextSize,
    tracking: Type.Number({ minimum: -50, maximum: 1000 }),
    leading: Leading,
    align: Type.Union([Type.Literal('left'), Type.Literal('centre'), Type.Literal('right'), Type.Literal('justified')]),
    features: Type.Optional(Features),
    letters: Type.Optional(Type.Array(Letter, { maxItems: 4000 })),
    frame: Type.Optional(Frame),
    projected: Type.Optional(
      Type.Literal(true, {
        description: 'laid on what the sign is bent around as it is to look from straight before its place; on a block as it is',
      }),
    ),
    path: Type.Optional(TextPath),
  },
  'words in a font; they stay words for ever',
);
const Line = closed(
  { kind: Type.Literal('line'), length: Extent },
  'a straight line about its middle, to engrave along or to set words on',
);
const ShapePart = closed(
  {
    kind: Type.Literal('shape'),
    ...common,
    shape: byKind(
      Rectangle,
      Circle,
      Ellipse,
      Stadium,
      Polygon,
      Arch,
      Sector,
      Line,
      Outline,
      Border,
      Combined,
      Fixings,
      Braille,
      Code,
    ),
  },
  'a plain shape: a panel, a border, a hole, or a logo',
);

const Guide = closed(
  { across: Type.Boolean({ description: 'whether it runs across the sign, at a height; or up, at a distance' }), at: Coordinate },
  'a line of the bench that parts are held to; it is not made',
);
const FileId = Type.String({ pattern: '^[0-9a-f-]{36}$', description: 'id of a file that is kept with the job' });
const Ground = closed(
  {
    file: FileId,
    x: Coordinate,
    y: Coordinate,
    width: Extent,
    height: Extent,
    shows: Percent(0, 100),
  },
  'a picture under the plan to draw after, its middle at (x, y), showing by so many percent; it is not made',
);

const Context = closed(
  {
    file: FileId,
    name: Name,
    unit: Type.Number({ minimum: 0.001, maximum: 1000, description: 'mm for each unit of the file, where that does not say' }),
    place: Type.Array(Type.Number({ minimum: -1_000_000, maximum: 1_000_000 }), {
      minItems: 12,
      maxItems: 12,
      description: 'three rows of four numbers, by which x, y, z in mm and 1 of a place of the object give those beside the sign',
    }),
  },
  'the object that the sign is for, from a GLB or STL file that is kept with the job; it is shown, and not made',
);

const Finish = closed(
  {
    id: Id,
    name: Name,
    colour: Type.String({ pattern: '^#[0-9a-f]{6}$', description: 'red, green and blue in two hexadecimal digits each (sRGB)' }),
    gloss: Type.Union([Type.Literal('matt'), Type.Literal('satin'), Type.Literal('gloss'), Type.Literal('metal')]),
  },
  'paint, leaf, or a material left bare',
);

const Cut = { x: Coordinate, y: Coordinate, turn: Type.Number({ minimum: -360, maximum: 360 }) };
const NamedSection = closed({ id: Id, name: Name, ...Cut }, 'a section that the proof shows, by its name');

const TierChange = closed(
  {
    part: Id,
    tier: Id,
    on: Type.Optional(Type.Boolean()),
    amount: Type.Optional(Type.Number({ minimum: -1000, maximum: 1000 })),
    finish: Type.Optional(TierFinish),
  },
  'what is otherwise of a tier: whether it is on, its amount, its finishes',
);
const Option = closed(
  {
    id: Id,
    name: Name,
    tiers: Type.Array(TierChange, { maxItems: 500 }),
    finish: Type.Optional(BlankFinish),
    material: Type.Optional(Type.String({ maxLength: 80 })),
  },
  'a variant of the sign for the customer to choose: what is otherwise of its tiers, and the finishes and the material of its blank',
);

const Hardware = closed(
  { quantity: Type.Integer({ minimum: 1, maximum: 9999 }), what: Type.String({ minLength: 1, maxLength: 80, pattern: '\\S' }) },
  'things that go with the sign, such as screws or standoffs',
);

const Checks = closed(
  {
    standard: Type.Optional(
      Type.String({ pattern: '^[a-z0-9-]{1,40}$', description: 'id of the standard that the sign is to meet' }),
    ),
    distance: Type.Optional(
      Type.Number({ exclusiveMinimum: 0, maximum: 1000, description: 'metres that the sign is read from' }),
    ),
    floor: Type.Optional(Type.Number({ minimum: 0, maximum: 20000, description: 'mm from the floor to the middle of the sign' })),
    tilt: Type.Optional(
      Type.Number({
        minimum: 0,
        maximum: 90,
        description: 'degrees that the sign leans from level outdoors, its upper end higher: 0 lies, 90 stands upright',
      }),
    ),
    order: Type.Optional(Type.String({ maxLength: 4000, description: 'the words that were ordered' })),
    off: Type.Optional(
      Type.Array(
        closed(
          {
            check: Type.String({ minLength: 1, maxLength: 60 }),
            reason: Type.String({ minLength: 1, maxLength: 200, pattern: '\\S' }),
          },
          'a check that this sign is not told of, and why',
        ),
        { maxItems: 100 },
      ),
    ),
  },
  'what the sign is checked against',
);

export const SignSchema = closed(
  {
    version: Type.Literal(SIGN_VERSION),
    title: Type.String({ minLength: 1, maxLength: 200 }),
    unit: Type.Union([Type.Literal('mm'), Type.Literal('in')]),
    blank: Blank,
    support: Type.Optional(Support),
    parts: Type.Array(byKind(TextPart, ShapePart), { maxItems: 500 }),
    section: closed(Cut, 'the line along which the section is cut: a point on it and its direction'),
    sections: Type.Optional(Type.Array(NamedSection, { maxItems: 20 })),
    options: Type.Optional(Type.Array(Option, { maxItems: 12 })),
    heightLimit: Type.Optional(
      Type.Number({ minimum: 0, maximum: 1000, description: 'nothing is to stand higher than this above the face' }),
    ),
    guides: Type.Optional(Type.Array(Guide, { maxItems: 50 })),
    ground: Type.Optional(Ground),
    context: Type.Optional(Context),
    finishes: Type.Optional(Type.Array(Finish, { maxItems: 100 })),
    hardware: Type.Optional(Type.Array(Hardware, { maxItems: 6 })),
    checks: Type.Optional(Checks),
    slots: Type.Optional(Type.Array(Slot, { maxItems: 60 })),
  },
  'a sign',
);

export type Sign = Static<typeof SignSchema>;
export type TextPart = Static<typeof TextPart>;
export type ShapePart = Static<typeof ShapePart>;
export type Part = TextPart | ShapePart;
export type Shape = ShapePart['shape'];
export type CodeShape = Extract<Shape, { kind: 'code' }>;
export type BrailleShape = Extract<Shape, { kind: 'braille' }>;
export type Tier = Static<typeof Tier>;
export type Action = Static<typeof Action>;
export type Area = Static<typeof Area>;
export type Bridges = Static<typeof Bridges>;
export type Finish = Static<typeof Finish>;
export type Edge = Static<typeof Edge>;
export type CornerForm = Static<typeof CornerForm>;
export type SitsOn = Static<typeof SitsOn>;
export type Place = Static<typeof Place>;
export type SectionLine = Sign['section'];
export type Copies = NonNullable<Part['copies']>;
export type TextFrame = NonNullable<TextPart['frame']>;
export type TextPath = NonNullable<TextPart['path']>;
export type Guide = Static<typeof Guide>;
export type Ground = Static<typeof Ground>;
export type SignContext = Static<typeof Context>;
export type SignOption = Static<typeof Option>;
export type TierChange = Static<typeof TierChange>;
export type SignChecks = Static<typeof Checks>;
export type NamedSection = Static<typeof NamedSection>;
export type LetterByHand = NonNullable<TextPart['letters']>[number];
