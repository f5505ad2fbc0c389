import { describe, expect, it } from '@jest/globals';
import { notesOf } from '../checks/index.js';
import fc from 'fast-check';
import { newTier, readSign, type Edge, type ShapePart, type Sign } from '../sign/index.js';
import { crossSection } from '../../testing/referee.js';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { isWatertight, meshBounds, volume } from '../mesh/index.js';
import { solidOf } from './solid.js';

const workshop = new Workshop();

const soundVolume = (sign: Sign): number => workshop.soundSolid(workshop.evaluate(sign)).mm3;

/** A logo as a part of its own: SVG path data with y up. */
function addLogo(sign: Sign, path: string, width: number, height: number): ShapePart {
  addShape(sign, 10, { kind: 'raise', by: 2 });
  const part = sign.parts[sign.parts.length - 1] as ShapePart;
  part.shape = { kind: 'outline', width, height, path };
  return part;
}

const EDGES: readonly Edge[] = [
  { kind: 'sloped', angle: 15, sized: 'foot' },
  { kind: 'sloped', angle: 15, sized: 'top' },
  { kind: 'rounded', radius: 0.6 },
  { kind: 'chamfered', width: 0.5, height: 0.5 },
  { kind: 'cove', radius: 0.6 },
  { kind: 'ridged', angle: 70, capped: false },
];

describe('whole signs against closed forms and general libraries', () => {
  it('an octagon with a rim and letters of equal height: 2(1+√2)a² by its heights (textbook)', () => {
    const sign = bareSign(10, 10, 6.35);
    // Across corners 200: the side is 200·sin(22.5°).
    sign.blank.outline = { kind: 'polygon', sides: 8, diameter: 200, stands: 'flat' };
    const side = 200 * Math.sin(Math.PI / 8);
    const octagon = (a: number) => 2 * (1 + Math.SQRT2) * a * a;
    const rim = sign.parts.length;
    addShape(sign, 10, { kind: 'raise', by: 3.175 });
    (sign.parts[rim] as ShapePart).shape = { kind: 'border', of: 'blank', inset: 0, width: 8 };
    // An inset of 8 all round takes 2·8·tan(22.5°) off every side.
    const inner = side - 16 * Math.tan(Math.PI / 8);
    expect(Math.abs(soundVolume(sign) - (octagon(side) * 6.35 + (octagon(side) - octagon(inner)) * 3.175))).toBeLessThan(2);
    addText(sign, 'HALT', 'barlow-bold', 45, { kind: 'raise', by: 3.175 });
    const letters = crossSection(workshop.m, workshop.evaluate(sign).parts[1].area.contours).area();
    const whole = octagon(side) * 6.35 + (octagon(side) - octagon(inner) + letters) * 3.175;
    expect(Math.abs(soundVolume(sign) - whole)).toBeLessThan(2);
    // Rim and letters are one level, and nothing else stands.
    expect(workshop.evaluate(sign).levels.map(({ z }) => z)).toEqual([3.175, 0]);
  });

  it('two overlapping words at two pocket levels: areas by 2D booleans, the deeper one first and last', () => {
    const { m } = workshop;
    for (const [first, second] of [
      [2.54, 5.08],
      [5.08, 2.54],
    ] as const) {
      const sign = bareSign(320, 120, 19);
      addText(sign, 'ATLAS', 'cinzel-bold', 70, { kind: 'carve', by: first });
      addText(sign, 'Fern', 'dancing-script-semibold', 40, { kind: 'carve', by: second });
      const [a, b] = workshop.evaluate(sign).parts.map((part) => crossSection(m, part.area.contours));
      const shared = a.intersect(b).area();
      expect(shared).toBeGreaterThan(100);
      const taken = a.area() * first + b.area() * second - shared * Math.min(first, second);
      const volumeTaken = 320 * 120 * 19 - soundVolume(sign);
      expect(Math.abs(volumeTaken - taken)).toBeLessThan(1e-4 * taken);
      const levels = workshop.evaluate(sign).levels.filter(({ z }) => z < 0);
      const deeper = first > second ? a.area() : b.area();
      expect(Math.abs(levels[levels.length - 1].areaMm2 - deeper)).toBeLessThan(1e-4 * deeper);
    }
  });

  it('letters partly sunk in a panel stand out of it by what is over it', () => {
    const sign = bareSign(200, 80, 12);
    addShape(sign, [80, 80], { kind: 'raise', by: 3 }, { x: -60 });
    addText(sign, 'FERN', 'barlow-bold', 40, { kind: 'raise', by: 5 });
    const { m } = workshop;
    const letters = crossSection(m, workshop.evaluate(sign).parts[1].area.contours);
    const panel = m.CrossSection.square([80, 80]).translate([-100, -40]);
    const stands = panel.area() * 3 + letters.area() * 5 - letters.intersect(panel).area() * 3;
    expect(Math.abs(soundVolume(sign) - 200 * 80 * 12 - stands)).toBeLessThan(0.1);
  });
});

describe('hard drawings', () => {
  it.each(EDGES.map((edge) => [edge.kind === 'sloped' ? `sloped at the ${edge.sized}` : edge.kind, edge] as const))(
    'logos whose outlines cross themselves and touch close under sides %s',
    (_, edge) => {
      const star = Array.from({ length: 5 }, (__, i) => {
        const angle = (Math.PI * (0.5 + (4 * i) / 5)) % (2 * Math.PI);
        return `${i === 0 ? 'M' : 'L'}${Math.cos(angle).toFixed(4)} ${Math.sin(angle).toFixed(4)}`;
      }).join('');
      const paths = [
        `${star}Z`,
        // A figure of eight, a ring drawn twice, and two squares that share a corner and an edge.
        'M-2 -1C2 3 2 -3 -2 1C-3 2 -3 -2 -2 -1Z M1 0L3 2L3 -2Z M3 -2L5 -2L5 0L3 0Z M5 0L7 0L7 2L5 2Z',
        'M0 0L10 0L10 10L0 10Z M2 2L8 2L8 8L2 8Z M2 2L8 2L8 8L2 8Z M4 4L4 6L6 6L6 4Z M0 10L5 15L10 10Z',
      ];
      for (const path of paths) {
        const sign = bareSign(120, 90, 10);
        const logo = addLogo(sign, path, 60, 60);
        logo.tiers[0].edge = edge;
        const raised = soundVolume(sign) - 120 * 90 * 10;
        expect(raised).toBeGreaterThan(0);
        logo.tiers[0].action = { kind: 'carve', by: 2 };
        expect(soundVolume(sign) - 120 * 90 * 10).toBeLessThan(0);
      }
    },
  );

  it('ten thousand specks are raised, and carved with slopes, as what they are', () => {
    const specks = Array.from({ length: 10_000 }, (_, i) => {
      const [x, y] = [3 * (i % 125), 3 * Math.floor(i / 125)];
      return `M${x} ${y}L${x + 1} ${y}L${x + 1} ${y + 1}L${x} ${y + 1}Z`;
    }).join('');
    const sign = bareSign(400, 280, 6);
    const logo = addLogo(sign, specks, 373, 238);
    expect(Math.abs(soundVolume(sign) - 400 * 280 * 6 - 10_000 * 2)).toBeLessThan(2);
    logo.tiers[0].action = { kind: 'carve', by: 1 };
    logo.tiers[0].edge = { kind: 'ridged', angle: 90, capped: false };
    // Pyramids of half a millimetre.
    expect(Math.abs(400 * 280 * 6 - soundVolume(sign) - 10_000 / 6)).toBeLessThan(1);
  });

  it('amounts and slopes that cannot be are refused by their field, and what swallows all is told', () => {
    const sign = bareSign(100, 60, 12);
    addText(sign, 'I', 'barlow-bold', 20, { kind: 'raise', by: 2 });
    const changed = (change: (tier: Sign['parts'][number]['tiers'][number]) => void): unknown => {
      const next = structuredClone(sign);
      change(next.parts[0].tiers[0]);
      return next;
    };
    expect(() => readSign(changed((tier) => (tier.action = { kind: 'raise', by: -1 })))).toThrow(
      'tiers[0].action.by: is -1 and must be >= 0',
    );
    for (const angle of [0, 90])
      expect(() => readSign(changed((tier) => (tier.edge = { kind: 'sloped', angle, sized: 'foot' })))).toThrow(
        `edge.angle: is ${angle} and must be`,
      );
    const nothing = readSign(changed((tier) => (tier.action = { kind: 'raise', by: 0 })));
    expect(notesOf(workshop.evaluate(nothing)).map(({ code }) => code)).toContain('not-seen');
    const gone = readSign(changed((tier) => (tier.area = { kind: 'offset', by: -40 })));
    expect(notesOf(workshop.evaluate(gone)).map(({ code }) => code)).toContain('offset-swallowed');
    expect(soundVolume(gone)).toBeCloseTo(100 * 60 * 12, 6);
  });
});

describe('two sides and letters of their own', () => {
  const tier = fc.record({
    kind: fc.constantFrom('raise' as const, 'carve' as const, 'set' as const),
    amount: fc.constantFrom(0.5, 1.3, 2.7, 4.1),
    edge: fc.constantFrom(undefined, ...EDGES),
  });
  const part = fc.record({
    tiers: fc.array(tier, { minLength: 1, maxLength: 2 }),
    words: fc.constantFrom('A', 'g&', 'O8'),
    x: fc.constantFrom(-17.3, 0, 9.1),
    y: fc.constantFrom(-6.2, 3.3),
    isBack: fc.boolean(),
    isText: fc.boolean(),
  });

  it('close whatever is done on either side, and are the same seen from either (property)', () => {
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 3 }), (list) => {
        const sign = bareSign(90, 60, 12);
        for (const { tiers, words, x, y, isBack, isText } of list) {
          if (isText) addText(sign, words, 'barlow-bold', 22, { kind: 'raise', by: 1 });
          else addShape(sign, [31.7, 17.3], { kind: 'raise', by: 1 });
          const made = sign.parts[sign.parts.length - 1];
          made.id = `part-${sign.parts.length}`;
          made.place = { x, y, turn: isText ? 0 : 12, mirror: false };
          if (isBack) made.side = 'back';
          made.tiers = tiers.map(({ kind, amount, edge }, i) => ({
            ...newTier(`tier-${i}`, kind === 'set' ? { kind, to: amount - 2 } : { kind, by: amount }),
            ...(edge && { edge }),
          }));
        }
        const [front, back] = (['front', 'back'] as const).map((side) => {
          const mesh = solidOf(workshop.evaluate(sign, side));
          expect(isWatertight(mesh)).toBe(true);
          return { mesh, mm3: volume(mesh) };
        });
        // Round forms run in chords, which lie otherwise where slopes of both sides cut through each other.
        expect(Math.abs(front.mm3 - back.mm3)).toBeLessThan(2e-4 * front.mm3);
        const [a, b] = [meshBounds(front.mesh), meshBounds(back.mesh)];
        expect(a.max[2]).toBeCloseTo(-12 - b.min[2], 1);
        expect(a.min[0]).toBeCloseTo(-b.max[0], 3);
      }),
      { numRuns: 5, seed: 20261125 },
    );
  });
});
