/** Colours of a DXF drawing's numbered palette: seven plain ones, then twenty-four hues in ten shades, then greys. From memory. */

const PLAIN = ['#000000', '#ff0000', '#ffff00', '#00ff00', '#00ffff', '#0000ff', '#ff00ff', '#000000', '#808080', '#c0c0c0'];
const SHADES = [1, 0.65, 0.5, 0.3, 0.15];

const byte = (part: number): string => Math.round(255 * part).toString(16).padStart(2, '0'); // prettier-ignore

/** The colour of a number of the palette, “#rrggbb”. White, which is drawn black on paper, is black. */
export function paletteColour(index: number): string {
  if (index < 10) return PLAIN[Math.max(0, index)];
  if (index >= 250) return `#${byte((index - 249) / 6).repeat(3)}`;
  const hue = Math.floor((index - 10) / 10) * 15;
  const value = SHADES[Math.floor((index % 10) / 2)];
  const low = index % 2 === 0 ? 0 : value / 2;
  const channel = (shift: number): number => {
    const k = (shift + hue / 60) % 6;
    return value - (value - low) * Math.max(0, Math.min(k, 4 - k, 1));
  };
  return `#${byte(channel(5))}${byte(channel(3))}${byte(channel(1))}`;
}

/** A true colour, 0xrrggbb, as “#rrggbb”. */
export const trueColour = (rgb: number): string => `#${(rgb & 0xffffff).toString(16).padStart(6, '0')}`;
