import { TestBed } from '@angular/core/testing';
import { NoticesOutlet } from '../shell/notices-outlet';
import { Notices } from './notices';

describe('Notices', () => {
  it('stand at the edge of the page, the same one once, a few at most, and go when they are dismissed or acted on', async () => {
    const notices = TestBed.inject(Notices);
    const fixture = TestBed.createComponent(NoticesOutlet);
    const page = fixture.nativeElement as HTMLElement;
    const shown = async () => {
      await fixture.whenStable();
      return [...page.querySelectorAll('ngb-toast .words')].map((each) => each.textContent?.trim());
    };
    expect(await shown()).toEqual([]);
    let undone = 0;
    notices.say('Sign removed.', { words: 'Undo', run: () => undone++ });
    notices.say('Line 1 runs straight now.');
    notices.say('Line 1 runs straight now.');
    notices.say('');
    expect(await shown()).toEqual(['Sign removed.', 'Line 1 runs straight now.']);
    [...page.querySelectorAll('button')].find((button) => button.textContent?.trim() === 'Undo')!.click();
    expect([undone, await shown()]).toEqual([1, ['Line 1 runs straight now.']]);
    page.querySelector<HTMLButtonElement>('.btn-close')!.click();
    expect(await shown()).toEqual([]);
    for (let n = 0; n < 9; n++) notices.say(`Said ${n}.`);
    expect(await shown()).toEqual(['Said 5.', 'Said 6.', 'Said 7.', 'Said 8.']);
  });
});
