import { TestBed } from '@angular/core/testing';
import { type FontEntry } from '@plain-relief/core/type';
import { FontFaces } from './font-faces';
import { FontField } from './font-field';

const entry = (id: string, kind: string): FontEntry => ({ id, family: id, style: 'Regular', class: kind, kind: 'outline', file: '', coverage: [32, 126] }); // prettier-ignore
const catalogue = [entry('plain', 'sans'), entry('serifed', 'serif'), entry('chosen', 'serif')];

describe('FontField', () => {
  async function show(faultsOf?: (entry: FontEntry) => readonly string[]) {
    TestBed.configureTestingModule({
      providers: [{ provide: FontFaces, useValue: { load: () => undefined, family: () => '' } }],
    });
    const fixture = TestBed.createComponent(FontField);
    for (const [name, value] of Object.entries({ value: 'chosen', words: 'PIER', catalogue, faultsOf })) fixture.componentRef.setInput(name, value); // prettier-ignore
    await fixture.whenStable();
    (fixture.nativeElement as HTMLElement).querySelector('button')!.click();
    await fixture.whenStable();
    const names = () => [...document.querySelectorAll('.fonts .name')].map(({ textContent }) => textContent!.trim());
    return { fixture, names };
  }
  afterEach(() => document.querySelectorAll('.fonts').forEach((menu) => menu.remove()));

  it('offers all fonts where the sign is to meet nothing', async () => {
    const { names } = await show();
    expect(names()).toHaveLength(3);
    expect(document.querySelector('.only')).toBeNull();
  });

  it('says what a font does not meet of the standard, and leaves those out on asking, but for the one that is chosen', async () => {
    const { fixture, names } = await show(({ class: kind }) => (kind === 'sans' ? [] : [`${kind}, not a plain sans serif`]));
    expect(names()).toHaveLength(3);
    expect([...document.querySelectorAll('.fault')].map(({ textContent }) => textContent)).toEqual(['serif, not a plain sans serif', 'serif, not a plain sans serif']); // prettier-ignore
    const only = document.querySelector<HTMLInputElement>('.only input')!;
    only.checked = true;
    only.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(names()).toEqual(['plain Regular', 'chosen Regular']);
  });
});
