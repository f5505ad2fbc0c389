import { union } from '../arrangement/index.js';
import { area, bounds, direction, middleOfBox, radians } from '../geometry/index.js';
import { Widths } from '../medial-axis/index.js';
import { belongsTo, type ReliefMesh } from '../mesh/index.js';
import { type Evaluation, partsSeen, placeOf } from '../relief/index.js';
import { type Finish, lightReflectance, type Part, type TextPart } from '../sign/index.js';
import { coloured } from '../solid/index.js';
import { formatLength } from '../units/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm of letters for every metre that they are read from. */
const LETTER_PER_METRE = 25 / 3;
/** Contrast ratio of large letters (WCAG 2, 1.4.3). */
const LEAST_CONTRAST = 3;
/** Baselines from each other in percent of the cap height: of capitals, and where there are small letters. */
const LEAST_LEADING = { capitals: 110, small: 130 };
/** Minutes of arc of a stroke. */
const LEAST_ARC = 2;
/** Tips of strokes are sharper than they are thin. */
const TIP = 3;
const HALVINGS = 6;
/** Gap of words in that of letters. */
const LEAST_WORD = 2.2;
const SAME = 1e-6;
/** mm around words that count as behind them. */
const AROUND = 4;

/** What cannot be read: letters that are low for the distance, colours that are alike, lines that are close. */
export function readingFindings(evaluation: Evaluation, solid: ReliefMesh, limits: Limits): Finding[] {
  const seen = new Set(partsSeen(evaluation).map(({ id }) => id));
  const texts = evaluation.sign.parts.filter(
    (part): part is TextPart => part.kind === 'text' && !part.hidden && seen.has(part.id),
  );
  const worn = wornBy(evaluation, solid, texts);
  return [
    ...letters(evaluation, limits),
    ...contrasts(evaluation, worn),
    ...strokesFrom(evaluation, texts, limits),
    ...texts.flatMap((part) => words(evaluation, part)),
    ...glares(evaluation, worn),
    ...texts.flatMap((part) => lines(evaluation, part)),
  ];
}

/** Capitals that are too low for the distance. */
function letters({ sign, parts }: Evaluation, { distance }: Limits): Finding[] {
  if (distance === undefined) return [];
  const limit = distance * LETTER_PER_METRE;
  const length = (mm: number): string => formatLength(Number(mm.toFixed(1)), sign.unit);
  return parts.flatMap(({ id, text, ink }): Finding[] => {
    const part = sign.parts.find((each) => each.id === id);
    if (!text || !ink || part?.kind !== 'text' || text.capHeight >= limit - SAME) return [];
    const place = { x: (ink.minX + ink.maxX) / 2, y: (ink.minY + ink.maxY) / 2 };
    const sentence = `${part.name}: capitals of ${length(text.capHeight)} are read from ${(text.capHeight / LETTER_PER_METRE).toFixed(1)} m; from ${distance} m they want ${length(limit)}.`;
    return [{ check: 'small-letters', text: sentence, measured: text.capHeight, limit, places: [place], part: id }];
  });
}

/** Contrast ratio of two colours: (L1 + 0.05) / (L2 + 0.05) with relative luminances (WCAG 2, “contrast ratio”). */
export function contrastRatio(a: string, b: string): number {
  const [dark, light] = [a, b].map((hex) => lightReflectance(hex) / 100).sort((p, q) => p - q);
  return (light + 0.05) / (dark + 0.05);
}

/** What words wear, and what is around them. */
export interface Worn {
  readonly part: Part;
  readonly on: Finish;
  readonly behind: Finish;
}

/** The finishes of words and of what is behind them, of what faces the reader: each that of most of it. */
export function wornBy(evaluation: Evaluation, solid: ReliefMesh, texts: readonly Part[]): Worn[] {
  const { finishes, wears } = coloured(evaluation, solid);
  if (finishes.length < 2) return [];
  const { positions: p, triangles, belongs } = solid;
  const all = texts.flatMap((part) => {
    const box = evaluation.parts.find(({ id }) => id === part.id)?.ink;
    return box ? [{ part, box, on: new Float64Array(finishes.length), behind: new Float64Array(finishes.length) }] : [];
  });
  const madeBy = (value: number): string | undefined => {
    const { label } = belongsTo(value);
    const place = label === undefined ? undefined : placeOf(evaluation, label);
    return place && evaluation.layers[place.surface.marked ?? place.surface.layer]?.part;
  };
  const makers = new Map<number, string | undefined>();
  for (let f = 0; f < wears.length; f++) {
    const [a, b, c] = [3 * triangles[3 * f], 3 * triangles[3 * f + 1], 3 * triangles[3 * f + 2]];
    const mm2 = ((p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[c] - p[a]) * (p[b + 1] - p[a + 1])) / 2;
    if (mm2 <= 0) continue;
    const [x, y] = [(p[a] + p[b] + p[c]) / 3, (p[a + 1] + p[b + 1] + p[c + 1]) / 3];
    if (!makers.has(belongs[f])) makers.set(belongs[f], madeBy(belongs[f]));
    const maker = makers.get(belongs[f]);
    for (const { part, box, on, behind } of all) {
      if (x < box.minX - AROUND || x > box.maxX + AROUND || y < box.minY - AROUND || y > box.maxY + AROUND) continue;
      (maker === part.id ? on : behind)[wears[f]] += mm2;
    }
  }
  const most = (areas: Float64Array): Finish | undefined => finishes[areas.indexOf(Math.max(...areas))];
  return all.flatMap(({ part, on, behind }) => {
    const [own, other] = [most(on), most(behind)];
    return own && other && Math.max(...on) > 0 && Math.max(...behind) > 0 ? [{ part, on: own, behind: other }] : [];
  });
}

function contrasts(evaluation: Evaluation, worn: readonly Worn[]): Finding[] {
  return worn.flatMap(({ part, on, behind }): Finding[] => {
    // Of one finish it is light and shadow that is read.
    if (on.id === behind.id) return [];
    const ratio = contrastRatio(on.colour, behind.colour);
    if (ratio >= LEAST_CONTRAST) return [];
    const difference = Math.abs(lightReflectance(on.colour) - lightReflectance(behind.colour));
    const text = `${part.name}: ${on.name} on ${behind.name} has a contrast of ${ratio.toFixed(1)} to 1 (their light reflectance differs by ${difference.toFixed(0)}); large letters want ${LEAST_CONTRAST} to 1.`;
    const ink = evaluation.parts.find(({ id }) => id === part.id)?.ink;
    return [
      {
        check: 'low-contrast',
        text,
        measured: ratio,
        limit: LEAST_CONTRAST,
        places: ink ? [middleOfBox(ink)] : [],
        part: part.id,
      },
    ];
  });
}

/** Texts of whose strokes more than half are thinner than is seen from the distance. */
function strokesFrom({ parts, sign }: Evaluation, texts: readonly TextPart[], { distance }: Limits): Finding[] {
  if (distance === undefined) return [];
  const limit = 2 * distance * 1000 * Math.tan(radians(LEAST_ARC / 2 / 60));
  const length = (mm: number): string => formatLength(Number(mm.toFixed(2)), sign.unit);
  return texts.flatMap((part): Finding[] => {
    const plan = parts.find(({ id }) => id === part.id);
    if (!plan?.ink || plan.area.contours.length === 0) return [];
    const outline = union(plan.area);
    const widths = new Widths(outline, limit, TIP);
    const half = area(outline) / 2;
    if (area(widths.narrowerThan(limit)) <= half) return [];
    let [wide, thin] = [0, limit];
    for (let i = 0; i < HALVINGS; i++) {
      const width = (wide + thin) / 2;
      if (area(widths.narrowerThan(width)) > half) thin = width;
      else wide = width;
    }
    const text = `${part.name}: most of its strokes are thinner than ${length(thin)}; from ${distance} m ${length(limit)} are seen.`;
    return [{ check: 'thin-for-distance', text, measured: thin, limit, places: [middleOfBox(plan.ink)], part: part.id }];
  });
}

/** Words of a straight text that lie hardly farther apart than its letters. */
function words({ parts }: Evaluation, part: TextPart): Finding[] {
  const plan = parts.find(({ id }) => id === part.id);
  if (!plan?.ink || part.path || plan.area.contours.length === 0) return [];
  const written = part.words.split('\n').filter((line) => line.trim() !== '');
  // Along and across the line, however the text is turned.
  const { cos, sin } = direction(-part.place.turn);
  const spans = plan.area.contours.map((ring) => {
    const box = bounds([
      ring.map((_, i) => (i % 2 === 0 ? ring[i] * cos - ring[i + 1] * sin : ring[i - 1] * sin + ring[i] * cos)),
    ])!;
    return { x: [box.minX, box.maxX] as const, y: [box.minY, box.maxY] as const };
  });
  const lines = apart(spans, ({ y }) => y);
  if (lines.length !== written.length) return [];
  let worst: number | undefined;
  for (const line of lines) {
    const letters = apart(line, ({ x }) => x);
    const gaps = letters
      .slice(1)
      .map((next, i) => Math.min(...next.map(({ x }) => x[0])) - Math.max(...letters[i].map(({ x }) => x[1])));
    const between = written[lines.length - 1 - lines.indexOf(line)].trim().split(/\s+/u).length - 1;
    gaps.sort((a, b) => a - b);
    const usual = gaps[Math.floor((gaps.length - between) / 2)];
    if (between === 0 || gaps.length < 2 * between + 1 || !(usual > 0)) continue;
    const share = gaps[gaps.length - between] / usual;
    if (share < Math.min(LEAST_WORD, worst ?? Infinity)) worst = share;
  }
  if (worst === undefined) return [];
  const text = `${part.name}: its words are only ${worst.toFixed(1)} times as far apart as its letters: from ${LEAST_WORD} times on they are read as words.`;
  return [{ check: 'close-words', text, measured: worst, limit: LEAST_WORD, places: [middleOfBox(plan.ink)], part: part.id }];
}

interface Extent {
  readonly x: readonly [number, number];
  readonly y: readonly [number, number];
}

/** What overlaps along an axis, together; from low to high. */
function apart(spans: readonly Extent[], along: (span: Extent) => readonly [number, number]): Extent[][] {
  const groups: Extent[][] = [];
  let end = -Infinity;
  for (const span of [...spans].sort((a, b) => along(a)[0] - along(b)[0])) {
    if (along(span)[0] > end) groups.push([]);
    groups[groups.length - 1].push(span);
    end = Math.max(end, along(span)[1]);
  }
  return groups;
}

/** Words before a ground that mirrors light. */
function glares(evaluation: Evaluation, all: readonly Worn[]): Finding[] {
  const worn = all.filter(({ behind }) => behind.gloss === 'gloss');
  const grounds = [...new Map(worn.map(({ behind }) => [behind.id, behind])).values()];
  return grounds.map(({ id, name }) => {
    const before = worn.filter(({ behind }) => behind.id === id);
    const places = before.flatMap(({ part }) => {
      const ink = evaluation.parts.find((each) => each.id === part.id)?.ink;
      return ink ? [middleOfBox(ink)] : [];
    });
    const text = `${before.map(({ part }) => part.name).join(', ')} before ${name}, which is glossy: light on it hides words.`;
    return { check: 'glare', text, measured: before.length, limit: 0, places, about: id };
  });
}

/** Lines of one text that are closer than their letters want. */
function lines({ parts }: Evaluation, part: TextPart): Finding[] {
  const plan = parts.find(({ id }) => id === part.id);
  const count = part.words.split('\n').filter((line) => line.trim() !== '').length;
  if (!plan?.text || !plan.ink || count < 2 || part.path) return [];
  const { leading } = part;
  const percent = leading.kind === 'percent' ? leading.of : (100 * leading.length) / plan.text.capHeight;
  const limit = part.words === part.words.toUpperCase() ? LEAST_LEADING.capitals : LEAST_LEADING.small;
  if (percent >= limit - SAME) return [];
  const text = `${part.name}: its lines are ${percent.toFixed(0)} % of the cap height apart; ${limit} % lets them be read one after the other.`;
  return [{ check: 'tight-lines', text, measured: percent, limit, places: [middleOfBox(plan.ink)], part: part.id }];
}

/** The lowest capitals that are read from so many metres, in mm. */
export const capitalsFor = (distance: number): number => distance * LETTER_PER_METRE;
