import { describe, expect, it } from '@jest/globals';
import { readTransform } from './coordinates.js';
import { StyleSheet } from './style.js';

const fillOf = (css: string): string | undefined =>
  new StyleSheet(css).apply({ name: 'path', attributes: { class: 'a' }, children: [], text: '' }, {}).fill;

describe('style sheets', () => {
  it('are read with comments, several selectors, and blocks within at-rules', () => {
    expect(fillOf('.a{fill:red}')).toBe('red');
    expect(fillOf('/* .a{fill:red} */ .b, .a { fill : blue ; }')).toBe('blue');
    expect(fillOf('@media print { .a{fill:green} .c{fill:red} }')).toBe('green');
    expect(fillOf('path{fill:red}.a{fill:blue}')).toBe('blue');
    // CSS Syntax 3, chapter 5.4.8: the end of the file closes what is open.
    expect(fillOf('.a{fill:red')).toBe('red');
    expect(fillOf('.a{fill:red !important}')).toBe('red');
    expect(fillOf('.a{fill:url("#g;}")}')).toBe('url("#g;}")');
    expect(fillOf('.a{fill:red} /* never closed .a{fill:blue}')).toBe('red');
  });

  // Each took minutes where it was looked through from every place anew.
  it.each([
    ['without a block', 'a'.repeat(2_000_000)],
    ['of comments that are never closed', '/*'.repeat(1_000_000)],
    ['of blocks that are never closed', '.a{'.repeat(600_000)],
  ])('%s are read in one go', (_, css) => {
    expect(fillOf(css)).toBeUndefined();
  });
});

describe('transforms', () => {
  it.each([['a'.repeat(2_000_000)], ['a('.repeat(1_000_000)], [`a${' '.repeat(2_000_000)}`]])(
    'that are none are read in one go',
    (text) => {
      expect(readTransform(text)).toEqual(readTransform(''));
    },
  );
});
