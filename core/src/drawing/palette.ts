/** Colours of drawings; height has one scale of its own wherever it is shown. */
export const INK = '#2b2a26';
export const PAPER = '#f4ecdc';
export const FAINT = '#8a8272';
/** The face of the blank, z = 0. */
export const FACE = '#efe4cc';

const CARVED_SHALLOW = [0xb4, 0xc3, 0xcf] as const;
const CARVED_DEEP = [0x3b, 0x55, 0x6b] as const;
const RAISED_LOW = [0xe6, 0xc2, 0x7a] as const;
const RAISED_HIGH = [0xb0, 0x74, 0x1f] as const;

/**
 * The colour of a height: carved runs to slate blue, the face is paper, raised runs to ochre.
 * @param z mm above the face
 * @param reach the greatest distance from the face on the sign, where the scale ends
 */
export function heightColour(z: number, reach: number): string {
  if (Math.abs(z) < 1e-9) return FACE;
  const share = Math.min(1, Math.abs(z) / Math.max(reach, 1e-9));
  const [from, to] = z < 0 ? [CARVED_SHALLOW, CARVED_DEEP] : [RAISED_LOW, RAISED_HIGH];
  const channel = (i: number) =>
    Math.round(from[i] + (to[i] - from[i]) * share)
      .toString(16)
      .padStart(2, '0');
  return `#${channel(0)}${channel(1)}${channel(2)}`;
}
