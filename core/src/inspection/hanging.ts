import { offset, ringsOf } from '../arrangement/index.js';
import { area, bounds, middleOfBox, type Outline, type Polygon, polygonsOf } from '../geometry/index.js';
import { Widths } from '../medial-axis/index.js';
import { type Evaluation, isSolid } from '../relief/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** Least walls that a piece has to hang by (common practice, no source). */
const WALLS = 2;
/** Squares of the limit that a piece is large at least: less is a knob, which nothing pulls at. */
const PIECE = 4;
/** Halvings by which the neck is told. */
const HALVINGS = 7;
const MOST_PLACES = 20;
/** mm by which lines may leave the curves that they stand for. */
const TOLERANCE = 0.005;
/** Times the radius of a disc by which a tip reaches beyond it that counts: corners are no necks. */
const TIP = 3;

const sizeOf = ({ outer, holes }: Polygon): number => area([outer, ...holes]);

/** Material in one piece, however deep it is carved, with how wide it is. */
interface Body {
  readonly outline: Outline;
  readonly widths: Widths;
}

/** Pieces of a body between which no disc of a width passes, but for the largest: what discs in them cover, the largest first. */
function piecesOff({ outline, widths }: Body, width: number, least: number): Polygon[] {
  if (widths.narrowerThan(width).length === 0) return [];
  const middles = polygonsOf(offset(outline, -width / 2, TOLERANCE));
  if (middles.length < 2) return [];
  const pieces = middles.flatMap(({ outer, holes }) => polygonsOf(offset([outer, ...holes], width / 2, TOLERANCE)));
  return pieces
    .filter((piece) => sizeOf(piece) >= least)
    .sort((a, b) => sizeOf(b) - sizeOf(a))
    .slice(1);
}

/** A piece that hangs from the rest by little: by its widest neck it is held by less than two least walls. */
export function hangingPieces(evaluation: Evaluation, { leastWall }: Limits): Finding[] {
  const { arrangement, sign } = evaluation;
  const limit = WALLS * leastWall;
  const least = PIECE * limit * limit;
  const bodies = polygonsOf(ringsOf(arrangement, isSolid)).map(({ outer, holes }): Body => {
    const outline = [outer, ...holes];
    return { outline, widths: new Widths(outline, limit, TIP) };
  });
  const loosest = bodies.flatMap((body) => {
    const pieces = piecesOff(body, limit, least);
    return pieces.length === 0 ? [] : [{ body, pieces }];
  });
  if (loosest.length === 0) return [];
  const hanging = loosest.flatMap(({ pieces }) => pieces);
  let [holds, breaks] = [0, limit];
  for (let i = 0; i < HALVINGS; i++) {
    const width = (holds + breaks) / 2;
    if (loosest.some(({ body }) => piecesOff(body, width, least).length > 0)) breaks = width;
    else holds = width;
  }
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), sign.unit);
  const what = hanging.length === 1 ? 'A piece hangs' : `${hanging.length} pieces hang`;
  return [
    {
      check: 'hanging-piece',
      text: `${what} from the rest by ${length(breaks)} at the widest neck: by less than ${length(limit)} it breaks off when it is handled.`,
      measured: breaks,
      limit,
      places: hanging.slice(0, MOST_PLACES).map(({ outer }) => middleOfBox(bounds([outer])!)),
    },
  ];
}
