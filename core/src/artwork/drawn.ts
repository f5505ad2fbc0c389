import { type Contour } from '../geometry/index.js';
import { type Findings } from './findings.js';
import { type Layer } from './layers.js';

/** A line whose area, if it has one, is what it goes round. */
export interface DrawnLine {
  readonly colour: string;
  readonly name?: string;
  readonly points: Contour;
  readonly closed: boolean;
}

/** A file as it is drawn, before ends are joined and colours laid over each other. In mm, y up, about the middle of its page. */
export interface Drawn {
  /** From the bottom to the top. */
  readonly layers: readonly Layer[];
  readonly lines: readonly DrawnLine[];
  readonly width: number;
  readonly height: number;
  /** Whether the file says its size in a unit of length. */
  readonly isSized: boolean;
  readonly findings: Findings;
}
