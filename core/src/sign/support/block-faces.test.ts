import { describe, expect, it } from '@jest/globals';
import { addText, bareSign } from '../../../testing/signs.js';
import { area, bounds } from '../../geometry/index.js';
import {
  type BlockBody,
  boxAround,
  faceAt,
  faceNear,
  facesOf,
  laidBlock,
  limitsAt,
  madeOnFace,
  newShape,
  newText,
  readSign,
  setField,
  type Sign,
} from '../index.js';

const BODIES: readonly BlockBody[] = [
  { kind: 'box', width: 60, height: 40, depth: 25 },
  { kind: 'box', width: 60, height: 40, depth: 25, chamfer: 4 },
  { kind: 'prism', sides: 3, width: 40, height: 30 },
  { kind: 'prism', sides: 24, width: 900, height: 30 },
  { kind: 'wedge', width: 80, depth: 40, front: 8, back: 30 },
  { kind: 'wedge', width: 80, depth: 40, front: 0.3, back: 30 },
];
const block = (body: BlockBody) => laidBlock({ kind: 'block', body });
const keyOf = (corner: readonly number[]): string => corner.map((value) => Math.round(value * 1e6) + 0).join(' ');

/** A box of 50 × 40 × 30 mm. */
function boxSign(): Sign {
  const sign = bareSign(50, 40, 30);
  setField(sign, ['support', 'kind'], 'block');
  return sign;
}

describe('the faces of blocks', () => {
  it('close: corners less edges and faces come to two (Euler), and every edge is that of two faces', () => {
    for (const body of BODIES) {
      const { faces } = block(body);
      const corners = new Set(faces.flatMap((face) => face.corners.map(keyOf)));
      const edges = new Map<string, number>();
      for (const face of faces)
        face.corners.forEach((corner, i) => {
          const key = [keyOf(corner), keyOf(face.corners[(i + 1) % face.corners.length])].sort().join(' | ');
          edges.set(key, (edges.get(key) ?? 0) + 1);
        });
      expect([...edges.values()].every((times) => times === 2)).toBe(true);
      expect(corners.size - edges.size + faces.length).toBe(2);
    }
  });

  it('are as large as they are by hand', () => {
    const sizes = (body: BlockBody): Record<string, number> =>
      Object.fromEntries(block(body).faces.map(({ id, outline }) => [id, Math.round(area([outline]) * 10) / 10]));
    expect(sizes(BODIES[0])).toEqual({ front: 2400, right: 1000, back: 2400, left: 1000, top: 1500, bottom: 1500 });
    // Chamfers of 4 mm: 4·√2 wide, their shorter edges 8 mm shorter than the longer.
    const chamfered = sizes(BODIES[1]);
    expect(chamfered.front).toBe(52 * 32);
    expect(chamfered['chamfer-top']).toBeCloseTo(((60 + 52) / 2) * 4 * Math.SQRT2, 1);
    // An equilateral triangle: √3/4 of its side squared.
    expect(sizes(BODIES[2]).top).toBeCloseTo((Math.sqrt(3) / 4) * 1600, 1);
    expect(sizes(BODIES[4]).slope).toBeCloseTo(80 * Math.hypot(40, 22), 1);
    expect(Object.keys(sizes(BODIES[5]))).not.toContain('front');
  });

  it('lie within the reach of a sign, however many and wide they are', () => {
    for (const body of BODIES) {
      const { box, faces } = block(body);
      expect(Math.max(-box.minX, box.maxX, -box.minY, box.maxY)).toBeLessThan(4194);
      faces.forEach((one, i) => {
        const [a, b] = [bounds([one.outline])!, faces[i + 1] && bounds([faces[i + 1].outline])!];
        if (b) expect(a.maxX < b.minX || b.maxX < a.minX || a.maxY < b.minY || b.maxY < a.minY).toBe(true);
      });
    }
  });

  it('are found by places of the plan and in space', () => {
    const { faces } = block(BODIES[0]);
    const idAt = (x: number, y: number) => faceAt(faces, x, y)?.id;
    expect([idAt(0, 0), idAt(29, -19), idAt(62, 0), idAt(41, 3), idAt(0, 900)]).toEqual([
      'front',
      'front',
      'right',
      'right',
      'top',
    ]);
    expect(faceNear(faces, [30, 0, -10])?.id).toBe('right');
    expect(faceNear(faces, [0, 5, 2])?.id).toBe('front');
    expect(faceNear(faces, [3, -20.4, -9])?.id).toBe('bottom');
  });

  it('hold what is added while they are shown, as it would be on a sign as large as they are', () => {
    const sign = boxSign();
    const [, right] = facesOf(sign.support);
    addText(sign, 'A', 'cinzel-bold', 12, { kind: 'raise', by: 1 });
    const line = madeOnFace(sign, 'right', (on) => newText(on, 'cinzel-bold'));
    // In the middle, since nothing else is on that face, with an id that no part of another face has.
    expect(line.place).toMatchObject({ x: right.x, y: right.y });
    sign.parts.push(
      line,
      madeOnFace(sign, 'right', (on) => newShape(on, 'border')),
    );
    expect(new Set(sign.parts.map(({ id }) => id)).size).toBe(3);
    expect(readSign(JSON.parse(JSON.stringify(sign)))).toEqual(sign);
    expect(madeOnFace(bareSign(50, 40, 3), '', (on) => newShape(on, 'circle')).place).toMatchObject({ x: 0, y: 0 });
  });

  it('are what distances are measured from', () => {
    const sign = boxSign();
    const blank = { minX: -500, minY: -500, maxX: 500, maxY: 500 };
    const [, right] = facesOf(sign.support);
    const ink = { minX: right.x - 2, maxX: right.x + 2, minY: 4, maxY: 6 };
    expect(boxAround(sign.support, blank, ink)).toEqual({ minX: right.x - 15, maxX: right.x + 15, minY: -20, maxY: 20 });
    expect(boxAround(undefined, blank, ink)).toBe(blank);
  });

  it('have sizes that can be typed, and what goes round is no longer than a blank', () => {
    const sign = boxSign();
    expect(limitsAt(sign, ['support', 'body', 'depth'])).toMatchObject({ min: 1, max: 1000 });
    const round: Sign = { ...sign, support: { kind: 'cylinder', radius: 50, facing: 'outside', round: true } };
    expect(limitsAt(round, ['support', 'radius']).max).toBeCloseTo(8000 / (2 * Math.PI), 2);
  });
});
