import { colord, extend, type Plugin } from 'colord';
import namesPlugin from 'colord/plugins/names';
import { type Finish, type Sign } from './schema.js';

// The package's types describe its other module form.
extend([namesPlugin as unknown as Plugin]);

/** Value of a choice that stands for the material itself. */
export const BARE = 'bare';

/** The colour that one word names: that of a finish at hand, else one of CSS (W3C, CSS Color 4). */
export function colourOfWord(word: string): string | undefined {
  const small = word.toLowerCase();
  const known = FINISHES.find((finish) => finish.name === small);
  if (known) return known.colour;
  const colour = /^[a-z]{3,}$/u.test(small) ? colord(small) : undefined;
  return colour?.isValid() && colour.alpha() === 1 ? colour.toHex().slice(0, 7) : undefined;
}

/** The finish that a colour by its name stands for: one at hand, else a colour of CSS (W3C, CSS Color 4), else a pale one. */
export function finishNamed(name: string): Finish {
  const known = FINISHES.find((finish) => finish.name === name.trim().toLowerCase());
  if (known) return known;
  const colour = colord(name.trim().toLowerCase());
  return colour.isValid()
    ? { id: `colour-${colour.toHex().slice(1, 7)}`, name, colour: colour.toHex().slice(0, 7), gloss: 'satin' }
    : { id: `colour-${name}`, name, colour: '#e4ddcd', gloss: 'matt' };
}

const GLOSS: Readonly<Record<Finish['gloss'], string>> = { matt: 'matt', satin: 'satin', gloss: 'glossy', metal: 'metallic' };

/** "moss green, matt"; of bare material what it is: "oak, bare". */
export function finishWords({ id, name, gloss }: Finish, material: string): string {
  if (id === BARE) return material ? `${material}, bare` : name;
  return id.startsWith(`${BARE} `) ? `${name || 'insert'}, bare` : `${name}, ${GLOSS[gloss]}`;
}

/** Finishes at hand in every sign: a few paints, leaf and metals. Colours are ours. */
export const FINISHES: readonly Finish[] = [
  { id: 'white', name: 'white', colour: '#f4f3ee', gloss: 'satin' },
  { id: 'ivory', name: 'ivory', colour: '#ece2c6', gloss: 'matt' },
  { id: 'black', name: 'black', colour: '#1f1f1d', gloss: 'satin' },
  { id: 'graphite', name: 'graphite', colour: '#4b4d4f', gloss: 'matt' },
  { id: 'signal-red', name: 'signal red', colour: '#a5281f', gloss: 'gloss' },
  { id: 'moss', name: 'moss green', colour: '#4d5b3a', gloss: 'matt' },
  { id: 'verdigris', name: 'verdigris', colour: '#3f7d6e', gloss: 'matt' },
  { id: 'harbour-blue', name: 'harbour blue', colour: '#2d4c6b', gloss: 'satin' },
  { id: 'ochre', name: 'ochre', colour: '#b9852f', gloss: 'matt' },
  { id: 'gold-leaf', name: 'gold leaf', colour: '#d3a93f', gloss: 'metal' },
  { id: 'brass', name: 'brass', colour: '#b89a4e', gloss: 'metal' },
  { id: 'bronze', name: 'bronze', colour: '#7c5a36', gloss: 'metal' },
  { id: 'aluminium', name: 'aluminium', colour: '#b9bcbe', gloss: 'metal' },
  { id: 'slate', name: 'slate', colour: '#565b60', gloss: 'matt' },
  { id: 'oak', name: 'oak, oiled', colour: '#b08a58', gloss: 'matt' },
];

/** The finish of an id: one of the sign's own, else one of those at hand. */
export const finishOf = (sign: Sign, id: string | undefined): Finish | undefined =>
  id === undefined
    ? undefined
    : (sign.finishes?.find((finish) => finish.id === id) ?? FINISHES.find((finish) => finish.id === id));

/** Bare material, the sign's own finishes, the shop's, and those at hand, as values of a choice. */
export function finishChoices(sign: Sign, ofShop: readonly Finish[] = []): (readonly [string, string])[] {
  const all = new Map([...FINISHES, ...ofShop, ...(sign.finishes ?? [])].map((finish) => [finish.id, finish.name]));
  const order = [...(sign.finishes ?? []), ...ofShop, ...FINISHES].map(({ id }) => id);
  return [[BARE, 'bare'] as const, ...[...new Set(order)].map((id) => [id, all.get(id)!] as const)];
}

/** Sets one place of a finish in a sign that may be changed; a finish at hand, or of the shop, becomes one of the sign's own. */
export function chooseFinish(
  sign: Sign,
  holder: { finish?: Record<string, string> },
  place: string,
  id: string,
  ofShop: readonly Finish[] = [],
): void {
  if (id === BARE) {
    const { [place]: gone, ...rest } = holder.finish ?? {};
    if (gone === undefined) return;
    if (Object.keys(rest).length > 0) holder.finish = rest;
    else delete holder.finish;
    return;
  }
  const finish = finishOf(sign, id) ?? ofShop.find((each) => each.id === id);
  if (!finish) return;
  if (!sign.finishes?.some((own) => own.id === id)) sign.finishes = [...(sign.finishes ?? []), finish];
  holder.finish = { ...holder.finish, [place]: id };
}

/** Channels of an sRGB colour as light, 0 to 1 (transfer function of IEC 61966-2-1). */
export const linearColour = (hex: string): readonly [number, number, number] => {
  const channel = (at: number): number => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  };
  return [channel(1), channel(3), channel(5)];
};

/**
 * Light reflectance value of a colour in percent: its relative luminance (WCAG 2, "relative luminance", which takes the weights of
 * ITU-R BT.709).
 */
export function lightReflectance(hex: string): number {
  const [r, g, b] = linearColour(hex);
  return 100 * (0.2126 * r + 0.7152 * g + 0.0722 * b);
}
