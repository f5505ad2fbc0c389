import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { NumberField } from './number-field';

describe('NumberField', () => {
  let fixture: ComponentFixture<NumberField>;
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
    fixture = TestBed.createComponent(NumberField);
    fixture.componentRef.setInput('value', -12.5);
    fixture.componentRef.setInput('suffix', '°');
    fixture.componentRef.setInput('label', 'turn');
    changes = [];
    fixture.componentInstance.changed.subscribe((value) => changes.push(value));
    await fixture.whenStable();
  });

  it('shows the number with its suffix and a true minus', () => {
    expect(input().value).toBe('−12.5°');
  });

  it.each([
    ['45', 45],
    ['−30 °', -30],
    ['7,5', 7.5],
  ])('reads %s', async (text, value) => {
    await type(text);
    expect(changes).toEqual([value]);
  });

  it.each(['', 'a turn', '1e999', '4 5'])('refuses “%s” and keeps it to be mended', async (text) => {
    await type(text);
    expect(changes).toEqual([]);
    expect(input().value).toBe(text);
    expect(fixture.nativeElement.textContent).toContain(`“${text}” is not a number.`);
  });

  it('says its limits', async () => {
    await type('400');
    await type('-361');
    expect(fixture.nativeElement.textContent).toContain('The turn can be from −360° to 1000°.');
    expect(changes).toEqual([400]);
  });
});
