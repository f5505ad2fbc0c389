import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { newShape, newSign, newText, type Sign, type Topic } from '@plain-relief/core/sign';
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

  async function show(sign: Sign, selected?: string, topic: Topic = 'layout'): Promise<void> {
    fixture = TestBed.createComponent(TicketPanel);
    fixture.componentRef.setInput('sign', sign);
    fixture.componentRef.setInput('topic', topic);
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

  const button = (words: string) =>
    [...page().querySelectorAll('button')].find(({ textContent }) => textContent!.trim() === words);
  const labels = () => [...page().querySelectorAll('.orders [aria-label]')].map((field) => field.getAttribute('aria-label'));

  it('is a line for each part in build order, and sentences for what is in focus', async () => {
    await show(signOfTwo());
    expect(page().querySelector('h3')!.textContent).toBe('Blank');
    expect([...page().querySelectorAll('.line')].map(({ textContent }) => textContent!.trim())).toEqual([
      'Panel 1 · rectangle 240 × 120 mm · carved 2 mm',
      'OAK · barlow-semibold 20 mm · raised 2 mm',
    ]);
    await show(signOfTwo(), 'line-1');
    expect(page().querySelector('textarea')!.value).toBe('OAK');
    expect([...page().querySelectorAll('.line')].map(({ textContent }) => textContent!.trim())).toEqual([
      'Blank · rectangle 300 × 200 mm · 12 mm thick',
      'Panel 1 · rectangle 240 × 120 mm · carved 2 mm',
    ]);
  });

  it('says at each step what the step is about, and what goes without saying when more is asked for', async () => {
    await show(signOfTwo(), 'line-1');
    expect(labels()).toEqual(expect.arrayContaining(['Font: barlow-semibold', 'cap height', 'alignment']));
    expect(labels()).not.toContain('tracking');
    expect(labels()).not.toContain('sits on');
    button('more …')!.click();
    await fixture.whenStable();
    expect(labels()).toEqual(expect.arrayContaining(['tracking', 'frame', 'way it runs', 'copies']));
    fixture.componentRef.setInput('topic', 'heights');
    fixture.componentRef.setInput('selected', 'panel-1');
    await fixture.whenStable();
    // Of the next one no more than has to be said.
    expect(labels()).toEqual(expect.arrayContaining(['action', 'depth', 'sits on']));
    expect(labels()).not.toContain('edge');
    expect(labels()).not.toContain('width');
    button('more …')!.click();
    await fixture.whenStable();
    expect(labels()).toEqual(expect.arrayContaining(['edge', 'area', 'side of the blank', 'finish of the top']));
    expect(page().querySelector('select[aria-label="sits on"]')!.textContent).toContain('the face');
  });

  it('goes to any value by its name: its part, its step, and what goes without saying', async () => {
    await show(signOfTwo());
    document.body.append(page());
    const [picked, asked]: [unknown[], unknown[]] = [[], []];
    fixture.componentInstance.picked.subscribe((part) => picked.push(part));
    fixture.componentInstance.topicAsked.subscribe((topic) => asked.push(topic));
    const search = page().querySelector<HTMLInputElement>('input[type="search"]')!;
    search.value = 'panel edge';
    search.dispatchEvent(new Event('input'));
    await fixture.whenStable();
    expect(document.querySelector('ngb-typeahead-window')!.textContent).toContain('upright');
    search.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect([picked, asked]).toEqual([['panel-1'], ['heights']]);
    fixture.componentRef.setInput('selected', 'panel-1');
    fixture.componentRef.setInput('topic', 'heights');
    await fixture.whenStable();
    expect(document.activeElement!.getAttribute('aria-label')).toBe('edge');
    expect(search.value).toBe('');
  });

  it('tells which field was changed to what', async () => {
    await show(signOfTwo(), 'line-1');
    const words = page().querySelector('textarea')!;
    words.value = 'ELM';
    words.dispatchEvent(new Event('input'));
    fixture.componentRef.setInput('selected', undefined);
    fixture.componentRef.setInput('topic', 'heights');
    await fixture.whenStable();
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
    await show(signOfTwo(), 'line-1', 'heights');
    const switched: object[] = [];
    fixture.componentInstance.tierSwitched.subscribe((tier) => switched.push(tier));
    page().querySelector<HTMLButtonElement>('.switch')!.click();
    expect(switched).toEqual([{ part: 'line-1', tier: 'tier-1' }]);
  });
});
