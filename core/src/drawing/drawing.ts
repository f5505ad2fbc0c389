import { type Box, type Outline } from '../geometry/index.js';

/** One neutral drawing that files, proofs and the screen all render: mm, x to the right, y up. */
export interface Drawing {
  readonly bounds: Box;
  readonly items: readonly Item[];
}

/** How a line is drawn; width in mm of the drawing. */
export interface Pen {
  readonly width: number;
  readonly colour: string;
  /** Lengths of dash and gap in mm. */
  readonly dash?: readonly number[];
}

export type Fill =
  | { readonly kind: 'plain'; readonly colour: string }
  | { readonly kind: 'cross-hatch'; readonly colour: string; readonly ground: string; readonly spacing: number };

/** What an item belongs to: a file keeps one layer for each name. */
interface Layered {
  readonly layer: string;
}

export type Item = AreaItem | LineItem | LabelItem;

/** Closed rings, holes the other way round, filled by the even-odd rule. */
export interface AreaItem extends Layered {
  readonly kind: 'area';
  readonly outline: Outline;
  readonly fill?: Fill;
  readonly pen?: Pen;
}

/** A run of points, open or closed. */
export interface LineItem extends Layered {
  readonly kind: 'line';
  readonly points: Float64Array;
  readonly closed: boolean;
  readonly pen: Pen;
}

/** Text whose capitals are `height` mm tall, standing on y, turned anticlockwise about its anchor. */
export interface LabelItem extends Layered {
  readonly kind: 'label';
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly height: number;
  readonly align: 'left' | 'centre' | 'right';
  readonly turn: number;
  readonly colour: string;
}

/** The box grown by a margin on every side. */
export const withMargin = (box: Box, margin: number): Box => ({
  minX: box.minX - margin,
  minY: box.minY - margin,
  maxX: box.maxX + margin,
  maxY: box.maxY + margin,
});
