import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { newShape, newSign, newText, type Sign } from '@plain-relief/core/sign';
import { Api } from '../../platform/api';
import { type FieldChange, TicketPanel } from './ticket-panel';

function signOfTwo(): Sign {
  const sign = newSign('Test', 'mm');
  sign.parts.push(newShape(sign, 'rectangle'));
  sign.parts.push({ ...newText(sign, 'barlow-semibold'), words: 'OAK', sitsOn: { kind: 'part', part: 'panel-1', at: 'floor' } });
  return sign;
}

describe('TicketPanel', () => {
  let fixture: ComponentFixture<TicketPanel>;
  let changes: FieldChange[];
  const page = () => fixture.nativeElement as HTMLElement;
  const text = () => page().textContent!.replace(/\s+/gu, ' ');

  // The shelf of usual blanks asks the server.
  beforeEach(() =>
    TestBed.configureTestingModule({ providers: [{ provide: Api, useValue: { ask: () => Promise.resolve([]) } }] }),
  );

  async function show(sign: Sign, selected?: string): Promise<void> {
    fixture = TestBed.createComponent(TicketPanel);
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('fonts', []);
    fixture.componentRef.setInput('selected', selected);
    changes = [];
    fixture.componentInstance.fieldChanged.subscribe((change) => changes.push(change));
    await fixture.whenStable();
  }

  it('says what to do on a bare blank', async () => {
    await show(newSign('Test', 'mm'));
    expect(text()).toContain('The blank is bare');
    let added = 0;
    fixture.componentInstance.textAdded.subscribe(() => added++);
    [...page().querySelectorAll('button')].find((button) => button.textContent === 'Add the first line')!.click();
    expect(added).toBe(1);
  });

  it('writes an order for the blank and every part, in build order', async () => {
    await show(signOfTwo());
    expect([...page().querySelectorAll('h3')].map((heading) => heading.textContent!.trim())).toEqual([
      'Blank',
      'Panel 1',
      'Line 1',
    ]);
    expect(page().querySelector('textarea')!.value).toBe('OAK');
    expect([...page().querySelectorAll('select[aria-label="host"] option')].map((option) => option.textContent)).toContain(
      'the floor of Panel 1',
    );
  });

  it('tells which field was changed to what', async () => {
    await show(signOfTwo());
    const words = page().querySelector('textarea')!;
    words.value = 'ELM';
    words.dispatchEvent(new Event('input'));
    const thickness = page().querySelector<HTMLInputElement>('[aria-label="thickness"]')!;
    thickness.dispatchEvent(new Event('focus'));
    thickness.value = '3/4 in';
    thickness.dispatchEvent(new Event('input'));
    thickness.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(changes).toEqual([
      { path: ['parts', 1, 'words'], value: 'ELM', label: 'words' },
      { path: ['blank', 'thickness'], value: 19.05, label: 'thickness' },
    ]);
  });

  it('offers what can be done with the selected part only', async () => {
    await show(signOfTwo(), 'line-1');
    const orders = [...page().querySelectorAll('.order')];
    expect(orders.map((order) => order.querySelector('.tools') !== null)).toEqual([false, false, true]);
    let removed = 0;
    fixture.componentInstance.removed.subscribe(() => removed++);
    [...orders[2].querySelectorAll('button')].find((button) => button.textContent!.trim() === 'take out')!.click();
    expect(removed).toBe(1);
  });

  it('switches tiers off and on', async () => {
    await show(signOfTwo(), 'line-1');
    const switched: object[] = [];
    fixture.componentInstance.tierSwitched.subscribe((tier) => switched.push(tier));
    page().querySelectorAll<HTMLButtonElement>('.switch')[1].click();
    expect(switched).toEqual([{ part: 'line-1', tier: 'tier-1' }]);
  });
});
