import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { addText, bareSign } from '../../../testing/signs.js';
import { Workshop } from '../../../testing/workshop.js';
import { bounds, type Box } from '../../geometry/index.js';
import { newShape, scaledTogether, type Sign } from '../../sign/index.js';

describe('parts made larger together', () => {
  const workshop = new Workshop();

  const raise = { kind: 'raise', by: 2 } as const;
  function design(): Sign {
    const sign = bareSign(400, 300, 12);
    const panel = newShape(sign, 'rectangle');
    const place = { x: -30, y: 20, turn: 15, mirror: false };
    sign.parts.push({ ...panel, shape: { kind: 'rectangle', width: 120, height: 60, cornerRadius: 8 }, place });
    const hole = newShape(sign, 'circle');
    sign.parts.push({ ...hole, copies: { kind: 'row', count: 3, stepX: 26, stepY: 4 } });
    const text = addText(sign, 'Fernhollow\nArboretum', 'lora-bold', 18, raise);
    text.place = { ...text.place, x: 40, y: -60 };
    text.letters = [
      { at: 2, kern: 3 },
      { at: 4, y: 2 },
    ];
    const arc = addText(sign, 'WEST GATE', 'barlow-semibold', 10, raise);
    arc.path = { kind: 'arc', radius: 60, span: 120, reads: 'top', side: 'outside', shift: 5 };
    return sign;
  }
  const boxOf = (sign: Sign): Box[] => workshop.evaluate(sign).parts.map(({ area }) => bounds(area.contours)!);

  it('are as they were seen, larger about the point that stays', () => {
    const sign = design();
    const before = boxOf(sign);
    fc.assert(
      fc.property(fc.integer({ min: 40, max: 250 }), fc.integer({ min: -90, max: 90 }), (percent, at) => {
        const factor = percent / 100;
        const about = { x: at, y: -at / 2 };
        const after = boxOf({ ...sign, parts: scaledTogether(sign.parts, factor, about) });
        before.forEach((box, i) => {
          const from = (stays: number, mm: number) => stays + (mm - stays) * factor;
          // A leading of 150 % and outlines on the grid leave thousandths.
          expect(Math.abs(after[i].minX - from(about.x, box.minX))).toBeLessThan(0.05);
          expect(Math.abs(after[i].maxX - from(about.x, box.maxX))).toBeLessThan(0.05);
          expect(Math.abs(after[i].minY - from(about.y, box.minY))).toBeLessThan(0.05);
          expect(Math.abs(after[i].maxY - from(about.y, box.maxY))).toBeLessThan(0.05);
        });
      }),
      { numRuns: 12 },
    );
  });

  it('take the words of a frame with it', () => {
    const sign = bareSign(400, 300, 12);
    const text = addText(sign, 'Herbarium', 'lora-bold', 20, raise);
    text.frame = {
      width: 200,
      height: 60,
      marginAcross: { kind: 'percent', of: 5 },
      marginUp: { kind: 'percent', of: 5 },
      upright: 'middle',
      fit: [{ kind: 'narrow', floor: 60 }],
    };
    const [made] = scaledTogether([text], 0.5, { x: 0, y: 0 });
    expect(made).toMatchObject({ size: { height: 10 }, frame: { width: text.frame.width / 2, height: text.frame.height / 2 } });
  });
});
