import type { ProofCorrection, ProofPlates, ProofRun, ShopRemark } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { Api } from '../platform/api';
import { type AskedCorrection, PlatesBoard } from './plates-board';

const RUN: ProofRun = { id: 'r', title: 'Spring', signId: 's', rows: 60, slots: [{ slot: 'Name', column: 'name' }, { slot: 'no' }] }; // prettier-ignore
const correction = (row: number, value: string): ProofCorrection => ({ id: `c${row}`, run: 'r', row, number: row, column: 'name', was: `Oak ${row}`, value, who: 'Marit', at: '2026-11-25T10:00:00Z', end: null }); // prettier-ignore

beforeAll(() => {
  // What the test's document does not have.
  HTMLDialogElement.prototype.showModal ??= function (this: HTMLDialogElement) {
    this.open = true;
  };
});

async function shown(inputs: Record<string, unknown> = {}) {
  const asked: { endpoint: string; params: object; query: { from?: string; words?: string; only?: string } }[] = [];
  const ask = (endpoint: string, { params, query }: { params: object; query: { from?: string } }): Promise<ProofPlates> => {
    asked.push({ endpoint, params, query });
    const from = Number(query.from ?? 0);
    const plates = Array.from({ length: Math.min(24, 60 - from) }, (_, i) => ({ row: from + i + 1, number: from + i + 1, title: `Oak ${from + i + 1}`, values: [`Oak ${from + i + 1}`, `00${from + i + 1}`] })); // prettier-ignore
    return Promise.resolve({ of: 60, plates });
  };
  TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: { ask } }] });
  const fixture = TestBed.createComponent(PlatesBoard);
  for (const [name, value] of Object.entries({ run: RUN, source: { token: 't' }, isOpen: true, isCorrecting: true, ...inputs })) fixture.componentRef.setInput(name, value); // prettier-ignore
  const settle = async (): Promise<void> => {
    await fixture.whenStable();
    fixture.detectChanges();
  };
  fixture.detectChanges();
  await settle();
  const page = fixture.nativeElement as HTMLElement;
  const press = async (words: string): Promise<void> => {
    [...page.querySelectorAll('button')].find(({ textContent }) => textContent?.trim() === words)!.click();
    await settle();
  };
  const open = async (at: number): Promise<void> => {
    page.querySelectorAll<HTMLButtonElement>('.plate')[at].click();
    await settle();
  };
  return { fixture, page, asked, press, open, settle };
}

describe('the plates of a proof', () => {
  it('come a page at a time, each with its number and its picture', async () => {
    const { page, asked, press } = await shown();
    expect(page.querySelectorAll('.plate').length).toBe(24);
    expect(page.querySelector('img')?.getAttribute('src')).toBe('/api/proof-links/t/runs/r/plates/1/picture.png');
    await press('Next');
    await press('Next');
    expect(asked.map(({ query }) => query.from)).toEqual([undefined, '24', '48']);
    expect(page.querySelector('.plate')?.textContent).toContain('49 Oak 49');
    expect(page.textContent).toContain('49 to 60 of 60');
  });

  it('are asked for in the shop’s own proof where the shop looks', async () => {
    const { page, asked } = await shown({ source: { proof: 'p' } });
    expect([asked[0].endpoint, asked[0].params]).toEqual(['GET /proofs/:id/runs/:runId', { id: 'p', runId: 'r' }]);
    expect(page.querySelector('img')?.getAttribute('src')).toBe('/api/proofs/p/runs/r/plates/1/picture.png');
  });

  it('have words that can be put right, but for what counts', async () => {
    const { fixture, page, open } = await shown();
    const told: AskedCorrection[] = [];
    fixture.componentInstance.corrected.subscribe((one) => told.push(one));
    await open(2);
    const fields = page.querySelectorAll<HTMLInputElement>('dialog input');
    expect([...fields].map(({ value }) => value)).toEqual(['Oak 3']);
    fields[0].value = 'English oak';
    page.querySelector('dialog form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    expect(told).toEqual([{ run: 'r', row: 3, column: 'name', value: 'English oak' }]);
  });

  it('show what was corrected, and take it back', async () => {
    const { fixture, page, open, press } = await shown({ corrections: [correction(3, 'English oak'), { ...correction(4, 'Ash'), run: 'other' }] }); // prettier-ignore
    const told: AskedCorrection[] = [];
    fixture.componentInstance.corrected.subscribe((one) => told.push(one));
    expect([...page.querySelectorAll('.plate.is-told')].map((plate) => plate.textContent?.replaceAll(/\s+/gu, ' ').trim())).toEqual(['3 Oak 3to be “English oak”']); // prettier-ignore
    expect(page.textContent).toContain('only the 1 with remarks or corrections');
    await open(2);
    await press('Leave “Oak 3”');
    expect(told).toEqual([{ run: 'r', row: 3, column: 'name', value: 'Oak 3' }]);
  });

  it('take remarks, none that say nothing', async () => {
    const { fixture, page, open } = await shown({ isCorrecting: false });
    const told: ShopRemark[] = [];
    fixture.componentInstance.said.subscribe((one) => told.push(one));
    await open(0);
    expect(page.querySelectorAll('dialog input').length).toBe(0);
    const say = (words: string): void => {
      page.querySelector<HTMLTextAreaElement>('dialog textarea')!.value = words;
      page.querySelector('dialog .say')!.dispatchEvent(new Event('submit', { cancelable: true }));
    };
    say('   ');
    say(' Is this the old one? ');
    expect(told).toEqual([{ signId: 's', run: 'r', row: 1, text: 'Is this the old one?' }]);
  });
});
