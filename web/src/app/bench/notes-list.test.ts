import { TestBed } from '@angular/core/testing';
import type { Note } from '@plain-relief/core/relief';
import { facts } from './facts';
import { NotesList } from './notes-list';

describe('NotesList', () => {
  async function show(notes: readonly Note[]) {
    const fixture = TestBed.createComponent(NotesList);
    fixture.componentRef.setInput('notes', notes);
    await fixture.whenStable();
    return fixture;
  }

  it('puts errors before warnings before what is merely said', async () => {
    const notes: Note[] = [
      { code: 'no-words', weight: 'said', text: 'Line 1 has no words yet.', part: 'line-1' },
      { code: 'thin-floor', weight: 'warning', text: 'The floor is thin.' },
      { code: 'unknown-font', weight: 'error', text: 'The font is not at hand.', part: 'line-2' },
    ];
    const fixture = await show(notes);
    const items = [...(fixture.nativeElement as HTMLElement).querySelectorAll('li')];
    expect(items.map((item) => item.className)).toEqual(['error', 'warning', 'said']);
    const picked: string[] = [];
    fixture.componentInstance.picked.subscribe((part) => picked.push(part));
    items[0].querySelector('button')!.click();
    expect(picked).toEqual(['line-2']);
    expect(items[1].querySelector('button')).toBeNull();
  });

  it('says when there is nothing to note', async () => {
    expect(((await show([])).nativeElement as HTMLElement).textContent).toContain('Nothing to note');
  });
});

describe('facts', () => {
  const found = { volumeMm3: 163_870.64, highest: 3.175, deepest: -6.35, letters: 12 };
  it('are in the unit of the sign', () => {
    // 1 in³ is 16 387.064 mm³ exactly.
    expect(facts(found, 'in').map(({ value }) => value)).toEqual(['1/8 in', '1/4 in', '10.00 in³', '12']);
    expect(facts(found, 'mm').map(({ value }) => value)).toEqual(['3.18 mm', '6.35 mm', '163.9 cm³', '12']);
  });
});
