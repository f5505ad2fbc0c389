import { facesOf } from '../support/block-faces.js';
import { onFace } from '../support/places-on-faces.js';
import { degreesRound } from '../support/places-round.js';
import { type Part } from '../document/schema.js';
import { plain, quietIf, type TicketWord, type Writer } from './sentence.js';

/** "12 mm across and 3 mm up from the middle, turned 5°": where a part is. */
export function placeWords(part: Part, index: number, write: Writer): TicketWord[] {
  const path = ['parts', index, 'place'] as const;
  const on = onFace(write.support, part.place);
  return [
    write.length('place across', on?.x ?? part.place.x, ...path, on ? 'faceAcross' : 'x'),
    plain(' across and '),
    write.length('place up', on?.y ?? part.place.y, ...path, on ? 'faceUp' : 'y'),
    ...(on
      ? [plain(' up from the middle of the face '), write.choice('face', on.face.id, faceChoices(write), ...path, 'face')]
      : [plain(' up from the middle')]),
    ...roundWords(part, index, write),
    ...quietIf(part.place.turn === 0, plain(', turned '), write.number('turn', part.place.turn, '°', ...path, 'turn')),
    ...quietIf(
      !part.place.mirror,
      plain(', '),
      write.choice(
        'mirroring',
        String(part.place.mirror),
        [
          ['false', 'not mirrored'],
          ['true', 'mirrored'],
        ],
        ...path,
        'mirror',
      ),
    ),
  ];
}

/** " (45° round)": how far round it is from the middle, where the sign goes round something. */
function roundWords({ place }: Part, index: number, write: Writer): TicketWord[] {
  const round = write.support && degreesRound(write.support, place);
  if (round === undefined) return [];
  return quietIf(
    Math.abs(round) < 1e-9,
    plain(' ('),
    write.number('degrees round', round, '°', 'parts', index, 'place', 'round'),
    plain(' round)'),
  );
}

const faceChoices = ({ support }: Writer): (readonly [string, string])[] => facesOf(support).map(({ id, name }) => [id, name]);

/** Whether a part lies where it does by itself. */
export const isAtHome = ({ place }: Part): boolean => place.x === 0 && place.y === 0 && place.turn === 0 && !place.mirror;
