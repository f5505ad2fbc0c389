import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, it } from '@jest/globals';
import { newShape, newSign, newText, type Sign, type Slot } from '@plain-relief/core/sign';
import { SlotsPanel } from './slots-panel';

/** A badge with a line of words and two marks. */
function badge(slots?: Slot[], words = ''): Sign {
  const sign = newSign('Badge', 'mm');
  sign.parts.push({ ...newText(sign, 'barlow-semibold'), id: 'line', name: 'Line', words });
  for (const [id, name] of [['fern', 'Fern'], ['gull', 'Gull']]) sign.parts.push({ ...newShape(sign, 'circle'), id, name }); // prettier-ignore
  return slots ? { ...sign, slots } : sign;
}

describe('columns of a run beside its list', () => {
  let fixture: ComponentFixture<SlotsPanel>;
  let changed: Sign[];
  const element = (): HTMLElement => fixture.nativeElement as HTMLElement;
  const field = <T extends HTMLElement>(selector: string): T => element().querySelector<T>(selector)!;

  function show(sign: Sign, columns: readonly string[] = ['Name', 'Mark'], isLooking = false): void {
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('columns', columns);
    fixture.componentRef.setInput('matching', new Map());
    fixture.componentRef.setInput('isLooking', isLooking);
    fixture.detectChanges();
  }

  function pick(selector: string, text: string): void {
    const select = field<HTMLSelectElement>(selector);
    select.selectedIndex = [...select.options].findIndex((option) => option.text.trim() === text);
    select.dispatchEvent(new Event('change'));
    fixture.detectChanges();
  }

  beforeEach(() => {
    fixture = TestBed.createComponent(SlotsPanel);
    changed = [];
    // As the page does: what is changed last counts, also before it is shown.
    fixture.componentInstance.changed.subscribe((change) =>
      changed.push(change(changed.at(-1) ?? fixture.componentInstance.sign())),
    );
  });

  it('are put into words, counted, and made plain words again', () => {
    show(badge());
    pick('select[aria-label="Put a column into Line"]', 'Name');
    expect(changed[0].parts[0]).toMatchObject({ words: '{Name}' });
    expect(changed[0].slots).toEqual([{ name: 'Name', empty: 'close' }]);
    show(changed[0]);
    [...element().querySelectorAll('button')].find(({ textContent }) => textContent.includes('A number that counts'))!.click();
    expect(changed[1].slots!.map(({ name, counter }) => [name, counter?.from])).toEqual([['Name', undefined], ['number', 1]]); // prettier-ignore
    field<HTMLButtonElement>('button[aria-label="Make plain words of Name"]').click();
    expect([changed[2].slots!.map(({ name }) => name), changed[2].parts[0]]).toEqual([['number'], changed[0].parts[0]]);
  });

  it('choose what they are let choose, within what is said of it, and nothing again', () => {
    show(badge());
    pick('select[aria-label="Column that chooses"]', 'Mark');
    pick('select[aria-label="What it chooses"]', 'which of several parts is made');
    expect(changed[0].slots).toEqual([
      { name: 'Mark', empty: 'keep', sets: { kind: 'one of', parts: ['line', 'fern', 'gull'] } },
    ]);
    show(changed[0]);
    expect(element().textContent).toContain('Chooses which of several parts is made.');
    expect(element().textContent).not.toContain('in no words');
    field<HTMLInputElement>('fieldset input[type=checkbox]').click();
    expect(changed[1].slots![0].sets).toEqual({ kind: 'one of', parts: ['fern', 'gull'] });
    field<HTMLButtonElement>('button[aria-label="Let it choose nothing: Mark"]').click();
    expect(changed[2].slots).toBeUndefined();
  });

  it('that are words as well stay words, and the last of several parts stays', () => {
    const slot: Slot = { name: 'Mark', empty: 'keep', sets: { kind: 'one of', parts: ['fern'] } };
    show(badge([slot], '{Mark}'));
    const box = [...element().querySelectorAll<HTMLInputElement>('fieldset input[type=checkbox]')][1];
    box.click();
    expect([changed.length, box.checked]).toEqual([0, true]);
    field<HTMLButtonElement>('button[aria-label="Let it choose nothing: Mark"]').click();
    expect(changed[0].slots).toEqual([{ name: 'Mark', empty: 'keep' }]);
  });

  it('keep the first of two edits that come before either is shown', () => {
    show(badge());
    pick('select[aria-label="Put a column into Line"]', 'Name');
    [...element().querySelectorAll('button')].find(({ textContent }) => textContent.includes('A number that counts'))!.click();
    expect(changed.at(-1)!.slots!.map(({ name }) => name)).toEqual(['Name', 'number']);
  });

  it('are only shown to who may look', () => {
    show(badge([{ name: 'Name', empty: 'close' }], '{Name}'), ['Name'], true);
    expect(element().querySelector('button')).toBeNull();
    expect(field<HTMLTextAreaElement>('textarea').readOnly).toBe(true);
    expect(field<HTMLFieldSetElement>('fieldset').disabled).toBe(true);
  });
});
