import { TestBed } from '@angular/core/testing';
import { newOption, newSign, type Sign } from '@plain-relief/core/sign';
import { OptionsStrip } from './options-strip';

describe('OptionsStrip', () => {
  async function show(sign: Sign, option?: string, isLooking = false) {
    const fixture = TestBed.createComponent(OptionsStrip);
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('option', option);
    fixture.componentRef.setInput('isLooking', isLooking);
    const done: unknown[] = [];
    const { shown, added, removed, renamed } = fixture.componentInstance;
    shown.subscribe((id) => done.push(['shown', id]));
    added.subscribe(() => done.push('added'));
    removed.subscribe((id) => done.push(['removed', id]));
    renamed.subscribe(({ option: id, name }) => done.push(['renamed', id, name]));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const press = (text: string) =>
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent.trim() === text)!.click();
    return { page, done, press };
  }

  it('offers options where there are none, and says nothing else', async () => {
    const { page, done, press } = await show(newSign('Gate', 'mm'));
    expect(page.textContent?.trim()).toBe('Offer options to choose from');
    press('Offer options to choose from');
    expect(done).toEqual(['added']);
  });

  it('shows, names and takes out the one that is chosen, and goes back to the sign as it stands', async () => {
    const sign = newSign('Gate', 'mm');
    for (let i = 0; i < 2; i++) sign.options = [...(sign.options ?? []), newOption(sign)];
    const { page, done, press } = await show(sign, 'option-2');
    const choice = page.querySelector('select')!;
    expect([...choice.options].map(({ text }) => text.trim())).toEqual(['the sign as it stands', 'Option A', 'Option B']);
    expect(choice.selectedOptions[0].text.trim()).toBe('Option B');
    const name = page.querySelector<HTMLInputElement>('[aria-label="name of the option"]')!;
    name.value = '  Slate  ';
    name.dispatchEvent(new Event('change'));
    press('Take Option B out');
    choice.selectedIndex = 0;
    choice.dispatchEvent(new Event('change'));
    choice.selectedIndex = 1;
    choice.dispatchEvent(new Event('change'));
    expect(done).toEqual([['renamed', 'option-2', 'Slate'], ['removed', 'option-2'], ['shown', undefined], ['shown', 'option-1']]); // prettier-ignore
  });

  it('only shows them to those who look', async () => {
    const sign = newSign('Gate', 'mm');
    sign.options = [newOption(sign)];
    const { page } = await show(sign, 'option-1', true);
    expect(page.querySelector('select')).not.toBeNull();
    expect(page.querySelector('input')).toBeNull();
    expect(page.querySelector<HTMLElement>('.acts')!.hidden).toBe(true);
  });

  it('has no name to change while the sign is shown as it stands', async () => {
    const sign = newSign('Gate', 'mm');
    sign.options = [newOption(sign)];
    const { page } = await show(sign);
    expect(page.querySelector('[aria-label="name of the option"]')).toBeNull();
    expect(page.textContent).toContain('Another option');
  });
});
