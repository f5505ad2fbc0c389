// The sheet of a plaque with 300 names, and the picture that its customer sees, against its solid in the same run. Runs the built
// server's code in plain Node.js.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { pictureSize, reliefPicture } from '@plain-relief/core/picture';
import { Evaluator } from '@plain-relief/core/relief';
import { readSign } from '@plain-relief/core/sign';
import { coloured, solidOf } from '@plain-relief/core/solid';
import { openFontBook } from '../server/dist/modules/fonts/font-files.js';
import { proofSheet } from '../server/dist/modules/production/proof-sheet.js';
import { viewsOf } from '../server/dist/modules/production/sign-views.js';

const FONTS = fileURLToPath(new URL('../fonts', import.meta.url));
const book = openFontBook(FONTS);
const read = (name) =>
  readSign(JSON.parse(readFileSync(new URL(`../demo/${name}.sign.json`, import.meta.url), 'utf8')), book.catalogue);
const subject = {
  shop: { name: 'Millrace Signworks', contact: '', terms: '' },
  customer: 'Fernhollow Arboretum',
  job: 'FA-0101 Donor plaque',
  revision: 'A',
  date: new Date(0),
  frozen: { digest: '0'.repeat(64), message: '', brief: { contact: '', quantity: 1, dueOn: null }, revisions: [] },
};

const sheetFor = async (sign) => proofSheet([await viewsOf(new Evaluator(book), sign)], subject, book, FONTS);
const solidFor = async (sign) => solidOf(await new Evaluator(book).evaluate(sign));
const pictureFor = async (sign) => {
  const evaluation = await new Evaluator(book).evaluate(sign);
  const { width, height } = pictureSize(evaluation, 1200);
  return reliefPicture(coloured(evaluation, solidOf(evaluation)), width, height);
};
const median = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

for (const name of ['donor-plaque', 'west-gate']) {
  const sign = read(name);
  const work = { solid: solidFor, sheet: sheetFor, picture: pictureFor };
  const times = Object.fromEntries(Object.keys(work).map((key) => [key, []]));
  // In turn, so that a slow spell of the machine falls on all of them; nothing is remembered from one to the next.
  for (let round = -1; round < 3; round++)
    for (const [key, make] of Object.entries(work)) {
      const began = performance.now();
      await make(sign);
      if (round >= 0) times[key].push(performance.now() - began);
    }
  const [solid, sheet, picture] = Object.values(times).map(median);
  const over = (ms) => `${ms.toFixed(0)} ms, ${(ms / solid).toFixed(1)} times its solid`;
  console.log(`${name}: solid ${solid.toFixed(0)} ms; sheet ${over(sheet)}; picture from the front ${over(picture)}`);
}
