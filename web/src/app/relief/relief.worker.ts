/// <reference lib="webworker" />
import { expose } from 'comlink';
import { type Finding, type Limits } from '@plain-relief/core/inspection';
import { type PrintChoice } from '@plain-relief/core/processes';
import { type Shop } from '@plain-relief/core/shop';
import { type SectionLine, type Side, type Sign } from '@plain-relief/core/sign';
import { fetchBytes } from './fetch-bytes';
import type { ReliefDesk } from './relief-desk';

// The shaping library waits for its WebAssembly before its module is ready; what the page asks meanwhile must be heard.
const desk = import('./relief-desk').then(({ ReliefDesk }) => new ReliefDesk(fetchBytes, true));

/** Everything is computed here; the page only shows. */
const counter = {
  fonts: async () => (await desk).fonts(),
  show: async (sign: Sign, side: Side) => (await desk).show(sign, side),
  spaceSection: async (line: SectionLine) => (await desk).spaceSection(line),
  section: async (line: SectionLine) => (await desk).section(line),
  gaps: async (part: string) => (await desk).gaps(part),
  split: async (part: string, into: 'lines' | 'words') => (await desk).split(part, into),
  outlined: async (part: string) => (await desk).outlined(part),
  nearest: async (x: number, y: number, reach: number) => (await desk).nearest(x, y, reach),
  inspect: async (sign: Sign, side: Side, limits: Limits, words: readonly string[]) =>
    (await desk).inspect(sign, side, limits, words),
  remediesOf: async (finding: Finding, limits: Limits) => (await desk).remediesOf(finding, limits),
  madeToMeet: async () => (await desk).madeToMeet(),
  printFindings: async (choice: PrintChoice) => (await desk).printFindings(choice),
  printLines: async (width: number, depth: number) => (await desk).printLines(width, depth),
  signRemedies: async (...asked: Parameters<ReliefDesk['signRemedies']>) => (await desk).signRemedies(...asked),
  openUp: async (part: string, diameter: number) => (await desk).openUp(part, diameter),
  model: async () => (await desk).model(),
  picture: async (longest: number, isInFinishes: boolean) => (await desk).picture(longest, isInFinishes),
  figures: async () => (await desk).figures(),
  proposals: async (shop: Shop) => (await desk).proposals(shop),
};
export type ReliefCounter = typeof counter;

expose(counter);
