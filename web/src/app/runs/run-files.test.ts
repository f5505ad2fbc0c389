import { readFileSync } from 'node:fs';
import { TestBed } from '@angular/core/testing';
import { readShop } from '@plain-relief/core/shop';
import { FILES_AT_FIRST, meansOfChoice, RunFiles } from './run-files';

const shop = readShop(JSON.parse(readFileSync('demo/shop.json', 'utf8')));

async function shown(inputs: Record<string, unknown> = {}) {
  const fixture = TestBed.createComponent(RunFiles);
  for (const [name, value] of Object.entries({ shop, approval: 'approved', choice: FILES_AT_FIRST, ...inputs }))
    fixture.componentRef.setInput(name, value);
  await fixture.whenStable();
  const page = fixture.nativeElement as HTMLElement;
  const field = (words: string): HTMLInputElement => {
    const label = [...page.querySelectorAll('label')].find(({ textContent }) => textContent.includes(words));
    return label!.querySelector('input')!;
  };
  const click = async (words: string): Promise<void> => {
    field(words).click();
    await fixture.whenStable();
  };
  return { fixture, page, field, click, choice: () => fixture.componentInstance.choice() };
}

describe('files of a run', () => {
  it('have programs with the tools that plates ask for, or with chosen ones of which one stays', async () => {
    const { fixture, page, click, choice } = await shown();
    const machine = page.querySelector('select')!;
    // What has a spindle: a laser has no programs of cuts.
    expect([...machine.options].map(({ textContent }) => textContent.trim())).toEqual([
      'none',
      'for Long bed router',
      'for Bench engraver',
    ]);
    expect(page.textContent).not.toContain('with these alone');
    machine.value = 'long-bed';
    machine.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    expect(meansOfChoice(choice())).toEqual({ machine: 'long-bed' });
    await click('with these alone');
    expect(choice().tools).toEqual(shop.tools.map(({ id }) => id));
    for (const { number, name } of shop.tools.slice(1)) await click(`T${number} ${name}`);
    expect(meansOfChoice(choice())).toEqual({ machine: 'long-bed', tools: [shop.tools[0].id] });
    await click(`T${shop.tools[0].number} ${shop.tools[0].name}`);
    expect(choice().tools).toEqual([shop.tools[0].id]);
    await click('that the plates of a sheet ask for');
    expect(meansOfChoice(choice())).toEqual({ machine: 'long-bed' });
  });

  it('cannot be had with tools that are used up', async () => {
    const tools = shop.tools.map((tool, i) => (i === 0 ? { ...tool, left: 0 } : tool));
    const { field, click, choice } = await shown({ shop: { ...shop, tools }, choice: { ...FILES_AT_FIRST, machine: 'bench' } });
    await click('with these alone');
    expect(choice().tools).not.toContain(tools[0].id);
    expect(field(`${tools[0].name}, used up`).disabled).toBe(true);
  });

  it('ask why they are made where the plates are not approved, of those who may say so', async () => {
    expect((await shown()).page.textContent).not.toContain('Why they are made');
    const open = await shown({ approval: 'open' });
    expect(open.page.textContent).toContain('is not approved, or they have changed');
    const reason = open.field('Why they are made all the same');
    reason.value = 'A trial';
    reason.dispatchEvent(new Event('input'));
    expect(open.choice().reason).toBe('A trial');
    expect((await shown({ approval: 'none', isLooking: true })).page.textContent).not.toContain('Why they are made');
  });

  it('are asked of this page or of the workers, in the kinds that are chosen', async () => {
    const { fixture, page, click, choice } = await shown({ marked: 2 });
    const heard: string[] = [];
    fixture.componentInstance.made.subscribe(() => heard.push('page'));
    fixture.componentInstance.asked.subscribe(() => heard.push('workers'));
    fixture.componentInstance.markedOnly.subscribe((isOnly) => heard.push(`marked ${isOnly}`));
    await click('Outlines (DXF)');
    await click('Outlines (SVG)');
    await click('Contact sheet');
    expect([[...choice().kinds], choice().hasContact]).toEqual([['dxf'], true]);
    await click('only the 2 marked');
    for (const button of page.querySelectorAll('button')) button.click();
    expect(heard).toEqual(['marked true', 'page', 'workers']);
  });
});
