import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { type Correction } from '@plain-relief/core/runs';
import { newShape, newSign } from '@plain-relief/core/sign';
import { RowCorrections } from './row-corrections';

const sign = newSign('Badge', 'mm');
sign.parts.push({ ...newShape(sign, 'circle'), id: 'dot', name: 'Dot', shape: { kind: 'circle', diameter: 8 } });

describe('corrections of one plate alone', () => {
  let fixture: ComponentFixture<RowCorrections>;
  let said: (readonly Correction[])[];
  const element = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const field = <T extends HTMLElement>(selector: string): T => element().querySelector<T>(selector)!;

  function show(corrections: readonly Correction[]): void {
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('corrections', corrections);
    fixture.detectChanges();
  }

  function choose(words: string): void {
    const select = field<HTMLSelectElement>('select');
    const at = [...select.options].findIndex(({ text }) => text.trim() === words);
    select.selectedIndex = at;
    select.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  }

  function correct(value: string): void {
    field<HTMLInputElement>('input').value = value;
    field('form').dispatchEvent(new Event('submit'));
  }

  beforeEach(() => {
    fixture = TestBed.createComponent(RowCorrections);
    said = [];
    fixture.componentInstance.changed.subscribe((change) => said.push(change(fixture.componentInstance.corrections())));
  });

  it('say that there are none, and what each is now where it is chosen', () => {
    show([]);
    expect(element().textContent).toContain('As the sign is.');
    choose('the diameter of Dot');
    expect(field<HTMLInputElement>('input').placeholder).toBe('8 mm');
    choose('whether Dot is made');
    expect(field<HTMLInputElement>('input').placeholder).toBe('yes or no');
  });

  it('are said one after the other, the later in place of the former of the same, and taken back', () => {
    show([]);
    choose('the diameter of Dot');
    correct(' 6 mm ');
    correct('  ');
    expect(said.length).toBe(1);
    const [first] = said;
    expect(first).toEqual([{ sets: { kind: 'length', part: 'dot', of: 'diameter', least: 4, most: 16 }, value: '6 mm' }]);
    expect(field<HTMLInputElement>('input').value).toBe('  ');
    show(first);
    expect(element().textContent).toMatch(/the diameter of Dot: 6 mm/u);
    choose('the diameter of Dot');
    correct('5');
    expect(said.at(-1)!.map(({ value }) => value)).toEqual(['5']);
    choose('whether Dot is made');
    correct('no');
    expect(said.at(-1)!.map(({ value }) => value)).toEqual(['6 mm', 'no']);
    field<HTMLButtonElement>('button[aria-label="Take back: the diameter of Dot"]').click();
    expect(said.at(-1)).toEqual([]);
  });
});
