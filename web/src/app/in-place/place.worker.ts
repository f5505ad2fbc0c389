/// <reference lib="webworker" />
import { type Place } from '@plain-relief/core/in-place';
import { expose, transfer } from 'comlink';
import { fetchBytes } from '../relief/fetch-bytes';
import type { Documents } from './place-desk';

// The shaping library waits for its WebAssembly before its module is ready; what the page asks meanwhile must be heard.
const desk = import('./place-desk').then(({ PlaceDesk }) => new PlaceDesk(fetchBytes));

/** Signs in their places are drawn here; the page only shows. */
const counter = {
  draw: async (place: Place, documents: Documents, longest: number) => {
    const picture = await (await desk).draw(place, documents, longest);
    return transfer(picture, [picture.rgba.buffer]);
  },
  read: async (place: Place, index: number, documents: Documents, factor: number) => {
    const picture = await (await desk).read(place, index, documents, factor);
    return picture && transfer(picture, [picture.rgba.buffer]);
  },
};
export type PlaceCounter = typeof counter;

expose(counter);
