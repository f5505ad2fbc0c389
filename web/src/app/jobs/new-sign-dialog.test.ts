import { TestBed } from '@angular/core/testing';
import { NgbActiveModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { newSign as bareSign, newText, SIGN_KINDS } from '@plain-relief/core/sign';
import { Api } from '../platform/api';
import { type NewSign, NewSignDialog } from './new-sign-dialog';

describe('NewSignDialog', () => {
  const closed: NewSign[] = [];
  const kept = { ...bareSign('Kept', 'mm'), parts: [{ ...newText(bareSign('Kept', 'mm'), 'lora-bold'), words: 'OAK' }] };
  const ask = (address: string) =>
    Promise.resolve(
      address === 'GET /shop/library'
        ? { revision: 1, library: { materials: [{ id: 'slate', name: 'Delabole slate' }] } }
        : address === 'GET /shop/kinds'
          ? [{ id: 'own', name: 'Gate, oak' }]
          : { id: 'own', name: 'Gate, oak', document: kept },
    );

  async function open() {
    closed.length = 0;
    TestBed.configureTestingModule({
      providers: [
        { provide: NgbActiveModal, useValue: { close: (sign: NewSign) => closed.push(sign), dismiss: () => undefined } },
        { provide: Api, useValue: { ask } },
      ],
    });
    const fixture = TestBed.createComponent(NewSignDialog);
    fixture.componentInstance.about.set({ number: 'FA-0142', unit: 'in' });
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const field = (name: string) => page.querySelector<HTMLInputElement>(`[formcontrolname="${name}"]`)!;
    const type = (name: string, text: string) => {
      field(name).value = text;
      field(name).dispatchEvent(new Event('input'));
    };
    const choose = async (name: string) => {
      const label = [...page.querySelectorAll('.kind')].find(({ textContent }) => textContent!.includes(name))!;
      label.querySelector('input')!.dispatchEvent(new Event('change'));
      await fixture.whenStable();
    };
    const submit = async () => {
      page.querySelector('form')!.dispatchEvent(new Event('submit'));
      await fixture.whenStable();
    };
    return { page, field, type, choose, submit };
  }

  it('offers every kind, and those that the shop keeps', async () => {
    const { page } = await open();
    const names = [...page.querySelectorAll('.kind span')].map(({ textContent }) => textContent);
    expect(names).toEqual([...SIGN_KINDS.map(({ name }) => name), 'Gate, oak']);
    expect(page.textContent).toContain('A new sign for FA-0142');
    expect(page.querySelector<HTMLOptionElement>('#kept-materials option')!.value).toBe('Delabole slate');
  });

  it('asks for a name, keeps what was typed when the kind is changed, and makes the sign of the kind', async () => {
    const { page, field, type, choose, submit } = await open();
    await submit();
    expect(page.querySelector('[role="alert"]')!.textContent).toContain('Give the sign a name');
    type('title', '  Bilge pumps ');
    expect(field('words').value).toBe('Fernhollow\nArboretum');
    await choose('Button plate');
    // What was only offered goes with its kind.
    expect([field('words').value.split('\n')[0], field('material').value]).toEqual(['BILGE PUMPS', 'engraving laminate']);
    type('words', 'PUMPS\nfore\naft');
    await choose('Octagon');
    expect(field('words').value).toBe('PUMPS\nfore\naft');
    await choose('Button plate');
    await submit();
    const [{ title, document }] = closed;
    expect([title, document.title, document.unit]).toEqual(['Bilge pumps', 'Bilge pumps', 'in']);
    expect(document.parts.flatMap((part) => (part.kind === 'text' ? [part.words] : []))).toEqual(['PUMPS', 'fore', 'aft']);
    expect(document.blank).toMatchObject({ outline: { width: 200, height: 110 }, material: 'engraving laminate' });
  });

  it('begins from a sign of the shop’s own, with its words where none are typed', async () => {
    const { type, choose, submit } = await open();
    type('title', 'East gate');
    await choose('Gate, oak');
    await submit();
    expect(closed[0].document.parts[0]).toMatchObject({ words: 'OAK' });
    type('words', 'ELM');
    await submit();
    expect(closed[1].document.parts[0]).toMatchObject({ words: 'ELM' });
  });
});
