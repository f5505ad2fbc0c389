import { readFileSync } from 'node:fs';
import { TestBed } from '@angular/core/testing';
import type { ShopLibrary } from '@plain-relief/api';
import { readShop, type Shop } from '@plain-relief/core/shop';
import { BehaviorSubject } from 'rxjs';
import { ApiError } from '../../platform/api';
import { Ask } from '../../shell/ask-dialog';
import { LibraryService } from '../library.service';
import { LibrarySection } from './library-section';

const shop = readShop((JSON.parse(readFileSync('demo/shop.json', 'utf8')) as { library: unknown }).library);

describe('LibrarySection', () => {
  async function show(refuse?: ApiError, isLooking = false, answer = true) {
    const library$ = new BehaviorSubject<ShopLibrary | undefined>({ revision: 1, library: shop });
    const kept: Shop[] = [];
    const asked: string[] = [];
    const service = {
      library$,
      load: async () => library$.value,
      keep: async (library: Shop) => {
        kept.push(library);
        if (refuse) throw refuse;
        library$.next({ revision: 2, library: structuredClone(library) });
      },
    };
    TestBed.configureTestingModule({
      providers: [
        { provide: LibraryService, useValue: service },
        { provide: Ask, useValue: { whether: async ({ title }: { title: string }) => (asked.push(title), answer) } },
      ],
    });
    const fixture = TestBed.createComponent(LibrarySection);
    fixture.componentRef.setInput('isLooking', isLooking);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const press = async (words: string) => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent!.trim().startsWith(words))!.click();
      await fixture.whenStable();
    };
    const type = async (label: string, text: string) => {
      const field = [...page.querySelectorAll('label')].find(({ textContent }) => textContent!.trim().startsWith(label))!.querySelector<HTMLInputElement>('input, textarea')!; // prettier-ignore
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await fixture.whenStable();
    };
    const names = () => [...page.querySelectorAll('.list li b')].map(({ textContent }) => textContent);
    return { page, press, type, names, kept, asked };
  }

  it('finds entries by their words and figures', async () => {
    const { press, type, names, page } = await show();
    await press('Tools');
    expect(names()).toHaveLength(shop.tools.length);
    const search = page.querySelector<HTMLInputElement>('input[type=search]')!;
    search.value = 'vee';
    search.dispatchEvent(new Event('input'));
    await Promise.resolve();
    await press('60° vee bit');
    expect(names()).toEqual(['60° vee bit', '90° vee bit']);
    await type('Diameter', '1/2 in');
  });

  it('keeps a copy under an id and a place of its own, and leaves all else as it is', async () => {
    const { press, type, kept } = await show();
    await press('Tools');
    await press('6 mm end mill');
    await press('Copy');
    await type('Name', 'Long 6 mm end mill');
    await type('Cutting length', '40');
    await press('Keep');
    const [{ tools, materials }] = kept;
    expect(materials).toBe(shop.materials);
    expect(tools.slice(0, -1)).toEqual(shop.tools);
    const ids = new Set(shop.tools.map(({ id }) => id));
    const added = tools.at(-1)!;
    expect([ids.has(added.id), added.cuttingLength, shop.tools.some(({ number }) => number === added.number)]).toEqual([
      false,
      40,
      false,
    ]);
  });

  it('marks what cannot be read, and what the server refuses, and loses nothing of it', async () => {
    const refusal = new ApiError(400, 'tools[0].flutes: is 0', {
      faults: [{ path: 'tools[0].flutes', message: 'is 0 and must be >= 1' }],
    });
    const { press, type, page, kept } = await show(refusal);
    await press('Tools');
    await press('6 mm end mill');
    await type('Flutes', 'two');
    await press('Keep');
    expect([kept, page.querySelector('.told.bad')?.textContent]).toEqual([[], expect.stringContaining('“two” is no figure')]);
    await type('Flutes', '0');
    await press('Keep');
    expect(kept[0].tools[0].flutes).toBe(0);
    expect(page.querySelector('label .trouble')?.textContent).toContain('is 0 and must be >= 1');
    const field = [...page.querySelectorAll('label')].find(({ textContent }) => textContent!.trim().startsWith('Flutes'))!;
    expect(field.querySelector('input')!.value).toBe('0');
  });

  it('tells whoever comes second, and offers to load what is there now', async () => {
    const { press, type, page } = await show(new ApiError(409, 'Somebody else changed the lists.', { code: 'STALE_LIBRARY' }));
    await press('Machines');
    await press('Long bed');
    await type('Rapid', '9000');
    await press('Keep');
    await press('Load theirs');
    expect(page.querySelector('[role=status]')?.textContent).toContain('what you typed is still here');
    const field = [...page.querySelectorAll('label')].find(({ textContent }) => textContent!.trim().startsWith('Rapid'))!;
    expect(field.querySelector('input')!.value).toBe('9000');
  });

  it('asks before what was typed is left, and before something is taken out', async () => {
    const { press, type, names, asked, page } = await show(undefined, false, false);
    await press('Tools');
    await press('6 mm end mill');
    await type('Flutes', '3');
    await press('Machines');
    expect([asked, names()[0]]).toEqual([['Leave it as it was?'], '6 mm end mill']);
    await press('Take out');
    expect(asked.at(-1)).toContain('Take out');
    expect(page.querySelector('form')).not.toBeNull();
  });

  it('tries a dialect while it is typed', async () => {
    const { press, type, page } = await show();
    await press('Machines');
    await press('Long bed');
    expect(page.querySelector('.sample')?.textContent).toContain('It is read back whole');
    await type('Spindle on', '');
    expect(page.querySelector('.sample .trouble')?.textContent).toContain('spindle stands still');
    await type('Decimals', 'many');
    expect(page.querySelector('.sample .trouble')?.textContent).toContain('“many” is no figure');
  });

  it('lets makers look, and change nothing', async () => {
    const { press, page } = await show(undefined, true);
    await press('Tools');
    await press('6 mm end mill');
    expect(page.querySelector('fieldset')!.disabled).toBe(true);
    expect(page.textContent).not.toMatch(/Add a tool|Take over|Keep/u);
  });
});
