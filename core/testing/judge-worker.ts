import { readFileSync } from 'node:fs';
import type { ManifoldToplevel } from 'manifold-3d';
import { readSign, type Sign } from '../src/sign/index.js';
import { FontBook, type FontEntry } from '../src/type/index.js';
import { type Finding, judged } from './judge.js';
import { referee } from './referee.js';
import { generatedSign, type Manner } from './sign-generator.js';

/** What the process is asked: the sign of a seed, or a document. */
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

const [, , fonts] = process.argv;
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
    process.send!({ begun: sign });
    ({ findings, evaluationMs } = await judged(sign, book, m, seed));
  } catch (error) {
    const { name, message, stack } = error as Error;
    findings = [{ what: `${name}: ${message.slice(0, 60)}`, words: stack ?? message }];
  }
  return { findings, document: sign ?? document, evaluationMs };
}

process.on('message', (question: Question) => void answer(question).then((done) => process.send!(done)));
