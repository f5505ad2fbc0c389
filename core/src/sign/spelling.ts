import type { Sign } from './schema.js';

/** Every line of words that is made, in the order of the parts, for somebody to read. */
export const spellingOf = ({ parts }: Sign): string[] =>
  parts.flatMap((part) =>
    part.kind === 'text' && !part.hidden ? part.words.split('\n').filter((line) => line.trim() !== '') : [],
  );
