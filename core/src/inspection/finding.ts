/** What a check is about. */
export type CheckGroup = 'making' | 'reading' | 'setting' | 'fixing';

/** The catalogue of what is measured: what each check asks, and where its limit is from. */
export const CHECKS = {
  'narrow-gap': {
    group: 'making',
    asks: 'whether the smallest end mill passes between what stands',
    source: 'geometry: places that no disc of the tool’s diameter comes into (opening by a disc)',
  },
  'thin-stroke': {
    group: 'making',
    asks: 'whether raised strokes are wide enough for the material',
    source: 'the least stroke of the material in the shop’s library; 1 mm where it is not there (common practice, no source)',
  },
  'thin-wall': {
    group: 'making',
    asks: 'whether walls between carved places, holes and edges are thick enough',
    source: 'the least wall of the material in the shop’s library; 1.5 mm where it is not there (common practice, no source)',
  },
  'hanging-piece': {
    group: 'making',
    asks: 'whether every piece of the plate hangs so well from the rest that it does not break off',
    source: 'twice the least wall of the material, 3 mm where the shop does not have it (common practice, no source)',
  },
  'tall-stroke': {
    group: 'making',
    asks: 'whether strokes are so tall for their width that they snap off',
    source: 'the slenderness of the material in the shop’s library; 4 times where it is not there (common practice, no source)',
  },
  'small-step': {
    group: 'making',
    asks: 'whether neighbouring levels differ so much that it is seen',
    source: '0.2 mm (common practice, no source)',
  },
  'sharp-corner': {
    group: 'making',
    asks: 'whether inner corners are blunt enough for the smallest end mill to come into them',
    source:
      'geometry: r (1 / sin(θ/2) − 1) of a corner of θ are left by a mill of radius r; 0.5 mm are seen (common practice, no source); a hint',
  },
  'no-draft': {
    group: 'making',
    asks: 'whether sides lean so that a pattern leaves the sand, of materials that are cast',
    source: '2° from upright (common practice for sand, no source); a hint',
  },
  'standing-water': {
    group: 'making',
    asks: 'whether water runs off, of signs that are said to stand outdoors',
    source: 'geometry: the lowest way over the edge; 0.5 mm deep (common practice, no source)',
  },
  'coarse-curve': {
    group: 'making',
    asks: 'whether a curve of lines has so many that its corners are not seen',
    source: '0.1 mm between line and curve (common practice, no source)',
  },
  'no-machine': {
    group: 'making',
    asks: 'whether a machine of the shop reaches all of the sign',
    source: 'the work areas of the shop’s routers and engravers',
  },
  'no-sheet': {
    group: 'making',
    asks: 'whether the shop keeps a sheet that the blank can be cut from',
    source: 'the sheets of the material in the shop’s library',
  },
  'small-letters': {
    group: 'reading',
    asks: 'whether capitals are tall enough for the distance that they are read from',
    source: '25 mm for every 3 m (common practice, no source)',
  },
  'low-contrast': {
    group: 'reading',
    asks: 'whether words are lighter or darker than what is behind them',
    source: 'contrast ratio of 3 to 1 for large letters (WCAG 2, success criterion 1.4.3)',
  },
  'thin-for-distance': {
    group: 'reading',
    asks: 'whether most strokes of letters are so wide that they are seen from the distance that they are read from',
    source:
      'two minutes of arc, twice the limb of a letter that normal sight resolves (H. Snellen, 1862); twice of it is common practice, no source',
  },
  'close-words': {
    group: 'reading',
    asks: 'whether words are so much farther apart than letters that they are read as words',
    source: '2.2 times the usual gap between the letters of the line (common practice, no source)',
  },
  glare: {
    group: 'reading',
    asks: 'whether light on what is behind words hides them',
    source: 'a ground without gloss (common practice; of tactile signs section 703.5.1 of the 2010 ADA Standards)',
  },
  'small-modules': {
    group: 'reading',
    asks: 'whether the modules of codes are so large that the smallest end mill makes them and a reader in the hand tells them',
    source: 'the smallest end mill where they are formed; 0.33 mm (common practice, no source)',
  },
  'tall-modules': {
    group: 'reading',
    asks: 'whether modules of codes are so low that they do not lie in each other’s shadow',
    source: 'half a module: as a reader took what was raised and lit from the upper left (core/testing/codes-sweep.mjs)',
  },
  'quiet-zone': {
    group: 'reading',
    asks: 'whether the ground around codes is free',
    source: 'ISO/IEC 18004, 16022, 15417 and 15420: 4 modules, 1, 10, and 11 or 9 (from memory)',
  },
  'faint-code': {
    group: 'reading',
    asks: 'whether codes are dark on light',
    source: '3 to 1 (ratio of WCAG 2; of codes common practice, no source)',
  },
  'tight-lines': {
    group: 'reading',
    asks: 'whether lines of words are so far apart that they are read one after the other',
    source: '110 % of the cap height for lines of capitals, 130 % where there are small letters (common practice, no source)',
  },
  'unequal-margins': {
    group: 'setting',
    asks: 'whether margins that are nearly equal are equal',
    source: '2 % of the blank (common practice, no source)',
  },
  'nearly-aligned': {
    group: 'setting',
    asks: 'whether parts that nearly line up do',
    source: '0.5 % of the blank, at most 1.5 mm (common practice, no source)',
  },
  'near-sizes': {
    group: 'setting',
    asks: 'whether texts of nearly one size are of one size',
    source: '5 % (common practice, no source)',
  },
  'many-fonts': {
    group: 'setting',
    asks: 'whether a sign is set in few families',
    source: '3 families (common practice, no source)',
  },
  'straight-quotes': {
    group: 'setting',
    asks: 'whether apostrophes and quotation marks are those of print',
    source: 'The Unicode Standard, section 6.2: U+2019 is the apostrophe, U+0027 is for typewriters',
  },
  'double-blank': { group: 'setting', asks: 'whether words have one space between them', source: 'common practice, no source' },
  'hyphen-for-dash': {
    group: 'setting',
    asks: 'whether a dash stands where a hyphen does not belong',
    source: 'The Unicode Standard, section 6.2: U+2013 between figures and between words',
  },
  'unknown-word': {
    group: 'setting',
    asks: 'whether words are spelt as the dictionary has them',
    source: 'dictionaries of SCOWL, English as it is written in America and elsewhere, and the shop’s own words; a hint',
  },
  'not-ordered': {
    group: 'setting',
    asks: 'whether every word of the order is on the sign, and no other',
    source: 'the words that were ordered',
  },
  'hole-in-words': {
    group: 'fixing',
    asks: 'whether holes go through nothing that is read',
    source: 'geometry: what holes and letters have in common',
  },
  'heavy-for-holes': {
    group: 'fixing',
    asks: 'whether so many fixings carry the weight',
    source: '4 kg for every fixing (common practice, no source)',
  },
} as const satisfies Readonly<Record<string, { readonly group: CheckGroup; readonly asks: string; readonly source: string }>>;

/** Checks that may be wrong about what is right: names are in no dictionary, and bronze is cut, too. A sign passes whatever they say. */
export const HINTS: ReadonlySet<CheckCode> = new Set(['unknown-word', 'sharp-corner', 'no-draft']);

export type CheckCode = keyof typeof CHECKS;

/** Something that was measured and is not as it should be. */
export interface Finding {
  readonly check: CheckCode;
  /** In a sentence with its numbers. */
  readonly text: string;
  /** In mm where nothing else is said; of `tall-stroke` in times the width, of `low-contrast` a ratio, of `no-draft` degrees, of `close-words` a share, of words how many; of codes modules, `faint-code` a ratio. */
  readonly measured: number;
  readonly limit: number;
  /** The largest places of it in the plan, in mm. */
  readonly places: readonly { readonly x: number; readonly y: number }[];
  readonly part?: string;
  /** mm above the face between which it is. */
  readonly heights?: readonly [lowest: number, highest: number];
  /** Other parts that it is about. */
  readonly others?: readonly string[];
  /** A word, or the height or side that is meant, by which findings of one part are told apart. */
  readonly about?: string;
  /** Words that it is about. */
  readonly words?: readonly string[];
}
