import { describe, expect, it } from '@jest/globals';
import { bentVolume } from '../../testing/bent-volume.js';
import { Random } from '../../testing/random.js';
import { manifoldOf } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { edgeFaults, volume } from '../mesh/index.js';
import {
  type Action,
  blankAllRound,
  bringRound,
  type Edge,
  type LinePiece,
  type ShapePart,
  type Sign,
  type Support,
} from '../sign/index.js';
import { SupportError, surfaceOf } from '../support/index.js';
import { inSpace } from './in-space.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();
/** How many are made; 200 of them take a minute: BENT_SIGNS=200. */
const SIGNS = Number(process.env.BENT_SIGNS ?? 60);

const pieces = (random: Random, radius: number): LinePiece[] =>
  Array.from({ length: random.whole(1, 3) }, () =>
    random.chance(0.4)
      ? { kind: 'straight', length: random.between(10, 60) }
      : {
          kind: 'arc',
          radius: random.between(radius, 4 * radius),
          angle: random.between(10, 60),
          bends: random.pick(['away', 'towards'] as const),
        },
  );

function supportOf(random: Random): Support {
  const radius = random.between(35, 160);
  const facing = random.pick(['outside', 'inside'] as const);
  const ends = random.pick([{}, { floor: 4 }, { lid: 5, floor: 3 }, { filled: true }]);
  const round = random.chance(0.6) && { round: true, ...(facing === 'outside' && ends) };
  switch (random.pick(['cylinder', 'cylinder', 'cone', 'cone', 'bent', 'swept', 'dome'] as const)) {
    case 'cylinder':
      return { kind: 'cylinder', radius, facing, ...(round || { axis: random.pick(['upright', 'level'] as const) }) };
    case 'cone':
      return {
        kind: 'cone',
        bottom: radius,
        top: radius * random.between(0.6, 1.4),
        height: random.between(60, 200),
        facing,
        ...(round || {}),
      };
    case 'bent':
      return {
        kind: 'bent',
        pieces: pieces(random, 12),
        neutral: random.between(33, 50),
        axis: random.pick(['upright', 'level'] as const),
      };
    case 'swept':
      return {
        kind: 'swept',
        line: random.chance(0.5)
          ? { kind: 'pieces', pieces: pieces(random, 40) }
          : { kind: 'ellipse', width: radius * 3, depth: radius, bends: random.pick(['away', 'towards'] as const) },
        profile: random.chance(0.5) ? [] : pieces(random, 60),
        stretch: 3,
      };
    case 'dome':
      return { kind: 'dome', radius: random.between(90, 300), facing, stretch: 3 };
  }
}

const EDGES: readonly (Edge | undefined)[] = [undefined, undefined, { kind: 'sloped', angle: 20, sized: 'foot' }, { kind: 'rounded', radius: 0.5 }, { kind: 'chamfered', width: 0.4, height: 0.6 }]; // prettier-ignore

function signOf(random: Random): Sign {
  const sign = bareSign(random.between(60, 180), random.between(40, 90), random.between(3, 8));
  const support = supportOf(random);
  sign.support = support;
  sign.blank.outline =
    blankAllRound(support, 70) ?? (random.chance(0.7) ? sign.blank.outline : { kind: 'ellipse', width: 120, height: 70 });
  if (random.chance(0.3)) sign.blank.edge = { kind: 'chamfered', width: 1, height: 1 };
  const action = (): Action =>
    random.pick([
      { kind: 'raise', by: random.between(0.5, 4) },
      { kind: 'carve', by: random.between(0.5, 2.5) },
    ] as const);
  const text = addText(sign, random.pick(['FERN', 'Quill 8', 'seam & co', 'OOO']), random.pick(['barlow-bold', 'cinzel-bold', 'dancing-script-semibold']), random.between(6, 22), action()); // prettier-ignore
  text.tiers[0].edge = random.pick(EDGES);
  if (text.tiers[0].edge === undefined) delete text.tiers[0].edge;
  if (random.chance(0.6)) bringRound(support, text, random.between(-190, 190));
  if (random.chance(0.4)) {
    addShape(sign, 10, random.chance(0.2) ? { kind: 'cut-through' } : action());
    const shape = sign.parts[sign.parts.length - 1] as ShapePart;
    shape.shape = { kind: 'circle', diameter: random.between(4, 40) };
    shape.place.x = random.between(-120, 120);
    if (random.chance(0.4)) shape.tiers[0].action = { kind: 'set', to: random.between(-2.5, 2), flat: true };
    if (random.chance(0.4)) text.sitsOn = { kind: 'part', part: shape.id, at: 'floor' };
    // What sits on others comes after them.
    sign.parts.reverse();
  }
  return sign;
}

describe('random signs on random supports', () => {
  it('are closed solids to a general library, of the volume that the definition says; or it is told why they cannot be', () => {
    let [made, refused] = [0, 0];
    for (let seed = 1; made < SIGNS; seed++) {
      const sign = signOf(new Random(seed));
      const evaluation = workshop.evaluate(sign);
      const flat = solidOf(evaluation);
      let mesh;
      try {
        ({ mesh } = inSpace(evaluation, flat, 0.01));
      } catch (error) {
        if (!(error instanceof SupportError)) throw error;
        expect([seed, error.notes.length > 0]).toEqual([seed, true]);
        refused++;
        continue;
      }
      made++;
      expect([seed, edgeFaults(mesh)]).toEqual([seed, { count: 0 }]);
      const theirs = manifoldOf(workshop.m, mesh);
      expect([seed, theirs.status()]).toEqual([seed, 'NoError']);
      theirs.delete();
      const { support } = sign;
      if (support && 'facing' in support && 'round' in support && (support.lid ?? support.floor ?? support.filled)) continue;
      const expected = bentVolume(flat, surfaceOf(sign)!, 20);
      // Chords of 0.01 mm on both sides of a wall of some millimetres.
      expect([seed, Math.abs(volume(mesh) / expected - 1) < 3e-3]).toEqual([seed, true]);
    }
    expect(refused).toBeLessThan(SIGNS);
  });
});
