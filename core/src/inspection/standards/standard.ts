/** What clauses of standards measure, each in its unit. */
export const MEASURES = {
  'raised-height': 'mm',
  'small-letters': 'letters',
  'other-style': 'texts',
  'round-width': '%',
  'character-height': 'mm',
  'stroke-share': '%',
  'letter-gap': 'mm',
  'letter-gap-at-base': 'mm',
  'letter-gap-in-strokes': 'strokes',
  'character-to-border': 'mm',
  'line-share': '%',
  'words-without-braille': 'words',
  'not-contracted': 'parts',
  'dot-base': 'mm',
  'dot-height': 'mm',
  'dot-distance': 'mm',
  'cell-distance': 'mm',
  'line-distance': 'mm',
  'dot-roundness': '%',
  'capital-indicators': 'indicators',
  'braille-above': 'mm',
  'braille-to-character': 'mm',
  'braille-to-border': 'mm',
  'height-on-wall': 'mm',
  glossy: 'surfaces',
  'reflectance-contrast': '%',
} as const;

export type MeasureName = keyof typeof MEASURES;

/** A clause that is measured: passed where what is measured is from `least` to `most`. */
export interface Clause {
  /** As the standard numbers it; several clauses may come from one. */
  readonly number: string;
  readonly title: string;
  /** In our words. */
  readonly asks: string;
  /** What is allowed, as the standard says it. */
  readonly limit: string;
  readonly measure: MeasureName;
  readonly least?: number;
  readonly most?: number;
  /** What is beyond the limits is to be looked at by somebody: nobody can measure what it means. */
  readonly isForPeople?: true;
}

/** A standard as data. */
export interface Standard {
  readonly id: string;
  readonly name: string;
  /** Who published it, and where its figures here are from. */
  readonly source: string;
  readonly clauses: readonly Clause[];
}
