import { TestBed } from '@angular/core/testing';
import type { LadderView, RungView } from '../../relief/views';
import { Ladder } from './ladder';

const rung = (part: string, z: number, more: Partial<RungView> = {}): RungView => ({
  part,
  tier: 'tier-1',
  name: part.toUpperCase(),
  z,
  isThrough: false,
  colour: '#b0741f',
  ...more,
});
const LADDER: LadderView = {
  top: 3,
  back: -12,
  side: 'front',
  rungs: [rung('crest', 3), rung('panel', -2), rung('hole', -12, { isThrough: true })],
  levels: [{ z: 0, areaMm2: 100, colour: '#efe4cc' }],
};

describe('Ladder', () => {
  async function show(ladder: LadderView) {
    const fixture = TestBed.createComponent(Ladder);
    fixture.componentRef.setInput('ladder', ladder);
    fixture.componentRef.setInput('unit', 'mm');
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const done: unknown[] = [];
    const { moved, ordered, nudged, limited } = fixture.componentInstance;
    moved.subscribe((move) => done.push(['moved', move.part, move.level]));
    ordered.subscribe(({ part, other }) => done.push(['ordered', part, other]));
    nudged.subscribe(({ part, by }) => done.push(['nudged', part, by]));
    limited.subscribe((limit) => done.push(['limited', limit]));
    return { fixture, page, done };
  }

  const press = (element: Element, key: string, altKey = false): boolean =>
    element.dispatchEvent(new KeyboardEvent('keydown', { key, altKey, bubbles: true, cancelable: true }));
  const point = (element: EventTarget, type: string, more: object = {}): boolean =>
    element.dispatchEvent(Object.assign(new MouseEvent(type, { bubbles: type !== 'pointerenter', ...more }), more));

  it('marks the heights between which a finding lies, and a flat one, too', async () => {
    const { fixture, page } = await show(LADDER);
    expect(page.querySelector('.found')).toBeNull();
    const heightOf = async (found: readonly [number, number]): Promise<number> => {
      fixture.componentRef.setInput('found', found);
      await fixture.whenStable();
      return Number(page.querySelector('.found rect')!.getAttribute('height'));
    };
    // From the face up to the crest, and a pixel on either side.
    const face = Number(page.querySelector('.blank')!.getAttribute('y'));
    const crest = Number(/^M38 ([\d.]+)/u.exec(page.querySelector('.lead')!.getAttribute('d')!)![1]);
    expect((await heightOf([0, 3])) - 2).toBeCloseTo(face - crest, 6);
    expect(await heightOf([2, 2])).toBe(3);
    expect(page.querySelector('.found title')!.textContent).toContain('between 2 mm and 2 mm');
  });

  it('moves a rung by keys in steps, and what is cut through not at all', async () => {
    const { page, done } = await show(LADDER);
    const grips = [...page.querySelectorAll('.grip')];
    press(grips[0], 'ArrowUp');
    press(grips[1], 'ArrowDown');
    press(grips[2], 'ArrowUp');
    expect(done).toEqual([['moved', 'crest', 3.5], ['moved', 'panel', -2.5]]); // prettier-ignore
  });

  it('changes the build order by Alt with the keys, of what is cut through as well', async () => {
    const { page, done } = await show(LADDER);
    const grips = [...page.querySelectorAll('.grip')];
    press(grips[0], 'ArrowDown', true);
    press(grips[2], 'ArrowUp', true);
    expect(done).toEqual([['nudged', 'crest', -1], ['nudged', 'hole', 1]]); // prettier-ignore
  });

  it('brings a part next to another when its name is dragged there, and leaves it when it is let go elsewhere', async () => {
    const { fixture, page, done } = await show(LADDER);
    const [crest, panel] = [...page.querySelectorAll('li')];
    const name = crest.querySelector('.name')!;
    point(name, 'pointerdown');
    point(panel, 'pointerenter');
    await fixture.whenStable();
    expect([crest.className, panel.className].join(' ')).toMatch(/carried.*over/u);
    point(window, 'pointerup');
    await fixture.whenStable();
    expect(done).toEqual([['ordered', 'crest', 'panel']]);
    expect(page.querySelector('.carried, .over')).toBeNull();
    // Over itself, or over nothing, it stays.
    point(name, 'pointerdown');
    point(crest, 'pointerenter');
    point(window, 'pointerup');
    point(panel, 'pointerenter');
    point(window, 'pointerup');
    expect(done).toHaveLength(1);
  });

  it('shows the limit of heights as a rung that nothing stands on, and what is above it as wrong', async () => {
    const { fixture, page, done } = await show({ ...LADDER, limit: 2.5 });
    const y = Number(page.querySelector('.ghost')!.getAttribute('y1'));
    const [face, top] = [0, 3].map((z) => {
      const place =
        z === 0 ? page.querySelector('.blank')!.getAttribute('y') : page.querySelectorAll('.lead')[0].getAttribute('d');
      return Number(/[\d.]+/u.exec((place ?? '').replace(/^M38 /u, ''))![0]);
    });
    // To scale: 2.5 of 3 mm up from the face.
    expect((face - y) / (face - top)).toBeCloseTo(2.5 / 3, 3);
    expect(page.querySelectorAll('li.deep')).toHaveLength(1);
    const field = page.querySelector<HTMLInputElement>('[aria-label="height limit"]')!;
    field.value = '4 mm';
    field.dispatchEvent(new Event('input'));
    press(field, 'Enter');
    field.dispatchEvent(new Event('change'));
    field.dispatchEvent(new Event('blur'));
    await fixture.whenStable();
    expect(done).toContainEqual(['limited', 4]);
  });

  it('names its ends as they are seen from the side that is shown', async () => {
    const ends = async (ladder: LadderView) =>
      [...(await show(ladder)).page.querySelectorAll('.end')].slice(0, 2).map(({ textContent }) => textContent);
    expect(await ends(LADDER)).toEqual(['face', 'back']);
    expect(await ends({ ...LADDER, side: 'back' })).toEqual(['back', 'face']);
  });
});
