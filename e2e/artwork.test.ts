import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { importArtwork, outlinePath } from '@plain-relief/core/artwork';
import type { Browser, Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { openBrowser } from './application.js';
import { DRAWINGS } from './drawings.js';

let browser: Browser;
let page: Page;
beforeAll(async () => {
  browser = await openBrowser();
  page = await browser.newPage({ viewport: { width: 400, height: 400 } });
});
afterAll(() => browser?.close());

/** A drawing as Chromium paints it, 400 × 400 pixels on white, edges unsmoothed: areas that share an edge leave no seam. */
async function painted(source: string): Promise<PNG> {
  await page.setContent(
    `<style>body{margin:0;background:#fff}svg{display:block;width:400px;height:400px}*{shape-rendering:crispEdges}</style>${source}`,
  );
  return PNG.sync.read(await page.screenshot());
}

/** The share of pixels that differ. */
function difference(a: PNG, b: PNG): number {
  let count = 0;
  for (let i = 0; i < a.data.length; i += 4) if ([0, 1, 2].some((k) => Math.abs(a.data[i + k] - b.data[i + k]) > 8)) count++;
  return count / (a.data.length / 4);
}

describe('imported drawings', () => {
  it('are many and varied', () => expect(Object.keys(DRAWINGS).length).toBeGreaterThanOrEqual(40));

  it.each(Object.entries(DRAWINGS))('%s: filled with the imported outlines it looks as Chromium paints it', async (_, source) => {
    const { colours, width, height } = importArtwork('svg', source, { speck: 0 });
    expect(width).toBeCloseTo(height, 6);
    const shapes = colours.map(({ colour, outline }) => `<path d="${outlinePath(outline)}" fill="${colour}"/>`).join('');
    const frame = `viewBox="${-width / 2} ${-height / 2} ${width} ${height}"`;
    const ours = await painted(`<svg xmlns="http://www.w3.org/2000/svg" ${frame}><g transform="scale(1 -1)">${shapes}</g></svg>`);
    const theirs = await painted(source);
    expect(difference(ours, theirs)).toBeLessThan(0.005);
  });
});
