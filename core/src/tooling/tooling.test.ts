import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { chipLoadAt, feedsFor, lowestAlong, rise, type ToolForm, touchingPlane } from './index.js';

const MATERIAL = {
  chipLoads: [
    { diameter: 3, chip: 0.04 },
    { diameter: 6, chip: 0.08 },
  ],
  surfaceSpeed: 300,
};
const FAST = { leastSpeed: 1000, mostSpeed: 60_000, mostFeed: 50_000, mostPlunge: 5000 };

describe('feeds', () => {
  it('are n = 1000·v/(π·D) and n·z·f (Machinery’s Handbook, Speeds and Feeds)', () => {
    // 300 m/min at 6 mm: 15,915 a minute; two flutes at 0.08 mm: 2546 mm/min.
    expect(feedsFor(6, 2, MATERIAL, FAST)).toEqual({
      speed: 15915,
      feed: 2546,
      plunge: 848,
      speedBy: 'surface speed',
      feedBy: 'chip load',
      plungeBy: 'chip load',
    });
  });

  it('say what held them', () => {
    expect(feedsFor(1, 2, MATERIAL, { ...FAST, mostSpeed: 24_000 })).toMatchObject({ speed: 24_000, speedBy: 'fastest spindle' });
    expect(feedsFor(100, 2, MATERIAL, FAST)).toMatchObject({ speed: 1000, speedBy: 'slowest spindle' });
    expect(feedsFor(6, 2, MATERIAL, { ...FAST, mostFeed: 900 })).toMatchObject({ feed: 900, feedBy: 'fastest feed' });
    expect(feedsFor(6, 2, MATERIAL, { ...FAST, mostPlunge: 200 })).toMatchObject({ plunge: 200, plungeBy: 'most plunge' });
  });

  it('take chip loads in proportion between and beyond those that are known', () => {
    expect([1.5, 3, 4.5, 6, 12].map((diameter) => chipLoadAt(MATERIAL.chipLoads, diameter))).toEqual([
      0.02, 0.04, 0.06, 0.08, 0.16,
    ]);
  });
});

describe('forms of tools', () => {
  const forms: ToolForm[] = [
    { kind: 'end', diameter: 6 },
    { kind: 'ball', diameter: 6 },
    { kind: 'vee', diameter: 8, angle: 60, tip: 0.4 },
    { kind: 'taper', diameter: 6, angle: 20, tip: 1 },
  ];

  it('rise without a step, ever more steeply', () => {
    for (const form of forms.slice(1))
      for (let d = 0.01; d < form.diameter / 2 - 0.02; d += 0.01) {
        const [a, b, c] = [d - 0.01, d, d + 0.01].map((at) => rise(form, at));
        expect(b - a).toBeLessThan(0.2);
        expect(c - 2 * b + a).toBeGreaterThan(-1e-9);
      }
  });

  it('touch a line, and a plane, where a search along it finds it', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...forms.slice(1)),
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 2, noNaN: true }),
        (form, slope, aside) => {
          const reach = Math.sqrt((form.diameter / 2) ** 2 - aside ** 2);
          const height = (s: number) => slope * s + rise(form, Math.min(form.diameter / 2, Math.hypot(aside, s)));
          let least = Infinity;
          for (let i = -400; i <= 400; i++) least = Math.min(least, height((reach * i) / 400));
          const found = height(Math.min(reach, Math.max(-reach, lowestAlong(form, slope, aside))));
          expect(found).toBeLessThan(least + 1e-6);
          if (aside > 0) return;
          const steep = Math.abs(slope);
          const off = touchingPlane(form, steep);
          expect(steep * off - rise(form, off)).toBeGreaterThan(-least - 1e-6);
        },
      ),
    );
  });
});
