import { blankAllRound, type Sign, type Support } from '../src/sign/index.js';
import { bareSign } from './signs.js';

/** A bare sign that goes all the way round: its blank is as wide as that. */
export function roundSign(support: Support, height: number, thickness: number): Sign {
  const sign = bareSign(10, height, thickness);
  sign.blank.outline = blankAllRound(support, height)!;
  return { ...sign, support };
}

/** A sheet with two legs of 100 mm and a right angle of 3 mm inside between them. */
export const TENT: Support = {
  kind: 'bent',
  neutral: 40,
  pieces: [
    { kind: 'straight', length: 100 },
    { kind: 'arc', radius: 3, angle: 90, bends: 'away' },
    { kind: 'straight', length: 100 },
  ],
};
