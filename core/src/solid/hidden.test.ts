import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import { NodingMemory } from '../arrangement/index.js';
import { type Evaluation, withoutHidden, Fields, embedSlopes } from '../relief/index.js';
import { type Edge, type Sign } from '../sign/index.js';
import { Definition, Tops } from '../../testing/heights.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight } from '../mesh/index.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();
const ROUNDED: Edge = { kind: 'rounded', radius: 2 };

/** Words with rounded edges that a groove joins to one another, and what is made on them. */
function signWith(build: (sign: Sign) => void): Evaluation {
  const sign = bareSign(160, 60, 12);
  addText(sign, 'Osprey', 'barlow-bold', 34, { kind: 'raise', by: 2 });
  sign.parts[0].tiers[0].edge = ROUNDED;
  addShape(sign, [150, 4], { kind: 'raise', by: 2 });
  sign.parts[1].tiers[0].edge = ROUNDED;
  build(sign);
  return workshop.evaluate(sign);
}

/** The share of the numbers of all constraints that are left. */
function shareLeft({ blank, layers, sign }: Evaluation): number {
  const embedded = embedSlopes(blank, layers, new Fields(), () => [], new Set());
  const left = withoutHidden(embedded, blank, layers, sign.blank.thickness, { memory: new NodingMemory(), hasSides: false });
  return left.constraints.length / embedded.constraints.reduce((sum, { length }) => sum + length, 0);
}

/** Compares the solid with the relief function by its definition. */
function expectAsDefined(evaluation: Evaluation): void {
  const [definition, tops] = [new Definition(evaluation), new Tops(solidOf(evaluation))];
  expect(isWatertight(solidOf(evaluation))).toBe(true);
  let tried = 0;
  for (let i = 1; i <= 1500; i++) {
    const [x, y] = [(((i * 0.6180339887) % 1) - 0.5) * 160, (((i * 0.7548776662) % 1) - 0.5) * 60];
    const right = definition.at(x, y, 0.012);
    if (!right) continue;
    const z = tops.at(x, y);
    expect([x, y, z !== undefined && z > right.least - 0.012 && z < right.most + 0.012]).toEqual([x, y, true]);
    tried++;
  }
  expect(tried).toBeGreaterThan(700);
}

describe('slopes that others hide', () => {
  it.each<[string, (sign: Sign) => void, number]>([
    ['all below a higher plate', (sign) => addShape(sign, [158, 58], { kind: 'raise', by: 5 }), 0.01],
    ['half of them below one', (sign) => addShape(sign, [90, 58], { kind: 'raise', by: 5 }, { x: -35 }), 0.7],
    ['cut through again', (sign) => addShape(sign, [90, 50], { kind: 'cut-through' }, { x: -30 }), 0.7],
    ['set over', (sign) => addShape(sign, [90, 58], { kind: 'set', to: 1 }, { x: 30 }), 0.7],
    ['carved away', (sign) => addShape(sign, [90, 58], { kind: 'carve', by: 1 }, { x: 30 }), 0.7],
  ])('leave no lines where they are %s, and the others as they are', (_, build, share) => {
    const evaluation = signWith(build);
    expect(shareLeft(evaluation)).toBeLessThan(share);
    expectAsDefined(evaluation);
  });

  it('keep theirs where it depends on heights which is seen', () => {
    // As high as the middle of the slopes.
    const evaluation = signWith((sign) => addShape(sign, [90, 58], { kind: 'raise', by: 1 }, { x: 30 }));
    expect(shareLeft(evaluation)).toBeGreaterThan(0.9);
    expectAsDefined(evaluation);
  });

  it('are told to be built over all the same', () => {
    const notes = notesOf(signWith((sign) => addShape(sign, [158, 58], { kind: 'raise', by: 5 })));
    expect(notes.map(({ code }) => code)).toContain('buried');
    expect(notes.map(({ code }) => code)).not.toContain('not-seen');
  });
});
