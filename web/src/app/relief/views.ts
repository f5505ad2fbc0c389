import { type StretchCell, type SupportLine } from '@plain-relief/core/drawing';
import { type Box } from '@plain-relief/core/geometry';
import { type ClauseResult, type Finding } from '@plain-relief/core/inspection';
import { type Note } from '@plain-relief/core/notes';
import { type TextMeasures } from '@plain-relief/core/relief';
import { type Finish, type Part, type PartExtent, type SectionLine, type Side } from '@plain-relief/core/sign';

/** What the worker hands to the page after an evaluation: plain values, ready to be shown. */
export interface ReliefView {
  readonly plan: PlanView;
  readonly section: SectionView;
  readonly ladder: LadderView;
  readonly notes: readonly Note[];
  readonly facts: Facts;
  /** The side that all of it is seen from. */
  readonly side: Side;
  /** Milliseconds that the worker took. */
  readonly took: number;
}

/** A path to draw, in whole micrometres with y downwards. */
export interface DrawnPath {
  /** Stays with what is drawn from one evaluation to the next. */
  readonly key: string;
  readonly d: string;
  /** Colour of its height, and of its finish. */
  readonly fill: string;
  readonly finish: string;
  /** Cross-hatched places are cut through. */
  readonly isHole: boolean;
  readonly isLine: boolean;
}

export interface PlanView {
  readonly blank: Box;
  /** Where the material ends. */
  readonly edge: string;
  /** Of letters, the sheet that they are cut from. */
  readonly sheet?: string;
  readonly paths: readonly DrawnPath[];
  readonly parts: readonly PartView[];
  /** Lines that tell how the sign is bent, in mm, y up. */
  readonly bends: readonly SupportLine[];
  /** How the surface is stretched where it is; empty where it is not. */
  readonly stretch: readonly (StretchCell & { readonly colour: string })[];
}

export interface PartView {
  readonly id: string;
  readonly name: string;
  /** What is seen, in mm, y up. */
  readonly ink?: Box;
  /** Of text, the box from its cap line to its last baseline. */
  readonly caps?: Box;
  /** How large one of its copies is. */
  readonly extent?: PartExtent;
  /** Outline of the cap box or the shape, in micrometres with y downwards. */
  readonly frame: string;
  readonly letters: number;
  /** Sizes of a text as it was set. */
  readonly text?: TextMeasures;
  /** Boxes about names that stand for a list's values, likewise. */
  readonly slots?: string;
  /** The outline is that of a frame which words must fit. */
  readonly isFramed: boolean;
}

export interface SectionView {
  /** The line that it is cut along, as it is seen from the side of the view. */
  readonly line: SectionLine;
  /** The bodies that are cut, as points along the line and in height. */
  readonly profiles: readonly Float64Array[];
  /** Closed bodies, y downwards, heights not exaggerated. */
  readonly bodies: readonly string[];
  readonly surfaces: readonly Surface[];
  readonly from: number;
  readonly to: number;
  readonly top: number;
  readonly bottom: number;
}

/** A sign in space where a plane cuts it. */
export interface SpaceSectionView {
  /** In micrometres with y downwards. */
  readonly d: string;
  /** In mm, y up: along the line and out of the surface, from the line's point. */
  readonly box: Box;
  /** What it is bent around, in figures. */
  readonly words: readonly string[];
}

/** A stretch of the surface that is cut, with its heights at both ends. */
export interface Surface {
  readonly from: number;
  readonly to: number;
  readonly z: number;
  readonly zEnd: number;
  readonly colour: string;
}

export interface RungView {
  readonly part: string;
  readonly tier: string;
  readonly name: string;
  readonly z: number;
  /** The level that its strokes let a slope come to, where that is another. */
  readonly reached?: number;
  readonly isThrough: boolean;
  readonly colour: string;
}

export interface LadderView {
  readonly top: number;
  readonly back: number;
  /** The greatest height that is allowed. */
  readonly limit?: number;
  readonly side: Side;
  readonly rungs: readonly RungView[];
  readonly levels: readonly { readonly z: number; readonly areaMm2: number; readonly colour: string }[];
}

export interface Facts {
  readonly highest: number;
  readonly deepest: number;
  /** How thick the material is at its thinnest. */
  readonly thinnest: number;
  readonly letters: number;
}

/** Triangles for the model, three corners each, with normals and colours. */
export interface ModelView {
  readonly positions: Float32Array;
  readonly normals: Float32Array;
  /** Red, green, blue as light, by height and by finish. */
  readonly colours: Float32Array;
  readonly finishes: Float32Array;
  /** Triangles of one gloss follow each other: how many corners of each there are, in turn. */
  readonly glosses: readonly { readonly gloss: Finish['gloss']; readonly count: number }[];
}

/** A picture of the relief lit from the upper left, four bytes a pixel. */
export interface PictureView {
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array;
}

/** What the solid measures; worked out when nothing else is. */
export interface FiguresView {
  readonly volumeMm3: number;
  readonly removedMm3: number;
  readonly inserts: readonly { readonly material: string; readonly volumeMm3: number }[];
  readonly areas: readonly {
    readonly name: string;
    readonly colour: string;
    readonly topMm2: number;
    readonly sidesMm2: number;
  }[];
}

/** What a text was taken apart into, or why it could not be. */
export interface TextPieces {
  readonly parts: readonly Part[];
  readonly refusal?: string;
}

/** Ids of what the shop has that a sign is made with where nobody has chosen. */
export interface ProposalsView {
  readonly machine: string | undefined;
  readonly material: string | undefined;
  readonly tools: readonly string[];
}

/** What was measured of a sign. */
export interface InspectionView {
  readonly findings: readonly Finding[];
  /** Of checks that the sign is not told of. */
  readonly off: readonly { readonly finding: Finding; readonly reason: string }[];
  /** Of the standard that the sign is to meet. */
  readonly clauses?: readonly ClauseResult[];
  /** Milliseconds that it took. */
  readonly took?: number;
}
