import { isUpright, withMore } from '../document/actions.js';
import { freeId, newTier, sizeAbout } from '../document/new-sign.js';
import { dropStale } from '../document/references.js';
import { type BrailleShape, type Part, type Sign, type Tier } from '../document/schema.js';

/** A copy of a part with ids of its own, a little below the first. */
export function copyOf(part: Part, sign: Sign): Part {
  const stem = part.id.replace(/-\d+$/u, '');
  const id = freeId(
    stem,
    sign.parts.map((other) => other.id),
  );
  const step = part.kind === 'text' ? Number((sizeAbout(part) * 1.55).toFixed(3)) : 10;
  return { ...part, id, name: `${part.name} copy`, place: { ...part.place, y: part.place.y - step } };
}

/** One more tier for a part, a step on the last one: raised higher or carved deeper over its outline shrunk a little. */
export function nextTier(part: Part): Tier {
  const last = part.tiers[part.tiers.length - 1]?.action ?? { kind: 'raise', by: 2 };
  const tier = newTier(
    freeId(
      'tier',
      part.tiers.map(({ id }) => id),
    ),
    isUpright(last) ? { kind: 'carve', by: 2 } : withMore(last, STEP),
  );
  // Of what is cut through or coloured only around it something is left to be made.
  return { ...tier, area: { kind: 'offset', by: isUpright(last) ? STEP : -shrunkBy(part) } };
}

/** mm that a further tier rises, sinks or reaches beyond the last one. */
const STEP = 1;

/** mm by which a further tier is smaller than the outline: less than half a stroke of most letters. */
function shrunkBy(part: Part): number {
  if (part.kind === 'text') return Math.max(0.1, Number((sizeAbout(part) / 30).toFixed(1)));
  return 'width' in part.shape && part.shape.width > 0 ? Math.max(0.1, Number((part.shape.width / 30).toFixed(1))) : 0.5;
}

/**
 * Takes parts out of a sign that may be changed. What sat on one sits on the face, words set along one run straight, a border
 * around one follows the blank, braille keeps the words of one, and what was combined from several is so from those left; of none there is none.
 */
export function removeParts(sign: Sign, ids: readonly string[]): void {
  const gone = new Set(ids);
  const orphans: string[] = [];
  const taken = sign.parts.filter(({ id }) => gone.has(id));
  sign.parts = sign.parts.filter(({ id }) => !gone.has(id));
  for (const part of sign.parts) {
    if (part.sitsOn.kind === 'part' && gone.has(part.sitsOn.part)) part.sitsOn = { kind: 'face' };
    if (part.kind === 'text') {
      if (part.path?.kind === 'part' && gone.has(part.path.part)) delete part.path;
    } else if (part.shape.kind === 'border' && gone.has(part.shape.of)) part.shape.of = 'blank';
    else if (part.shape.kind === 'braille') keepWords(part.shape, gone, taken);
    else if (part.shape.kind === 'combined') {
      part.shape.of = part.shape.of.filter((id) => !gone.has(id));
      if (part.shape.of.length === 0) orphans.push(part.id);
    }
  }
  if (orphans.length > 0) removeParts(sign, orphans);
  dropStale(sign);
}

/** Braille of a text that is gone says what that said. */
function keepWords(shape: BrailleShape, gone: ReadonlySet<string>, taken: readonly Part[]): void {
  if (shape.follows === undefined || !gone.has(shape.follows)) return;
  const text = taken.find(({ id }) => id === shape.follows);
  if (text?.kind === 'text') shape.words = text.words;
  delete shape.follows;
}
