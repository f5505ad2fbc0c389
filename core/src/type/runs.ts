import { bidi } from './bidi.js';

/** A stretch of a line of one direction and one script. */
export interface TextRun {
  readonly text: string;
  /** Index of its first character in the line. */
  readonly start: number;
  readonly rightToLeft: boolean;
  /** ISO 15924 tag. */
  readonly script: string;
}

const SCRIPTS: readonly (readonly [string, RegExp])[] = [
  ['Latn', /\p{Script=Latin}/u],
  ['Arab', /\p{Script=Arabic}/u],
  ['Hebr', /\p{Script=Hebrew}/u],
  ['Deva', /\p{Script=Devanagari}/u],
  ['Grek', /\p{Script=Greek}/u],
  ['Cyrl', /\p{Script=Cyrillic}/u],
];

const scriptOf = (character: string): string | undefined => SCRIPTS.find(([, test]) => test.test(character))?.[0];

/**
 * The runs of a line from left to right as they are read off the sign: direction by the Unicode bidirectional algorithm
 * (UAX #9), scripts by the characters' own script, neutral characters with what stands before them.
 * @param direction of the line as a whole: `auto` takes that of its first letter
 */
export function textRuns(line: string, direction: 'ltr' | 'auto' = 'auto'): TextRun[] {
  if (line === '') return [];
  const { levels } = bidi.getEmbeddingLevels(line, direction);
  const runs: { start: number; end: number; level: number; script: string }[] = [];
  let script = [...line].map(scriptOf).find((found) => found !== undefined) ?? 'Latn';
  for (let i = 0; i < line.length;) {
    const character = String.fromCodePoint(line.codePointAt(i)!);
    script = scriptOf(character) ?? script;
    const last = runs[runs.length - 1];
    if (last && last.level === levels[i] && last.script === script) last.end = i + character.length;
    else runs.push({ start: i, end: i + character.length, level: levels[i], script });
    i += character.length;
  }
  // Rule L2: from the highest level to the lowest odd one, reverse every unbroken row of runs at that level or above.
  const highest = Math.max(...runs.map((run) => run.level));
  for (let level = highest; level > 0; level--) {
    for (let i = 0; i < runs.length; i++) {
      if (runs[i].level < level) continue;
      let end = i;
      while (end < runs.length && runs[end].level >= level) end++;
      runs.splice(i, end - i, ...runs.slice(i, end).reverse());
      i = end;
    }
  }
  return runs.map(({ start, end, level, script: tag }) => ({
    text: line.slice(start, end),
    start,
    rightToLeft: level % 2 === 1,
    script: tag,
  }));
}
