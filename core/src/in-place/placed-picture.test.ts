import { describe, expect, it } from '@jest/globals';
import { addShape, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type Picture } from '../picture/index.js';
import { type Sign } from '../sign/index.js';
import { coloured, type ColouredMesh, solidOf } from '../solid/index.js';
import { type Camera, cameraAt, cameraOf, homographyBetween, newPlace, type Place, type PlacedSign, placedPicture } from './index.js'; // prettier-ignore

const workshop = new Workshop();
const solid = (sign: Sign): ColouredMesh => {
  const evaluation = workshop.evaluate(sign);
  return coloured(evaluation, solidOf(evaluation));
};
const hung = (at: Partial<PlacedSign> = {}): PlacedSign => ({ sign: 'one', x: 0, y: 0, turn: 0, standOff: 0, ...at });
const LIGHT: Place['light'] = { from: 90, rise: 45, softness: 0, brightness: 1 };
const at = ({ width, rgba }: Picture, across: number, down: number): number[] => [...rgba.slice(4 * (Math.floor(down) * width + Math.floor(across)), 4 * (Math.floor(down) * width + Math.floor(across)) + 4)]; // prettier-ignore

/** A board of 8 × 6 squares of 20 mm, the dark ones standing 0.1 mm high. */
function chequerboard(): Sign {
  const sign = bareSign(160, 120, 6);
  sign.finishes = [{ id: 'dark', name: 'dark', colour: '#101010', gloss: 'matt' }, { id: 'light', name: 'light', colour: '#f8f8f8', gloss: 'matt' }]; // prettier-ignore
  sign.blank.finish = { face: 'light', sides: 'light' };
  for (let i = 0; i < 8; i++)
    for (let j = 0; j < 6; j++) {
      if ((i + j) % 2 === 0) continue;
      addShape(sign, [20, 20], { kind: 'raise', by: 0.1 }, { x: -70 + 20 * i, y: -50 + 20 * j });
      sign.parts[sign.parts.length - 1].tiers[0].finish = { top: 'dark', sides: 'dark' };
    }
  return sign;
}

describe('a sign in its place', () => {
  it('is a chequerboard whose squares lie where the four corners say', () => {
    const board = solid(chequerboard());
    const [width, height] = [900, 640];
    const taken = cameraAt({ x: 30, y: 10 }, { turn: 38, tilt: -14, distance: 420 }, 1100, width, height);
    const marked = [[-100, 80], [100, 80], [100, -80], [-100, -80]].map(([x, y]) => ({ x, y })); // prettier-ignore
    const pixels = marked.map(({ x, y }) => ({ x: taken.seen(x, y, 0)[0], y: taken.seen(x, y, 0)[1] }));
    const picture = placedPicture([{ at: hung(), solid: board }], cameraOf(homographyBetween(marked, pixels), width, height), LIGHT, width, height); // prettier-ignore
    let tried = 0;
    for (let i = 0; i < 8; i++)
      for (let j = 0; j < 6; j++) {
        const isDark = (i + j) % 2 === 1;
        const z = isDark ? 6.1 : 6;
        const [x, y] = [-70 + 20 * i, -50 + 20 * j];
        // A pixel and a half inside of each of its corners, and in its middle.
        for (const [cx, cy] of [
          [0, 0],
          [-10, -10],
          [10, -10],
          [10, 10],
          [-10, 10],
        ]) {
          const [middle, corner] = [taken.seen(x, y, z), taken.seen(x + cx, y + cy, z)];
          const away = Math.hypot(middle[0] - corner[0], middle[1] - corner[1]) || 1;
          const share = cx === 0 ? 0 : 2.2 / away;
          const [across, down] = [corner[0] + share * (middle[0] - corner[0]), corner[1] + share * (middle[1] - corner[1])];
          const [red, , , opacity] = at(picture, across, down);
          expect([i, j, cx, cy, red < 128, opacity]).toEqual([i, j, cx, cy, isDark, 255]);
          tried++;
        }
      }
    expect(tried).toBe(240);
  });

  it('covers what its outline covers in perspective', () => {
    const camera = cameraAt({ x: 0, y: 0 }, { turn: 0, tilt: 0, distance: 1000 }, 1000, 400, 300);
    const picture = placedPicture(
      [{ at: hung(), solid: solid(bareSign(200, 100, 10)) }],
      camera,
      { ...LIGHT, rise: 90 },
      400,
      300,
    );
    // The face is 10 mm nearer than the wall: 200 × 100 mm at 990 mm.
    const covered = picture.rgba.reduce((sum, value, i) => sum + (i % 4 === 3 ? value / 255 : 0), 0);
    expect(covered / ((200 / 0.99) * (100 / 0.99))).toBeCloseTo(1, 2);
  });

  it.each([30, 45, 60])('throws a shadow as long as its height over the tangent of the light: %d°', (rise) => {
    const thick = 20;
    const camera = cameraAt({ x: 0, y: -40 }, { turn: 0, tilt: 0, distance: 4000 }, 8000, 400, 400);
    const picture = placedPicture([{ at: hung(), solid: solid(bareSign(60, 40, thick)) }], camera, { ...LIGHT, rise }, 400, 400);
    // From above, below the blank’s lower edge.
    let [from, to] = [Infinity, -Infinity];
    for (let row = 0; row < 400; row++) {
      const [red, , , opacity] = at(picture, 200, row);
      if (opacity < 60 || opacity > 200 || red > 10) continue;
      [from, to] = [Math.min(from, row), Math.max(to, row)];
    }
    const end = camera.onWall(200, to + 1)!.y;
    expect(Math.abs(end - (-20 - thick / Math.tan((rise * Math.PI) / 180)))).toBeLessThan(0.8);
    // Beside the shadow’s column there is none, and none above the sign.
    expect(at(picture, 200 + 2 * 34, to - 2)[3]).toBe(0);
    expect(at(picture, 200, camera.seen(0, 24, 0)[1])[3]).toBe(0);
  });

  it('that stands off the wall throws it farther, turned it turns, and two stand side by side', () => {
    const camera = cameraAt({ x: 0, y: 0 }, { turn: 0, tilt: 0, distance: 4000 }, 8000, 600, 400);
    const plate = solid(bareSign(60, 40, 5));
    const opacityAt = (picture: Picture, x: number, y: number): number => {
      const [across, down] = camera.seen(x, y, 0);
      return at(picture, across, down)[3];
    };
    const off = placedPicture([{ at: hung({ standOff: 30 }), solid: plate }], camera, LIGHT, 600, 400);
    // From 30 to 35 mm off, at 45°: between 50 and 55 mm below the middle it ends.
    expect([opacityAt(off, 0, -48) > 0, opacityAt(off, 0, -58)]).toEqual([true, 0]);
    const turned = placedPicture([{ at: hung({ turn: 90 }), solid: plate }], camera, { ...LIGHT, rise: 90 }, 600, 400);
    expect([opacityAt(turned, 0, 28), opacityAt(turned, 28, 0)]).toEqual([255, 0]);
    const two = placedPicture([{ at: hung({ x: -50 }), solid: plate }, { at: hung({ x: 50 }), solid: plate }], camera, { ...LIGHT, rise: 90 }, 600, 400); // prettier-ignore
    expect([opacityAt(two, -50, 0), opacityAt(two, 0, 0), opacityAt(two, 50, 0)]).toEqual([255, 0, 255]);
  });

  it('is brighter on the side that is lit, and its shadow softer under a soft light', () => {
    const camera = cameraAt({ x: 0, y: 0 }, { turn: 40, tilt: 20, distance: 900 }, 1400, 500, 400);
    const block = solid(bareSign(80, 80, 60));
    const from = (light: Partial<Place['light']>): Picture => placedPicture([{ at: hung(), solid: block }], camera, { ...LIGHT, ...light }, 500, 400); // prettier-ignore
    const sideOf = (picture: Picture): number => {
      const [across, down] = camera.seen(40, 0, 30);
      return at(picture, across, down)[1];
    };
    expect(sideOf(from({ from: 0 }))).toBeGreaterThan(1.3 * sideOf(from({ from: 180 })));
    const edges = (picture: Picture): number => new Set([...picture.rgba].filter((value, i) => i % 4 === 3 && value > 0 && value < 120)).size; // prettier-ignore
    expect(edges(from({ softness: 1 }))).toBeGreaterThan(edges(from({ softness: 0 })));
  });

  it('is refused where it reaches behind the one who looks', () => {
    const camera: Camera = cameraAt({ x: 0, y: 0 }, { turn: 60, tilt: 0, distance: 100 }, 300, 300, 200);
    expect(() => placedPicture([{ at: hung({ x: 400 }), solid: solid(bareSign(200, 100, 5)) }], camera, LIGHT, 300, 200)).toThrow(
      'behind the one who looks',
    );
    // Nothing hangs there: nothing is seen.
    expect(placedPicture([], camera, newPlace([]).light, 30, 20).rgba.every((value) => value === 0)).toBe(true);
  });
});
