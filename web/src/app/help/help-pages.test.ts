import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { HELP_PAGES, helpFor } from './help-pages';

const PICTURES = join(process.cwd(), 'docs', 'screenshots');

describe('the help', () => {
  it('has a page for every step, each with words, and pictures that are there and say what they show', () => {
    const ids = HELP_PAGES.map(({ id }) => id);
    expect(ids).toEqual(expect.arrayContaining(['Brief', 'Layout', 'Heights', 'Check', 'Proof', 'Make']));
    expect(new Set(ids).size).toBe(ids.length);
    for (const { id, paragraphs, picture, shows } of HELP_PAGES) {
      expect([id, paragraphs.length > 0]).toEqual([id, true]);
      if (picture === undefined) continue;
      expect([picture, existsSync(join(PICTURES, `${picture}.png`)), (shows ?? '').length > 10]).toEqual([picture, true, true]);
    }
  });

  it('is searched by its words', () => {
    expect(helpFor('')).toEqual(HELP_PAGES);
    expect(helpFor('Tracking enter').map(({ id }) => id)).toEqual(['Layout', 'Keys']);
    expect(helpFor('bin 30').map(({ id }) => id)).toEqual(['Jobs']);
    expect(helpFor('xyzzy')).toEqual([]);
  });
});
