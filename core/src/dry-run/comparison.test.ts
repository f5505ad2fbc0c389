import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type Mesh } from '../mesh/index.js';
import { type Motion, readProgram } from '../program/index.js';
import { solidOf } from '../solid/index.js';
import { type ToolForm } from '../tooling/index.js';
import { compared, type Difference, Stock } from './index.js';

const workshop = new Workshop();

/** A plate of 40 × 30 × 10 with a pocket of 20 × 12, 2 mm deep, and a hole of 6 mm. */
function plate(): { mesh: Mesh; blank: Float64Array } {
  const sign = bareSign(40, 30, 10);
  addShape(sign, [20, 12], { kind: 'carve', by: 2 }, { x: -4 });
  addShape(sign, 6, { kind: 'cut-through' }, { x: 14 });
  const evaluation = workshop.evaluate(sign);
  return { mesh: solidOf(evaluation), blank: evaluation.blank };
}

/** Clears the pocket in rings from inside out with a 4 mm end mill, so far from its walls, and helixes the hole. */
const pocket = (depth = -2, off = 2, by = 0): string[] => {
  const rings = [3.9, 2.6, 1.3, 0].map((inset) => {
    const [x, y] = [10 - off - inset, Math.max(0, 6 - off - inset)];
    return `G1 X${-4 - x + by} Y${-y}\nX${-4 + x + by}\nY${y}\nX${-4 - x + by}\nY${-y}`;
  });
  return ['F900', 'G0 Z5', 'X-4 Y0', `G1 Z${depth}`, ...rings, 'G0 Z5'];
};
const HOLE = [
  'G0 X15 Y0',
  'G1 Z0',
  ...Array.from({ length: 11 }, (_, i) => `G3 X15 Y0 I-1 J0 Z${-i - 0.0}`),
  'G3 X15 I-1 J0',
  'G0 Z5',
];

function run(lines: readonly string[], form: ToolForm = { kind: 'end', diameter: 4 }): Difference {
  const { mesh, blank } = plate();
  const stock = new Stock({ x: -20, y: -15 }, 40, 30, 0, 0.1);
  for (const step of readProgram(lines.join('\n')))
    if (step.kind === 'feed' || step.kind === 'rapid') stock.cut(step satisfies Motion, form);
  return compared(stock, mesh, blank, -10);
}

describe('what a program leaves, against the relief', () => {
  it('is nothing but the corners that a round tool cannot reach: r²(4 − π) of a pocket', () => {
    const difference = run([...pocket(), ...HOLE]);
    expect(difference).toMatchObject({ gougeMm: 0, gougeAreaMm2: 0 });
    expect(difference.leftAreaMm2 / (4 * 2 ** 2 * (1 - Math.PI / 4))).toBeCloseTo(1, 1);
    expect(difference.leftVolumeMm3 / difference.leftAreaMm2).toBeCloseTo(2, 1);
  });

  it('is the whole pocket and the hole where nothing is cut', () => {
    const { leftAreaMm2, leftVolumeMm3, gougeMm } = run(['G0 Z5']);
    expect(gougeMm).toBe(0);
    expect(leftAreaMm2 / (240 + Math.PI * 9)).toBeCloseTo(1, 2);
    expect(leftVolumeMm3 / (480 + Math.PI * 90)).toBeCloseTo(1, 2);
  });

  it.each<[string, string[], ToolForm | undefined, number]>([
    ['a tenth too deep', [...pocket(-2.1), ...HOLE], undefined, 0.1],
    ['a tenth aside', [...pocket(-2, 2, 0.1), ...HOLE], undefined, 2],
    ['with a larger tool', [...pocket(), ...HOLE], { kind: 'end', diameter: 5 }, 2],
    ['without rising before the hole', [...pocket().slice(0, -1), ...HOLE], undefined, 2],
  ])('is gouged %s', (_, lines, form, deep) => {
    const { gougeMm, gougeAreaMm2 } = run(lines, form);
    expect(gougeMm).toBeGreaterThan(deep - 0.01);
    expect(gougeAreaMm2).toBeGreaterThan(0.5);
  });

  it('is more where a line is missing, or a pass is not as deep', () => {
    const whole = run([...pocket(), ...HOLE]).leftVolumeMm3;
    expect(run(pocket()).leftVolumeMm3 - whole).toBeGreaterThan(250);
    expect(run([...pocket(-1.9), ...HOLE]).leftVolumeMm3 - whole).toBeCloseTo(240 * 0.1, 0);
  });
});
