import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { LengthField } from './length-field';

describe('LengthField', () => {
  let fixture: ComponentFixture<LengthField>;
  let changes: number[];
  const input = () => (fixture.nativeElement as HTMLElement).querySelector('input')!;

  async function type(text: string, key = 'Enter'): Promise<void> {
    input().dispatchEvent(new Event('focus'));
    input().value = text;
    input().dispatchEvent(new Event('input'));
    input().dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  }

  beforeEach(async () => {
    fixture = TestBed.createComponent(LengthField);
    fixture.componentRef.setInput('value', 19.05);
    fixture.componentRef.setInput('unit', 'in');
    fixture.componentRef.setInput('label', 'cap height');
    fixture.componentRef.setInput('min', 0.5);
    changes = [];
    fixture.componentInstance.changed.subscribe((mm) => changes.push(mm));
    await fixture.whenStable();
  });

  it('shows the length in the unit of the sign', () => {
    expect(input().value).toBe('3/4 in');
    expect(input().getAttribute('aria-label')).toBe('cap height');
  });

  it('is selected when it is entered, rounded as elsewhere, and stays so', async () => {
    fixture.componentRef.setInput('value', 66.6666);
    fixture.componentRef.setInput('unit', 'mm');
    await fixture.whenStable();
    expect(input().value).toBe('66.67 mm');
    input().dispatchEvent(new Event('focus'));
    await fixture.whenStable();
    expect(input().value).toBe('66.67 mm');
    expect([input().selectionStart, input().selectionEnd]).toEqual([0, 8]);
  });

  it('takes only what was typed in it, and shows what is true now', async () => {
    input().dispatchEvent(new Event('focus'));
    // Something else changes it while it is entered, as the distance to one edge does that to the other.
    fixture.componentRef.setInput('value', 50.8);
    await fixture.whenStable();
    expect(input().value).toBe('2 in');
    input().dispatchEvent(new Event('blur'));
    await fixture.whenStable();
    expect(changes).toEqual([]);
    input().dispatchEvent(new Event('focus'));
    input().dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }));
    expect(changes).toEqual([52.3875]);
  });

  it('takes any unit', async () => {
    await type('6 mm + 1/8 in');
    await type('1');
    expect(changes).toEqual([9.175, 25.4]);
  });

  it('keeps what it does not understand and says so, until it is left', async () => {
    await type('12 furlongs');
    expect(changes).toEqual([]);
    expect(input().value).toBe('12 furlongs');
    expect(fixture.nativeElement.textContent).toContain('“furlongs”');
    await type('12 furlongs', 'Escape');
    expect(input().value).toBe('3/4 in');
    expect(fixture.nativeElement.textContent).not.toContain('furlongs');
  });

  it('names the limits of a length that is out of them', async () => {
    await type('0');
    expect(changes).toEqual([]);
    expect(fixture.nativeElement.textContent).toContain('The cap height can be from');
  });

  it('steps by keys', async () => {
    await type('1 in', 'ArrowUp');
    expect(changes.at(-1)).toBeCloseTo(25.4 * (17 / 16), 6);
  });
});
