import type { ShopCard } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { SessionService } from '../session/session.service';
import { CardForm } from './card-form';
import { CardService } from './card.service';

const CARD: ShopCard = { name: 'Millrace Signworks', contact: '3 Race Lane', terms: 'Half is due with the approval.' };

describe('CardForm', () => {
  async function show(role: 'owner' | 'designer' = 'owner', refusal?: string) {
    const kept: ShopCard[] = [];
    const service = {
      card: async () => CARD,
      keep: async (card: ShopCard) => {
        if (refusal) throw new Error(refusal);
        kept.push(card);
        return card;
      },
    };
    TestBed.configureTestingModule({
      providers: [
        { provide: CardService, useValue: service },
        { provide: SessionService, useValue: { person: { role } } },
      ],
    });
    const fixture = TestBed.createComponent(CardForm);
    const settle = async () => {
      await new Promise((done) => setTimeout(done, 10));
      await fixture.whenStable();
    };
    await settle();
    const page = fixture.nativeElement as HTMLElement;
    const type = async (label: string, words: string) => {
      const field = [...page.querySelectorAll('label')].find(({ textContent }) => textContent.includes(label))!;
      const box = field.querySelector<HTMLInputElement | HTMLTextAreaElement>('input, textarea')!;
      box.value = words;
      box.dispatchEvent(new Event('input'));
      await settle();
    };
    const keep = async () => {
      page.querySelector('form')!.dispatchEvent(new Event('submit'));
      await settle();
    };
    /** A file is read in its own time: until what is waited for is shown. */
    const choose = async (file: File, shown: () => unknown) => {
      const input = page.querySelector<HTMLInputElement>('input[type=file]')!;
      Object.defineProperty(input, 'files', { value: [file], configurable: true });
      input.dispatchEvent(new Event('change'));
      do await settle();
      while (!shown());
    };
    return { page, kept, type, keep, choose };
  }
  const alertOf = (page: HTMLElement) => page.querySelector('[role=alert]')?.textContent?.trim();

  it('keeps what was written, line breaks of the terms among it', async () => {
    const { page, kept, type, keep } = await show();
    await type('Terms', 'Half is due with the approval.\nColours are as near as paint comes.');
    await keep();
    expect(kept).toEqual([{ ...CARD, terms: 'Half is due with the approval.\nColours are as near as paint comes.' }]);
    expect(page.querySelector('[role=status]')!.textContent).toContain('Kept');
  });

  it('asks for a name, and says what the server says; what was typed stays', async () => {
    const { page, kept, type, keep } = await show('owner', 'contact: is longer than 300 letters');
    await type('Name', '   ');
    await keep();
    expect([alertOf(page), kept]).toEqual(['The shop needs a name.', []]);
    await type('Name', 'Millrace');
    await keep();
    expect(alertOf(page)).toBe('contact: is longer than 300 letters');
    expect(page.querySelector<HTMLInputElement>('input')!.value).toBe('Millrace');
  });

  it('takes a logo, and refuses one that is too large by its name and size', async () => {
    const { page, kept, keep, choose } = await show();
    const said = (words: string) => () => alertOf(page)?.includes(words);
    await choose(new File([new Uint8Array(600_000)], 'large.png'), said('“large.png” has 600 kB, and a logo may have 500.'));
    await choose(new File(['OTTO'], 'lora.otf'), said('“lora.otf” is no PNG and no JPEG'));
    expect(page.querySelector('img')).toBeNull();
    await choose(new File([Uint8Array.of(0x89, 0x50, 0x4e, 0x47)], 'logo.png'), () => page.querySelector('img'));
    expect(page.querySelector('img')!.src).toBe('data:image/png;base64,iVBORw==');
    await keep();
    expect(kept[0].logo).toBe('iVBORw==');
  });

  it('is only looked at by others than owners', async () => {
    const { page } = await show('designer');
    expect(page.querySelector('fieldset')!.disabled).toBe(true);
    expect(page.querySelector('[type=submit]')).toBeNull();
  });
});
