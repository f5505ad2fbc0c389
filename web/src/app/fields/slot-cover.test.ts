import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { type Slot } from '@plain-relief/core/sign';
import { SlotCover } from './slot-cover';
import { SlotWords } from './slot-words';

const SLOTS: readonly Slot[] = [{ name: 'bed', empty: 'keep' }];

@Component({
  imports: [SlotCover, SlotWords],
  template: `
    <pr-slot-cover [words]="words()" [slots]="slots()"><textarea [value]="words()"></textarea></pr-slot-cover>
    <pr-slot-words [words]="words()" [slots]="slots()" />
  `,
})
class Host {
  readonly words = signal('Bed {bed} {row}');
  readonly slots = signal<readonly Slot[] | undefined>(SLOTS);
}

async function shown() {
  const fixture = TestBed.createComponent(Host);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const field = page.querySelector('textarea')!;
  const chips = (of: string): string[] => [...page.querySelectorAll(`${of} .chip`)].map(({ textContent }) => textContent);
  const at = (place: number): void => field.setSelectionRange(place, place);
  const press = (key: string): [number, number] => {
    field.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    return [field.selectionStart, field.selectionEnd];
  };
  return { fixture, page, field, chips, at, press, host: fixture.componentInstance };
}

describe('a field with places for values', () => {
  it('covers those that are declared with chips, also while it is typed into', async () => {
    const { fixture, page, field, chips } = await shown();
    expect(chips('pr-slot-cover')).toEqual(['{bed}']);
    expect(chips('pr-slot-words')).toEqual(['bed']);
    expect(page.querySelector('pr-slot-words')!.textContent).toBe('Bed bed {row}');
    // What lies over the field is as long as what is in it.
    expect(page.querySelector('.cover')!.textContent.trim()).toBe(field.value);
    field.value = '{bed}{bed}';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await fixture.whenStable();
    expect(chips('pr-slot-cover')).toEqual(['{bed}', '{bed}']);
  });

  it('is an ordinary one where there are none', async () => {
    const { fixture, host, page, chips } = await shown();
    host.slots.set(undefined);
    await fixture.whenStable();
    expect([page.querySelector('.cover'), chips('pr-slot-words')]).toEqual([null, []]);
  });

  it('takes one out as one, and goes over it in one step', async () => {
    const { at, press } = await shown();
    // "Bed {bed} {row}": the slot is from 4 to 9.
    at(9);
    expect(press('Backspace')).toEqual([4, 9]);
    at(4);
    expect(press('Delete')).toEqual([4, 9]);
    at(9);
    // The key itself goes one on.
    expect(press('ArrowLeft')).toEqual([5, 5]);
    at(4);
    expect(press('ArrowRight')).toEqual([8, 8]);
    for (const [place, key] of [
      [4, 'Backspace'],
      [9, 'Delete'],
      [2, 'ArrowLeft'],
      [15, 'Backspace'],
    ] as const) {
      at(place);
      expect(press(key)).toEqual([place, place]);
    }
  });

  it('lets no cursor stand inside of one', async () => {
    const { field, at } = await shown();
    for (const [clicked, settled] of [
      [5, 4],
      [8, 9],
      [4, 4],
      [9, 9],
      [12, 12],
    ] as const) {
      at(clicked);
      field.click();
      expect(field.selectionStart).toBe(settled);
    }
  });
});
