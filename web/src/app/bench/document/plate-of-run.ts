import { type PlateSign, plateSign } from '@plain-relief/core/runs';
import { type Sign } from '@plain-relief/core/sign';
import type { Api } from '../../platform/api';

/** Which plate of a run is to be shown on the bench. */
export interface AskedPlate {
  readonly run: string;
  /** Id of its row. */
  readonly row: number;
}

/** The plate that an address asks for; undefined where it asks for the sign. */
export const askedPlate = (run: string | undefined, row: string | undefined): AskedPlate | undefined =>
  run && row && /^\d{1,10}$/u.test(row) ? { run, row: Number(row) } : undefined;

/** A plate as the bench shows it, of which run. */
export interface ShownPlate extends PlateSign {
  readonly run: string;
  readonly title: string;
}

/** The plate of a sign's run as it will be made. @throws Error with a sentence where there is none */
export async function plateOfRun(api: Api, id: string, sign: Sign, { run, row }: AskedPlate): Promise<ShownPlate> {
  const { title, document } = await api.ask('GET /runs/:id', { params: { id: run } });
  if (document.sign !== id) throw new Error('This run is of another sign: open its plates from the run.');
  const plate = await plateSign(
    sign,
    document,
    row,
    async (words, table) => (await api.ask('POST /braille', { body: { words, table } })).cells,
  );
  if (!plate) throw new Error(`This plate is in the list of ${title} no more: open another one from the run.`);
  return { run, title, ...plate };
}
