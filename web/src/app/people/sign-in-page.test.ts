import type { Door } from '@plain-relief/api';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { SessionService } from '../session/session.service';
import { SignInPage } from './sign-in-page';

describe('SignInPage', () => {
  async function show(door: Door | undefined, then?: string) {
    const done: unknown[] = [];
    const session = {
      look: async () => door,
      signIn: async (email: string, password: string) => {
        if (password !== 'demo-millrace') throw new Error('E-mail address or password is not right.');
        done.push(['signed in', email]);
      },
      begin: async (name: string, email: string) => void done.push(['began', name, email]),
    };
    TestBed.configureTestingModule({
      providers: [
        { provide: SessionService, useValue: session },
        { provide: Router, useValue: { navigateByUrl: async (to: string) => void done.push(to) } },
      ],
    });
    const fixture = TestBed.createComponent(SignInPage);
    if (then !== undefined) fixture.componentRef.setInput('then', then);
    const settle = async () => {
      await new Promise((ready) => setTimeout(ready));
      await fixture.whenStable();
    };
    await settle();
    const page = fixture.nativeElement as HTMLElement;
    const enter = async (...words: string[]) => {
      page.querySelectorAll('input').forEach((box, i) => {
        box.value = words[i];
        box.dispatchEvent(new Event('input'));
      });
      page.querySelector('form')!.dispatchEvent(new Event('submit'));
      await settle();
      return page.querySelector('[role=alert]')?.textContent?.trim();
    };
    return { page, done, enter, settle };
  }
  const people = [{ name: 'Runa Aldous', email: 'runa@millrace.example.org', role: 'owner' as const }];
  const demo: Door = { isNew: false, demo: { password: 'demo-millrace', people } };

  it('says what is missing, and what is wrong', async () => {
    const { done, enter } = await show({ isNew: false });
    expect(await enter('', '')).toBe('Type your e-mail address.');
    expect(await enter('runa@millrace.example.org', '')).toBe('Type your password.');
    expect(await enter('runa@millrace.example.org', 'guessed')).toBe('E-mail address or password is not right.');
    expect(done).toEqual([]);
    expect(await enter(' runa@millrace.example.org ', 'demo-millrace')).toBeUndefined();
    expect(done).toEqual([['signed in', 'runa@millrace.example.org'], '/jobs']);
  });

  it('lets the people of the demo in by a click', async () => {
    const { page, done, settle } = await show(demo);
    [...page.querySelectorAll('button')].find(({ textContent }) => textContent.includes('Runa Aldous'))!.click();
    await settle();
    expect(done).toEqual([['signed in', 'runa@millrace.example.org'], '/jobs']);
  });

  it('lets the first of a new shop begin, with a name and a long password', async () => {
    const { page, done, enter } = await show({ isNew: true });
    expect(page.textContent).toContain('Whoever comes first owns the shop');
    expect(await enter('', 'a@b.example', 'long enough')).toBe('Type your name.');
    expect(await enter('Runa', 'a@b.example', 'short')).toBe('The password needs ten letters or more.');
    await enter('Runa', 'a@b.example', 'long enough');
    expect(done).toEqual([['began', 'Runa', 'a@b.example'], '/jobs']);
  });

  it.each([
    ['/signs/1', '/signs/1'],
    ['//elsewhere.example', '/jobs'],
    ['https://elsewhere.example', '/jobs'],
    ['/sign-in', '/jobs'],
    [undefined, '/jobs'],
  ])('goes on from %s to %s, and nowhere outside of the application', async (then, to) => {
    // Whoever is signed in already needs no door.
    const { done } = await show(undefined, then);
    expect(done).toEqual([to]);
  });
});
