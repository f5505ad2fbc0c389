import { TestBed } from '@angular/core/testing';
import type { SectionView } from '../../relief/views';
import { SectionViewer } from './section-view';

const SECTION: SectionView = {
  line: { x: 0, y: 0, turn: 0 },
  profiles: [],
  bodies: ['M0 0L10 0L10 5L0 5z'],
  surfaces: [
    { from: -50, to: -10, z: 0, zEnd: 0, colour: '#efe4cc' },
    { from: -10, to: 0, z: 0, zEnd: 10, colour: '#b0741f' },
    { from: 0, to: 10, z: 10, zEnd: 0, colour: '#b0741f' },
    { from: 20, to: 50, z: -3, zEnd: -3, colour: '#3b556b' },
  ],
  from: -50,
  to: 50,
  top: 10,
  bottom: -12,
};

describe('SectionViewer', () => {
  async function pointingAt(mm: number): Promise<string> {
    const fixture = TestBed.createComponent(SectionViewer);
    fixture.componentRef.setInput('section', SECTION);
    fixture.componentRef.setInput('unit', 'mm');
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const svg = page.querySelector('svg')!;
    // Where the page puts that place, from the transform that it draws with.
    const [, left, scale] = /translate\(([-\d.]+) [-\d.]+\) scale\(([-\d.]+)/u.exec(
      svg.querySelector('g')!.getAttribute('transform')!,
    )!;
    svg.dispatchEvent(new MouseEvent('pointermove', { clientX: Number(left) + mm * Number(scale), bubbles: true }));
    await fixture.whenStable();
    return page.querySelector('.read')!.textContent.trim();
  }

  it('reads out height and width of levels', async () => {
    expect(await pointingAt(-30)).toBe('20 mm along: the face, 40 mm wide');
    expect(await pointingAt(35)).toBe('85 mm along: carved 3 mm, 30 mm wide');
    expect(await pointingAt(15)).toBe('65 mm along: no material');
  });

  it('reads out the height on a slope, with its angle and what it runs over', async () => {
    expect(await pointingAt(-2)).toBe('48 mm along: raised 8 mm, a slope of 45.0°, 10 mm wide');
    expect(await pointingAt(7)).toBe('57 mm along: raised 3 mm, a slope of 45.0°, 10 mm wide');
  });

  it('offers to keep a line for the proof, to go to kept ones, and to drop the one that is seen', async () => {
    const fixture = TestBed.createComponent(SectionViewer);
    const [a, b] = ['A', 'B'].map((name, i) => ({ id: name, name: `${name}–${name}`, x: 0, y: i, turn: 0 }));
    const done: unknown[] = [];
    fixture.componentInstance.keptNow.subscribe(() => done.push('keep'));
    fixture.componentInstance.shown.subscribe((id) => done.push(['show', id]));
    fixture.componentInstance.dropped.subscribe((id) => done.push(['drop', id]));
    fixture.componentRef.setInput('section', SECTION);
    fixture.componentRef.setInput('unit', 'mm');
    fixture.componentRef.setInput('kept', [a, b]);
    await fixture.whenStable();
    const press = async (name: string): Promise<void> => {
      const buttons = [...(fixture.nativeElement as HTMLElement).querySelectorAll('button')];
      buttons.find(({ textContent }) => textContent.trim() === name)!.click();
      await fixture.whenStable();
    };
    await press('Keep for the proof');
    await press('B–B');
    fixture.componentRef.setInput('current', b);
    await fixture.whenStable();
    expect((fixture.nativeElement as HTMLElement).textContent).toContain('Section B–B');
    await press('Drop B–B');
    expect(done).toEqual(['keep', ['show', 'B'], ['drop', 'B']]);
  });
});
