import { type Static, Type } from '@sinclair/typebox';
import { byKind, closed, Extent, Percent } from './schema-basics.js';

/** What a sign is bent around, or stands on: its plan is the face laid flat, and the support says where that is in space. */

const Round = Type.Number({ exclusiveMinimum: 0, maximum: 100_000 });
const Facing = Type.Union([Type.Literal('outside'), Type.Literal('inside')]);
const Axis = Type.Union([Type.Literal('upright'), Type.Literal('level')]);
const Closing = Type.Number({ exclusiveMinimum: 0, maximum: 1000 });
/** What a tube, or a cup, may be closed with. */
const ends = {
  round: Type.Optional(
    Type.Boolean({ description: 'all the way round: the blank is as wide as that, and its ends meet in a seam' }),
  ),
  lid: Type.Optional(Closing),
  floor: Type.Optional(Closing),
  filled: Type.Optional(Type.Boolean({ description: 'solid through, the thickness being as deep as may be carved' })),
};

const Cylinder = closed(
  { kind: Type.Literal('cylinder'), radius: Round, facing: Facing, axis: Type.Optional(Axis), ...ends },
  'bent around a cylinder whose radius is that of the face; with `lid` and `floor` a tube that goes all the way round is closed by discs so thick',
);
const Cone = closed(
  { kind: Type.Literal('cone'), bottom: Round, top: Round, height: Round, facing: Facing, ...ends },
  'bent around a cone: the radii of the face at its bottom and at its top, and how high it is between them',
);

const Bends = Type.Union([Type.Literal('away'), Type.Literal('towards')]);
const LinePiece = byKind(
  closed({ kind: Type.Literal('straight'), length: Extent }, 'a straight piece'),
  closed(
    {
      kind: Type.Literal('arc'),
      radius: Round,
      angle: Type.Number({ exclusiveMinimum: 0, maximum: 360 }),
      bends: Bends,
    },
    'a piece of a circle: how far it turns, away from the reader or towards him',
  ),
);
const Pieces = Type.Array(LinePiece, { minItems: 1, maxItems: 60 });
const Centre = Type.Optional(
  Type.Number({
    minimum: 0,
    maximum: 100_000,
    description: 'mm along the line at which the middle of the blank lies; half of the line where nothing is said',
  }),
);

const Bent = closed(
  {
    kind: Type.Literal('bent'),
    pieces: Pieces,
    neutral: Percent(0, 100),
    axis: Type.Optional(Axis),
    centre: Centre,
  },
  'a sheet that is bent: radii are those inside its bends, and the layer that keeps its length lies so many percent of the thickness from there',
);

const PlanLine = byKind(
  closed({ kind: Type.Literal('pieces'), pieces: Pieces }, 'straight pieces and arcs, one going on where the other ends'),
  closed(
    { kind: Type.Literal('ellipse'), width: Extent, depth: Extent, bends: Bends },
    'half an ellipse so wide and so deep, its vertex in the middle',
  ),
);
const Swept = closed(
  {
    kind: Type.Literal('swept'),
    line: PlanLine,
    profile: Type.Array(LinePiece, { maxItems: 60 }),
    centre: Centre,
    centreUp: Type.Optional(
      Type.Number({
        minimum: 0,
        maximum: 100_000,
        description: 'mm along the profile at which the middle of the blank lies; half of it where nothing is said',
      }),
    ),
    stretch: Percent(0, 100),
  },
  'a profile, from below, led along a line of the ground plan: lengths across are those along the line, lengths up those along the profile, which stands upright where the middle of the blank is, and everywhere where it has no pieces; more stretch than so many percent is told',
);
const Dome = closed(
  { kind: Type.Literal('dome'), radius: Round, facing: Facing, stretch: Percent(0, 100) },
  'a cap of a sphere about the middle of the blank: distances from there keep their length; more stretch than so many percent is told',
);

const Side = Type.Number({ minimum: 1, maximum: 1000 });
const Box = closed(
  {
    kind: Type.Literal('box'),
    width: Side,
    height: Side,
    depth: Side,
    chamfer: Type.Optional(
      Type.Number({ minimum: 0.1, maximum: 500, description: 'mm that the edges of the front are cut off at 45°' }),
    ),
  },
  'a box: its faces are front, right, back, left, top and bottom, and where the edges of the front are chamfered those as well',
);
const Prism = closed(
  { kind: Type.Literal('prism'), sides: Type.Integer({ minimum: 3, maximum: 24 }), width: Side, height: Side },
  'an upright prism with so many sides, each so wide, the first towards the reader; above and below a regular polygon',
);
const Wedge = closed(
  {
    kind: Type.Literal('wedge'),
    width: Side,
    depth: Side,
    front: Type.Number({ minimum: 0, maximum: 1000, description: 'less than 0.5 mm counts as none' }),
    back: Side,
  },
  'a block whose top slopes from its lower front up to its back; with a front of 0 the slope begins at its foot',
);
const Block = closed(
  { kind: Type.Literal('block'), body: byKind(Box, Prism, Wedge) },
  'a block: the plan shows its faces side by side, each as it is read by one who stands before it, and the thickness of the blank is how deep it is at most',
);

export const Support = byKind(Cylinder, Cone, Bent, Swept, Dome, Block);
export type Support = Static<typeof Support>;
export type BlockBody = Static<typeof Block>['body'];
export type LinePiece = Static<typeof LinePiece>;
