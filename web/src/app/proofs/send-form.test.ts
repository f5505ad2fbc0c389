import type { Frozen, NewProof } from '@plain-relief/api';
import { ApplicationRef } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { jobOf } from '../../testing/jobs';
import { provideRouter } from '@angular/router';
import { Api } from '../platform/api';
import { EVERYTHING } from '@plain-relief/core/sheet';
import { SendForm } from './send-form';

const job = jobOf({
  contact: 'Marit Solheim, grounds@fernhollow.example.org',
  signs: [
    { id: 'a', title: 'West gate', revision: 3, savedAt: '2026-11-20T09:00:00.000Z', words: '' },
    { id: 'b', title: 'Map room', revision: 1, savedAt: '2026-11-20T09:00:00.000Z', words: '' },
  ],
});

describe('SendForm', () => {
  const kept = [
    { id: 'l', name: 'Short', layout: { paper: 'Letter', isUpright: true, isInBothUnits: true, shows: ['picture'] } },
  ];
  beforeEach(() =>
    TestBed.configureTestingModule({
      providers: [provideRouter([]), { provide: Api, useValue: { ask: () => Promise.resolve(kept) } }],
    }),
  );

  async function show(inputs: Record<string, unknown> = {}) {
    const fixture = TestBed.createComponent(SendForm);
    for (const [name, value] of Object.entries({ job, letter: 'B', ...inputs })) fixture.componentRef.setInput(name, value);
    const sent: Frozen<NewProof>[] = [];
    fixture.componentInstance.sent.subscribe((proof) => sent.push(proof));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const set = async (selector: string, value: string | boolean) => {
      const field = page.querySelector<HTMLInputElement>(selector)!;
      if (typeof value === 'boolean') field.checked = value;
      else field.value = value;
      field.dispatchEvent(new Event(typeof value === 'boolean' ? 'change' : 'input'));
      await fixture.whenStable();
    };
    const send = async () => {
      page.querySelector('form')!.dispatchEvent(new Event('submit'));
      await fixture.whenStable();
      return page.querySelector('[role=alert]')?.textContent?.trim() ?? '';
    };
    return { page, sent, set, send };
  }

  it('sends all signs to the address in the contact, with a reminder', async () => {
    const { sent, send, set } = await show();
    await set('textarea', ' Dear Marit ');
    expect(await send()).toBe('');
    expect(sent).toEqual([
      {
        signs: ['a', 'b'],
        recipient: 'grounds@fernhollow.example.org',
        message: 'Dear Marit',
        days: 30,
        layout: EVERYTHING,
        remindAfter: 3,
      },
    ]);
  });

  it('sends to whom the last proof went, in the order of the job, without a reminder if so wished', async () => {
    const { sent, send, set } = await show({ earlier: 'desk@quillstreet.example.org' });
    await set('.sign:nth-of-type(1) input', false);
    await set('.sign:nth-of-type(1) input', true);
    await set('.times input[type=checkbox]', false);
    await send();
    expect(sent).toEqual([
      { signs: ['a', 'b'], recipient: 'desk@quillstreet.example.org', message: '', days: 30, layout: EVERYTHING },
    ]);
  });

  it('sends the layout of the shop that was taken, or as it was chosen', async () => {
    const { page, sent, send } = await show();
    const choose = async (label: string, value: string) => {
      const field = page.querySelector<HTMLSelectElement>(`[aria-label="${label}"]`)!;
      field.value = value;
      field.dispatchEvent(new Event('change'));
      await TestBed.inject(ApplicationRef).whenStable();
    };
    await choose('layout of the shop', 'l');
    expect(page.querySelector('summary')!.textContent).toContain('Letter upright, Short');
    await send();
    await choose('paper', 'A3');
    await send();
    const otherwise = { ...kept[0].layout, paper: 'A3', isInFinishes: false, isTurnedBySign: false };
    expect(sent.map(({ layout }) => layout)).toEqual([kept[0].layout, otherwise]);
  });

  it.each([
    ['input[type=email]', 'Marit', '“Marit” is no mail address'],
    ['input[type=email]', 'a@b.org, c@d.org', 'is no mail address'],
    ['[aria-label="days that the address works"]', '0', '1 to 365 days'],
    ['[aria-label="days that the address works"]', 'soon', '1 to 365 days'],
    ['[aria-label="days until the reminder"]', '61', '1 to 60 days'],
  ])('keeps %s of “%s” back and says why', async (selector, value, words) => {
    const { sent, send, set } = await show();
    await set(selector, value);
    expect(await send()).toContain(words);
    expect(sent).toEqual([]);
  });

  it('wants at least one sign, and keeps what was written', async () => {
    const { page, sent, send, set } = await show();
    await set('textarea', 'Dear Marit');
    for (const n of [1, 2]) await set(`.sign:nth-of-type(${n}) input`, false);
    expect(await send()).toBe('Choose at least one sign.');
    expect([sent, page.querySelector('textarea')!.value]).toEqual([[], 'Dear Marit']);
  });

  it('chooses the signs of the last proof, all, or none', async () => {
    const { page, sent, send } = await show({ last: ['b', 'gone'] });
    const chosen = () => [...page.querySelectorAll<HTMLInputElement>('.sign input')].map(({ checked }) => checked);
    const press = async (words: string) => {
      [...page.querySelectorAll('button')].find(({ textContent }) => textContent.trim() === words)!.click();
      await TestBed.inject(ApplicationRef).whenStable();
    };
    expect(chosen()).toEqual([false, true]);
    await press('None');
    expect(await send()).toBe('Choose at least one sign.');
    await press('All signs');
    expect(chosen()).toEqual([true, true]);
    await send();
    expect(sent[0].signs).toEqual(['a', 'b']);
  });

  it('has notes left open confirmed sign by sign; what was written stays', async () => {
    const notes = ['The floor is 0.05 mm thick.'];
    const { page, sent, set, send } = await show({ open: [{ signId: 'b', title: 'Map room', notes }] });
    await set('textarea', 'Dear Marit');
    expect(await send()).toBe('Confirm that “Map room” goes out as it is, or leave it out of this proof.');
    expect(page.querySelector('.open')!.textContent).toContain(notes[0]);
    await set('.open input', true);
    expect(await send()).toBe('');
    expect(sent[0]).toMatchObject({ message: 'Dear Marit', confirmed: [{ signId: 'b', notes }] });
  });

  it('shows the signs in the job’s places, but for those that are left out', async () => {
    const places = [
      { id: 'x', title: 'Corridor' },
      { id: 'y', title: 'Entrance' },
    ];
    const { page, sent, send } = await show({ places });
    const [, corridor] = [...page.querySelectorAll('fieldset')][1].querySelectorAll<HTMLInputElement>('input');
    corridor.checked = false;
    corridor.dispatchEvent(new Event('change'));
    await send();
    expect(sent[0].places).toEqual(['x']);
  });
});
