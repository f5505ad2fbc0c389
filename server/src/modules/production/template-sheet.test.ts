import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { templateDrawing } from '@plain-relief/core/drawing';
import { Evaluator } from '@plain-relief/core/relief';
import { type TemplatePaper } from '@plain-relief/core/sheet';
import { newShape, newSign, type Sign } from '@plain-relief/core/sign';
import { PNG } from 'pngjs';
import { openFontBook } from '../fonts/font-files.js';
import { templateSheet } from './template-sheet.js';

const fontsDir = fileURLToPath(new URL('../../../../fonts', import.meta.url));
const book = openFontBook(fontsDir);
const date = new Date('2026-11-25T10:00:00Z');
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'template-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** A plate with a hole near every corner. */
function plate(width: number, height: number): Sign {
  const sign = newSign('Gate', 'mm');
  sign.blank.outline = { kind: 'rectangle', width, height, cornerRadius: 0 };
  const fixings = newShape(sign, 'fixings');
  fixings.shape = { kind: 'fixings', diameter: 8, inset: 20, places: 'corners', count: 4 };
  sign.parts.push(fixings);
  return sign;
}

async function made(sign: Sign, paper: TemplatePaper) {
  const evaluation = await new Evaluator(book).evaluate(sign);
  const path = join(folder, `${sign.title}-${paper}.pdf`);
  writeFileSync(path, await templateSheet(evaluation, { paper, title: sign.title, date }, fontsDir));
  return { path, drawing: templateDrawing(evaluation) };
}

const poppler = (program: string, ...args: string[]): string => spawnSync(program, args, { encoding: 'utf8' }).stdout;
const DOTS = 127;
const DOTS_A_MM = DOTS / 25.4;

/** Every page as a picture, 5 dots a mm. */
function pagesOf(path: string): PNG[] {
  const stem = `${path}-page`;
  expect(spawnSync('pdftoppm', ['-r', String(DOTS), '-png', path, stem]).status).toBe(0);
  return readdirSync(folder)
    .filter((name) => join(folder, name).startsWith(stem))
    .sort()
    .map((name) => PNG.sync.read(readFileSync(join(folder, name))));
}

const isDark = (png: PNG, x: number, y: number): boolean => png.data[4 * (Math.round(y) * png.width + Math.round(x))] < 110;

/** Whether anything dark is within 0.3 mm of a place of a page, in mm. */
function isNearDark(png: PNG, x: number, y: number): boolean {
  for (let dx = -0.2; dx <= 0.201; dx += 0.2)
    for (let dy = -0.2; dy <= 0.201; dy += 0.2) if (isDark(png, (x + dx) * DOTS_A_MM, (y + dy) * DOTS_A_MM)) return true;
  return false;
}

describe('the full-size template', () => {
  it('on A4 sheets gives, put together, the plan at full size to 0.3 mm', async () => {
    const { path, drawing } = await made(plate(500, 260), 'A4');
    const [whole, ...sheets] = pagesOf(path);
    expect(whole.width).toBeGreaterThan(whole.height);
    // 273 by 186 mm are shown, 15 shared: 532 by 292 take 3 by 2 sheets across, and 4 by 2 upright.
    expect(sheets).toHaveLength(6);
    const text = poppler('pdftotext', path, '-');
    for (const name of ['A1', 'B3']) expect(text).toContain(`sheet ${name} of B3`);
    const upright = sheets[0].height > sheets[0].width;
    const [width, height] = upright ? [210 - 24, 297 - 24] : [297 - 24, 210 - 24];
    const [columns, rows] = [3, 2];
    const { minX, maxX, minY, maxY } = drawing.bounds;
    const left = (minX + maxX) / 2 - (columns * (width - 15) + 15) / 2;
    const top = (minY + maxY) / 2 + (rows * (height - 15) + 15) / 2;
    // The sheets laid on each other where they belong: what is dark on any of them.
    const at = (x: number, y: number): boolean[] =>
      sheets.flatMap((sheet, i) => {
        const [column, row] = [i % columns, Math.floor(i / columns)];
        const [px, py] = [x - (left + column * (width - 15)) + 12, top - row * (height - 15) - y + 12];
        if (px < 12.6 || py < 12.6 || px > width + 11.4 || py > height + 11.4) return [];
        return [isNearDark(sheet, px, py)];
      }); // prettier-ignore
    let looked = 0;
    const check = (x: number, y: number): void => {
      const found = at(x, y);
      expect([x, y, found.length > 0, found.every(Boolean)]).toEqual([x, y, true, true]);
      looked += found.length;
    };
    // Along the edge of the plate and around its holes, on every sheet that shows the place.
    for (let t = -240; t <= 240; t += 7) for (const y of [-130, 130]) check(t, y);
    for (let t = -120; t <= 120; t += 7) for (const x of [-250, 250]) check(x, t);
    for (const [cx, cy] of [
      [-230, -110],
      [230, -110],
      [230, 110],
      [-230, 110],
    ])
      // prettier-ignore
      for (let angle = 0.2; angle < 6.2; angle += 0.4) check(cx + 4 * Math.cos(angle), cy + 4 * Math.sin(angle));
    expect(looked).toBeGreaterThan(260);
    // And nothing where there is nothing.
    for (const [x, y] of [[-150, 60], [90, -70], [200, 31]]) expect(at(x, y).some(Boolean)).toBe(false); // prettier-ignore
  });

  it('has its registration marks in the same places of both sheets that share them', async () => {
    const { path } = await made(plate(500, 260), 'A4');
    const [, ...sheets] = pagesOf(path);
    const [first, second] = sheets;
    const width = first.width / DOTS_A_MM;
    // In the middle of the strip, 20 mm from the ends of the sheet's frame.
    const [here, there] = [width - 12 - 7.5, 12 + 7.5];
    for (const y of [12 + 20, first.height / DOTS_A_MM - 12 - 20]) {
      for (let along = -3.5; along <= 3.5; along += 0.5) {
        expect(isNearDark(first, here + along, y)).toBe(true);
        expect(isNearDark(second, there + along, y)).toBe(true);
      }
    }
  });

  it('says every hole, the level and how to check the printer, on every paper', async () => {
    for (const paper of ['A3', 'Letter', 'Tabloid', 'roll'] as const) {
      const { path } = await made(plate(300, 200), paper);
      const text = poppler('pdftotext', path, '-');
      for (const words of ['Ø 8 mm', 'level', 'this line is 100 mm']) expect(text).toContain(words);
    }
  });

  it('of a sign that no page may be as long as is several lengths of a roll, each within the limit of PDF', async () => {
    const { path } = await made(plate(8000, 600), 'roll');
    const sizes = [...poppler('pdfinfo', '-l', '9', path).matchAll(/Page\s+\d+ size:\s+([\d.]+) x ([\d.]+)/gu)];
    expect(sizes).toHaveLength(3);
    // ISO 32000-1, annex C: 14 400 units.
    for (const [, across, up] of sizes) expect(Math.max(Number(across), Number(up))).toBeLessThanOrEqual(14_400);
  });

  it('is the same bytes for the same sign and date', async () => {
    const evaluation = await new Evaluator(book).evaluate(plate(300, 200));
    const [one, two] = await Promise.all(
      [1, 2].map(() => templateSheet(evaluation, { paper: 'A4', title: 'Gate', date }, fontsDir)),
    );
    expect(Buffer.from(one).equals(Buffer.from(two))).toBe(true);
  });
});
