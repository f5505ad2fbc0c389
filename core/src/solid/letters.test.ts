import { beforeAll, describe, expect, it } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';

interface Swept {
  readonly tried: number;
  readonly worst: number;
  readonly open: number;
  readonly where: string;
}

/** mm that a height may be off: 0.01 for plane slopes, 0.02 for round forms. */
const FORMS = { upright: 1e-9, sloped: 0.01, ridged: 0.01, capped: 0.01, chamfered: 0.01, rounded: 0.02, cove: 0.02 };

describe('the solid of every shipped font’s letters A–Z, a–z, 0–9 and & is the relief function', () => {
  let swept: Readonly<Record<string, Swept>>;
  beforeAll(() => {
    const script = fileURLToPath(new URL('../../testing/letters-sweep.mjs', import.meta.url));
    const env = { ...process.env, NODE_OPTIONS: '' };
    swept = JSON.parse(execFileSync(process.execPath, [script], { env, encoding: 'utf8' })) as Record<string, Swept>;
  });

  it.each(Object.entries(FORMS))('%s, at 10,000 places', (form, tolerance) => {
    const { tried, worst, open, where } = swept[form];
    expect(tried).toBeGreaterThan(10_000);
    expect(open).toBe(0);
    expect([where, worst < tolerance]).toEqual([where, true]);
  });
});
