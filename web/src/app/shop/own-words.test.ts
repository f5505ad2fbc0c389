import { TestBed } from '@angular/core/testing';
import type { Shop } from '@plain-relief/core/shop';
import { Api } from '../platform/api';
import { LibraryService } from './library.service';
import { OwnWords } from './own-words';

describe('OwnWords', () => {
  const library = { version: 1, materials: [], tools: [], machines: [], rates: {}, words: ['wilmott'] } as unknown as Shop;
  let kept: string[][];
  let refusal = '';

  async function show() {
    kept = [];
    const ask = (endpoint: string, asked?: { body: { library: Shop } }) => {
      if (endpoint.startsWith('GET')) return Promise.resolve({ revision: 1, library });
      if (refusal) return Promise.reject(new Error(refusal));
      kept.push([...asked!.body.library.words!]);
      return Promise.resolve({ revision: 2, library: asked!.body.library });
    };
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: { ask } }] });
    await TestBed.inject(LibraryService).load();
    const fixture = TestBed.createComponent(OwnWords);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const area = page.querySelector('textarea')!;
    const type = async (words: string) => {
      area.value = words;
      area.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    const press = async (name: string) => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent === name)!.click();
      await fixture.whenStable();
    };
    return { page, area, type, press };
  }

  it('are shown, kept each once, and left', async () => {
    const { page, area, type, press } = await show();
    expect([area.value, page.querySelectorAll('button').length]).toEqual(['wilmott', 0]);
    await type('Renn\n Fernhollow  Renn\n');
    await press('Keep the words');
    expect([kept, area.value]).toEqual([[['Renn', 'Fernhollow']], 'Renn\nFernhollow']);
    await type('Nothing of this');
    await press('Leave');
    expect(area.value).toBe('Renn\nFernhollow');
  });

  it('stay as they were typed where they cannot be kept, with why', async () => {
    const { page, area, type, press } = await show();
    await type('x'.repeat(61));
    await press('Keep the words');
    expect(page.querySelector('[role=alert]')!.textContent).toContain('61 characters');
    refusal = 'Somebody else changed the shop’s lists meanwhile.';
    await type('Renn');
    await press('Keep the words');
    refusal = '';
    expect([page.querySelector('[role=alert]')!.textContent, area.value, kept]).toEqual(['Somebody else changed the shop’s lists meanwhile.', 'Renn', []]); // prettier-ignore
  });
});
