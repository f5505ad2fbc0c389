import { type Counter } from '../sign/index.js';

/** A to Z, AA to ZZ and so on for 1, 2, 3 … (bijective numeration to the base of 26); nothing below 1. */
export function lettersOf(count: number): string {
  let [letters, left] = ['', count];
  while (left > 0) {
    const digit = (left - 1) % 26;
    letters = String.fromCharCode(65 + digit) + letters;
    left = (left - 1 - digit) / 26;
  }
  return letters;
}

/** What a counter says at its n-th time, from 0. */
export function counted({ from, step, digits, form, prefix = '' }: Counter, n: number): string {
  const count = from + step * n;
  if (form === 'letters') return prefix + lettersOf(count);
  return `${prefix}${count < 0 ? '-' : ''}${String(Math.abs(count)).padStart(digits, '0')}`;
}
