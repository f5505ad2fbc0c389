import { signal } from '@angular/core';
import { attempt } from './attempt';

describe('attempt', () => {
  it('takes back what was said before, and says why something did not work', async () => {
    const trouble = signal('of before');
    expect(await attempt(trouble, async () => expect(trouble()).toBe(''))).toBe(true);
    expect(await attempt(trouble, () => Promise.reject(new Error('The server does not answer.')))).toBe(false);
    expect(trouble()).toBe('The server does not answer.');
  });
});
