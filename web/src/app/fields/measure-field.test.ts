import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { type Measure } from '@plain-relief/core/sign';
import { MeasureField } from './measure-field';

describe('MeasureField', () => {
  let fixture: ComponentFixture<MeasureField>;
  let changes: Measure[];
  const input = () => (fixture.nativeElement as HTMLElement).querySelector('input')!;

  async function type(text: string, key = 'Enter'): Promise<void> {
    input().dispatchEvent(new Event('focus'));
    input().value = text;
    input().dispatchEvent(new Event('input'));
    input().dispatchEvent(new KeyboardEvent('keydown', { key }));
    await fixture.whenStable();
  }

  beforeEach(async () => {
    fixture = TestBed.createComponent(MeasureField);
    fixture.componentRef.setInput('value', { kind: 'percent', of: 155 });
    fixture.componentRef.setInput('unit', 'in');
    fixture.componentRef.setInput('label', 'leading');
    fixture.componentRef.setInput('percents', { min: 50, max: 1000 });
    changes = [];
    fixture.componentInstance.changed.subscribe((measure) => changes.push(measure));
    await fixture.whenStable();
  });

  it('takes percent or a length, whichever is typed', async () => {
    expect(input().value).toBe('155 %');
    await type('1 1/4 in');
    await type('31mm');
    await type('160%');
    await type('155 %');
    expect(changes).toEqual([
      { kind: 'length', length: 31.75 },
      { kind: 'length', length: 31 },
      { kind: 'percent', of: 160 },
    ]);
  });

  it('holds each to its own limits', async () => {
    await type('20 %');
    expect(fixture.nativeElement.textContent).toContain('The leading can be from 50 % to 1000 %.');
    await type('-3 mm');
    expect(fixture.nativeElement.textContent).toContain('The leading can be from 0 in');
    expect(changes).toEqual([]);
  });

  it('steps what it is', async () => {
    await type('155 %', 'ArrowUp');
    await type('1 in', 'ArrowDown');
    expect(changes).toEqual([
      { kind: 'percent', of: 156 },
      { kind: 'length', length: expect.closeTo(25.4 * (15 / 16), 6) },
    ]);
  });
});
