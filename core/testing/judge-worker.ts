import { readFileSync } from 'node:fs';
import { parentPort, workerData } from 'node:worker_threads';
import type { ManifoldToplevel } from 'manifold-3d';
import { readSign, type Sign } from '../src/sign/index.js';
import { FontBook, type FontEntry } from '../src/type/index.js';
import { type Finding, judged } from './judge.js';
import { referee } from './referee.js';
import { generatedSign, type Manner } from './sign-generator.js';

/** What a thread is asked: the sign of a seed, or a document. */
export interface Question {
  readonly seed: number;
  readonly manner: Manner;
  readonly document?: unknown;
}

export interface Answer {
  readonly findings: readonly Finding[];
  readonly document: unknown;
  readonly evaluationMs: number;
}

const { fonts } = workerData as { fonts: string };
const catalogue = JSON.parse(readFileSync(`${fonts}/catalogue.json`, 'utf8')) as FontEntry[];
const book = new FontBook(catalogue, ({ file }) => Promise.resolve(new Uint8Array(readFileSync(`${fonts}/${file}`))));
let m: ManifoldToplevel | undefined;

async function answer({ seed, manner, document }: Question): Promise<Answer> {
  m ??= await referee();
  let sign: Sign | undefined;
  let findings: readonly Finding[];
  let evaluationMs = 0;
  try {
    sign = document === undefined ? generatedSign(seed, manner, catalogue) : readSign(document, catalogue);
    parentPort!.postMessage({ begun: sign });
    ({ findings, evaluationMs } = await judged(sign, book, m, seed));
  } catch (error) {
    const { name, message, stack } = error as Error;
    findings = [{ what: `${name}: ${message.slice(0, 60)}`, words: stack ?? message }];
  }
  return { findings, document: sign ?? document, evaluationMs };
}

parentPort!.on('message', (question: Question) => void answer(question).then((done) => parentPort!.postMessage(done)));
