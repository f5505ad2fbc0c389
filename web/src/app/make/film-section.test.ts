import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { PlanPrograms } from '@plain-relief/api';
import { FilmDesk } from './film-desk';
import { FilmSection, type StandingTool } from './film-section';

const HEIGHTS = { top: 0, bottom: -10, safe: 2 };
const TOOL: StandingTool = {
  x: 30,
  y: 20,
  z: -4,
  turning: { form: { kind: 'end', diameter: 6 }, cuttingLength: 12, shank: 6, holder: { diameter: 30, standOut: 20 } },
};

/** Pairs of numbers of a path with absolute L, M, H and V. */
const numbers = (path: string): number[] => [...path.matchAll(/-?\d+(?:\.\d+)?/gu)].map(([text]) => Number(text));

async function show(tool?: StandingTool, heights = new Float32Array(120).fill(0).fill(-4, 50, 70)) {
  const fixture = TestBed.createComponent(FilmSection);
  fixture.componentRef.setInput('cut', { y: 20, from: 0.25, cell: 0.5, heights });
  fixture.componentRef.setInput('heights', HEIGHTS);
  fixture.componentRef.setInput('unit', 'mm');
  if (tool) fixture.componentRef.setInput('tool', tool);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  return { page, path: (name: string) => page.querySelector(`path.${name}`)?.getAttribute('d') ?? '' };
}

describe('the section of a film', () => {
  it('has every height of the stock where it is, down to the underside', async () => {
    const { path, page } = await show();
    const face = numbers(path('face'));
    // From 0 to 60 mm, 4 mm deep (down is positive) from 25 to 35.
    expect(face.slice(0, 3)).toEqual([0, 0, 0.5]);
    expect(face.slice(3 * 50, 3 * 50 + 3)).toEqual([25, 4, 25.5]);
    expect(face.at(-1)).toBe(60);
    expect(path('stock')).toMatch(/V10\.00H0\.00Z$/u);
    expect(page.textContent).toContain('Section at y 20 mm');
    expect(path('tool')).toBe('');
  });

  it('draws the tool as wide and as long as it is, and its holder', async () => {
    const { path } = await show(TOOL);
    const points = numbers(path('tool'));
    const [xs, zs] = [points.filter((_, i) => i % 2 === 0), points.filter((_, i) => i % 2 === 1)];
    expect([Math.min(...xs), Math.max(...xs), Math.max(...zs)]).toEqual([27, 33, 4]);
    expect(path('holder')).toMatch(/^M15 [\d.-]+H45/u);
  });

  it('makes low stocks higher, and says so', async () => {
    const { page } = await show(undefined, new Float32Array(4000).fill(0));
    expect(page.textContent).toContain('heights 10 times');
  });
});

describe('the worker of a film', () => {
  it('cuts the stock through where it is asked, else where the tool is', () => {
    const desk = new FilmDesk();
    const end = { id: 'e', name: 'End', number: 1, form: { kind: 'end', diameter: 4 }, flutes: 2, cuttingLength: 20, shank: 4, holder: { diameter: 20, standOut: 30 }, mostPlunge: 500, left: 1 }; // prettier-ignore
    const machine = { acceleration: 500, rapid: 5000, mostFeed: 3000, deviation: 0.02, toolChange: 0 };
    const madeWith = { machine, tools: [end] } as unknown as PlanPrograms['madeWith'];
    const programs = [{ name: 'one', text: 'G21 G90\nT1 M6\nM3 S9000\nG0 X10 Y20 Z3\nG1 Z-2 F600\nG1 X70\nG0 Z5\nM30\n' }];
    const facts = desk.open({
      programs,
      madeWith,
      stock: { top: 0, bottom: -10, box: { minX: 0, minY: 0, maxX: 80, maxY: 40 } },
      zero: { x: 0, y: 0, z: 0 },
    });
    expect(facts.tools.get(1)?.form).toEqual({ kind: 'end', diameter: 4 });
    const { face } = desk.frame(facts.seconds)!;
    expect(face.y).toBe(20);
    const cutMm = face.heights.filter((height) => height < -1.9).length * face.cell;
    // A slot of 60 mm with round ends.
    expect(Math.abs(cutMm - 64)).toBeLessThan(0.3);
    expect([...desk.frame(facts.seconds, 30)!.face.heights].every((height) => height === 0)).toBe(true);
  });
});
