import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { newShape, newSign, type ShapePart } from '@plain-relief/core/sign';
import { PlanPoints } from './plan-points';

describe('PlanPoints', () => {
  let fixture: ComponentFixture<PlanPoints>;
  let part: ShapePart;
  const page = () => fixture.nativeElement as HTMLElement;
  const knobs = () => [...page().querySelectorAll<SVGRectElement>('svg rect')];
  const press = async (words: string) => {
    [...page().querySelectorAll('button')].find((button) => button.textContent!.trim() === words)!.click();
    await fixture.whenStable();
  };
  const choose = async (index: number) => {
    knobs()[index].dispatchEvent(new FocusEvent('focus'));
    await fixture.whenStable();
  };
  /** Key on a point; what is handed out becomes the part, as the bench does it. */
  const key = async (index: number, name: string, shiftKey = false) => {
    knobs()[index].dispatchEvent(new KeyboardEvent('keydown', { key: name, shiftKey, bubbles: true }));
    await fixture.whenStable();
  };
  const size = () => (part.shape.kind === 'outline' ? [part.shape.width, part.shape.height] : []);

  beforeEach(async () => {
    // 300 × 200 mm blank: a free outline of 120 × 80 about its middle.
    part = newShape(newSign('Test', 'mm'), 'outline');
    fixture = TestBed.createComponent(PlanPoints);
    fixture.componentRef.setInput('part', part);
    fixture.componentRef.setInput('view', { x: 200, y: 150, scale: 2 });
    fixture.componentRef.setInput('unit', 'mm');
    fixture.componentInstance.changed.subscribe((changed) => {
      part = changed;
      fixture.componentRef.setInput('part', changed);
    });
    await fixture.whenStable();
  });

  it('shows every point where it lies in the plan', () => {
    const at = knobs().map((knob) => [Number(knob.getAttribute('x')) + 5, Number(knob.getAttribute('y')) + 5]);
    expect(at).toEqual([
      [80, 230],
      [320, 230],
      [320, 70],
      [80, 70],
    ]);
    expect(page().textContent).toContain('Choose a point, or drag one.');
  });

  it('moves a point by keys; the others stay where they are', async () => {
    await choose(2);
    await key(2, 'ArrowRight', true);
    expect(size()).toEqual([125, 80]);
    expect(part.place).toMatchObject({ x: 2.5, y: 0 });
    expect(Number(knobs()[0].getAttribute('x')) + 5).toBeCloseTo(80, 3);
  });

  it('takes a typed coordinate', async () => {
    await choose(1);
    const field = page().querySelector<HTMLInputElement>('[aria-label="point across"]')!;
    field.dispatchEvent(new Event('focus'));
    field.value = '80 mm';
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await fixture.whenStable();
    expect(size()).toEqual([140, 80]);
  });

  it('adds points, takes them out, makes them smooth and corners again', async () => {
    await choose(0);
    await press('Add after it');
    expect(knobs()).toHaveLength(5);
    expect(size()).toEqual([120, 80]);
    await choose(0);
    await press('Smooth');
    expect(knobs()[0].getAttribute('rx')).toBe('5');
    expect(page().querySelectorAll('circle').length).toBe(2);
    await press('Corner');
    expect(knobs()[0].getAttribute('rx')).toBe('0');
    await key(0, 'Delete');
    expect(knobs()).toHaveLength(4);
  });

  it('keeps an outline that would have nothing left', async () => {
    for (let i = 0; i < 4; i++) {
      await choose(0);
      await key(0, 'Delete');
    }
    expect(knobs().length).toBeGreaterThan(1);
    expect(size().every((mm) => mm > 0)).toBe(true);
  });
});
