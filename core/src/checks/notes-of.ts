import { type Note, note } from '../notes/index.js';
import { blankNotes, type Evaluation, LEVEL_STEP } from '../relief/index.js';
import { flatNotes } from './flat-notes.js';
import { layerNotes } from './layer-notes.js';
import { materialNotes } from './material-notes.js';
import { partNotes } from './part-notes.js';
import { supportNotes } from './support-notes.js';

/** What there is to be told of a sign as it was evaluated: of the blank, each part, how parts stand to each other, and what is left. */
export function notesOf(evaluation: Evaluation): Note[] {
  return [
    ...blankNotes(evaluation.sign),
    ...supportNotes(evaluation),
    ...flatNotes(evaluation),
    ...evaluation.parts.flatMap((plan) => partNotes(evaluation, plan)),
    ...evaluation.cutNotes,
    ...layerNotes(evaluation),
    ...heightNotes(evaluation),
    ...materialNotes(evaluation),
  ];
}

/** What stands higher than is allowed. */
function heightNotes({ sign: { heightLimit, unit }, side, highest }: Evaluation): Note[] {
  if (heightLimit === undefined || side !== 'front' || !(highest > heightLimit + LEVEL_STEP)) return [];
  return [note('too-high', {}, highest, heightLimit, unit)];
}
