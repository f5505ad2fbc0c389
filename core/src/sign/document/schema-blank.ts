import { type Static, Type } from '@sinclair/typebox';
import { CELLS_PATTERN } from '../../braille/index.js';
import { byKind, closed, Coordinate, Extent, Id, MOST_CODED, MOST_WORDS, Name, Radius } from './schema-basics.js';

/** The schema of blanks and of plain shapes. */

export const Rectangle = closed(
  {
    kind: Type.Literal('rectangle'),
    width: Extent,
    height: Extent,
    cornerRadius: Type.Number({ minimum: 0, maximum: 4000 }),
    corners: Type.Optional(Type.Union([Type.Literal('rounded'), Type.Literal('chamfered'), Type.Literal('scooped')])),
  },
  'a rectangle about its middle; corners are rounded where nothing else is said, and square where the radius is 0',
);
export const Circle = closed({ kind: Type.Literal('circle'), diameter: Extent }, 'a circle about its middle');
export const Ellipse = closed({ kind: Type.Literal('ellipse'), width: Extent, height: Extent }, 'an ellipse about its middle');
export const Stadium = closed(
  { kind: Type.Literal('stadium'), width: Extent, height: Extent },
  'a rectangle whose shorter sides are half circles',
);
export const Polygon = closed(
  {
    kind: Type.Literal('polygon'),
    sides: Type.Integer({ minimum: 3, maximum: 100 }),
    diameter: Extent,
    stands: Type.Union([Type.Literal('flat'), Type.Literal('point')]),
  },
  'a regular polygon in a circle of this diameter, a side or a corner at the bottom',
);
export const Arch = closed(
  { kind: Type.Literal('arch'), width: Extent, height: Extent, rise: Extent },
  'a rectangle under an arc; height is over all, rise that of the arc and at most half the width',
);
export const Sector = closed(
  {
    kind: Type.Literal('sector'),
    radius: Type.Number({ exclusiveMinimum: 0, maximum: 100_000 }),
    height: Extent,
    span: Type.Number({ exclusiveMinimum: 0, maximum: 360 }),
    apex: Type.Union([Type.Literal('above'), Type.Literal('below')]),
  },
  'a piece of a ring, as a cone is unrolled to: the radius is that of its middle line, whose middle is that of the shape; height is from its inner to its outer edge, span in degrees, its centre above or below',
);
export const Outline = closed(
  { kind: Type.Literal('outline'), width: Extent, height: Extent, path: Type.String({ minLength: 1, maxLength: 2_000_000 }) },
  'any outline: SVG path data with y up, brought to this width and height about its middle; closed paths are areas by the non-zero rule, open ones lines',
);
export const Border = closed(
  {
    kind: Type.Literal('border'),
    of: Type.Union([Type.Literal('blank'), Id]),
    inset: Type.Number({ minimum: -1000, maximum: 1000 }),
    width: Type.Number({ minimum: 0, maximum: 1000 }),
  },
  'follows the blank or an earlier part at an inset; a band of this width, or with 0 all that lies within',
);
export const Combined = closed(
  {
    kind: Type.Literal('combined'),
    how: Type.Union([Type.Literal('join'), Type.Literal('cut'), Type.Literal('common')]),
    of: Type.Array(Id, { minItems: 1, maxItems: 50 }),
  },
  'made from the outlines of earlier parts, and follows them: joined, the later cut from the first, or what all share',
);

export const Fixings = closed(
  {
    kind: Type.Literal('fixings'),
    diameter: Extent,
    inset: Type.Number({ minimum: 0, maximum: 1000 }),
    places: Type.Union([Type.Literal('corners'), Type.Literal('sides'), Type.Literal('ends'), Type.Literal('around')]),
    count: Type.Integer({ minimum: 1, maximum: 100 }),
  },
  'fixing holes that follow the blank, their middles at an inset from its edge: in its corners, at its left and right, at its top and bottom, or so many around',
);

const BrailleSize = Type.Number({ minimum: 0.5, maximum: 50 });
export const Braille = closed(
  {
    kind: Type.Literal('braille'),
    words: Type.String({ maxLength: MOST_WORDS }),
    follows: Type.Optional(Id),
    table: Type.String({ pattern: '^[a-z0-9-]{1,40}$', description: 'id of the table by which words become cells' }),
    capitals: Type.Optional(Type.Boolean({ description: 'whether words in capitals alone are indicated as such' })),
    cells: Type.String({ maxLength: 8000, pattern: CELLS_PATTERN, description: 'cells of six dots (U+2800 to U+283F) in lines' }),
    translated: Type.Optional(
      closed(
        { words: Type.String({ maxLength: 4000 }), table: Type.String({ maxLength: 40 }) },
        'what the cells are a translation of, and by which table',
      ),
    ),
    corrected: Type.Optional(Type.Boolean({ description: 'the cells were corrected by hand and are not translated anew' })),
    align: Type.Union([Type.Literal('left'), Type.Literal('centre'), Type.Literal('right')]),
    room: Type.Optional(Extent),
    base: BrailleSize,
    dots: BrailleSize,
    cell: BrailleSize,
    line: BrailleSize,
    ball: Type.Optional(BrailleSize),
  },
  'braille: the dots of its cells, of words of its own or those of a text that it follows; base is the diameter of dots, dots, cell and line the distances between dots, cells and lines, room how wide lines may be; with a ball the dots are holes of this diameter for balls',
);

export const Code = closed(
  {
    kind: Type.Literal('code'),
    symbology: Type.Union([
      Type.Literal('qr'),
      Type.Literal('data-matrix'),
      Type.Literal('code-128'),
      Type.Literal('ean-13'),
      Type.Literal('upc-a'),
    ]),
    words: Type.String({ maxLength: MOST_CODED }),
    module: Type.Number({ minimum: 0.05, maximum: 100, description: 'mm of its smallest squares, or of its thinnest bars' }),
    height: Type.Optional(Type.Number({ minimum: 0.5, maximum: 1000, description: 'mm of bars; 15 where nothing is said' })),
    correction: Type.Optional(
      Type.Union([Type.Literal('L'), Type.Literal('M'), Type.Literal('Q'), Type.Literal('H')], {
        description: 'of a QR code, how much may be lost: about 7, 15, 25 or 30 percent; M where nothing is said',
      }),
    ),
    ground: Type.Optional(
      Type.Literal(true, {
        description: 'its light ground with the quiet zone is the outline, and its dark modules are left out',
      }),
    ),
  },
  'a code to scan: its dark modules about the place, by ISO/IEC 18004 (qr), 16022 (data-matrix), 15417 (code-128) and 15420 (ean-13, upc-a)',
);

export const Laminate = closed(
  {
    cap: Type.Number({ exclusiveMinimum: 0, maximum: 50 }),
    capColour: Name,
    coreColour: Name,
    bothSides: Type.Optional(Type.Boolean()),
  },
  'engraving laminate: how thick its cap is, the colours of cap and core, and whether the back has a cap, too',
);

export const BlankEdge = byKind(
  closed({ kind: Type.Literal('rounded'), radius: Radius }, 'the edge of the face rounded over'),
  closed({ kind: Type.Literal('chamfered'), width: Radius, height: Radius }, 'the edge of the face chamfered'),
  closed({ kind: Type.Literal('cove'), radius: Radius }, 'a hollow quarter circle along the edge of the face'),
);

export const BlankFinish = closed(
  { face: Type.Optional(Id), sides: Type.Optional(Id), back: Type.Optional(Id) },
  'ids of finishes of the sign: of the face, of the edge with its form, and of the back',
);

/** How thick a sheet is, or a face: what is thinner is lost in the digits of files. */
const Sheet = Type.Number({ minimum: 0.01, maximum: 500 });

const Hollow = closed({ wall: Radius, face: Sheet }, 'letters hollow from behind: how thick their walls and their faces stay');
const Studs = closed(
  {
    diameter: Type.Number({ exclusiveMinimum: 0, maximum: 50 }),
    depth: Radius,
    edge: Type.Number({ minimum: 0, maximum: 500 }),
    count: Type.Integer({ minimum: 1, maximum: 8 }),
  },
  'blind holes from behind for the studs that a letter is mounted by: so many in every piece where they fit, none nearer to its edge',
);
export const Backer = byKind(
  closed(
    { kind: Type.Literal('grown'), margin: Radius, thickness: Sheet },
    'a plate behind, the letters grown by a margin, filled and joined',
  ),
  closed(
    {
      kind: Type.Literal('bar'),
      y: Coordinate,
      height: Extent,
      thickness: Sheet,
      beyond: Type.Optional(
        closed(
          { left: Type.Number({ minimum: 0, maximum: 4000 }), right: Type.Number({ minimum: 0, maximum: 4000 }) },
          'by so much longer than the letters at either end',
        ),
      ),
      ends: Type.Optional(Type.Literal('round')),
      hole: Type.Optional(
        closed(
          {
            diameter: Type.Number({ minimum: 0.1, maximum: 500 }),
            end: Type.Union([Type.Literal('left'), Type.Literal('right')]),
            edge: Type.Number({ minimum: 0, maximum: 4000 }),
          },
          'a hole through the bar, and through whatever is there, so far from its end',
        ),
      ),
    },
    'a bar behind, as long as the letters are where nothing else is said, its middle at this height',
  ),
);
export const CutTo = closed(
  {
    parts: Type.Array(Id, { minItems: 1, maxItems: 200 }),
    hollow: Type.Optional(Hollow),
    studs: Type.Optional(Studs),
    backer: Type.Optional(Backer),
  },
  'flat-cut letters: the blank is the sheet that these parts are cut from, and nothing else of it is left; with what is done to them from behind',
);

export const Blank = closed(
  {
    outline: byKind(Rectangle, Circle, Ellipse, Stadium, Polygon, Arch, Sector, Outline),
    thickness: Type.Number({ minimum: 0.1, maximum: 1000 }),
    material: Type.String({ maxLength: 80 }),
    laminate: Type.Optional(Laminate),
    edge: Type.Optional(BlankEdge),
    backEdge: Type.Optional(BlankEdge),
    finish: Type.Optional(BlankFinish),
    cutTo: Type.Optional(CutTo),
  },
  'the panel the sign is made from, its middle at x = 0, y = 0, its face at z = 0',
);

export type Blank = Static<typeof Blank>;
export type BlankEdge = Static<typeof BlankEdge>;
export type CutTo = Static<typeof CutTo>;
export type Backer = Static<typeof Backer>;
export type Laminate = Static<typeof Laminate>;
