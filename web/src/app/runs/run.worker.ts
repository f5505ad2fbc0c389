/// <reference lib="webworker" />
import { type PlateFile, type RunSheet } from '@plain-relief/core/runs';
import { type AskedMeans } from '@plain-relief/core/making';
import { type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';
import { expose, transfer } from 'comlink';
import { fetchBytes } from '../relief/fetch-bytes';
import type { AskedPlate, AskedRow } from './run-desk';

/** Cells of words, by the server; a worker asks by itself. @throws Error */
async function translated(words: string, table: string): Promise<string> {
  const headers = { 'content-type': 'application/json', 'x-plain-relief': 'page' };
  const answer = await fetch('/api/braille', { method: 'POST', headers, body: JSON.stringify({ words, table }) });
  if (!answer.ok) throw new Error(`The translation failed (${answer.status}).`);
  return ((await answer.json()) as { readonly cells: string }).cells;
}

// The shaping library waits for its WebAssembly before its module is ready; what the page asks meanwhile must be heard.
const desk = import('./run-desk').then(({ RunDesk }) => new RunDesk(fetchBytes, translated));

/** Plates of runs are laid out here; the page only shows. */
const counter = {
  told: async (sign: Sign, rows: readonly AskedRow[]) => (await desk).told(sign, rows),
  picture: async (sign: Sign, plate: AskedPlate, longest: number) => {
    const picture = await (await desk).picture(sign, plate, longest);
    return picture && transfer(picture, [picture.rgba.buffer]);
  },
  begin: async () => (await desk).begin(),
  add: async (sign: Sign, rows: readonly (AskedRow & { readonly row: number })[], kinds: readonly PlateFile[]) => (await desk).add(sign, rows, kinds), // prettier-ignore
  lay: async (sign: Sign, sheet: RunSheet, kinds: readonly PlateFile[], onProgress?: (done: number) => void) => (await desk).lay(sign, sheet, kinds, onProgress), // prettier-ignore
  programs: async (sign: Sign, sheet: number, shop: Shop, means: AskedMeans) => (await desk).programs(sign, sheet, shop, means),
  zipped: async (report: string) => {
    const bytes = (await desk).zipped(report);
    return transfer(bytes, [bytes.buffer]);
  },
};
export type RunCounter = typeof counter;

expose(counter);
