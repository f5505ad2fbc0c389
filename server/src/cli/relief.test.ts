import { spawnSync } from 'node:child_process';
import type { Sign } from '@plain-relief/core/sign';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';

const ROOT = fileURLToPath(new URL('../../../', import.meta.url));
let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'relief-'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function relief(...args: string[]): { status: number | null; out: string; error: string } {
  const { status, stdout, stderr } = spawnSync(join(ROOT, 'relief'), args, { encoding: 'utf8', cwd: folder });
  return { status, out: stdout, error: stderr.trim() };
}

const demoFiles = readdirSync(join(ROOT, 'demo')).filter((name) => name.endsWith('.sign.json'));

describe('./relief inspect', () => {
  interface Inspected {
    readonly boundsMm: { readonly min: number[]; readonly max: number[] };
    readonly levels: readonly { readonly z: number; readonly areaMm2: number }[];
    readonly volumeMm3: number;
  }

  it('tells what all demo signs are', () => {
    const paths = demoFiles.map((name) => join(ROOT, 'demo', name));
    const { status, out } = relief('inspect', ...paths);
    expect(status).toBe(0);
    const all = JSON.parse(out) as (Inspected & { file: string; notes: { weight: string }[] })[];
    expect(all.map(({ file }) => file)).toEqual(paths);
    for (const found of all) {
      expect(found).toMatchObject({ version: 3, watertight: true });
      expect([found.file, found.notes.filter(({ weight }) => weight !== 'said')]).toEqual([found.file, []]);
      const text = readFileSync(found.file, 'utf8');
      // What is done from behind is no level of the front.
      if (/"cutTo"|"back"|"support"/u.test(text)) continue;
      const thickness = -found.boundsMm.min[2];
      const sum = found.levels.reduce((rest, { z, areaMm2 }) => rest + areaMm2 * (z + thickness), 0);
      // Slopes are no levels.
      const isSloped = text.includes('"edge"');
      if (isSloped) expect(sum).toBeLessThan(found.volumeMm3);
      else expect(Math.abs(sum / found.volumeMm3 - 1)).toBeLessThan(1e-6);
    }
    expect({ file: paths[0], ...(JSON.parse(relief('inspect', paths[0]).out) as Inspected) }).toEqual(all[0]);
  });

  it('exits 1 with the path and what is wrong', () => {
    const document = JSON.parse(readFileSync(join(ROOT, 'demo', 'welcome.sign.json'), 'utf8')) as {
      parts: { size: { height: number } }[];
    };
    document.parts[2].size.height = 0;
    writeFileSync(join(folder, 'bad.json'), JSON.stringify(document));
    expect(relief('inspect', 'bad.json')).toEqual({
      status: 1,
      out: '',
      error: 'parts[2].size.height: is 0 and must be >= 0.5.',
    });
    writeFileSync(join(folder, 'broken.json'), '{"version": 1,');
    expect(relief('inspect', 'broken.json').error).toMatch(/^broken\.json is not JSON: /u);
    expect(relief('inspect', join(ROOT, 'demo', 'welcome.sign.json'), 'bad.json').error).toBe(
      'bad.json: parts[2].size.height: is 0 and must be >= 0.5.',
    );
    expect(relief('inspect', 'nowhere.json').error).toMatch(/^nowhere\.json cannot be read: /u);
    expect(relief('carve', 'bad.json')).toMatchObject({ status: 1 });
    expect(relief('inspect', 'bad.json', '--depth', '3').error).toContain('--depth');
  });
});

describe('./relief check', () => {
  const check = (...args: string[]) => relief('check', ...args);
  const plate = (by: number, width: number) => {
    const document = {
      version: 3,
      title: 'Bar',
      unit: 'mm',
      blank: { outline: { kind: 'rectangle', width: 60, height: 40, cornerRadius: 0 }, thickness: 10, material: 'oak' },
      parts: [
        {
          kind: 'shape',
          id: 'bar',
          name: 'Bar',
          shape: { kind: 'rectangle', width: 30, height: width, cornerRadius: 0 },
          place: { x: 0, y: 0, turn: 0, mirror: false },
          sitsOn: { kind: 'face' },
          tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'raise', by } }],
        },
      ],
      section: { x: 0, y: 0, turn: 0 },
    };
    writeFileSync(join(folder, 'bar.json'), JSON.stringify(document));
    return 'bar.json';
  };

  it('passes what a shop can make, and exits 1 with what it cannot, each with its number, limit and source', () => {
    const good = check(plate(4, 6));
    expect([good.status, JSON.parse(good.out)]).toEqual([0, expect.objectContaining({ passes: true, findings: [], notes: [] })]);
    const bad = check(plate(4, 0.7), '--distance', '5');
    const found = JSON.parse(bad.out) as {
      passes: boolean;
      findings: { check: string; measured: number; limit: number; source: string }[];
    };
    expect([bad.status, found.passes, found.findings.map((each) => each.check)]).toEqual([
      1,
      false,
      ['thin-stroke', 'tall-stroke'],
    ]);
    expect(found.findings[0].measured).toBeCloseTo(0.7, 1);
    expect(found.findings[0].source).toContain('least stroke of the material');
    // Oak of the demo shop asks for more than what is usual where no shop is named.
    const shop = join(ROOT, 'demo', 'shop.json');
    const limits = (JSON.parse(check(plate(4, 6), '--shop', shop).out) as { limits: object }).limits;
    expect(limits).toMatchObject({ tool: 0.8, leastStep: 0.2 });
  });

  it('measures a sign against a standard, clause by clause, that of the sign where none is named', () => {
    interface Found {
      passes: boolean;
      standard: { id: string; passes: boolean; clauses: { number: string; title: string; verdict: string; value?: number }[] };
    }
    const study = check(join(ROOT, 'demo', 'quiet-study.sign.json'));
    const good = JSON.parse(study.out) as Found;
    expect([study.status, good.passes, good.standard.passes]).toEqual([0, true, true]);
    expect(good.standard.clauses.find(({ title }) => title === 'Depth')).toMatchObject({ number: '703.2.1', verdict: 'passes' });
    const draft = check(join(ROOT, 'demo', 'map-store.sign.json'), '--standard', 'ada-703');
    const bad = JSON.parse(draft.out) as Found;
    expect([draft.status, bad.standard.passes]).toEqual([1, false]);
    expect(bad.standard.clauses.filter(({ verdict }) => verdict === 'fails').length).toBeGreaterThan(5);
  });

  it.each([
    ['--distance far is no distance', ['bar.json', '--distance', 'far']],
    ['--side top is neither', ['bar.json', '--side', 'top']],
    ['--standard none is none that is known: choose one of ada-703', ['bar.json', '--standard', 'none']],
    ['Usage:', []],
  ])('says “%s”', (words, args) => {
    plate(4, 6);
    const { status, error } = check(...args);
    expect([status, error]).toEqual([1, expect.stringContaining(words)]);
  });
});

describe('./relief dry-run', () => {
  const shop = join(ROOT, 'demo', 'shop.json');
  /** A plate with a pocket of 20 × 12 mm, 2 mm deep. */
  const plate = {
    version: 3,
    title: 'Plate',
    unit: 'mm',
    blank: { outline: { kind: 'rectangle', width: 40, height: 30, cornerRadius: 0 }, thickness: 10, material: 'oak' },
    parts: [
      {
        kind: 'shape',
        id: 'pocket',
        name: 'Pocket',
        shape: { kind: 'rectangle', width: 20, height: 12, cornerRadius: 0 },
        place: { x: 0, y: 0, turn: 0, mirror: false },
        sitsOn: { kind: 'face' },
        tiers: [{ id: 'tier-1', on: true, area: { kind: 'outline' }, action: { kind: 'carve', by: 2 } }],
      },
    ],
    section: { x: 0, y: 0, turn: 0 },
  };
  const program = ['G21 G90', 'T2 M6 S18000 M3', 'G0 X-4 Y0 Z5', 'G1 Z-2 F300', 'F1200 X4', 'G0 Z5', 'M30'];
  const otherwise = (at: number, line: string): string[] => program.map((each, i) => (i === at ? line : each));
  const dry = (lines: readonly string[], ...args: string[]) => {
    writeFileSync(join(folder, 'plate.json'), JSON.stringify(plate));
    writeFileSync(join(folder, 'slot.ngc'), lines.join('\n'));
    return relief('dry-run', 'plate.json', '--shop', shop, ...args, 'slot.ngc');
  };

  it('tells what a program makes of the sign', () => {
    const found = JSON.parse(dry(program).out) as Record<string, number>;
    expect(found).toMatchObject({ gougeMm: 0, gougeAreaMm2: 0, rapidsInMaterial: 0 });
    // A slot of 8 mm by a 3 mm end mill, of 240 mm².
    expect(found.leftAreaMm2 / (240 - 8 * 3 - Math.PI * 1.5 ** 2)).toBeCloseTo(1, 2);
    expect(found.leftVolumeMm3 / found.leftAreaMm2).toBeCloseTo(2, 2);
    expect(found.lengthMm - found.rapidMm).toBeCloseTo(7 + 8, 9);
    const moved = JSON.parse(dry(program, '--zero', '0,0,-0.5', '--machine', 'bench', '--cell', '0.2').out) as typeof found;
    expect(moved.gougeMm).toBeCloseTo(0.5, 4);
    expect(moved.minutes).toBeGreaterThan(found.minutes);
    // With a pin where the slot is drilled on through: 15 mm off a plate that is 30 mm high.
    const pinned = otherwise(5, 'G0 Z5 X0 Y-30\nG1 Z-14 F300\nG0 Z5');
    expect(JSON.parse(dry(pinned).out)).toMatchObject({ belowBed: 2 });
    const pins = { diameter: 3, apart: 15, deep: 5 };
    writeFileSync(join(folder, 'how.json'), JSON.stringify({ turning: { axis: 'upright', pins }, stockThickness: 11 }));
    const turned = JSON.parse(dry(pinned, '--choice', 'how.json').out) as typeof found;
    expect(turned.belowBed).toBe(0);
    // A stock that is 1 mm thicker stays so on all of the plate but the slot.
    expect(turned.leftAreaMm2).toBeGreaterThan(1100);
    const rapid = JSON.parse(dry(program.map((line) => line.replace('G1 Z-2 F300', 'G0 Z-2'))).out) as typeof found;
    expect(rapid.rapidsInMaterial).toBeGreaterThan(0);
  });

  it.each<[string, readonly string[], string[]]>([
    ['slot.ngc: Line 4, column 5: a number is missing', otherwise(3, 'G1 Zoo'), []],
    ['slot.ngc: Line 3 moves with T99, which is no tool of the shop: it has T1, T2', otherwise(1, 'T99 M6'), []],
    ["--machine lathe is none of the shop's: it has long-bed, bench", program, ['--machine', 'lathe']],
    ['--zero 1,2 is no place', program, ['--zero', '1,2']],
  ])('says “%s”', (words, lines, args) => {
    const { status, error } = dry(lines, ...args);
    expect([status, error]).toEqual([1, expect.stringContaining(words)]);
  });
});

describe('./relief cuts', () => {
  const shop = join(ROOT, 'demo', 'shop.json');
  const cuts = (...args: string[]) => relief('cuts', join(ROOT, 'demo', 'keyring.sign.json'), '--shop', shop, ...args);

  it('writes programs that a dry run of them proves again', () => {
    const told = cuts('--out', 'made', '--tools', 'end-3,end-1-5,ball-3,vee-90', '--cell', '0.2');
    interface Told {
      files: { name: string; tool: { number: number; kind: string; diameter: number }; minutes: number; sha256: string }[];
      stock: { top: number; bottom: number };
      zero: { x: number; y: number; z: number };
      gougeMm: number;
      minutes: number;
      leftVolumeMm3: number;
      isProven: boolean;
    }
    const found = JSON.parse(told.out) as Told;
    expect(found).toMatchObject({ gougeMm: 0, isProven: true });
    expect(found.minutes).toBeCloseTo(
      found.files.reduce((sum, { minutes }) => sum + minutes, 0),
      9,
    );
    expect(found.files[0]).toMatchObject({ name: '01-end-3.ngc', tool: { number: 2, kind: 'end', diameter: 3 } });
    const plan = JSON.parse(readFileSync(join(folder, 'made', 'plan.json'), 'utf8')) as { tools: { id: string }[] };
    expect(plan.tools.map(({ id }) => id)).toEqual(['end-3', 'end-1-5', 'ball-3', 'vee-90']);
    expect(
      readFileSync(join(folder, 'made', 'setup-sheet.pdf'))
        .subarray(0, 5)
        .toString(),
    ).toBe('%PDF-');
    expect(
      readFileSync(join(folder, 'made', 'dry-run.png'))
        .subarray(1, 4)
        .toString(),
    ).toBe('PNG');
    const { x, y, z } = found.zero;
    const files = found.files.map(({ name }) => join('made', name));
    const again = relief(
      'dry-run',
      join(ROOT, 'demo', 'keyring.sign.json'),
      '--shop',
      shop,
      '--cell',
      '0.2',
      '--zero',
      `${x},${y},${z}`,
      ...files,
    );
    const { isProven, leftVolumeMm3 } = JSON.parse(again.out) as Told;
    expect([isProven, leftVolumeMm3]).toEqual([true, found.leftVolumeMm3]);
  });

  it.each<[string, string[]]>([
    ['--tools end-3,axe: axe is no tool of the shop', ['--out', 'x', '--tools', 'end-3,axe']],
    ["--material jelly is none of the shop's", ['--out', 'x', '--material', 'jelly']],
    ['No end mill is among the tools', ['--out', 'x', '--tools', 'ball-3']],
    ['--date soon is not a date', ['--out', 'x', '--date', 'soon']],
    ['Usage:', []],
  ])('says “%s”', (words, args) => {
    const { status, error } = cuts(...args);
    expect([status, error]).toEqual([1, expect.stringContaining(words)]);
  });
});

describe('./relief export', () => {
  it('writes any of the files', () => {
    const sign = join(ROOT, 'demo', 'bilge-pump.sign.json');
    const { status } = relief(
      'export',
      sign,
      '--stl',
      'a.stl',
      '--svg',
      'a.svg',
      '--dxf',
      'a.dxf',
      '--pdf',
      'a.pdf',
      '--date',
      '2026-11-25',
    );
    expect(status).toBe(0);
    expect((statSync(join(folder, 'a.stl')).size - 84) % 50).toBe(0);
    expect(readFileSync(join(folder, 'a.svg'), 'utf8')).toContain('width="4in" height="1.5in"');
    expect(readFileSync(join(folder, 'a.dxf'), 'utf8')).toMatch(/\$INSUNITS\r?\n\s*70\r?\n\s*1\r?\n/u);
    expect(readFileSync(join(folder, 'a.pdf')).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('writes solids with finishes and a picture', () => {
    const sign = join(ROOT, 'demo', 'keyring.sign.json');
    const { status } = relief('export', sign, '--3mf', 'k.3mf', '--glb', 'k.glb', '--png', 'k.png', '--date', '2026-11-25');
    expect(status).toBe(0);
    const begins = (name: string) => readFileSync(join(folder, name)).subarray(0, 4).toString('latin1');
    expect([begins('k.3mf'), begins('k.glb'), begins('k.png')]).toEqual(['PK\x03\x04', 'glTF', '\x89PNG']);
    // Width and height of a PNG stand at bytes 16 to 23 (ISO/IEC 15948): 100 × 26 mm, the longer side 2400 pixels.
    const png = readFileSync(join(folder, 'k.png'));
    expect([png.readUInt32BE(16), png.readUInt32BE(20)]).toEqual([2400, 624]);
  });

  it('says when there is nothing to write and where it cannot', () => {
    const sign = join(ROOT, 'demo', 'bilge-pump.sign.json');
    expect(relief('export', sign).error).toContain('Nothing to write');
    expect(relief('export', sign, '--stl', '/no/such/folder/a.stl')).toMatchObject({ status: 1 });
    expect(relief('export', sign, '--pdf', 'b.pdf', '--date', 'tomorrow').error).toContain('--date tomorrow is not a date');
    expect(existsSync(join(folder, 'b.pdf'))).toBe(false);
  });
});

describe('./relief run', () => {
  it('makes plates as an option of the sign', () => {
    const sign = JSON.parse(readFileSync(join(ROOT, 'demo/runs/tree-labels.sign.json'), 'utf8')) as Sign;
    sign.options = [{ id: 'o', name: 'No code', tiers: [{ part: 'code', tier: 'tier-1', on: false }] }];
    writeFileSync(join(folder, 'options.sign.json'), JSON.stringify(sign));
    const list = join(ROOT, 'demo/runs/tree-labels.csv');
    const outlines = (...more: string[]): string => {
      const { status, error } = relief('run', 'options.sign.json', '--list', list, '--out', 'optional', '--files', 'svg', '--rows', '1', ...more); // prettier-ignore
      expect([status, error]).toEqual([0, '']);
      return readFileSync(join(folder, 'optional', readdirSync(join(folder, 'optional')).find((name) => name.endsWith('.svg'))!), 'utf8'); // prettier-ignore
    };
    expect(outlines('--option', 'no CODE').length).toBeLessThan(outlines().length - 1000);
    const { status, error } = relief('run', 'options.sign.json', '--list', list, '--out', 'x', '--option', 'Brass');
    expect([status, error]).toEqual([1, expect.stringContaining('--option Brass is no option: the sign has No code.')]);
  });

  const RUN = ['run', join(ROOT, 'demo/runs/tree-labels.sign.json'), '--list', join(ROOT, 'demo/runs/tree-labels.csv')];

  it('makes a plate for every row that is asked for, and reports each', () => {
    const { status, out, error } = relief(...RUN, '--out', 'labels', '--rows', '1-3,40,71');
    expect([status, error]).toEqual([0, '']);
    const made = JSON.parse(out) as { rows: number; states: object; columns: object; files: string[]; notes: string[] };
    expect(made).toMatchObject({ rows: 5, columns: { 'common name': 'Common name', accession: 'Accession' } });
    expect(made.files).toHaveLength(10);
    expect(made.notes).toContain('Row 40: accession “1033” is in row 12, too.');
    const report = readFileSync(join(folder, 'labels/report.csv'), 'utf8').trim().split('\r\n');
    expect(report.map((line) => line.split(',').slice(0, 2).join(' '))).toEqual(['row state', '1 fitted', '2 fitted', '3 fits', '40 fitted', '71 fitted']); // prettier-ignore
    expect(report[5]).toContain('Latin name mixes capitals and small letters');
    // The numbers of a bed count over all rows, also those that are not made again.
    const again = relief(...RUN, '--out', 'again', '--rows', '3', '--files', 'svg');
    expect(again.status).toBe(0);
    const name = made.files.find((each) => each.startsWith('0003') && each.endsWith('.svg'))!;
    expect(readFileSync(join(folder, 'again', name), 'utf8')).toBe(readFileSync(join(folder, 'labels', name), 'utf8'));
    // Its solid is that of the sign with the same words.
    const solid = made.files.find((each) => each.startsWith('0003') && each.endsWith('.stl'))!;
    expect(statSync(join(folder, 'labels', solid)).size).toBeGreaterThan(10_000);
  });

  it('lays plates on sheets, whose outlines are those of the plates', () => {
    const { status, out, error } = relief(...RUN, '--out', 'sheets', '--rows', '1-30', '--files', 'svg', '--sheet', '610x305', '--margin', '8', '--spacing', '3'); // prettier-ignore
    expect([status, error]).toEqual([0, '']);
    const { sheets } = JSON.parse(out) as {
      sheets: { count: number; share: number; left: number[]; held: number[]; files: string[] };
    };
    // Row 4 and others run over their edges.
    const made = 30 - sheets.held.length;
    expect([sheets.held.includes(4), made > 20]).toEqual([true, true]);
    expect(sheets).toMatchObject({ count: 2, left: [], files: ['sheet 1.svg', 'sheet 1 map.svg', 'sheet 2.svg', 'sheet 2 map.svg', 'sheets map.pdf'] }); // prettier-ignore
    // Less their rounded corners of 5 mm, and nothing of their holes.
    const plate = 110 * 60 - (4 - Math.PI) * 25;
    expect(sheets.share / ((made * plate) / (2 * 610 * 305))).toBeCloseTo(1, 3);
    const map = readFileSync(join(folder, 'sheets/sheet 1 map.svg'), 'utf8');
    expect(map).toContain('width="610mm"');
    const [first, second] = sheets.files.filter((name) => !name.includes('map')).map((name) => readFileSync(join(folder, 'sheets', name), 'utf8')); // prettier-ignore
    const edges = (text: string): number => /data-layer="blank edge">([\s\S]*?)<\/g>/u.exec(text)![1].match(/<path/gu)!.length;
    expect(edges(first) + edges(second)).toBe(made);
    // A page for each sheet, with the number of every plate on it.
    const text = spawnSync('pdftotext', ['-layout', join(folder, 'sheets/sheets map.pdf'), '-'], { encoding: 'utf8' }).stdout;
    expect(text.split('\f').filter((page) => page.trim() !== '').length).toBe(2);
    expect(text).toContain('sheet 1 of 2, 610 × 305 mm');
    const numbers = [...text.replace(/^.*sheet \d of 2.*$/gmu, '').matchAll(/\b\d+\b/gu)].map(([number]) => Number(number));
    expect(numbers.sort((a, b) => a - b)).toEqual(Array.from({ length: 30 }, (_, i) => i + 1).filter((row) => !sheets.held.includes(row))); // prettier-ignore
    // Whoever makes the rows: the same bytes.
    const again = relief(...RUN, '--out', 'sheets by two', '--rows', '1-30', '--files', 'svg', '--sheet', '610x305', '--margin', '8', '--spacing', '3', '--workers', '2'); // prettier-ignore
    expect(again.out).toBe(out);
    for (const name of readdirSync(join(folder, 'sheets'))) expect(readFileSync(join(folder, 'sheets by two', name)).equals(readFileSync(join(folder, 'sheets', name)))).toBe(true); // prettier-ignore
  });

  it('draws a contact sheet of every plate, and lets columns choose what is made', () => {
    const demo = (name: string): string => join(ROOT, 'demo/runs', name);
    const { status, out, error } = relief('run', demo('panel-plates.sign.json'), '--list', demo('panel-plates.csv'), '--out', 'panels', '--files', 'svg', '--rows', '8-13,36', '--contact'); // prettier-ignore
    expect([status, error]).toEqual([0, '']);
    const made = JSON.parse(out) as { contact: string; files: string[]; states: object };
    expect(made).toMatchObject({ contact: 'contact sheet.pdf', states: { 'too large': 2, fits: 3, fitted: 2 } });
    const sheet = join(folder, 'panels', made.contact);
    const text = spawnSync('pdftotext', [sheet, '-'], { encoding: 'utf8' }).stdout;
    for (const words of ['8 Panel plate Bridge P 08', 'narrowed to 91 %', '13 Panel plate Engine room P 01', 'too large'])
      expect(text.replaceAll(/\s+/gu, ' ')).toContain(words);
    const pictures = spawnSync('pdfimages', ['-list', sheet], { encoding: 'utf8' }).stdout;
    expect(pictures.split('\n').filter((line) => line.includes('image')).length).toBe(7);
    // A column chooses that one of them is 5 in wide; the others are as the sign is.
    const widthOf = (file: string): string =>
      /width="([\d.]+(?:in|mm))"/u.exec(readFileSync(join(folder, 'panels', file), 'utf8'))![1];
    expect(made.files.map(widthOf)).toEqual(['4in', '4in', '4in', '4in', '5in', '4in', '5in']);
  });

  it('writes proven programs by sheet, each tool for all plates, the same whoever makes the rows', () => {
    const shop = join(ROOT, 'demo/shop.json');
    const asked = [
      '--rows',
      '1-3,6',
      '--files',
      'svg',
      '--sheet',
      '250x160',
      '--shop',
      shop,
      '--tools',
      'end-quarter,end-1-5,point-30',
    ];
    const { status, out, error } = relief(...RUN, '--out', 'cut', ...asked, '--spacing', '7');
    expect([status, error]).toEqual([0, '']);
    const [sheet] = (JSON.parse(out) as { programs: { folder: string; files: { name: string; minutes: number }[]; minutes: number; gougeMm: number; isProven: boolean; left: { row: number }[] }[] }).programs; // prettier-ignore
    expect(sheet).toMatchObject({ folder: 'sheet 1', gougeMm: 0, isProven: true });
    expect(sheet.minutes).toBeCloseTo(
      sheet.files.reduce((sum, { minutes }) => sum + minutes, 0),
      9,
    );
    // What is too narrow for all tools is told by rows of the list.
    expect([...new Set(sheet.left.map(({ row }) => row))].sort()).toEqual([1, 2, 3, 6]);
    const written = (name: string): string => readFileSync(join(folder, 'cut', name), 'utf8');
    const all = (): string[] => [...sheet.files.map(({ name }) => join(sheet.folder, name)), 'sheet 1.svg', 'sheet 1 map.svg'].map(written); // prettier-ignore
    const before = all();
    const texts = before.slice(0, sheet.files.length);
    const plates = (text: string): Set<string> => new Set([...text.matchAll(/of (plate \d+) from/gu)].map(([, name]) => name));
    expect(plates(texts.at(-1)!)).toEqual(new Set(['plate 1', 'plate 2', 'plate 3', 'plate 6']));
    const again = relief(...RUN, '--out', 'cut', ...asked, '--spacing', '7', '--workers', '2');
    expect([again.out, all()]).toEqual([out, before]);
    // Plates that lie too near to each other have no programs, and say why.
    const near = JSON.parse(relief(...RUN, '--out', 'near', ...asked).out) as { programs: { trouble: string }[] };
    expect(near.programs.map(({ trouble }) => trouble)).toEqual([expect.stringMatching(/^Plates lie 4 mm apart and are cut out by a tool of 6\.35 mm: lay them 6\.4 mm apart/u)]); // prettier-ignore
  });

  it('says what is wrong with what it is asked', () => {
    const wrong = (...args: string[]): string => {
      const { status, error } = relief(...args);
      expect(status).toBe(1);
      return error;
    };
    expect(wrong(...RUN)).toContain('Usage:');
    expect(wrong(...RUN, '--out', 'x', '--shop', 'shop.json')).toContain('--shop makes programs by sheet');
    expect(wrong(...RUN, '--out', 'x', '--machine', 'router')).toContain('--machine says how programs are made: name the shop');
    expect(wrong(...RUN, '--out', 'x', '--rows', '4-200')).toContain('--rows 4-200: 4-200 is no row of the list, which has 120');
    expect(wrong(...RUN, '--out', 'x', '--workers', '0')).toContain('--workers 0 is no number of 1 to 32');
    expect(wrong(...RUN, '--out', 'x', '--sheet', '610')).toContain('--sheet 610 is no size');
    expect(wrong(...RUN, '--out', 'x', '--sheet', '610x305', '--spacing', '-1')).toContain('--spacing');
    expect(wrong(...RUN, '--out', 'x', '--sheet', '610x305', '--turns', 'all')).toContain('--turns all are no degrees');
    expect(wrong(...RUN, '--out', 'x', '--sheet', '610x305', '--effort', '1.5')).toContain('--effort 1.5 is no whole number');
    expect(wrong(...RUN, '--out', 'x', '--files', 'png')).toContain('png is none of svg, dxf, stl');
    expect(wrong(...RUN, '--out', 'x', '--column', 'bed=Beds')).toContain('the list has no column “Beds”');
    expect(wrong('run', join(ROOT, 'demo/welcome.sign.json'), '--list', RUN[3], '--out', 'x')).toContain('no words with a slot');
    writeFileSync(join(folder, 'short.csv'), 'Accession\n1\n');
    expect(wrong('run', RUN[1], '--list', 'short.csv', '--out', 'x')).toContain('Nothing fills Latin name, common name');
    expect(wrong(...RUN, '--out', 'x', '--option', 'Brass')).toContain('--option Brass is no option: the sign has none.');
    writeFileSync(join(folder, 'nul.csv'), 'a\n1\0');
    expect(wrong('run', RUN[1], '--list', 'nul.csv', '--out', 'x')).toContain('nul.csv: Row 1 has a NUL');
  });
});
