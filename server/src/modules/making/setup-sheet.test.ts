import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { type CutChoice, USUAL } from '@plain-relief/core/cutting';
import { Evaluator } from '@plain-relief/core/relief';
import { readShop } from '@plain-relief/core/shop';
import { newShape, newSign, type Sign } from '@plain-relief/core/sign';
import { openFontBook } from '../fonts/font-files.js';
import { laidPlan, type LaidPlan } from './laid-plan.js';

const fromRoot = (path: string): string => fileURLToPath(new URL(`../../../../${path}`, import.meta.url));
const fontsDir = fromRoot('fonts');
const book = openFontBook(fontsDir);
const shop = readShop((JSON.parse(readFileSync(fromRoot('demo/shop.json'), 'utf8')) as { library: unknown }).library);
const subject = {
  shop: 'Millrace Signworks',
  customer: 'Quill Street Library',
  job: { number: 'QS-0107', title: 'Reading room' },
  revision: 4,
  date: new Date('2026-11-25T10:00:00Z'),
};
let folder: string;
let plan: LaidPlan;
let text: string;

/** A plate with a pocket, and a groove that no tool of the choice fits. */
function plate(): Sign {
  const sign = newSign('Depth plate', 'mm');
  sign.blank = { ...sign.blank, outline: { kind: 'rectangle', width: 60, height: 40, cornerRadius: 0 }, thickness: 8 };
  const pocket = newShape(sign, 'rectangle');
  pocket.shape = { kind: 'rectangle', width: 20, height: 12, cornerRadius: 0 };
  const groove = newShape(sign, 'rectangle');
  groove.shape = { kind: 'rectangle', width: 40, height: 1, cornerRadius: 0 };
  sign.parts.push({ ...pocket, id: 'pocket' }, { ...groove, id: 'groove', place: { ...groove.place, y: 14 } });
  return sign;
}

const choice: CutChoice = {
  ...USUAL,
  machine: shop.machines.find(({ hasChanger }) => !hasChanger)!,
  material: shop.materials.find(({ id }) => id === 'oak')!,
  tools: shop.tools.filter(({ id }) => id === 'end-3'),
  zero: { at: 'middle', height: 'bed' },
  clamps: [{ x: 31, y: -5, width: 20, height: 10, above: 12 }],
};

async function laid(): Promise<LaidPlan> {
  const evaluation = await new Evaluator(book).evaluate(plate());
  return laidPlan(evaluation, choice, { cell: 0.25, rates: shop.rates, subject, book, fontsDir });
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'setup-'));
  plan = await laid();
  const path = join(folder, 'sheet.pdf');
  writeFileSync(path, plan.sheet);
  text = spawnSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' }).stdout;
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the setup sheet', () => {
  it('says whose sign it is, what stock it wants, where the zero lies and what holds it', () => {
    for (const words of [
      'Depth plate',
      'QS-0107 Reading room',
      'Quill Street Library',
      'revision 4',
      '60 mm × 40 mm × 8 mm, oak',
      'middle of the stock, z on the bed',
      'tabs 6 mm wide and 1.5 mm high',
      '20 mm × 10 mm, 12 mm high',
    ])
      expect(text.replace(/\s+/gu, ' ')).toContain(words);
  });

  it('has every program with its tool and the hash of its bytes', () => {
    expect(plan.programs.length).toBeGreaterThan(0);
    plan.programs.forEach(({ name, text: program }, i) => {
      expect(text).toContain(name);
      expect(text).toContain(createHash('sha256').update(program).digest('hex'));
      expect(plan.outcome.files[i]).toMatchObject({ bytes: Buffer.byteLength(program), lines: program.split('\n').length - 1 });
    });
    expect(text).toMatch(/T2 3 mm end mill/u);
    expect(text).toContain('Tools are changed by hand');
  });

  it('says what the dry run found, and what is left', () => {
    expect(text.replace(/\s+/gu, ' ')).toContain('proven at every 0.25 mm');
    expect(text).toContain('Left standing');
    expect(text.replace(/\s+/gu, ' ')).toMatch(/\d mm²: The smallest end mill, 3 mm end mill, does not fit/u);
  });

  it('says how the stock is turned, and what holds it to its place', async () => {
    const turning = { axis: 'level', pins: { diameter: 5, apart: 12, deep: 4 } } as const;
    const drill = shop.tools.find(({ id }) => id === 'drill-5')!;
    const readOf = async (side: 'front' | 'back'): Promise<string> => {
      const sign = plate();
      sign.parts.push({ ...sign.parts[0], id: 'behind', side: 'back', place: { ...sign.parts[0].place, x: 9 } });
      const evaluation = await new Evaluator(book).evaluate(sign, side);
      const how = { ...choice, clamps: [], turning, cutsOut: side === 'front', tools: [...choice.tools, drill] };
      const { sheet } = await laidPlan(evaluation, how, { cell: 0.5, rates: shop.rates, subject, book, fontsDir });
      const path = join(folder, `${side}.pdf`);
      writeFileSync(path, sheet);
      return spawnSync('pdftotext', [path, '-'], { encoding: 'utf8' }).stdout.replace(/\s+/gu, ' ');
    };
    const [back, front] = [await readOf('back'), await readOf('front')];
    expect(back).toContain('cut this side first, then turn it about its level middle line (dashed): top comes to the bottom');
    expect(back).toContain('two pins of 5 mm, 12 mm off the sign on that line, 4 mm into the bed: the first program makes their holes. Keep the zero'); // prettier-ignore
    expect(front).toContain('cut the back first, then turn it about its level middle line');
    expect(front).toContain('in the holes of the first side');
    // 60 mm, and at both ends 12 mm, half a pin, and 5 mm around it.
    expect(front).toContain('99 mm × 40 mm × 8 mm');
  });

  it('is the same to the byte for the same plan', async () => {
    const again = await laid();
    expect(Buffer.from(again.sheet).equals(Buffer.from(plan.sheet))).toBe(true);
    expect(Buffer.from(again.picture).equals(Buffer.from(plan.picture))).toBe(true);
  });
});
