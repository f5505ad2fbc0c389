import { TestBed } from '@angular/core/testing';
import { type Note } from '@plain-relief/core/notes';
import { densityIn } from '@plain-relief/core/shop';
import { facts } from '../facts';
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

  it('offers the remedy that there is', async () => {
    const fixture = await show([
      { code: 'loose-pieces', weight: 'warning', text: '2 pieces are cut loose.', part: 'line-1', remedy: { kind: 'bridges' } },
    ]);
    const mended: unknown[] = [];
    fixture.componentInstance.mended.subscribe((mending) => mended.push(mending));
    const remedy = (fixture.nativeElement as HTMLElement).querySelector<HTMLButtonElement>('.remedy')!;
    expect(remedy.textContent.trim()).toBe('Hold them by bridges');
    remedy.click();
    expect(mended).toEqual([{ part: 'line-1', remedy: { kind: 'bridges' } }]);
  });

  it('says when there is nothing to note', async () => {
    expect(((await show([])).nativeElement as HTMLElement).textContent).toContain('Nothing to note');
  });
});

describe('facts', () => {
  const found = { highest: 3.175, deepest: -6.35, thinnest: 6.35, letters: 12 };
  const values = (...args: Parameters<typeof facts>) => facts(...args).map(({ value }) => value);

  it('are in the unit of the sign', () => {
    expect(values(found, 'in', '', undefined)).toEqual(['1/8 in', '1/4 in', '1/4 in', '12']);
    expect(values(found, 'mm', '', undefined)).toEqual(['3.18 mm', '6.35 mm', '6.35 mm', '12']);
  });

  it('tell what is taken out, the weight where the material is known, and areas by finish', () => {
    // 1 in³ is 16 387.064 mm³ exactly; 1 lb is 0.45359237 kg exactly.
    const figures = {
      volumeMm3: 1e6,
      removedMm3: 163_870.64,
      inserts: [],
      areas: [{ name: 'ivory', colour: '#ece2c6', topMm2: 12_345, sidesMm2: 6451.6 }],
    };
    expect(values(found, 'in', 'slate', figures).slice(4)).toEqual(['10.00 in³', '6.17 lb', '19.1 faces + 10.0 sides in²']);
    expect(values(found, 'mm', 'Oak, quarter-sawn', figures).slice(4)).toEqual([
      '163.9 cm³',
      '720 g',
      '123 faces + 65 sides cm²',
    ]);
    // As the shop's library has it, where it has it.
    const ours = densityIn({ materials: [{ id: 'oak', name: 'Oak, quarter-sawn', density: 690 }] });
    expect(values(found, 'mm', 'oak', figures, ours)[5]).toBe('690 g');
    expect(values(found, 'mm', 'slate', figures, ours)[5]).toBe('2.80 kg');
    expect(values(found, 'mm', 'moon rock', figures).slice(4)).toEqual(['163.9 cm³', '123 faces + 65 sides cm²']);
    // An insert weighs what its own material does: 1190 kg/m³ for acrylic, from memory.
    const inserts = [{ material: 'acrylic', volumeMm3: 1e5 }];
    expect(values(found, 'mm', 'oak', { ...figures, inserts })[5]).toBe('839 g');
    expect(values(found, 'mm', 'oak', { ...figures, inserts: [{ material: 'moss', volumeMm3: 1 }] })[5]).toBe(
      '123 faces + 65 sides cm²',
    );
  });
});
