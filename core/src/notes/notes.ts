import { formatArea, formatLength, type LengthUnit } from '../units/index.js';
import { SUPPORT_NOTES } from './support-notes.js';

/** What the software decided, or what will not work, in a sentence with its number. */
export interface Note {
  readonly code: NoteCode;
  /** `said`: a decision to know of; `warning`: it can be made but hardly as meant; `error`: something is missing. */
  readonly weight: 'said' | 'warning' | 'error';
  readonly text: string;
  readonly part?: string;
  readonly tier?: string;
  /** What would mend it, and can be done with one click. */
  readonly remedy?: Remedy;
  /** The place in the plan, in mm. */
  readonly x?: number;
  readonly y?: number;
}

/** What mends what a note tells. */
export type Remedy =
  /** Bridges that hold the islands of a part that is cut through. */
  | { readonly kind: 'bridges' }
  /** A plate behind letters that nothing holds. */
  | { readonly kind: 'backer' }
  /** A later place in the build order: after another part. */
  | { readonly kind: 'later'; readonly after: string }
  /** Another font, by its id and name. */
  | { readonly kind: 'font'; readonly font: string; readonly name: string };

export type NoteCode = keyof typeof NOTES;

const list = (names: readonly string[], most: number): string => {
  const shown = names.slice(0, most);
  const rest = names.length - shown.length;
  if (rest > 0) return `${shown.join(', ')} and ${rest} more`;
  return shown.length < 2 ? shown.join('') : `${shown.slice(0, -1).join(', ')} and ${shown[shown.length - 1]}`;
};

/** "U+05D0": a character is named also where no font shows it. */
const codeOf = (character: string): string => `U+${character.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`;

/** Percent with a decimal where it says something. */
const figure = (value: number): string => String(Number(value.toFixed(1))).replace('-', '−');

const grownBy = (by: number, unit: LengthUnit): string =>
  by < 0 ? `shrunk by ${formatLength(-by, unit)}` : `grown by ${formatLength(by, unit)}`;

/** The catalogue of notes. */
export const NOTES = {
  'missing-characters': (name: string, characters: readonly string[], font: string, others: readonly string[]) => {
    const isOne = characters.length === 1;
    const shown = characters.map((character) => `“${character}” (${codeOf(character)})`);
    const have = others.length === 1 ? 'has' : 'have';
    return {
      weight: 'error',
      text:
        `${name}: ${font} has no ${list(shown, 4)}; ${isOne ? 'a space stands in its place' : 'spaces stand in their places'}. ` +
        (others.length > 0
          ? `${list(others, 4)} ${have} ${isOne ? 'it' : 'them all'}.`
          : `No font at hand has ${isOne ? 'it' : 'them all'}.`),
    } as const;
  },
  'unknown-font': (name: string, font: string) =>
    ({ weight: 'error', text: `${name} is set in “${font}”, which is not a font at hand: choose another.` }) as const,
  /** @param words that it is to say @param isCorrected whether its cells were corrected by hand */
  'braille-stale': (name: string, words: string, isCorrected: boolean) =>
    ({
      weight: 'error',
      text:
        `${name}: its cells are not those of “${list(words.split('\n'), 3)}”` +
        (isCorrected ? ': they were corrected by hand before the words became these.' : ': they are yet to be translated.'),
    }) as const,
  'braille-mirrored': (name: string) =>
    ({ weight: 'error', text: `${name} is mirrored, and nobody can read it: mirror it back.` }) as const,
  'braille-too-wide': (name: string, widest: number, room: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name} has a word of ${formatLength(widest, unit)} in a room of ${formatLength(room, unit)}: words are not parted.`,
    }) as const,
  /** @param why what keeps a code from being made, in words after a colon */
  'code-unmade': (name: string, why: string) => ({ weight: 'error', text: `${name} is not made: ${why}.` }) as const,
  'no-words': (name: string) => ({ weight: 'said', text: `${name} has no words yet.` }) as const,
  'over-edge': (name: string, by: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name} runs ${formatLength(by, unit)} over the edge of the blank; what lies outside is not made.`,
    }) as const,
  'off-blank': (name: string) =>
    ({ weight: 'error', text: `${name} lies wholly outside the blank; nothing of it is made.` }) as const,
  'too-far': (name: string) =>
    ({
      weight: 'error',
      text: `${name} reaches further than 4 m from the middle of the blank and is left out: bring it nearer, or make it smaller.`,
    }) as const,
  /** @param ground the highest that is there before it; undefined where all of it is cut through */
  'not-seen': (name: string, level: number, ground: number | undefined, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text:
        ground === undefined
          ? `${name} lies where the sign is cut through, and can be neither seen nor cut.`
          : Math.abs(level - ground) < 1e-6
            ? `${name} is at the level of its ground (${formatLength(level, unit)}) and can be neither seen nor cut.`
            : `${name} comes to ${formatLength(level, unit)}, and its ground is at ${formatLength(ground, unit)}: it can be neither seen nor cut.`,
    }) as const,
  buried: (name: string, over: string) =>
    ({
      weight: 'warning',
      text: `Nothing of ${name} is left: ${over} is built after it, in its place. Build ${name} after ${over}.`,
    }) as const,
  'through-back': (name: string, depth: number, thickness: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text:
        `${name} is carved to ${formatLength(depth, unit)} in a blank ${formatLength(thickness, unit)} thick and comes out ` +
        `at the back: carve less, or cut through if that is meant.`,
    }) as const,
  'thin-floor': (left: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `The deepest carve leaves a floor of only ${formatLength(left, unit)}.`,
    }) as const,
  'loose-pieces': (count: number, largest: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text:
        count === 1
          ? `One piece of ${formatArea(largest, unit)} is cut loose and falls out.`
          : `${count} pieces are cut loose and fall out, the largest of ${formatArea(largest, unit)}.`,
    }) as const,
  'depths-meet': (front: string | undefined, back: string | undefined, thickness: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text:
        `${front ?? 'The face'} and ${back === undefined ? 'what is done from behind' : `${back} on the back`} meet in a blank ` +
        `${formatLength(thickness, unit)} thick and leave a hole: carve less on either side.`,
    }) as const,
  'too-high': (highest: number, limit: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `The sign stands ${formatLength(highest, unit)} above its face, ${formatLength(highest - limit, unit)} more than its height limit of ${formatLength(limit, unit)}.`,
    }) as const,
  'nothing-kept': () =>
    ({ weight: 'error', text: 'The blank is cut to letters that have no outline: nothing of it is left.' }) as const,
  'loose-letters': (count: number) =>
    ({
      weight: 'warning',
      text: `The letters are ${count} loose pieces that nothing holds: give them studs, or a plate behind.`,
    }) as const,
  'letters-apart': (count: number) => ({ weight: 'said', text: `The letters are ${count} pieces.` }) as const,
  'not-backed': (count: number) =>
    ({
      weight: 'warning',
      text: `With the plate behind they are still ${count} pieces: it does not reach all letters.`,
    }) as const,
  'backer-apart': (margin: number, joins: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `The letters grown by ${formatLength(margin, unit)} do not hang together: from ${formatLength(joins, unit)} on the plate behind is one piece.`,
    }) as const,
  'hole-in-bar': (diameter: number, height: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `The hole of ${formatLength(diameter, unit)} leaves nothing around it of a bar that is ${formatLength(height, unit)} high: make it smaller, or the bar higher or longer.`,
    }) as const,
  'hole-in-letters': (diameter: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `The hole of ${formatLength(diameter, unit)} in the bar goes through a letter, too: let the bar reach further at that end.`,
    }) as const,
  'few-studs': (pieces: number, count: number, least: number, diameter: number, edge: number, unit: LengthUnit) =>
    ({
      weight: least === 0 ? 'warning' : 'said',
      text:
        `${pieces === 1 ? 'One piece has' : `${pieces} pieces have`} no room for ${count === 1 ? 'a stud' : `${count} studs`} of ` +
        `${formatLength(diameter, unit)}, ${formatLength(edge, unit)} from the edge; the smallest takes ${least === 0 ? 'none' : least}.`,
    }) as const,
  'stud-depth': (depth: number, thickness: number, unit: LengthUnit) =>
    ({
      weight: 'error',
      text: `Stud holes ${formatLength(depth, unit)} deep come out at the face of letters ${formatLength(thickness, unit)} thick.`,
    }) as const,
  'hollow-face': (face: number, thickness: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `Nothing is hollow: faces of ${formatLength(face, unit)} take all of ${formatLength(thickness, unit)}.`,
    }) as const,
  'hollow-narrow': (pieces: number, wall: number, unit: LengthUnit) =>
    ({
      weight: 'said',
      text: `${pieces === 1 ? 'One piece is' : `${pieces} pieces are`} too narrow for walls of ${formatLength(wall, unit)} and ${pieces === 1 ? 'stays' : 'stay'} full.`,
    }) as const,
  'no-blank': () =>
    ({
      weight: 'error',
      text: 'The outline of the blank encloses nothing: a square of 1 mm stands for it. Give it a size, or an outline that closes.',
    }) as const,
  'no-material': () => ({ weight: 'error', text: 'Nothing of the blank is left.' }) as const,
  'radius-reduced': (name: string, asked: number, made: number, unit: LengthUnit) =>
    ({
      weight: 'said',
      text: `${name}: a corner radius of ${formatLength(asked, unit)} does not fit and became ${formatLength(made, unit)}, half the shorter side.`,
    }) as const,
  'rise-reduced': (name: string, asked: number, made: number, unit: LengthUnit) =>
    ({
      weight: 'said',
      text: `${name}: an arc rising ${formatLength(asked, unit)} does not fit and rises ${formatLength(made, unit)}, half the width.`,
    }) as const,
  'nothing-left': (name: string) =>
    ({ weight: 'warning', text: `${name}: nothing is left of its outline; look at what it follows and at its inset.` }) as const,
  tightened: (name: string, tracking: number) =>
    ({ weight: 'said', text: `${name} tightened to a tracking of ${figure(tracking)} % to fit its frame.` }) as const,
  narrowed: (name: string, percent: number) =>
    ({ weight: 'said', text: `${name} narrowed to ${figure(percent)} % to fit its frame.` }) as const,
  reduced: (name: string, percent: number) =>
    ({ weight: 'said', text: `${name} reduced to ${figure(percent)} % of its size to fit its frame.` }) as const,
  wrapped: (name: string, lines: number) =>
    ({ weight: 'said', text: `${name} broken into ${lines} lines to fit its frame.` }) as const,
  'too-large': (name: string, across: number, up: number, unit: LengthUnit) => {
    const over = [across > 0 ? `${formatLength(across, unit)} too wide` : '', up > 0 ? `${formatLength(up, unit)} too high` : ''];
    return {
      weight: 'warning',
      text: `${name} does not fit its frame: ${over.filter(Boolean).join(' and ')}. Allow more of it, or another way to fit.`,
    } as const;
  },
  'past-end': (name: string, by: number, unit: LengthUnit) =>
    ({ weight: 'warning', text: `${name} runs ${formatLength(by, unit)} past the end of the line it is set on.` }) as const,
  'no-track': (name: string, host: string) =>
    ({
      weight: 'warning',
      text: `${name} is set on ${host}, which has no outline to follow; it stands straight instead.`,
    }) as const,
  'offset-swallowed': (name: string, by: number, largest: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name}: ${grownBy(by, unit)} nothing is left of its outline; at most ${formatLength(largest, unit)} works.`,
    }) as const,
  'area-loses': (name: string, by: number, count: number, largest: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text:
        `${name}: ${grownBy(by, unit)} ${count === 1 ? 'one of its pieces loses' : `${count} of its pieces lose`} a stroke or a counter; ` +
        `at most ${formatLength(largest, unit)} keeps them all.`,
    }) as const,
  'slope-short': (name: string, full: number, reached: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name}: its strokes are too narrow for these sides to come to ${formatLength(full, unit)}; the narrowest comes to ${formatLength(reached, unit)}.`,
    }) as const,
  'ridge-height': (name: string, level: number, unit: LengthUnit) =>
    ({
      weight: 'said',
      text: `${name} runs to the middle of its strokes and comes to ${level < 0 ? `a depth of ${formatLength(-level, unit)}` : formatLength(level, unit)}.`,
    }) as const,
  'open-strokes': (name: string, isText: boolean) =>
    ({
      weight: 'error',
      text: isText
        ? `${name} is set in a single-line font, which has no inside to raise or carve: choose “line engraved”, or another font.`
        : `${name} has lines that do not close, and nothing inside them to raise or carve: engrave them as lines, or close them.`,
    }) as const,
  hidden: (name: string) => ({ weight: 'said', text: `${name} is hidden and is not made until it is shown again.` }) as const,
  'copies-merge': (name: string, apart: number | undefined, unit: LengthUnit) =>
    ({
      weight: 'said',
      text: `${name}: its copies run into each other and are made as one outline; ${apart === undefined ? 'a larger radius or fewer of them keep' : `a step of more than ${formatLength(apart, unit)} keeps`} them apart.`,
    }) as const,
  'near-edge': (name: string, left: number, wanted: number, unit: LengthUnit) =>
    ({
      weight: 'warning',
      text: `${name} leaves only ${formatLength(left, unit)} to the edge of the blank and may break out: leave its own width, ${formatLength(wanted, unit)}, or more.`,
    }) as const,
  'no-tiers': (name: string) =>
    ({ weight: 'said', text: `${name} has nothing that is switched on and makes no difference.` }) as const,
  ...SUPPORT_NOTES,
};

/** Builds a note of the catalogue. */
export function note<C extends NoteCode>(
  code: C,
  at: Pick<Note, 'part' | 'tier' | 'x' | 'y' | 'remedy'>,
  ...args: Parameters<(typeof NOTES)[C]>
): Note {
  const make = NOTES[code] as (...values: unknown[]) => { weight: Note['weight']; text: string };
  return { code, ...make(...args), ...at };
}
