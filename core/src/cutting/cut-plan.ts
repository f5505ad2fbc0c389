import { type Outline } from '../geometry/index.js';
import { type ShopTool } from '../shop/index.js';
import { type Feeds } from '../tooling/index.js';
import { type CutChoice, type TabPlace } from './choice.js';
import { type Run } from './toolpath.js';
import { type PinHole, type StockBox, type Workpiece } from './workpiece.js';

export type Purpose = 'pins' | 'face' | 'drill' | 'clear' | 'rest' | 'engrave' | 'slope' | 'vee' | 'window' | 'cut out';

/** Runs of one tool for one purpose. */
export interface Cut {
  readonly tool: ShopTool;
  readonly purpose: Purpose;
  /** Of several works on a sheet the one that it is of. */
  readonly of?: string;
  /** Heights between which material is taken. */
  readonly from: number;
  readonly to: number;
  /** mm a pass, at most. */
  readonly depthPerPass: number;
  readonly feeds: Feeds;
  readonly runs: readonly Run[];
  /** mm that are cut, without ways through air. */
  readonly lengthMm: number;
}

/** Why something is left: no end mill is narrow, or long enough; no tool finishes a slope; clamps stand there. */
export type LeftCause = 'width' | 'length' | 'slope' | 'clamps';

/** What no allowed tool takes away. */
export interface Left {
  readonly areaMm2: number;
  readonly volumeMm3: number;
  readonly deepestMm: number;
  readonly reason: string;
  readonly cause: LeftCause;
  readonly region: Outline;
  /** Diameter of an end mill that would clear most of it, in mm, where one was sought and found. */
  readonly needs?: number;
  /** Length of the cutting edges that an end mill would have to have, in mm, where none has it. */
  readonly needsLength?: number;
}

/** How a sign is cut: what it was asked with, and the cuts in their order. */
export interface CutPlan {
  readonly choice: CutChoice;
  readonly work: Workpiece;
  readonly stock: StockBox;
  /** What is added to a program's places to get the sign's, in mm. */
  readonly zero: { readonly x: number; readonly y: number; readonly z: number };
  /** The height at which tools move freely. */
  readonly safe: number;
  readonly cuts: readonly Cut[];
  readonly left: readonly Left[];
  /** Where tabs hold, on the way of the tool that cuts out. */
  readonly tabs: readonly TabPlace[];
  /** Of the pins that the stock is turned on; they are cut from the side that comes first. */
  readonly pins: readonly PinHole[];
  /** Parts of the plan that fall off when windows and the sign are cut out along their edges. */
  readonly waste: Outline;
}

/** What tells how far a plan is, and may end it by throwing. */
export type Progress = (part: number, words: string) => void;
