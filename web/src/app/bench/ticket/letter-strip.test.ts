import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { newSign, newText } from '@plain-relief/core/sign';
import { LetterStrip } from './letter-strip';

describe('LetterStrip', () => {
  let fixture: ComponentFixture<LetterStrip>;
  let changes: unknown[];
  const page = () => fixture.nativeElement as HTMLElement;
  const button = (label: string) =>
    [...page().querySelectorAll('button')].find(
      (each) => each.ariaLabel?.startsWith(label) || each.textContent?.trim() === label,
    )!;

  beforeEach(async () => {
    fixture = TestBed.createComponent(LetterStrip);
    const part = { ...newText(newSign('Test', 'mm'), 'barlow-semibold'), words: 'AV\nÜ', letters: [{ at: 0, kern: 0.5 }] };
    fixture.componentRef.setInput('part', part);
    fixture.componentRef.setInput('unit', 'mm');
    fixture.componentRef.setInput('gaps', [{ from: 0, to: 1, gap: 1.234, isJoined: false, areNeighbours: true }]);
    changes = [];
    fixture.componentInstance.letterSet.subscribe((change) => changes.push(change));
    fixture.componentInstance.opened.subscribe((diameter) => changes.push(diameter));
    await fixture.whenStable();
  });

  it('says the narrowest gap, and opens to letters and gaps', async () => {
    expect(page().textContent).toContain('narrowest gap 1.23 mm');
    button('Letters and gaps').click();
    await fixture.whenStable();
    expect([...page().querySelectorAll('.letter')].map((each) => each.textContent!.trim())).toEqual(['A', 'V', 'Ü']);
    expect(page().querySelectorAll('.gap')).toHaveLength(1);
    expect(button('Letter A').classList.contains('set')).toBe(true);
  });

  it('names the letters where others than neighbours are the nearest', async () => {
    fixture.componentRef.setInput('gaps', [
      { from: 0, to: 1, gap: 1.234, isJoined: false, areNeighbours: true },
      { from: 1, to: 3, gap: 0, isJoined: false, areNeighbours: false },
    ]);
    await fixture.whenStable();
    expect(page().textContent).toContain('narrowest gap 0 mm, between “V” of line 1 and “Ü” of line 2');
    button('Letters and gaps').click();
    await fixture.whenStable();
    expect(page().querySelectorAll('.gap')).toHaveLength(1);
  });

  it('opens and closes a gap by keys, on top of what it was', async () => {
    button('Letters and gaps').click();
    await fixture.whenStable();
    const gap = page().querySelector('.gap')!;
    for (const [key, shiftKey] of [
      ['ArrowRight', false],
      ['ArrowLeft', true],
    ] as const)
      gap.dispatchEvent(new KeyboardEvent('keydown', { key, shiftKey }));
    await fixture.whenStable();
    expect(changes).toEqual([
      { at: 0, change: { kern: 0.6 } },
      { at: 0, change: { kern: -0.5 } },
    ]);
    expect(page().textContent!.replace(/\s+/gu, ' ')).toContain('Between “A” and “V” 1.23 mm, by hand');
  });

  it('shows what is set of a letter, and asks for a tool', async () => {
    button('Letters and gaps').click();
    await fixture.whenStable();
    button('Letter Ü').click();
    await fixture.whenStable();
    expect([...page().querySelectorAll('input')].map((input) => input.value)).toEqual([
      '0 mm',
      '0 mm',
      '0°',
      '100 %',
      '0 mm',
      '3 mm',
    ]);
    button('Open up').click();
    expect(changes).toEqual([3]);
  });
});
