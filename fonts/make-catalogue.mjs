// Writes fonts/catalogue.json from families.json and the font files: ids, the characters that each font covers, and proportions of its capitals.
// Run after a font is added: npm run fonts
import { readFileSync, writeFileSync } from 'node:fs';
import { codePointsOf, codePointsOfSingleLine, FontBook, fontMeasures, ranges } from '@plain-relief/core/type';

const here = new URL('./', import.meta.url);
const families = JSON.parse(readFileSync(new URL('families.json', here), 'utf8'));

const entries = families.map(({ file, family, style, class: kindOfLetter }) => {
  const bytes = new Uint8Array(readFileSync(new URL(file, here)));
  const isSingleLine = file.endsWith('.svg');
  return {
    id: `${family} ${style === 'Single line' ? '' : style}`.trim().toLowerCase().replaceAll(' ', '-'),
    family,
    style,
    class: kindOfLetter,
    kind: isSingleLine ? 'single-line' : 'outline',
    file,
    coverage: ranges(isSingleLine ? codePointsOfSingleLine(bytes) : codePointsOf(bytes)),
  };
});
const book = new FontBook(entries, async ({ file }) => new Uint8Array(readFileSync(new URL(file, here))));
const outlined = entries.filter(({ kind }) => kind === 'outline');
await book.need(outlined.map(({ id }) => id));
for (const entry of outlined) {
  const measures = fontMeasures(book, entry.id);
  if (measures) entry.proportions = measures;
}
writeFileSync(new URL('catalogue.json', here), `[\n${entries.map((entry) => JSON.stringify(entry)).join(',\n')}\n]\n`);
