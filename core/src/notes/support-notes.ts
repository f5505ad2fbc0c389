import { formatLength, type LengthUnit } from '../units/index.js';

const percent = (share: number): string => `${Number((100 * share).toFixed(1))} %`;

/** What is told of a sign that is bent around something: errors are what it cannot be bent by. */
export const SUPPORT_NOTES = {
  'support-wall': (thickness: number, room: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The blank is ${formatLength(thickness, unit)} thick, and what it is bent around leaves ${formatLength(room, unit)} behind the face before it meets itself: make the blank thinner, or the radius larger.`,
    }) as const,
  'support-front': (highest: number, room: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The sign stands ${formatLength(highest, unit)} above its face, which bends towards the reader with a radius of ${formatLength(room, unit)} and meets itself there: stand lower, or make the radius larger.`,
    }) as const,
  'support-overlaps': (wide: number, round: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The blank is ${formatLength(wide, unit)} wide, and once round is ${formatLength(round, unit)}: it would lie over itself. Make it narrower, or go all the way round.`,
    }) as const,
  'support-seam': (round: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The sign goes all the way round, and the ends of its blank do not meet: it is to be a rectangle ${formatLength(round, unit)} wide, or on a cone what the cone is unrolled to.`,
    }) as const,
  'support-level-round': () =>
    ({
      weight: 'error',
      text: 'What goes all the way round does so about an upright axis: let the axis be upright, or go part of the way round.',
    }) as const,
  'support-crosses': (at: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The line that the sign is bent along crosses itself, ${formatLength(at, unit)} from the middle of the blank: bend it less there, or make the blank narrower.`,
    }) as const,
  'support-backwards': (at: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The profile runs backwards from ${formatLength(at, unit)} from its middle on: let it turn by less than 90°.`,
    }) as const,
  'support-straight-cone': (radius: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `A cone with ${formatLength(radius, unit)} below and above is a cylinder: choose that, or give it two radii.`,
    }) as const,
  'support-past': (by: number, most: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The blank reaches ${formatLength(by, unit)} from its middle, and what it is bent around ends at ${formatLength(most, unit)}: make it smaller, or the radius larger.`,
    }) as const,
  'support-stretch': (share: number, limit: number) =>
    ({
      weight: 'warning',
      text: `The surface is ${share < 0 ? `${percent(-share)} shorter` : `${percent(share)} longer`} than the plan, more than the ${percent(limit)} that are allowed: letters come out ${share < 0 ? 'narrower' : 'wider'} where it is most.`,
    }) as const,
  'support-out-of-sight': (name: string, degrees: number) =>
    ({
      weight: 'warning',
      text: `${name} goes ${Math.round(degrees)}° round: from no one place all of it is seen (letters more than 60° from the middle of a word turn away).`,
    }) as const,
  'support-meets-itself': (name: string, by: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name} is longer than once round by ${formatLength(by, unit)} and runs into itself at the back.`,
    }) as const,
  'support-hidden': (name: string) =>
    ({
      weight: 'warning',
      text: `${name} goes further round than is seen from before it, and is laid on as it lies in the plan: make it smaller, or let it follow the surface.`,
    }) as const,
  'support-flat-far': (name: string) =>
    ({
      weight: 'error',
      text: `${name} reaches where the surface turns more than 80° away from its flat level, which cannot be told there: make it smaller, or let it follow the surface.`,
    }) as const,
  'support-flat-crosses': (name: string, carved: boolean, by: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name} lies flat, and the surface bends away from it: at its edge it ${carved ? 'stands above' : 'lies below'} the face by as much as ${formatLength(by, unit)}. Make it smaller, set it ${carved ? 'deeper' : 'higher'}, or let it follow the surface.`,
    }) as const,
  'support-flat-back': (name: string) =>
    ({
      weight: 'error',
      text: `${name} lies flat and would come out on the other side of the wall at its edge: make it smaller, set it less deep, or take a thicker blank.`,
    }) as const,
  'support-flat-upright': (name: string) =>
    ({
      weight: 'warning',
      text: `${name} is measured from a flat level, on which sides are upright: its edge form is left out.`,
    }) as const,
  'block-chamfer': (chamfer: number, most: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The edges of the front are chamfered by ${formatLength(chamfer, unit)}, and by more than ${formatLength(most, unit)} nothing is left of a face: make the chamfer smaller, or the block larger.`,
    }) as const,
  'block-large': (sides: number, width: number, most: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `${sides} sides, each ${formatLength(width, unit)} wide, do not go beside each other on a plan: make them no wider than ${formatLength(most, unit)}, or fewer.`,
    }) as const,
  'block-depth': (thickness: number, depth: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `The blank is ${formatLength(thickness, unit)} thick, and the block ${formatLength(depth, unit)} deep: set one of its sizes anew, and the blank follows.`,
    }) as const,
  'block-without': (what: string) =>
    ({ weight: 'error', text: `A block has no ${what}: take them out, or choose another shape than a block.` }) as const,
  'block-back': (name: string) =>
    ({
      weight: 'error',
      text: `${name} is on the back of the plan, which is inside of the block: choose the face that it is on.`,
    }) as const,
  'block-unmade': () =>
    ({
      weight: 'error',
      text: 'What is carved from several faces of the block, or runs into its edges, could not be put together: move or change one of those parts a little.',
    }) as const,
  'block-insert': (name: string) =>
    ({
      weight: 'error',
      text: `${name} is a window with an insert, which a block cannot have: carve it, or cut it through.`,
    }) as const,
  'support-ends': (rims: number) =>
    ({
      weight: 'error',
      text: `Lid, floor or filling of the tube cannot be made: each stands on one plain ring behind, and there are ${rims}. Take out what is cut through there or done from behind, or leave them off.`,
    }) as const,
};
