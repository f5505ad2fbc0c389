import { plateOf, type PlateState, type Run, signOfRun, valuesOfRun } from '@plain-relief/core/runs';
import { type Evaluator } from '@plain-relief/core/relief';
import { type Sign } from '@plain-relief/core/sign';
import { rowBraille } from '../braille/row-braille.js';
import { type ContactPlate, drawContact } from './contact-grid.js';
import { pictureOfPlate } from './plate-picture.js';
import { type Sheet } from './sheet.js';
import type { Report } from './sign-pages.js';

/** A run with its sign, as both were frozen. */
export interface PlatesOfProof {
  readonly title: string;
  readonly sign: Sign;
  readonly run: Run;
}

/** mm that a plate has at least, across and down. */
const LEAST = { across: 48, down: 40 };
/** Plates that are drawn at most: a sheet of more is none to look through. */
export const MOST_DRAWN = 400;

const STATES: Readonly<Record<PlateState, string>> = {
  fits: '',
  fitted: 'made to fit',
  'too large': 'too large',
  lacking: 'something is missing',
  refused: 'not made',
};

/** Every plate of the runs as it will look, with its number in the list. */
export async function platePages(
  sheet: Sheet,
  runs: readonly PlatesOfProof[],
  evaluator: Evaluator,
  report: Report,
): Promise<void> {
  const { x, y, width, height } = sheet.body;
  const [across, down] = [Math.floor(width / LEAST.across), Math.floor((height - 6) / LEAST.down)];
  const perPage = across * down;
  for (const { title, sign, run } of runs) {
    const values = valuesOfRun(sign, run);
    const made = signOfRun(sign, run);
    const count = Math.min(MOST_DRAWN, values.length);
    const cellsOf = await rowBraille(sign, values.slice(0, count).map((own, i) => ({ values: own, corrections: run.rows[i].corrections }))); // prettier-ignore
    for (let from = 0; from < count; from += perPage) {
      const to = Math.min(count, from + perPage);
      const plates = values.slice(from, to).map((own, i): ContactPlate => {
        const plate = plateOf(made, own, evaluator, run.rows[from + i].corrections, cellsOf);
        return { row: from + i, title: plate.sign.title, state: STATES[plate.state], ...(plate.evaluation && { picture: pictureOfPlate(plate.evaluation) }) }; // prettier-ignore
      });
      sheet.start();
      sheet.heading(`${title}: plates ${from + 1} to ${to} of ${values.length}`, x, y + 3);
      drawContact(sheet.pdf, plates, { x, y: y + 6, width, height: height - 6, across, down });
      const more = to === count && count < values.length ? ` The other ${values.length - count} are at the address of this proof.` : ''; // prettier-ignore
      sheet.end(title, '', `Not to scale.${more}`);
      await report(to / count, `plates of ${title}`);
    }
  }
}
