import { TestBed } from '@angular/core/testing';
import { describe, expect, it } from '@jest/globals';
import type { ProcessChoice } from '@plain-relief/api';
import { of } from 'rxjs';
import { ReliefService } from '../../relief/relief.service';
import { LibraryService } from '../../shop/library.service';
import { PrintChoiceForm } from './print-choice';

const PROCESS = { line: 0.4, layer: 0.2, bedWidth: 0, bedDepth: 0, bedHeight: 0, upright: [0], level: [], peg: 4, pegDeep: 10, pegPlay: 0.2 } as unknown as Required<ProcessChoice>; // prettier-ignore
const PRINTER = { id: 'desk', name: 'Desk printer', kind: 'printer', area: { width: 250, height: 210 }, travel: 200 };

async function show(process: Partial<ProcessChoice> = {}) {
  const looked: unknown[] = [];
  const relief = {
    printFindings: async (choice: unknown) => (looked.push(choice), ['3.0 mm² of floors are thin.']),
    printLines: async () => ({ upright: [-20, 40], level: [5] }),
  };
  const library = { library$: of({ library: { machines: [PRINTER, { ...PRINTER, id: 'router', kind: 'router' }] } }) };
  TestBed.configureTestingModule({
    providers: [
      { provide: ReliefService, useValue: relief },
      { provide: LibraryService, useValue: library },
    ],
  });
  const fixture = TestBed.createComponent(PrintChoiceForm);
  fixture.componentRef.setInput('process', { ...PROCESS, ...process });
  const changes: Partial<ProcessChoice>[] = [];
  fixture.componentInstance.changed.subscribe((change) => changes.push(change));
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (words: string) => {
    [...page.querySelectorAll('button')].find(({ textContent }) => textContent!.includes(words))!.click();
    await fixture.whenStable();
  };
  return { page, press, changes, looked, fixture };
}

describe('how a sign is printed', () => {
  it('takes the bed of a printer of the shop', async () => {
    const { page, changes, press } = await show();
    const select = page.querySelector<HTMLSelectElement>('select')!;
    expect([...select.options].map(({ text }) => text.trim())).toEqual(['a bed of any size', 'Desk printer']);
    expect([...page.querySelectorAll('button')].some(({ textContent }) => textContent!.includes('as the bed asks'))).toBe(false);
    select.value = 'desk';
    select.dispatchEvent(new Event('change'));
    expect(changes).toEqual([{ bedWidth: 250, bedDepth: 210, bedHeight: 200 }]);
    const width = page.querySelector<HTMLInputElement>('[aria-label="width of the bed, 0 for any"]')!;
    for (const event of ['focus', 'input', 'blur']) {
      if (event === 'input') width.value = '300';
      width.dispatchEvent(new Event(event));
    }
    expect(changes.splice(1)).toEqual([{ bedWidth: 300 }]);
    await press('level line');
    await press('upright line');
    // Another one where there is one at 0 already.
    expect(changes.slice(1)).toEqual([{ level: [0] }, { upright: [0, 10] }]);
    await press('not there');
    expect(changes.at(-1)).toEqual({ upright: [] });
  });

  it('is split where the bed asks', async () => {
    const { press, changes } = await show({ bedWidth: 250, bedDepth: 210, bedHeight: 200 });
    await press('as the bed asks');
    expect(changes).toEqual([{ upright: [-20, 40], level: [5] }]);
  });

  it('looks what would not print, of pieces without the bed, and forgets it when anything changes', async () => {
    const { page, press, looked, fixture } = await show({ bedWidth: 250, bedDepth: 210, bedHeight: 200 });
    await press('Look what would not print');
    expect(page.querySelector('ul')?.textContent).toContain('3.0 mm² of floors are thin.');
    expect(looked).toEqual([{ line: 0.4, layer: 0.2 }]);
    await press('a level line');
    expect(page.querySelector('ul')).toBeNull();
    fixture.componentRef.setInput('process', { ...PROCESS, bedWidth: 250, upright: [] });
    await fixture.whenStable();
    await press('Look what would not print');
    expect(looked.at(-1)).toEqual({ line: 0.4, layer: 0.2, bed: { width: 250, depth: Infinity, height: Infinity } });
  });
});
