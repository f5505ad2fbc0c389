import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { type Area, type Edge, newTier, readSign, type Sign } from '../sign/index.js';
import { judged } from '../../testing/judge.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { volume } from '../mesh/index.js';
import { solidOf } from './solid.js';

/** What stays of trouble: signs that once gave wrong files, and the families they are of, by the definition of the relief. */

const workshop = new Workshop();
const TROUBLE = new URL('../../testing/trouble/', import.meta.url);
const findings = async (sign: Sign) => (await judged(sign, workshop.book, workshop.m)).findings;
const mm3 = (sign: Sign): number => volume(solidOf(workshop.evaluate(sign)));

const EDGES: readonly Edge[] = [
  { kind: 'sloped', angle: 20, sized: 'foot' },
  { kind: 'sloped', angle: 20, sized: 'top' },
  { kind: 'rounded', radius: 1 },
  { kind: 'chamfered', width: 1, height: 1 },
  { kind: 'cove', radius: 1 },
  { kind: 'ridged', angle: 80, capped: false },
];
const AREAS: readonly Area[] = [
  { kind: 'outline' },
  { kind: 'offset', by: 1 },
  { kind: 'stroke', width: 2, side: 'outside' },
  { kind: 'stroke', width: 1, side: 'inside' },
];

describe('signs that gave wrong files once', () => {
  it.each(readdirSync(TROUBLE))('%s', async (name) => {
    const sign = readSign(JSON.parse(readFileSync(new URL(name, TROUBLE), 'utf8')));
    expect(await findings(sign)).toEqual([]);
  });

  it('slopes that cross the edge of the blank, in any place', async () => {
    const cases = fc.record({
      x: fc.double({ min: -75, max: 75, noNaN: true }),
      y: fc.double({ min: -45, max: 45, noNaN: true }),
      turn: fc.integer({ min: -180, max: 180 }),
      edge: fc.constantFrom(...EDGES),
      area: fc.constantFrom(...AREAS),
      isRaised: fc.boolean(),
    });
    await fc.assert(
      fc.asyncProperty(cases, async ({ x, y, turn, edge, area, isRaised }) => {
        const sign = bareSign(150, 90, 8);
        const part = addText(sign, 'Ro', 'barlow-bold', 30, isRaised ? { kind: 'raise', by: 3 } : { kind: 'carve', by: 3 });
        part.place = { x, y, turn, mirror: false };
        Object.assign(part.tiers[0], { edge, area });
        expect(await findings(sign)).toEqual([]);
      }),
      { numRuns: 12 },
    );
  });

  it('mirrored words and shapes measure what they do unmirrored', () => {
    for (const area of AREAS) {
      for (const edge of [undefined, EDGES[1]]) {
        const of = (mirror: boolean): number => {
          const sign = bareSign(200, 80, 10);
          const part = addText(sign, 'RE8', 'lora-bold', 30, { kind: 'raise', by: 2 });
          part.place = { x: -40, y: 0, turn: 0, mirror };
          addShape(sign, 30, { kind: 'carve', by: 2 }, { x: 60 });
          const shape = sign.parts[1];
          Object.assign(shape, { shape: { kind: 'outline', width: 40, height: 50, path: 'M0 0L20 0L20 7L7 7L7 30L0 30Z' } });
          shape.place = { x: 60, y: 0, turn: 0, mirror };
          for (const each of sign.parts) each.tiers = [{ ...newTier('t', each.tiers[0].action), area, ...(edge && { edge }) }];
          return mm3(sign);
        };
        expect(Math.abs(of(true) - of(false))).toBeLessThan(0.1);
      }
    }
  });

  it('what is level of a slope that leans outwards is the outline itself, inner corners and all', () => {
    // A plus of five squares of side 10 on a plate, its slopes at 45° outside of it: the top is 2000 mm² exactly.
    const sign = bareSign(80, 80, 10);
    addShape(sign, 10, { kind: 'raise', by: 5 });
    const path = 'M-5 -15H5V-5H15V5H5V15H-5V5H-15V-5H-5Z';
    Object.assign(sign.parts[0], { shape: { kind: 'outline', width: 60, height: 60, path } });
    sign.parts[0].tiers[0].edge = { kind: 'sloped', angle: 45, sized: 'top' };
    const evaluation = workshop.evaluate(sign);
    expect(evaluation.levels.find(({ z }) => z === 5)?.areaMm2).toBeCloseTo(2000, 3);
    // Mitred offsets of a plus with arms 20 wide and long: area by t is 20·20·5 + 8 corners of t² less 4 inner ones, perimeter 12·20.
    const area = (t: number): number => 2000 + 240 * t + 4 * t * t;
    const slopes = Array.from({ length: 1000 }, (_, i) => area(((i + 0.5) / 1000) * 5) * 0.005).reduce((a, b) => a + b, 0);
    expect(Math.abs(mm3(sign) - 80 * 80 * 10 - slopes)).toBeLessThan(0.5);
  });
});
