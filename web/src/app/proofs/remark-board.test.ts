import type { Remark, ShopRemark } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { RemarkBoard } from './remark-board';

const remark = (change: Partial<Remark>): Remark => ({
  id: 'r',
  signId: 's',
  option: null,
  run: null,
  row: null,
  number: null,
  across: 0.25,
  down: 0.5,
  isFromShop: false,
  who: 'Marit',
  text: 'Larger',
  at: '2026-11-25T10:00:00Z',
  ...change,
});

describe('RemarkBoard', () => {
  async function show(inputs: Record<string, unknown> = {}) {
    const fixture = TestBed.createComponent(RemarkBoard);
    const all = { picture: '/p.png', title: 'Gate', signId: 's', isOpen: true, ...inputs };
    for (const [name, value] of Object.entries(all)) fixture.componentRef.setInput(name, value);
    const said: ShopRemark[] = [];
    fixture.componentInstance.said.subscribe((one) => said.push(one));
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    page.querySelector('img')?.dispatchEvent(new Event('load'));
    await fixture.whenStable();
    const board = page.querySelector<HTMLButtonElement>('.board')!;
    board.getBoundingClientRect = () => ({ left: 100, top: 50, width: 400, height: 200 }) as DOMRect;
    const point = async (x: number, y: number, detail = 1) => {
      board.dispatchEvent(new MouseEvent('click', { clientX: x, clientY: y, detail }));
      await fixture.whenStable();
    };
    const say = async (text: string) => {
      const area = page.querySelector('textarea')!;
      area.value = text;
      area.dispatchEvent(new Event('input'));
      await fixture.whenStable();
      page.querySelector('form')!.dispatchEvent(new Event('submit'));
      await fixture.whenStable();
    };
    return { fixture, page, board, said, point, say };
  }

  it('pins a remark where the picture was pointed at, as shares of its size', async () => {
    const { said, point, say, page } = await show({ option: 'option-1' });
    await point(200, 100);
    expect(page.querySelector<HTMLElement>('.fresh')!.style.left).toBe('25%');
    // What is typed next is the remark, also after pointing again.
    expect(document.activeElement).toBe(page.querySelector('textarea'));
    page.querySelector('textarea')!.blur();
    await point(200, 100);
    expect(document.activeElement).toBe(page.querySelector('textarea'));
    await say('  A little larger  ');
    expect(said).toEqual([{ signId: 's', option: 'option-1', across: 0.25, down: 0.25, text: 'A little larger' }]);
    expect(page.querySelector('textarea')).toBeNull();
  });

  it('takes a key on the picture for the whole sign, and a place beyond its edge for the edge', async () => {
    const { said, point, say } = await show();
    await point(0, 0, 0);
    await say('All of it darker');
    await point(900, 20);
    await say('The corner');
    expect(said).toEqual([
      { signId: 's', text: 'All of it darker' },
      { signId: 's', across: 1, down: 0, text: 'The corner' },
    ]);
  });

  it('says nothing where nothing was written, and leaves off with Escape', async () => {
    const { said, point, say, page, fixture } = await show();
    await point(200, 100);
    await say('   ');
    expect([said, page.querySelector('textarea') !== null]).toEqual([[], true]);
    page.querySelector('textarea')!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    await fixture.whenStable();
    expect(page.querySelector('textarea')).toBeNull();
  });

  it('shows pins of its sign and of the option that is looked at, and lists all remarks of its sign as words', async () => {
    const remarks = [
      remark({ id: '1', text: '<b>no</b>' }),
      remark({ id: '2', option: 'option-2', text: 'On the other' }),
      remark({ id: '3', signId: 'other' }),
      remark({ id: '4', across: null, down: null, isFromShop: true, text: 'Thank you' }),
    ];
    const { page } = await show({ remarks });
    expect([...page.querySelectorAll('.pin')].map(({ textContent }) => textContent)).toEqual(['1']);
    expect([...page.querySelectorAll('li p:first-child')].map(({ textContent }) => textContent)).toEqual([
      '<b>no</b>',
      'On the other',
      'Thank you',
    ]);
    expect(page.querySelector('li.shop')!.textContent).toContain('the shop');
  });

  it('takes no remark once the proof has its answer, nor on a picture that could not be drawn', async () => {
    const { page, board, fixture } = await show({ isOpen: false });
    expect([board.disabled, page.querySelector('.hint')]).toEqual([true, null]);
    page.querySelector('img')!.dispatchEvent(new Event('error'));
    await fixture.whenStable();
    expect(page.textContent).toContain('The picture could not be drawn');
  });
});
