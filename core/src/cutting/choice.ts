import { type Rotary } from '../program/index.js';
import { type ShopMachine, type ShopMaterial, type ShopTool } from '../shop/index.js';

/** mm below the face down to which cones clear what no end mill does. */
export const MOST_DEPTH_ENGRAVED = 1;

/** A rectangle of the plan that no path enters, in mm: what holds the stock. */
export interface Clamp {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** How high it stands over the stock's face. */
  readonly above: number;
}

/** Where a program's zero lies: in the plan, and at which height. */
export interface ZeroChoice {
  readonly at: 'lower left' | 'lower right' | 'upper left' | 'upper right' | 'middle';
  readonly height: 'face of the stock' | 'bed';
}

/** Where a tab holds, in the plan. */
export interface TabPlace {
  readonly x: number;
  readonly y: number;
}

/** What holds what is cut out until the last. */
export type Holding =
  | {
      readonly kind: 'tabs';
      readonly every: number;
      readonly width: number;
      readonly height: number;
      /** Where tabs are by hand: nowhere else, each on the nearest edge. */
      readonly at?: readonly TabPlace[];
    }
  | { readonly kind: 'skin'; readonly thickness: number }
  | { readonly kind: 'nothing' };

/** How the first tool goes over what it clears: around it, or by straight lines at an angle from level, in degrees, such as along a grain. */
export type Pattern = { readonly kind: 'rings' } | { readonly kind: 'lines'; readonly angle: number };

/** Two pins that stock and bed are held to each other by, on the axis that the work is turned about: once in the stock's holes, it lies as before. */
export interface Pins {
  readonly diameter: number;
  /** From the sign's edge to the middle of a pin. */
  readonly apart: number;
  /** How far their holes go into the bed. */
  readonly deep: number;
}

/** How the stock of a sign with two sides is turned: about its middle line that is upright (left comes to the right), or level. */
export interface Turning {
  readonly axis: 'upright' | 'level';
  readonly pins?: Pins;
}

/** With what, and how, a sign is to be cut. Lengths in mm. */
export interface CutChoice {
  readonly machine: ShopMachine;
  readonly material: ShopMaterial;
  /** That may be used. */
  readonly tools: readonly ShopTool[];
  /** Of the stock, where it is thicker than the sign. */
  readonly stockThickness?: number;
  readonly zero: ZeroChoice;
  /** Part of the diameter from one path to the next, at most a half. */
  readonly stepover: number;
  /** What is left along walls for the last path beside them. */
  readonly allowance: number;
  /** How high ridges between the paths of a ball nose may stand. */
  readonly cusp: number;
  readonly direction: 'climb' | 'conventional';
  readonly pattern: Pattern;
  readonly holding: Holding;
  /** How far below the underside it is cut through. */
  readonly overcut: number;
  /** Whether windows and the sign are cut out: of two sides from the one that is cut last. */
  readonly cutsOut: boolean;
  readonly clamps: readonly Clamp[];
  /** How programs turn the work, on a machine that does so. */
  readonly rotary?: Rotary;
  /** Of a sign that is cut from two sides; about its upright middle line, without pins, where nothing is said. */
  readonly turning?: Turning;
}

/** What is chosen where nothing else is asked (common practice, no source). */
export const USUAL: Omit<CutChoice, 'machine' | 'material' | 'tools'> = {
  zero: { at: 'lower left', height: 'face of the stock' },
  stepover: 0.45,
  allowance: 0.2,
  cusp: 0.03,
  direction: 'climb',
  pattern: { kind: 'rings' },
  holding: { kind: 'tabs', every: 200, width: 6, height: 1.5 },
  overcut: 0,
  cutsOut: true,
  clamps: [],
};
