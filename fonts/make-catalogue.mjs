// Writes fonts/catalogue.json from families.json and the font files: ids and the characters that each font covers.
// Run after a font is added: npm run fonts
import { readFileSync, writeFileSync } from 'node:fs';
import { codePointsOf, codePointsOfSingleLine, ranges } from '@plain-relief/core/type';

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
writeFileSync(new URL('catalogue.json', here), `[\n${entries.map((entry) => JSON.stringify(entry)).join(',\n')}\n]\n`);
