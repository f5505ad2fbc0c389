/** What a file of artwork may hold, and how one that holds more is refused. */

export const MOST_BYTES = 8_000_000;
export const MOST_ELEMENTS = 100_000;
export const MOST_DEPTH = 200;
/** Corners and chords over all outlines. */
export const MOST_POINTS = 400_000;
/** Elements drawn, those that are used again counted each time. */
export const MOST_DRAWN = 20_000;

/** Places at which outlines cross each other. */
export const MOST_CROSSINGS = 60_000;
/** Places at which a line that is drawn crosses itself: each gives its area four corners, and encloses ground between them. */
export const MOST_LINE_CROSSINGS = 10_000;

const REASONS = {
  'too-large': (bytes: number) =>
    `The file has ${(bytes / 1e6).toFixed(1)} MB and may have ${MOST_BYTES / 1e6}: take pictures and unused parts out of it.`,
  'not-xml': (reason: string) =>
    `The file is not a readable SVG drawing: ${reason}. Save it again from the program it was drawn with.`,
  'not-svg': (name: string) => `The file is XML but no SVG drawing: it begins with “${name}” where “svg” is expected.`,
  'not-dxf': (line: number, text: string) =>
    `The file is not a readable DXF drawing: line ${line} (“${text}”) is not what such a file has there. Save it again as DXF in text form.`,
  'binary-dxf': () => `The file is a binary DXF drawing: save it again as DXF in text form (ASCII).`,
  'not-traced': (reason: string) => `The picture cannot be traced: ${reason}`,
  'too-many-elements': (most: number) => `The file has more than ${most} elements, which is no logo: simplify it first.`,
  'too-deep': (most: number) => `The file's groups lie more than ${most} deep in each other: ungroup some of them.`,
  'too-many-drawn': (most: number) => `The file draws more than ${most} shapes, copies counted: simplify it first.`,
  'too-many-points': (most: number) =>
    `The outlines have more than ${most} points at the asked size: simplify them, or import it smaller.`,
  'too-many-crossings': (most: number) =>
    `The outlines cross each other more than ${most} times, which is no logo: join them where they were drawn.`,
  'too-far': () => `The drawing reaches further than 4 m from its middle: give a smaller size.`,
  nothing: () =>
    `There is nothing in the file that has an outline: text must be turned into outlines, pictures must be saved on their own and traced.`,
} as const;

type Reasons = typeof REASONS;

/** A file that is refused, with a sentence that says what to do. */
export class ArtworkError extends Error {
  constructor(
    readonly code: keyof Reasons,
    ...args: Parameters<Reasons[keyof Reasons]> | readonly unknown[]
  ) {
    super((REASONS[code] as (...values: readonly unknown[]) => string)(...args));
    this.name = 'ArtworkError';
  }
}
