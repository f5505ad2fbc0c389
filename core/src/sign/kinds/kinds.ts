import { type LengthUnit } from '../../units/index.js';
import { newShape, newSign, newText, newTier } from '../document/new-sign.js';
import { type Action, type Part, type ShapePart, type Sign, type TextPart } from '../document/schema.js';

/** What is asked before a sign of a kind is begun. */
export interface KindAnswers {
  /** Lines of words; what they are for is up to the kind. */
  readonly words: string;
  /** mm. */
  readonly width: number;
  readonly height: number;
  readonly material: string;
}

/** A kind of sign that a shop makes often, begun from three answers. */
export interface SignKind {
  readonly id: string;
  readonly name: string;
  /** What it is, in a sentence. */
  readonly says: string;
  /** What the words are for; undefined where none are asked. */
  readonly wordsFor?: string;
  /** What the size is that of. */
  readonly sizeOf: string;
  /** The answers that it begins with. */
  readonly usual: KindAnswers;
  /** Whether it is as wide as it is high. */
  readonly isEven?: true;
  /** Puts blank and parts of it into a bare sign. */
  readonly build: (sign: Sign, answers: KindAnswers) => void;
}

const tidy = (mm: number): number => Number(mm.toFixed(3));
const NO_MARGIN = { kind: 'length', length: 0 } as const;

/** Sizes in proportion to the shorter side of a blank, rounded to what is easily read, and at least a little. */
const share = ({ width, height }: KindAnswers, part: number, least: number): number =>
  Math.max(least, Number((Math.min(width, height) * part).toPrecision(2)));

function rectangle(sign: Sign, { width, height, material }: KindAnswers, thickness: number, cornerRadius: number): void {
  sign.blank = { outline: { kind: 'rectangle', width, height, cornerRadius: tidy(cornerRadius) }, thickness, material };
}

interface Line {
  readonly words: string;
  readonly font: string;
  /** Most that its capitals are high, and its frame's room, in mm. */
  readonly capHeight: number;
  readonly room: { readonly width: number; readonly height: number };
  readonly x?: number;
  readonly y?: number;
  readonly action: Action;
  readonly on?: string;
}

/** A line of words that keeps to its room: narrowed and made smaller where it is longer. */
function addLine(sign: Sign, { words, font, capHeight, room, x = 0, y = 0, action, on }: Line): TextPart {
  const part: TextPart = {
    ...newText(sign, font),
    words,
    size: { kind: 'capitals', height: tidy(capHeight), stretch: 100 },
    frame: {
      width: tidy(room.width),
      height: tidy(room.height),
      marginAcross: NO_MARGIN,
      marginUp: NO_MARGIN,
      upright: 'middle',
      fit: [
        { kind: 'tighten', floor: -3 },
        { kind: 'narrow', floor: 75 },
        { kind: 'reduce', floor: 10 },
      ],
    },
    place: { x: tidy(x), y: tidy(y), turn: 0, mirror: false },
    tiers: [newTier('tier-1', action)],
    ...(on !== undefined && { sitsOn: { kind: 'part', part: on, at: 'floor' } as const }),
  };
  sign.parts.push(part);
  return part;
}

/** A shape with its sizes, what is made of it, and what it sits on. */
function addShape(sign: Sign, kind: Parameters<typeof newShape>[1], sizes: object, action: Action, on?: string): ShapePart {
  const made = newShape(sign, kind);
  const part = {
    ...made,
    shape: { ...made.shape, ...sizes } as ShapePart['shape'],
    tiers: [newTier('tier-1', action)],
    ...(on !== undefined && { sitsOn: { kind: 'part', part: on, at: 'floor' } as const }),
  };
  sign.parts.push(part);
  return part;
}

const linesOf = (words: string): string[] => words.split('\n').map((line) => line.trim()).filter((line) => line !== ''); // prettier-ignore

/** A heading, and what is left of the words below it. */
function headed(words: string): { readonly first: string; readonly rest: string } {
  const [first = '', ...rest] = linesOf(words);
  return { first, rest: rest.join('\n') };
}

function panel(sign: Sign, answers: KindAnswers): void {
  const { width, height } = answers;
  rectangle(sign, answers, 19, share(answers, 0.05, 0));
  const margin = share(answers, 0.08, 2);
  const sunk = { width: tidy(width - 2 * margin), height: tidy(height - 2 * margin), cornerRadius: share(answers, 0.03, 0) };
  const { id } = addShape(sign, 'rectangle', sunk, { kind: 'carve', by: 4 });
  const inset = tidy(margin * 0.4);
  const band = Math.max(1, tidy(margin * 0.2));
  addShape(sign, 'border', { of: id, inset, width: band }, { kind: 'raise', by: 2 }, id);
  const room = { width: sunk.width - 4 * margin * 0.6 - 2 * band, height: sunk.height - 4 * margin * 0.6 - 2 * band };
  const { first, rest } = headed(answers.words);
  const hasRest = rest !== '';
  const share1 = hasRest ? 0.55 : 1;
  addLine(sign, {
    words: first,
    font: 'cinzel-bold',
    capHeight: room.height * (hasRest ? 0.34 : 0.45),
    room: { width: room.width, height: room.height * share1 },
    y: hasRest ? room.height * 0.225 : 0,
    action: { kind: 'raise', by: 5 },
    on: id,
  });
  if (hasRest)
    addLine(sign, {
      words: rest,
      font: 'lora-bold',
      capHeight: room.height * 0.17,
      room: { width: room.width, height: room.height * 0.42 },
      y: -room.height * 0.28,
      action: { kind: 'raise', by: 4 },
      on: id,
    });
}

function nameplate(sign: Sign, answers: KindAnswers): void {
  const { width, height, words } = answers;
  rectangle(sign, answers, 3, share(answers, 0.06, 0));
  const diameter = Math.min(4.2, share(answers, 0.1, 1));
  // Its own width from the edge, or it may break out.
  const inset = Math.max(tidy(diameter * 1.6), share(answers, 0.15, 1.6));
  addShape(sign, 'fixings', { diameter, inset, places: 'sides', count: 2 }, { kind: 'cut-through' });
  addLine(sign, {
    words,
    font: 'barlow-semibold',
    capHeight: height * 0.32,
    room: { width: width - 4 * inset - diameter, height: height * 0.76 },
    action: { kind: 'carve', by: 0.6 },
  });
}

function keyTag(sign: Sign, answers: KindAnswers): void {
  const { width, height, words } = answers;
  rectangle(sign, answers, 3, 0);
  const bar = tidy(height * 0.4);
  const hole = Math.min(5, tidy(bar * 0.5));
  const text = addLine(sign, {
    words,
    font: 'roboto-slab-bold',
    capHeight: height * 0.7,
    room: { width: width - 3 * hole - 2, height: height * 0.98 },
    action: { kind: 'raise', by: 0 },
  });
  text.tiers = [];
  const beyond = { left: tidy(2.4 * hole), right: 1 };
  sign.blank.cutTo = {
    parts: [text.id],
    backer: { kind: 'bar', y: 0, height: bar, thickness: 2, beyond, ends: 'round', hole: { diameter: hole, end: 'left', edge: tidy(hole * 0.5) } },
  }; // prettier-ignore
}

/** A plate whose words are kept within a rim that follows it. */
function rimmed(sign: Sign, answers: KindAnswers, outline: Sign['blank']['outline'], inner: number): void {
  sign.blank = { outline, thickness: 10, material: answers.material };
  addShape(
    sign,
    'border',
    { of: 'blank', inset: share(answers, 0.05, 1), width: share(answers, 0.025, 0.6) },
    { kind: 'raise', by: 2 },
  );
  const { first, rest } = headed(answers.words);
  const size = Math.min(answers.width, answers.height) * inner;
  const hasRest = rest !== '';
  addLine(sign, {
    words: first,
    font: 'barlow-bold',
    capHeight: size * (hasRest ? 0.3 : 0.4),
    room: { width: size, height: size * (hasRest ? 0.5 : 0.9) },
    y: hasRest ? size * 0.17 : 0,
    action: { kind: 'raise', by: 2 },
  });
  if (hasRest)
    addLine(sign, {
      words: rest,
      font: 'barlow-semibold',
      capHeight: size * 0.13,
      room: { width: size * 0.9, height: size * 0.36 },
      y: -size * 0.28,
      action: { kind: 'raise', by: 1.5 },
    });
}

/** Letters that are cut out of a sheet as large as the size that was asked. */
function cutLetters(sign: Sign, answers: KindAnswers, thickness: number, font: string): TextPart {
  rectangle(sign, answers, thickness, 0);
  const text = addLine(sign, {
    words: answers.words,
    font,
    capHeight: answers.height * 0.66,
    room: { width: answers.width * 0.96, height: answers.height * 0.96 },
    action: { kind: 'raise', by: 0 },
  });
  text.tiers = [];
  sign.blank.cutTo = { parts: [text.id] };
  return text;
}

function studded(sign: Sign, answers: KindAnswers): void {
  const text = cutLetters(sign, answers, 12, 'montserrat-bold');
  const diameter = Math.min(4, share(answers, 0.02, 1));
  sign.blank.cutTo = { parts: [text.id], studs: { diameter, depth: 8, edge: Math.min(2, diameter), count: 2 } };
}

function hollow(sign: Sign, answers: KindAnswers): void {
  const text = cutLetters(sign, answers, 30, 'montserrat-bold');
  const diameter = Math.min(4, share(answers, 0.02, 1));
  const studs = { diameter, depth: 20, edge: Math.min(2, diameter), count: 2 };
  sign.blank.cutTo = { parts: [text.id], hollow: { wall: Math.min(3, share(answers, 0.012, 0.5)), face: 3 }, studs };
}

function buttons(sign: Sign, answers: KindAnswers): void {
  const { width, height, words } = answers;
  rectangle(sign, answers, 1.6, share(answers, 0.05, 0));
  sign.blank.laminate = { cap: 0.2, capColour: 'white', coreColour: 'black' };
  const { first, rest } = headed(words);
  const labels = linesOf(rest);
  const count = Math.max(1, labels.length);
  const step = tidy((width * 0.94) / count);
  // Openings keep their own width from the edge.
  const diameter = tidy(Math.min(22.3, step * 0.35, height * 0.23));
  addLine(sign, {
    words: first,
    font: 'barlow-bold',
    capHeight: height * 0.11,
    room: { width: width * 0.94, height: height * 0.2 },
    y: height * 0.36,
    action: { kind: 'carve', by: 0.3 },
  });
  const opening = addShape(sign, 'circle', { diameter }, { kind: 'cut-through' });
  opening.place = { ...opening.place, y: tidy(-height * 0.14) };
  opening.name = 'Windows';
  if (count > 1) opening.copies = { kind: 'row', count, stepX: step, stepY: 0 };
  labels.forEach((label, i) =>
    addLine(sign, {
      words: label,
      font: 'barlow-semibold',
      capHeight: height * 0.07,
      room: { width: step * 0.92, height: height * 0.12 },
      x: (i - (count - 1) / 2) * step,
      y: height * 0.15,
      action: { kind: 'carve', by: 0.3 },
    }),
  );
}

/** Names in columns under a heading: two from ten names on, three from thirty. */
function donors(sign: Sign, answers: KindAnswers): void {
  const { width, height, words } = answers;
  rectangle(sign, answers, 12, share(answers, 0.02, 0));
  const [first = '', ...names] = linesOf(words);
  const columns = names.length >= 30 ? 3 : names.length >= 10 ? 2 : 1;
  const inner = { width: width * 0.9, height: height * 0.9 };
  addLine(sign, {
    words: first,
    font: 'cinzel-bold',
    capHeight: inner.height * 0.06,
    room: { width: inner.width, height: inner.height * 0.14 },
    y: inner.height * 0.43,
    action: { kind: 'raise', by: 2 },
  });
  const perColumn = Math.ceil(names.length / columns);
  const each = inner.width / columns;
  for (let column = 0; column < columns; column++) {
    const own = names.slice(column * perColumn, (column + 1) * perColumn);
    if (own.length === 0) continue;
    const room = { width: each * 0.94, height: inner.height * 0.8 };
    addLine(sign, {
      words: own.join('\n'),
      font: 'eb-garamond-semibold',
      capHeight: Math.min(room.height / (perColumn * 1.7), inner.height * 0.03),
      room,
      x: (column - (columns - 1) / 2) * each,
      y: -inner.height * 0.07,
      action: { kind: 'raise', by: 1.5 },
    });
  }
}

const usual = (words: string, width: number, height: number, material: string): KindAnswers => ({
  words,
  width,
  height,
  material,
});

/** The kinds that every shop has, in the order in which they are offered. */
export const SIGN_KINDS: readonly SignKind[] = [
  {
    id: 'panel',
    name: 'Recessed panel',
    says: 'A sunk panel with a rim in it, and two lines raised from its floor.',
    wordsFor: 'The first line large, the others below it',
    sizeOf: 'the blank',
    usual: usual('Fernhollow\nArboretum', 500, 260, 'oak'),
    build: panel,
  },
  {
    id: 'nameplate',
    name: 'Nameplate',
    says: 'A thin plate with engraved words and two fixing holes.',
    wordsFor: 'What is engraved',
    sizeOf: 'the plate',
    usual: usual('Wren Alder', 160, 45, 'brass'),
    build: nameplate,
  },
  {
    id: 'key-tag',
    name: 'Key tag on a bar',
    says: 'A cut-out word on a bar with round ends and a hole for the ring.',
    wordsFor: 'The word',
    sizeOf: 'the tag',
    usual: usual('Boathouse', 90, 18, 'acrylic'),
    build: keyTag,
  },
  {
    id: 'octagon',
    name: 'Octagon with a rim',
    says: 'An octagonal plate with a raised rim and raised words.',
    wordsFor: 'The first line large, the others below it',
    sizeOf: 'the plate, across its corners',
    usual: usual('Pier 4\nno mooring', 240, 240, 'aluminium'),
    isEven: true,
    build: (sign, answers) =>
      rimmed(
        sign,
        answers,
        { kind: 'polygon', sides: 8, diameter: Math.min(answers.width, answers.height), stands: 'flat' },
        0.66,
      ),
  },
  {
    id: 'round',
    name: 'Round plate with a rim',
    says: 'A round plate with a raised rim and raised words.',
    wordsFor: 'The first line large, the others below it',
    sizeOf: 'the plate, its diameter',
    usual: usual('12\nWillow walk', 160, 160, 'bronze'),
    isEven: true,
    build: (sign, answers) => rimmed(sign, answers, { kind: 'circle', diameter: Math.min(answers.width, answers.height) }, 0.62),
  },
  {
    id: 'letters',
    name: 'Flat-cut letters',
    says: 'Letters cut from a sheet, with holes for studs behind.',
    wordsFor: 'The letters',
    sizeOf: 'the sheet that they are cut from',
    usual: usual('QUILL', 600, 180, 'acrylic'),
    build: studded,
  },
  {
    id: 'hollow',
    name: 'Hollow letters',
    says: 'Deep letters that are hollow from behind, to be filled or lit, on studs.',
    wordsFor: 'The letters',
    sizeOf: 'the sheet that they are cut from',
    usual: usual('PIER', 600, 240, 'PETG'),
    build: hollow,
  },
  {
    id: 'buttons',
    name: 'Button plate',
    says: 'A two-ply plate with a heading, and a window with a label for every button.',
    wordsFor: 'The heading, then a label a line',
    sizeOf: 'the plate',
    usual: usual('BILGE PUMPS\nforward\nengine\naft', 200, 110, 'engraving laminate'),
    build: buttons,
  },
  {
    id: 'donors',
    name: 'Names in columns',
    says: 'A heading, and raised names in as many columns as they need.',
    wordsFor: 'The heading, then a name a line',
    sizeOf: 'the blank',
    usual: usual(
      'Friends of Fernhollow\nAlder Wren\nBirch Tye\nCedar Lark\nElm Waverley\nHazel Thorne\nHolly Marsh\nIvy Renn\nJuniper Moss\nLinden Vale\nMaple Tamsin',
      420,
      320,
      'bronze',
    ),
    build: donors,
  },
  {
    id: 'bare',
    name: 'Bare blank',
    says: 'Nothing but the blank.',
    sizeOf: 'the blank',
    usual: usual('', 300, 200, ''),
    build: (sign, answers) => rectangle(sign, answers, 12, 6 <= Math.min(answers.width, answers.height) / 2 ? 6 : 0),
  },
];

/** A sign of a kind, from the answers to what it asks. */
export function signOfKind(kind: SignKind, title: string, unit: LengthUnit, answers: KindAnswers): Sign {
  const sign = newSign(title, unit);
  sign.blank.material = answers.material;
  kind.build(sign, answers);
  return sign;
}

/**
 * A sign begun from another that the shop keeps as a kind of its own: its words line by line in place of those there, its blank's
 * width, and its material.
 */
export function signLike(kept: Sign, title: string, answers: Partial<Pick<KindAnswers, 'words' | 'material'>>): Sign {
  const sign = JSON.parse(JSON.stringify(kept)) as Sign;
  sign.title = title;
  if (answers.material !== undefined) sign.blank.material = answers.material;
  const texts = sign.parts.filter((part): part is Extract<Part, { kind: 'text' }> => part.kind === 'text');
  const lines = linesOf(answers.words ?? '');
  texts.forEach((text, i) => {
    if (lines.length === 0) return;
    // The last one takes what is left.
    text.words = i < texts.length - 1 ? (lines[i] ?? '') : lines.slice(i).join('\n');
    delete text.letters;
  });
  return sign;
}
