import { type OpenSolidError } from '@plain-relief/core/format';
import { type Sign } from '@plain-relief/core/sign';

/** What the makers of the application need of a file that was refused: the sign, what was wrong, and where. As JSON. */
export const faultReport = ({ file, edges, at }: OpenSolidError, document: Sign): string =>
  `${JSON.stringify({ fault: 'open solid', file, edges, at: { x: at[0], y: at[1], z: at[2] }, document }, null, 1)}\n`;
