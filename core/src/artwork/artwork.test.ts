import { describe, expect, it } from '@jest/globals';
import { gapBetween } from '../geometry/index.js';
import { type ArtworkChoice, importArtwork, outlinePath } from './artwork.js';
import { ArtworkError } from './limits.js';

const importSvg = (source: string, choice: Partial<ArtworkChoice> = {}) => importArtwork('svg', source, choice);

const svg = (body: string, attributes = 'width="100mm" height="100mm" viewBox="0 0 100 100"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;

describe('sizes', () => {
  it.each([
    ['width="4in" height="2in"', 101.6, 50.8, true],
    ['width="10cm" viewBox="0 0 50 25"', 100, 50, true],
    ['width="96" height="48"', 25.4, 12.7, false],
    ['viewBox="0 0 960 480"', 254, 127, false],
    ['width="100%" height="100%" viewBox="0 0 96 96"', 25.4, 25.4, false],
    // Points and picas: CSS Values and Units 4, chapter 6.
    ['width="72pt" height="6pc"', 25.4, 25.4, true],
  ])('of %s', (attributes, width, height, isSized) => {
    const art = importSvg(svg('<rect width="10" height="10"/>', attributes));
    expect([art.width, art.height, art.isSized]).toEqual([expect.closeTo(width, 6), expect.closeTo(height, 6), isSized]);
  });

  it('may be asked for', () => {
    const art = importSvg(svg('<rect x="25" y="25" width="50" height="50"/>', 'viewBox="0 0 100 200"'), { speck: 0, width: 300 });
    expect([art.width, art.height]).toEqual([expect.closeTo(300, 9), expect.closeTo(600, 9)]);
    expect(art.colours[0].areaMm2).toBeCloseTo(150 * 150, 2);
    expect(art.colours[0].box.maxY).toBeCloseTo(300 - 75, 3);
  });
});

describe('areas', () => {
  const only = (body: string) => importSvg(svg(body), { speck: 0 }).colours[0];

  it('are those of the textbook', () => {
    expect(only('<circle cx="50" cy="50" r="20"/>').areaMm2).toBeCloseTo(Math.PI * 400, 0);
    expect(only('<ellipse cx="50" cy="50" rx="30" ry="10"/>').areaMm2).toBeCloseTo(Math.PI * 300, 0);
    // A rounded rectangle: w·h − (4 − π)·r².
    expect(only('<rect x="10" y="10" width="60" height="40" rx="8"/>').areaMm2).toBeCloseTo(2400 - (4 - Math.PI) * 64, 0);
    // A pentagram is empty in the middle by the even-odd rule and full by the other.
    const star = (rule: string) => only(`<path fill-rule="${rule}" d="M50 5L76.45 86.41L7.2 36.09H92.8L23.55 86.41Z"/>`).areaMm2;
    expect(star('nonzero') / star('evenodd')).toBeCloseTo(1.4472, 1);
  });

  it('of strokes are those of their joins and caps', () => {
    const line = (more: string) => only(`<path d="M20 20H60" stroke="#000" stroke-width="10" ${more}/>`).areaMm2;
    expect(line('')).toBeCloseTo(400, 6);
    expect(line('stroke-linecap="square"')).toBeCloseTo(500, 6);
    expect(line('stroke-linecap="round"')).toBeCloseTo(400 + Math.PI * 25, 0);
    // Two arms of 40 × 10 share a quarter of the joint inside and lack a quarter outside.
    const corner = (more: string) => only(`<path fill="none" d="M20 60V20H60" stroke="#000" stroke-width="10" ${more}/>`).areaMm2;
    expect(corner('')).toBeCloseTo(800, 6);
    expect(corner('stroke-linejoin="bevel"')).toBeCloseTo(787.5, 6);
    expect(corner('stroke-linejoin="round"')).toBeCloseTo(775 + (Math.PI * 25) / 4, 0);
    // A right angle's miter is 1.414 widths long (SVG 2, chapter 13.5.5).
    expect(corner('stroke-miterlimit="1.41"')).toBeCloseTo(787.5, 6);
    expect(corner('stroke-miterlimit="1.42"')).toBeCloseTo(800, 6);
  });

  it('of several colours share their edges and never overlap', () => {
    const art = importSvg(svg('<rect width="100" height="100" fill="#024"/><circle cx="50" cy="50" r="30" fill="#fc0"/>'), {
      speck: 0,
    });
    const [ground, disc] = art.colours;
    expect([ground.colour, disc.colour]).toEqual(['#002244', '#ffcc00']);
    expect(ground.areaMm2 + disc.areaMm2).toBeCloseTo(10_000, 6);
    expect(gapBetween([disc.outline[0]], [ground.outline[1]])).toBe(0);
    expect(outlinePath(disc.outline)).toMatch(/^M-?[\d.]+ -?[\d.]+(L-?[\d.]+ -?[\d.]+)+Z$/u);
  });
});

const told = ({ summary, findings }: ReturnType<typeof importSvg>): string =>
  [summary, ...findings.map(({ sentence }) => sentence)].join(' ');

describe('the report', () => {
  const reportOf = (body: string, speck = 0.01) => told(importSvg(svg(`<rect width="50" height="50"/>${body}`), { speck }));

  it('counts what was found and tells what was left out or changed', () => {
    expect(reportOf('<circle cx="80" cy="80" r="9" fill="red"/>')).toBe(
      '2 outlined areas found, of which 2 colours can be seen.',
    );
    expect(reportOf('<rect width="50" height="50"/>')).toContain('1 double of the same outline and colour removed.');
    expect(reportOf('<rect x="90" y="90" width=".05" height=".05" fill="red"/>')).toContain(
      '1 speck of less than 0.01 mm² left out.',
    );
    expect(reportOf('<text>Est. <tspan>1987</tspan></text>')).toContain('1 text (“Est. 1987”) has no outline and was left out');
    expect(reportOf('<image href="http://example.org/x.png"/>')).toContain('1 picture left out');
    expect(reportOf('<path d="M60 60h20v20z" stroke="#000" stroke-dasharray="2 1"/>')).toContain(
      '1 dashed line taken as unbroken',
    );
    expect(reportOf('<use href="other.svg#logo"/>')).toContain('1 reference to something that is not in the file left out');
    expect(
      reportOf(
        '<linearGradient id="g"><stop stop-color="#000"/><stop stop-color="#fff"/></linearGradient><rect y="60" width="9" height="9" fill="url(#g)"/>',
      ),
    ).toContain('1 gradient taken as one colour each');
    expect(reportOf('<style>g > rect{fill:red}</style>')).toContain('Styles for “g > rect” were not understood');
    expect(reportOf('<script>alert(1)</script>')).toContain('A script in the file was left out');
    // A bow tie crosses itself once, in its middle.
    const { findings } = importSvg(svg('<path d="M20 20L60 60V20L20 60Z"/>'), {});
    expect(findings).toEqual([
      {
        kind: 'crossing',
        sentence: '1 crossing resolved by the non-zero rule.',
        spots: [{ x: expect.closeTo(-10), y: expect.closeTo(10) }],
      },
    ]);
    expect(reportOf('<blob/>')).toContain('Not understood and left out: blob');
  });
});

describe('choices', () => {
  const bars = svg(
    '<g fill="none" stroke="#a00" stroke-width=".1"><path d="M10 10H40"/><path d="M40.05 10V40"/><path d="M40 40H10V10.02"/></g>',
  );

  it('lines may be the outlines that are meant, with ends joined within a distance', () => {
    const joined = importSvg(bars, { strokes: 'outlines', joinWithin: 0.1 });
    expect(joined.colours[0].areaMm2).toBeCloseTo(900, -1);
    expect(joined.colours[0].strokes).toEqual([]);
    expect(told(joined)).toContain('3 open ends joined over 0.05 mm at most.');
    const open = importSvg(bars, { strokes: 'outlines', joinWithin: 0.03 });
    expect(open.colours[0].areaMm2).toBe(0);
    expect(open.colours[0].strokes).toHaveLength(2);
    expect(told(open)).toContain('2 lines did not close and stay lines');
    expect(open.findings.find(({ kind }) => kind === 'open')!.spots).toHaveLength(2);
    // An open line has no Z, and stays a line in the sign.
    expect(outlinePath([], open.colours[0].strokes)).not.toContain('Z');
  });

  it('a lower colour may be kept whole, and the rule of crossings be another', () => {
    const disc = svg('<rect width="100" height="100" fill="#024"/><circle cx="50" cy="50" r="30" fill="#fc0"/>');
    expect(importSvg(disc, { overlap: 'whole' }).colours.map(({ areaMm2 }) => areaMm2)).toEqual([
      10_000,
      expect.closeTo(900 * Math.PI, -1),
    ]);
    const rings = svg('<path d="M0 0H90V90H0ZM20 20H70V70H20Z"/>');
    expect(importSvg(rings, {}).colours[0].areaMm2).toBeCloseTo(8100, 6);
    expect(importSvg(rings, { rule: 'evenodd' }).colours[0].areaMm2).toBeCloseTo(8100 - 2500, 6);
  });
});

describe('namespaces that a file declares as entities', () => {
  it('are read, as some programs write them', () => {
    const doctype = '<!DOCTYPE svg [<!ENTITY ns_svg "http://www.w3.org/2000/svg"><!ENTITY own "http://example.org/ns">]>';
    const source = `${doctype}<svg xmlns="&ns_svg;" xmlns:x="&own;" width="100mm" height="100mm" viewBox="0 0 100 100"><rect width="10" height="10"/></svg>`;
    expect(importArtwork('svg', source).colours.reduce((sum, { areaMm2 }) => sum + areaMm2, 0)).toBeCloseTo(100, 3);
  });
});

describe('hostile files', () => {
  const nested = (depth: number) => '<g>'.repeat(depth) + '<rect width="9" height="9"/>' + '</g>'.repeat(depth);
  const uses = Array.from({ length: 30 }, (_, i) => `<g id="u${i + 1}">${`<use href="#u${i}"/>`.repeat(10)}</g>`).join('');
  const files: readonly (readonly [string, string])[] = [
    ['empty', ''],
    ['blank', '   \n'],
    ['no XML', 'hello'],
    ['half a tag', '<svg'],
    ['a tag left open', '<svg><g>'],
    ['crossed tags', '<svg><g></svg></g>'],
    ['two roots', '<svg/><svg/>'],
    ['another root', '<html><body/></html>'],
    ['bytes', String.fromCharCode(...Array.from({ length: 500 }, (_, i) => (i * 7919) % 256))],
    ['a null byte', svg('<rect width="9" height="9" id="\0"/>')],
    ['an entity bomb', '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]><svg>&b;</svg>'],
    ['an entity of a file', '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg><text>&x;</text></svg>'],
    ['an entity of an address', '<!DOCTYPE svg [<!ENTITY x SYSTEM "http://example.org/">]><svg><text>&x;</text></svg>'],
    ['an unknown entity', '<svg>&nothing;</svg>'],
    [
      'namespaces in place of text without end',
      `<!DOCTYPE svg [<!ENTITY a "http://www.w3.org/2000/svg">]><svg>${'&a;'.repeat(5000)}</svg>`,
    ],
    ['an entity in an entity', '<!DOCTYPE svg [<!ENTITY a "http://x/&b;"><!ENTITY b "http://y">]><svg xmlns="&a;"/>'],
    ['only a script', svg('<script>while(true){}</script>')],
    ['only an event', svg('<g onload="alert(1)"/>')],
    ['only a foreign object', svg('<foreignObject><iframe src="http://example.org/"/></foreignObject>')],
    ['only a picture', svg('<image href="data:image/png;base64,AAAA"/>')],
    ['only text', svg('<text x="1" y="1">words</text>')],
    ['too deep', svg(nested(1000))],
    ['far too deep', svg(nested(100_000))],
    ['many uses of uses', svg(`<g id="u0"><rect width="9" height="9"/></g>${uses}<use href="#u30"/>`)],
    ['a use of itself', svg('<g id="a"><use href="#a"/></g>')],
    ['two uses of each other', svg('<g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g>')],
    ['a symbol in itself', svg('<symbol id="s"><use href="#s"/></symbol><use href="#s"/>')],
    [
      'a clip of itself',
      svg('<clipPath id="c" clip-path="url(#c)"><use href="#c"/></clipPath><rect width="9" height="9" clip-path="url(#c)"/>'),
    ],
    ['a gradient of itself', svg('<linearGradient id="g" href="#g"/><rect width="0" height="9" fill="url(#g)"/>')],
    ['a million points', svg(`<path d="M0 0${'L1 1L2 0'.repeat(500_000)}"/>`)],
    ['a million elements', svg('<g/>'.repeat(1_000_000))],
    ['many shapes', svg('<rect width="1" height="1"/>'.repeat(30_000))],
    ['too large', ' '.repeat(9_000_000)],
    ['a path that is none', svg('<path d="hello"/>')],
    ['a path of nothing', svg('<path d="M"/>')],
    ['a path of NaN', svg('<path d="MNaN NaNLNaN 3Z"/>')],
    ['endless numbers', svg('<path d="M0 0L1e999 5L3 1e999Z"/>')],
    ['a far corner', svg('<path d="M0 0L1e9 0L0 1e9Z"/>')],
    ['points of nothing', svg('<polygon points="a,b c"/>')],
    ['a size of zero', svg('<rect width="9" height="9"/>', 'width="0" height="0"')],
    ['a size below zero', svg('<rect width="9" height="9"/>', 'width="-5" height="-5"')],
    ['an endless size', svg('<rect width="9" height="9"/>', 'width="1e400mm" height="3mm"')],
    ['a vast size', svg('<rect width="90" height="90"/>', 'width="900000mm" height="900000mm" viewBox="0 0 100 100"')],
    ['a view box of nothing', svg('', 'viewBox="0 0 0 0"')],
    ['a view box of words', svg('', 'viewBox="a b c d"')],
    [
      'a transform of NaN',
      svg('<rect width="9" height="9" transform="matrix(NaN 0 0 1 0 0) scale(1e999)"/>', 'viewBox="0 0 1e-300 1e-300"'),
    ],
    ['a transform to nothing', svg('<rect width="9" height="9" transform="scale(0)"/>')],
    ['a transform without end', svg('<rect width="9" height="9" transform="scale(1e300)"/>')],
    ['shapes of no size', svg('<circle r="0"/><rect width="0" height="9"/><ellipse rx="-3" ry="2"/>')],
    ['a radius of NaN', svg('<circle r="NaN" cx="5" cy="5"/>')],
    ['strokes of no width', svg('<path d="M0 0L9 9" fill="none" stroke="#000" stroke-width="0"/>')],
    ['an attribute of megabytes', svg(`<g id="${'x'.repeat(7_000_000)}"/>`)],
    ['attributes twice', '<svg><rect width="1" width="2"/></svg>'],
    ['an unclosed comment', '<svg><!-- '],
    ['a style without end', svg(`<style>${'a{'.repeat(100_000)}</style>`)],
    ['a selector of megabytes', svg(`<style>${'a,'.repeat(1_000_000)}{fill:red}</style>`)],
  ];

  /** Those that could be read all the same. */
  const tamed: string[] = [];

  it('are fifty and more', () => expect(files.length).toBeGreaterThanOrEqual(50));

  it.each(files)('%s: a sentence, in time', (name, source) => {
    const began = performance.now();
    const before = process.memoryUsage().heapUsed;
    try {
      const { width, height, colours } = importSvg(source);
      tamed.push(name);
      for (const figure of [width, height, ...colours.flatMap(({ box, areaMm2 }) => [...Object.values(box), areaMm2])])
        expect(Number.isFinite(figure)).toBe(true);
    } catch (error) {
      expect(error).toBeInstanceOf(ArtworkError);
      expect((error as Error).message).toMatch(/[.:]/u);
      expect((error as Error).message.length).toBeLessThan(300);
      expect((error as Error).message.length).toBeGreaterThan(20);
    }
    expect(performance.now() - began).toBeLessThan(20_000);
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(500e6);
  });

  it('are refused, but for two that mean something', () => expect(tamed).toEqual(['an endless size', 'a transform of NaN']));
});
