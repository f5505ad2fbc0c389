import { readFileSync } from 'node:fs';
import { FontBook, type FontEntry } from '../src/type/index.js';
import { generatedSign, type Manner } from './sign-generator.js';
import { Evaluator } from '../src/relief/index.js';
import { fontsOf } from '../src/sign/index.js';
import { solidOf } from '../src/solid/index.js';
const fonts = 'fonts';
const catalogue = JSON.parse(readFileSync(`${fonts}/catalogue.json`, 'utf8')) as FontEntry[];
const book = new FontBook(catalogue, ({ file }) => Promise.resolve(new Uint8Array(readFileSync(`${fonts}/${file}`))));
for (const arg of process.argv.slice(2)) {
  const [manner, seed] = arg.split(':');
  const sign = generatedSign(Number(seed), manner as Manner, catalogue);
  if (process.env.SHOW) console.log(JSON.stringify(sign, null, 1));
  const t = process.cpuUsage();
  await book.need(fontsOf(sign)); const evaluation: any = new Evaluator(book).evaluateLoaded(sign);
  const ms = (process.cpuUsage(t).user / 1000) | 0;
  const solid: any = solidOf(evaluation);
  console.log(arg, 'evaluate', ms, 'triangles', solid.triangles.length / 3, 'with solid', (process.cpuUsage(t).user / 1000) | 0);
}
