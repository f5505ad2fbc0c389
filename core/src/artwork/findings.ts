/** What stood in a file and was mended, left out, or taken over with a change. */
export type FindingKind =
  | 'joined'
  | 'open'
  | 'crossing'
  | 'double'
  | 'speck'
  | 'text'
  | 'picture'
  | 'gradient'
  | 'pattern'
  | 'mask'
  | 'filter'
  | 'dashes'
  | 'selector'
  | 'script'
  | 'outside'
  | 'hidden-layer'
  | 'fitted-spline'
  | 'tilted'
  | 'broken'
  | 'markers'
  | 'paper'
  | 'origin'
  | 'unknown';

/** A place in the drawing, in mm, y up, from the middle of its page. */
export interface Spot {
  readonly x: number;
  readonly y: number;
}

/** Something that was found, in a sentence, with the places where it is seen. */
export interface Finding {
  readonly kind: FindingKind;
  readonly sentence: string;
  readonly spots: readonly Spot[];
}

/** One kind of finding as it gathers: how often, the texts that go with it (the first few), the greatest figure, the places. */
interface Gathered {
  count: number;
  readonly texts: Set<string>;
  readonly spots: Spot[];
  greatest: number;
}

const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
const mm = (figure: number): string => `${Number(figure.toFixed(figure < 0.1 ? 3 : 2))} mm`;

const quoted = (texts: ReadonlySet<string>): string => [...texts].slice(0, 3).map((text) => `“${text.slice(0, 40)}”`).join(', '); // prettier-ignore

const TOLD: Readonly<Record<FindingKind, (found: Gathered) => string>> = {
  joined: ({ count: n, greatest }) =>
    `${count(n, 'open end')} joined over ${greatest < 0.0005 ? 'no distance' : `${mm(greatest)} at most`}.`,
  open: ({ count: n, greatest }) =>
    `${count(n, 'line')} did not close and ${n === 1 ? 'stays a line' : 'stay lines'}: join ends that are further apart${greatest > 0 ? `, up to ${mm(greatest)}` : ''}, to make areas of them.`,
  crossing: ({ count: n, texts }) => `${count(n, 'crossing')} resolved by the ${[...texts].join(' and the ')} rule.`,
  double: ({ count: n }) => `${count(n, 'double')} of the same outline and colour removed.`,
  speck: ({ count: n, texts }) => `${count(n, 'speck')} of less than ${[...texts][0]} mm² left out.`,
  text: ({ count: n, texts }) =>
    `${count(n, 'text')} (${quoted(texts)}) ${n === 1 ? 'has' : 'have'} no outline and ${n === 1 ? 'was' : 'were'} left out: set the words here, or turn them into outlines where they were drawn.`,
  picture: ({ count: n }) => `${count(n, 'picture')} left out: a picture has no outline until it is traced.`,
  gradient: ({ texts }) => `${count(texts.size, 'gradient')} taken as one colour each.`,
  pattern: ({ texts }) => `${count(texts.size, 'pattern')} taken as plain grey.`,
  mask: () => 'Masks have no effect here; what they hide is shown.',
  filter: () => 'Effects such as shadows and blurs were left out.',
  dashes: ({ count: n }) => `${count(n, 'dashed line')} taken as unbroken.`,
  selector: ({ texts }) => `Styles for ${quoted(texts)} were not understood.`,
  script: () => 'A script in the file was left out.',
  outside: ({ count: n }) => `${count(n, 'reference')} to something that is not in the file left out.`,
  'hidden-layer': ({ texts }) => `${count(texts.size, 'layer')} switched off in the file and left out: ${quoted(texts)}.`,
  'fitted-spline': ({ count: n }) => `${count(n, 'spline')} without control points taken through the points that fit it.`,
  tilted: ({ count: n }) => `${count(n, 'piece')} drawn in another plane than the sheet left out.`,
  broken: ({ count: n, texts }) =>
    `${count(n, 'piece')} with figures that cannot be read (${quoted(texts)}): drawn as far as they can be, or left out.`,
  markers: ({ count: n }) =>
    `Arrowheads and other markers on ${count(n, 'line')} left out: turn them into outlines where they were drawn.`,
  paper: ({ count: n }) => `${count(n, 'piece')} on the sheet of paper and not in the drawing itself left out.`,
  origin: ({ count: n }) =>
    `${count(n, 'piece')} turned or scaled about a point that is not understood; taken about the drawing's corner.`,
  unknown: ({ texts }) => `Not understood and left out: ${[...texts].slice(0, 5).join(', ')}.`,
};

/** Most texts and places that are kept of one kind. */
const MOST_KEPT = 200;

/** What is found while a file is read. */
export class Findings {
  private readonly found = new Map<FindingKind, Gathered>();

  /**
   * @param spot where it is seen
   * @param figure of which the greatest is told
   */
  add(kind: FindingKind, text = '', spot?: Spot, figure = 0): void {
    let gathered = this.found.get(kind);
    if (!gathered) this.found.set(kind, (gathered = { count: 0, texts: new Set(), spots: [], greatest: 0 }));
    gathered.count++;
    if (gathered.texts.size < MOST_KEPT) gathered.texts.add(text);
    if (spot && gathered.spots.length < MOST_KEPT && Number.isFinite(spot.x + spot.y)) gathered.spots.push(spot);
    gathered.greatest = Math.max(gathered.greatest, figure);
  }

  list(): Finding[] {
    return [...this.found].map(([kind, gathered]) => ({ kind, sentence: TOLD[kind](gathered), spots: gathered.spots }));
  }
}
