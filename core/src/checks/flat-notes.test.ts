import { describe, expect, it } from '@jest/globals';
import { addShape, addText, bareSign } from '../../testing/signs.js';
import { Workshop } from '../../testing/workshop.js';
import { type ShapePart, type Sign, type Support } from '../sign/index.js';
import { notesOf } from './index.js';

const workshop = new Workshop();
const POST: Support = { kind: 'cylinder', radius: 60, facing: 'outside' };

/** The notes of a sign on a post that a rectangle is set flat on. */
function told(
  to: number,
  width: number,
  change: (part: ShapePart, sign: Sign) => void = () => undefined,
  support = POST,
): string[] {
  const sign: Sign = { ...bareSign(180, 80, 10), support };
  addShape(sign, 10, { kind: 'set', to, flat: true });
  const part = sign.parts[0] as ShapePart;
  part.name = 'Pad';
  part.shape = { kind: 'rectangle', width, height: 20, cornerRadius: 0 };
  change(part, sign);
  return notesOf(workshop.evaluate(sign, part.side ?? 'front')).flatMap(({ code, text }) => (code.startsWith('support-flat') ? [text] : [])); // prettier-ignore
}

describe('what is told of levels in planes', () => {
  it('is nothing as long as they stay under the face, or above it', () => {
    expect(told(-4, 40)).toEqual([]);
    expect(told(2, 40)).toEqual([]);
  });

  it('is by how much they cross the face, at the edge', () => {
    // (R − d)/cos θ − R at θ = 35/60: 2.31 mm.
    const [note] = told(-8, 70);
    expect(note).toBe('Pad lies flat, and the surface bends away from it: at its edge it stands above the face by as much as 2.3 mm. Make it smaller, set it deeper, or let it follow the surface.'); // prettier-ignore
    // On the inside it is the other way round: R − (R − h)/cos θ at θ = 25/60: −2.33 mm.
    expect(told(3, 50, undefined, { ...POST, facing: 'inside' }).join()).toMatch(/at its edge it lies below the face by as much as 2\.33 mm/u); // prettier-ignore
  });

  it('is that they would come out behind, and where the surface turns too far away', () => {
    expect(told(-4, 80, undefined, { ...POST, facing: 'inside' }).join()).toMatch(/would come out on the other side of the wall at its edge/u); // prettier-ignore
    expect(told(-4, 175).join()).toMatch(/reaches where the surface turns more than 80° away/u);
    // On the back the wall bends the other way.
    expect(told(-4, 60, (part) => (part.side = 'back')).join()).toMatch(/would come out on the other side/u);
  });

  it('is that edge forms are left out, of what stands on them, too', () => {
    const edge = { kind: 'chamfered', width: 0.5, height: 0.5 } as const;
    expect(told(-4, 40, ({ tiers }) => (tiers[0].edge = edge)).join()).toMatch(/Pad is measured from a flat level, on which sides are upright/u); // prettier-ignore
    const withLetters = told(-4, 40, (pad, sign) => {
      const text = addText(sign, 'Fern', 'barlow-bold', 9, { kind: 'raise', by: 1 });
      text.sitsOn = { kind: 'part', part: pad.id, at: 'floor' };
      text.tiers[0].edge = edge;
    });
    expect(withLetters).toHaveLength(1);
  });
});
