/**
 * How a program turns its work about an axis of the machine instead of moving the tool across it: lengths round are angles, A in degrees, and the
 * face of the work, where heights are 0, is so far from that axis. A counts in the direction of the coordinate that it stands for.
 */
export interface Rotary {
  /** mm from the axis to the face. */
  readonly radius: number;
  /** The axis of the machine that the work turns about; lengths along it are written for that axis. */
  readonly along: 'x' | 'y';
  /** The coordinate of the plan that goes round. */
  readonly round: 'x' | 'y';
}

/** A comment in which a program says so, as it is written first of all: "A turns the work about Y, X of the plan goes round, the face 90 mm from the axis". */
export const rotaryWords = ({ radius, along, round }: Rotary): string =>
  `A turns the work about ${along.toUpperCase()}, ${round.toUpperCase()} of the plan goes round, the face ${radius} mm from the axis`;

const SAID = /A turns the work about ([XY]), ([XY]) of the plan goes round, the face (\d+(?:\.\d+)?) mm from the axis/u;

/** What a line of a program says of turning its work; undefined where it says nothing. */
export function rotarySaid(line: string): Rotary | undefined {
  const said = SAID.exec(line);
  if (!said) return undefined;
  const [along, round] = [said[1], said[2]].map((axis) => axis.toLowerCase() as 'x' | 'y');
  return { along, round, radius: Number(said[3]) };
}

/** mm round by degrees. */
export const roundOf = (degrees: number, { radius }: Rotary): number => ((degrees * Math.PI) / 180) * radius;
export const degreesOf = (mm: number, { radius }: Rotary): number => (mm / radius) * (180 / Math.PI);
