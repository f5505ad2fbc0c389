import {
  bounds,
  type Box,
  compose,
  flatten,
  joinBoxes,
  mappedPath,
  type PathCommand,
  pathData,
  placement,
  placePoint,
} from '../../geometry/index.js';
import { freeId, type ShapePart, type Sign, type TextPart, withMore } from '../../sign/index.js';
import { type FontBook, placeLetter, plainWords, setBlock, type SetBlock, type SetLetter } from '../../type/index.js';
import { bridgesOf } from './layers.js';
import { type PlacedPart, textChoice } from './part-outline.js';
import { trackOf } from './text-track.js';

/** Why a text cannot be taken apart, in a sentence. */
export class TextPartsError extends Error {}

const MOST_PARTS = 500;

interface Piece {
  /** Indices in the words, the end left out. */
  readonly from: number;
  readonly to: number;
}

/**
 * A text as the texts of its lines, or of its words: each stays text, with its letters where they were. The first keeps the id, so
 * that what sits on the text or follows it goes on with that.
 * @throws TextPartsError where there is nothing to part, or the words run along a line
 */
export function splitText(sign: Sign, part: TextPart, into: 'lines' | 'words', book: FontBook): TextPart[] {
  if (part.path) throw new TextPartsError(`${part.name} runs along a line and stays one: set it straight across first.`);
  const words = plainWords(part.words);
  const block = setBlock(book, textChoice(part, book, sign.slots));
  const pieces = piecesOf(words, block, into);
  if (pieces.length < 2)
    throw new TextPartsError(`${part.name} has only one ${into === 'lines' ? 'line' : 'word'}: there is nothing to part.`);
  if (sign.parts.length + pieces.length > MOST_PARTS)
    throw new TextPartsError(`The sign would have more than ${MOST_PARTS} parts: part fewer lines at a time.`);
  const ids = sign.parts.map(({ id }) => id);
  return pieces.map((piece, index) => {
    const id = index === 0 ? part.id : freeId(part.id.replace(/-\d+$/u, ''), ids);
    ids.push(id);
    const text = words.slice(piece.from, piece.to);
    const target = inkOf(
      block.letters.filter(({ at }) => at >= piece.from && at < piece.to),
      part,
    )!;
    return settled({ ...pieceOf(part, block, piece, text), id, name: nameOf(part, text, index) }, target, book, sign.slots);
  });
}

const nameOf = ({ name }: TextPart, text: string, index: number): string =>
  index === 0 ? name : text.trim().slice(0, 40) || `${name} ${index + 1}`;

function piecesOf(words: string, { letters }: SetBlock, into: 'lines' | 'words'): Piece[] {
  // Lines as they are set: a frame may have broken those that were typed.
  const starts = [...new Map([...letters].sort((a, b) => b.at - a.at).map(({ line, at }) => [line, at])).values()].sort((a, b) => a - b); // prettier-ignore
  const lines = starts.map((from, i) => ({ from, to: starts[i + 1] ?? words.length }));
  const trimmed = ({ from, to }: Piece): Piece => ({ from, to: from + words.slice(from, to).trimEnd().length });
  if (into === 'lines') return lines.map(trimmed);
  return lines.flatMap(({ from, to }) =>
    [...words.slice(from, to).matchAll(/\S+/gu)].map((word) => ({
      from: from + word.index,
      to: from + word.index + word[0].length,
    })),
  );
}

/** The text of a piece, sized as its letters were set. */
function pieceOf(part: TextPart, block: SetBlock, { from, to }: Piece, words: string): TextPart {
  const { letters, ...rest } = part;
  delete rest.frame;
  const own = letters?.filter(({ at }) => at >= from && at < to).map((letter) => ({ ...letter, at: letter.at - from }));
  const tightened = block.fitted.find((fitted) => fitted.kind === 'tighten');
  return {
    ...rest,
    words,
    size: { kind: 'capitals', height: block.capHeight, stretch: block.stretch },
    tracking: tightened?.tracking ?? part.tracking,
    align: part.align === 'justified' ? 'centre' : part.align,
    ...(own && own.length > 0 ? { letters: own } : {}),
  };
}

/** A text whose letters are seen in a box: moved there, and spread over it where it was justified. */
function settled(part: TextPart, target: Box, book: FontBook, slots: Sign['slots']): TextPart {
  let next = part;
  for (let round = 0; round < 2; round++) {
    const ink = inkOf(setBlock(book, textChoice(next, book, slots)).letters, next);
    if (!ink) return next;
    const place = {
      ...next.place,
      x: Number((next.place.x + (target.minX + target.maxX - ink.minX - ink.maxX) / 2).toFixed(4)),
      y: Number((next.place.y + (target.minY + target.maxY - ink.minY - ink.maxY) / 2).toFixed(4)),
    };
    next = { ...next, place };
    const lacking = target.maxX - target.minX - (ink.maxX - ink.minX);
    const gaps = next.words.length - 1;
    if (round > 0 || Math.abs(lacking) < 1e-3 || gaps < 1 || next.place.turn !== 0) return next;
    const size = next.size.kind === 'capitals' ? next.size : undefined;
    if (size) next = { ...next, tracking: Math.min(1000, Math.max(-50, next.tracking + (lacking / gaps / size.height / (size.stretch / 100)) * 100)) }; // prettier-ignore
  }
  return next;
}

function inkOf(letters: readonly SetLetter[], { place }: TextPart): Box | undefined {
  return letters
    .map((letter) => placeLetter(letter, place))
    .map(({ outline, strokes }) => bounds([...outline, ...strokes.map(({ points }) => points)]))
    .reduce<Box | undefined>(joinBoxes, undefined);
}

/**
 * The letters of a text as plain outlines, with the curves of the font, where they were: a part each with all its islands and
 * marks, in one group. The words are given up. The first keeps the id.
 * @throws TextPartsError where nothing of it is seen
 */
export function outlinedText(
  sign: Sign,
  part: TextPart,
  book: FontBook,
  placed: ReadonlyMap<string, Pick<PlacedPart, 'area' | 'strokes'>>,
): ShapePart[] {
  const choice = textChoice(part, book, sign.slots);
  const { letters } = setBlock(book, choice, trackOf(part, sign, placed));
  const byCharacter = new Map<string, SetLetter[]>();
  for (const letter of letters) {
    const key = `${letter.line} ${letter.at}`;
    byCharacter.set(key, [...(byCharacter.get(key) ?? []), letter]);
  }
  if (byCharacter.size === 0) throw new TextPartsError(`${part.name} shows no letters that could become outlines.`);
  if (sign.parts.length + byCharacter.size > MOST_PARTS)
    throw new TextPartsError(
      `${part.name} has ${byCharacter.size} letters, and a sign may have ${MOST_PARTS} parts: part its lines first, and turn fewer into outlines.`,
    );
  const ids = sign.parts.map(({ id }) => id);
  const group = freeId('letters', sign.parts.flatMap((other) => other.group ?? [])); // prettier-ignore
  const { sitsOn, copies, side } = part;
  return [...byCharacter.values()].flatMap((glyphs, index): ShapePart[] => {
    const path = glyphs.flatMap((glyph) => planPath(glyph, choice.font.glyphPath(glyph.glyph), part));
    const box = bounds(flatten(path, 1e-3).map(({ points }) => Float64Array.from(points)));
    if (!box) return [];
    const [x, y] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
    const id = index === 0 ? part.id : freeId('letter', ids);
    ids.push(id);
    const byHand = part.letters?.find(({ at }) => at === glyphs[0].at);
    const tiers = part.tiers.map((tier) => ({ ...tier, action: withMore(tier.action, byHand?.more ?? 0) }));
    const bridges = bridgesOf(part, byHand ?? {});
    const character = String.fromCodePoint(plainWords(part.words).codePointAt(glyphs[0].at) ?? 0x3f);
    const size = (mm: number) => Math.max(0.01, Number(mm.toFixed(4)));
    return [
      {
        kind: 'shape',
        id,
        name: `${part.name.slice(0, 60)} “${character}”`,
        shape: {
          kind: 'outline',
          width: size(box.maxX - box.minX),
          height: size(box.maxY - box.minY),
          path: pathData(mappedPath(path, (px, py) => [px - x, py - y])),
        },
        place: { x: Number(x.toFixed(4)), y: Number(y.toFixed(4)), turn: 0, mirror: false },
        sitsOn,
        tiers,
        group,
        ...(copies ? { copies } : {}),
        ...(side ? { side } : {}),
        ...(bridges ? { bridges } : {}),
      },
    ];
  });
}

/** A glyph's own path in the plan. */
function planPath(letter: SetLetter, path: readonly PathCommand[], { place }: TextPart): PathCommand[] {
  const put = compose(compose(placement(place), placement(letter)), {
    a: letter.scaleX,
    b: 0,
    c: 0,
    d: letter.scaleY,
    e: 0,
    f: 0,
  });
  return mappedPath(path, (x, y) => placePoint(put, x, y));
}
