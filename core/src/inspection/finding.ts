/** The catalogue of what is measured: what each check asks, and where its limit is from. */
export const CHECKS = {
  'narrow-gap': {
    asks: 'whether the smallest end mill passes between what stands',
    source: 'geometry: places that no disc of the tool’s diameter comes into (opening by a disc)',
  },
  'thin-stroke': {
    asks: 'whether raised strokes are wide enough for the material',
    source: 'the least stroke of the material in the shop’s library; 1 mm where it is not there (common practice, no source)',
  },
  'thin-wall': {
    asks: 'whether walls between carved places, holes and edges are thick enough',
    source: 'the least wall of the material in the shop’s library; 1.5 mm where it is not there (common practice, no source)',
  },
  'tall-stroke': {
    asks: 'whether strokes are so tall for their width that they snap off',
    source: 'the slenderness of the material in the shop’s library; 4 times where it is not there (common practice, no source)',
  },
  'small-step': {
    asks: 'whether neighbouring levels differ so much that it is seen',
    source: '0.2 mm (common practice, no source)',
  },
  'small-letters': {
    asks: 'whether capitals are tall enough for the distance that they are read from',
    source: '25 mm for every 3 m (common practice, no source)',
  },
} as const satisfies Readonly<Record<string, { readonly asks: string; readonly source: string }>>;

export type CheckCode = keyof typeof CHECKS;

/** Something that was measured and is not as it should be. */
export interface Finding {
  readonly check: CheckCode;
  /** In a sentence with its numbers. */
  readonly text: string;
  /** In mm; of `tall-stroke` in times the width. */
  readonly measured: number;
  readonly limit: number;
  /** The largest places of it in the plan, in mm. */
  readonly places: readonly { readonly x: number; readonly y: number }[];
  readonly part?: string;
}
