import type { PlanPrograms } from '@plain-relief/api';
import {
  type Colour,
  Film,
  type Reel,
  type Scene,
  type TurningTool,
  stockPicture,
  stockPictureSize,
} from '@plain-relief/core/dry-run';
import { type Box } from '@plain-relief/core/geometry';
import { turningTools } from '@plain-relief/core/making';

/** What a film is made of. */
export interface FilmOrder extends PlanPrograms {
  readonly stock: { readonly top: number; readonly bottom: number; readonly box: Box };
  readonly zero: { readonly x: number; readonly y: number; readonly z: number };
}

/** What is known of a film before any of it is seen. */
export interface FilmFacts {
  readonly seconds: number;
  readonly reels: readonly Reel[];
  /** By their places in the changer. */
  readonly tools: ReadonlyMap<number, TurningTool>;
  /** Pixels of its pictures. */
  readonly width: number;
  readonly height: number;
}

/** The stock where it is cut through level. */
export interface CutFace {
  readonly y: number;
  /** x of the first height, and mm from one to the next. */
  readonly from: number;
  readonly cell: number;
  readonly heights: Float32Array;
}

/** A moment of it. */
export interface Frame {
  readonly scene: Scene;
  readonly width: number;
  readonly height: number;
  readonly rgba: Uint8Array;
  readonly face: CutFace;
}

/** A stretch of a tool's way, x and y in turn. */
export interface Way {
  readonly isRapid: boolean;
  readonly points: Float32Array;
}

/** Places of the filmed stock, and pixels of the longer side of its pictures. */
const PLACES = 700_000;
const LONGEST = 1000;
const WOOD: Colour = [222, 205, 170];
/** Colours of tools, in the order in which they come. */
const TOOLS: readonly Colour[] = [
  [133, 160, 184],
  [196, 148, 84],
  [128, 158, 120],
  [176, 120, 130],
  [150, 132, 176],
  [112, 164, 168],
  [190, 170, 90],
  [146, 138, 126],
];

/** The colour of the tool that comes so many-th, as CSS has it. */
export const toolColour = (index: number): string => `rgb(${TOOLS[index % TOOLS.length].join(' ')})`;

/** The worker's side of a film: reads the programs of a plan back and cuts a stock by them, at any moment. */
export class FilmDesk {
  private film: Film | undefined;
  private floor = 0;
  private readonly colours = new Map<number, Colour>();

  /** @throws DryRunError where a program cannot be read */
  open({ programs, madeWith, stock, zero }: FilmOrder): FilmFacts {
    const { box, top, bottom } = stock;
    const cell = Math.max(0.05, Math.sqrt(((box.maxX - box.minX) * (box.maxY - box.minY)) / PLACES));
    const { machine, tools } = madeWith;
    const turning = turningTools(tools);
    const place = { tools: turning, limits: machine, zero };
    this.film = new Film(programs, { box, top }, place, cell, machine.toolChange);
    this.floor = bottom + 1e-3;
    this.colours.clear();
    for (const { tool } of this.film.reels)
      if (!this.colours.has(tool)) this.colours.set(tool, TOOLS[this.colours.size % TOOLS.length]);
    const { seconds, reels } = this.film;
    return { seconds, reels, tools: turning, ...stockPictureSize(this.film.stock, LONGEST) };
  }

  /** @param y where the stock is cut through; at the tool, else in its middle, where nothing is asked */
  frame(seconds: number, y?: number): Frame | undefined {
    const { film, floor, colours } = this;
    if (!film) return undefined;
    const scene = film.at(seconds);
    const { stock } = film;
    const picture = stockPicture(stock, LONGEST, (column, row, height) =>
      height <= floor ? undefined : (colours.get(stock.toolAt(column, row)) ?? WOOD),
    );
    return { scene, ...picture, face: this.faceAt(y ?? scene.tool?.place.y ?? stock.placeOf(0, stock.rows / 2).y) };
  }

  private faceAt(y: number): CutFace {
    const { stock } = this.film!;
    return { y, from: stock.placeOf(0, 0).x, cell: stock.cell, heights: stock.rowAt(y) };
  }

  /** @see Film.secondsAt */
  secondsAt(program: number, line: number): number {
    return this.film?.secondsAt(program, line) ?? 0;
  }

  ways(program: number, firstLine: number, lastLine: number): Way[] {
    const found = this.film?.ways(program, firstLine, lastLine) ?? [];
    return found.map(({ isRapid, points }) => {
      const flat = new Float32Array((points.length / 3) * 2);
      for (let i = 0; i < points.length / 3; i++) flat.set([points[3 * i], points[3 * i + 1]], 2 * i);
      return { isRapid, points: flat };
    });
  }
}
