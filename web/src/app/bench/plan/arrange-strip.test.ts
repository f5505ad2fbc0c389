import { type ComponentFixture, TestBed } from '@angular/core/testing';
import { newShape, newSign, newText, type Part, type Sign } from '@plain-relief/core/sign';
import { type Arranging, ArrangeStrip } from './arrange-strip';

describe('ArrangeStrip', () => {
  let fixture: ComponentFixture<ArrangeStrip>;
  let asked: Arranging[];
  const sign = newSign('Test', 'mm');
  const text = { ...newText(sign, 'barlow-semibold'), words: 'FERN' };
  const panel = newShape(sign, 'rectangle');
  let around: Sign | undefined;
  const page = () => fixture.nativeElement as HTMLElement;
  const words = () => [...page().querySelectorAll('button')].map((button) => button.textContent!.trim());

  async function show(...parts: Part[]): Promise<void> {
    fixture = TestBed.createComponent(ArrangeStrip);
    fixture.componentRef.setInput('parts', parts);
    fixture.componentRef.setInput('sign', around ?? sign);
    asked = [];
    fixture.componentInstance.asked.subscribe((what) => asked.push(what));
    await fixture.whenStable();
  }
  async function press(button: string): Promise<void> {
    [...page().querySelectorAll('button')].find((each) => each.textContent!.trim() === button)!.click();
    await fixture.whenStable();
  }
  async function pick(label: string, value: string): Promise<void> {
    const select = page().querySelector<HTMLSelectElement>(`[aria-label="${label}"]`)!;
    select.value = value;
    select.dispatchEvent(new Event('change'));
    await fixture.whenStable();
  }

  it('offers what one part can have done to it', async () => {
    await show(text);
    expect(words()).toEqual(expect.arrayContaining(['lines', 'words', 'turn it into outlines']));
    expect(words()).not.toContain('group');
    await show(panel);
    expect(words()).toContain('make it the blank');
    expect(words()).not.toContain('move its points');
    await show(newShape(sign, 'outline'));
    expect(words()).toContain('move its points');
    await show({ ...panel, place: { ...panel.place, turn: 5 } });
    expect(words()).not.toContain('make it the blank');
  });

  it('lets words go once around what the sign goes all the way round', async () => {
    await show(text);
    expect(words()).not.toContain('once around');
    around = { ...sign, support: { kind: 'cylinder', radius: 50, facing: 'outside', round: true } };
    await show(text);
    await press('once around');
    expect(asked).toEqual([{ kind: 'around' }]);
    await show(panel);
    expect(words()).not.toContain('once around');
    around = undefined;
  });

  it('brings one part to the blank, several to each other until something else is chosen', async () => {
    await show(text);
    await press('middle');
    await show(panel, text);
    await press('left');
    await pick('what to align to', 'last');
    await pick('what words are measured by', 'box');
    await press('top');
    expect(asked).toEqual([
      { kind: 'align', at: 'left', to: 'chosen', by: 'capitals' },
      { kind: 'align', at: 'top', to: 'last', by: 'box' },
    ]);
  });

  it('says what a second press undoes, and needs three parts for equal gaps', async () => {
    await show({ ...panel, locked: true, hidden: true, group: 'group-1' }, { ...text, locked: true, hidden: true });
    expect(words()).toEqual(expect.arrayContaining(['unlock', 'show', 'ungroup', 'join all', 'cut out', 'keep what is common']));
    expect(words()).not.toContain('across');
    await show(panel, text, { ...panel, id: 'panel-9' });
    await press('across');
    expect(asked).toEqual([{ kind: 'spread', along: 'across', by: 'capitals' }]);
  });
});
