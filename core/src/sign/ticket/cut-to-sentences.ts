import { type CutTo } from '../document/schema-blank.js';
import { type Sign } from '../document/schema.js';
import { type FieldPath, plain, quiet, type Sentence, type TicketWord, type Writer } from './sentence.js';

const KEPT = [
  ['whole', 'a whole plate'],
  ['letters', 'cut to its letters'],
] as const;
const BACKS = [
  ['full', 'solid'],
  ['hollow', 'hollow from behind'],
] as const;
const MOUNTS = [
  ['none', 'without studs'],
  ['studs', 'on studs'],
] as const;
const PLATES = [
  ['none', 'no backing'],
  ['grown', 'a backing plate that follows their outline'],
  ['bar', 'a bar'],
] as const;

/** What is left of the blank, and what is done to flat-cut letters from behind. */
export function cutToSentences({ blank: { cutTo } }: Sign, write: Writer): Sentence[] {
  const path = ['blank', 'cutTo'] as const;
  const kept = write.choice('what is left of the blank', cutTo ? 'letters' : 'whole', KEPT, ...path, 'kind');
  if (!cutTo) return [{ topic: 'heights', words: quiet(plain('It is '), kept, plain('.')) }];
  return [
    { topic: 'heights', words: [plain('It is '), kept, plain('.')] },
    { topic: 'heights', words: hollowWords(cutTo, path, write) },
    { topic: 'heights', words: studWords(cutTo, path, write) },
    { topic: 'heights', words: backerWords(cutTo, path, write) },
  ];
}

function hollowWords({ hollow }: CutTo, path: FieldPath, write: Writer): TicketWord[] {
  const at = [...path, 'hollow'];
  const kind = write.choice('backs of the letters', hollow ? 'hollow' : 'full', BACKS, ...at, 'kind');
  if (!hollow) return quiet(plain('The letters are '), kind, plain('.'));
  return [
    plain('The letters are '),
    kind,
    plain(', walls '),
    write.length('walls', hollow.wall, ...at, 'wall'),
    plain(' and faces '),
    write.length('faces', hollow.face, ...at, 'face'),
    plain(' thick.'),
  ];
}

function studWords({ studs }: CutTo, path: FieldPath, write: Writer): TicketWord[] {
  const at = [...path, 'studs'];
  const kind = write.choice('mounting', studs ? 'studs' : 'none', MOUNTS, ...at, 'kind');
  if (!studs) return quiet(plain('They are mounted '), kind, plain('.'));
  return [
    plain('They are mounted '),
    kind,
    plain(', '),
    write.number('studs a piece', studs.count, '', ...at, 'count'),
    plain(' a piece, in holes of '),
    write.length('diameter of the stud holes', studs.diameter, ...at, 'diameter'),
    plain(', '),
    write.length('depth of the stud holes', studs.depth, ...at, 'depth'),
    plain(' deep, at least '),
    write.length('distance of the studs from the edge', studs.edge, ...at, 'edge'),
    plain(' from the edge.'),
  ];
}

function backerWords({ backer }: CutTo, path: FieldPath, write: Writer): TicketWord[] {
  const at = [...path, 'backer'];
  const kind = write.choice('what is behind', backer?.kind ?? 'none', PLATES, ...at, 'kind');
  if (!backer) return quiet(plain('Behind them is '), kind, plain('.'));
  const thickness = write.length('thickness of what is behind', backer.thickness, ...at, 'thickness');
  if (backer.kind === 'grown')
    return [plain('Behind them is '), kind, plain(', larger by '), write.length('margin', backer.margin, ...at, 'margin'), plain(' all round, '), thickness, plain(' thick.')]; // prettier-ignore
  return [
    plain('Behind them is '),
    kind,
    plain(' '),
    write.length('height of the bar', backer.height, ...at, 'height'),
    plain(' high and '),
    thickness,
    plain(' thick, its middle at '),
    write.length('height of its middle', backer.y, ...at, 'y'),
    plain(', longer than they are by '),
    write.length('length beyond the letters on the left', backer.beyond?.left ?? 0, ...at, 'beyond', 'left'),
    plain(' on the left and '),
    write.length('length beyond the letters on the right', backer.beyond?.right ?? 0, ...at, 'beyond', 'right'),
    plain(' on the right, its ends '),
    write.choice('ends of the bar', backer.ends ?? 'square', ENDS, ...at, 'ends'),
    plain(', with '),
    write.choice('hole of the bar', backer.hole?.end ?? 'none', HOLES, ...at, 'hole', 'end'),
    ...(backer.hole
      ? [
          plain(' of '),
          write.length('diameter of the hole', backer.hole.diameter, ...at, 'hole', 'diameter'),
          plain(', '),
          write.length('distance of the hole from the end', backer.hole.edge, ...at, 'hole', 'edge'),
          plain(' from it'),
        ]
      : []),
    plain('.'),
  ];
}

const ENDS = [
  ['square', 'square'],
  ['round', 'round'],
] as const;

const HOLES = [
  ['none', 'no hole'],
  ['left', 'a hole at its left end'],
  ['right', 'a hole at its right end'],
] as const;
