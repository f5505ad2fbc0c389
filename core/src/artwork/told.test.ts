import { describe, expect, it } from '@jest/globals';
import { importArtwork } from './artwork.js';
import { ArtworkError, MOST_CROSSINGS, MOST_LINE_CROSSINGS } from './limits.js';

const svg = (body: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${body}</svg>`;
/** A rectangle of 20 × 30 that every drawing has besides. */
const BESIDE = '<rect x="10" y="10" width="20" height="30"/>';
const read = (body: string) => importArtwork('svg', svg(body), { speck: 0 });
const areaOf = (body: string): number => read(body).colours.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
const sentences = (body: string): string => read(body).findings.map(({ sentence }) => sentence).join(' '); // prettier-ignore

const dxf = (...groups: (string | number)[]): string =>
  ['0', 'SECTION', '2', 'HEADER', '9', '$INSUNITS', '70', '4', '0', 'ENDSEC', '0', 'SECTION', '2', 'ENTITIES', ...groups, '0', 'ENDSEC', '0', 'EOF'].join('\n'); // prettier-ignore
const SQUARE = [0, 'LWPOLYLINE', 8, 0, 90, 4, 70, 1, 10, 0, 20, 0, 10, 10, 20, 0, 10, 10, 20, 10, 10, 0, 20, 10];

describe('what style sheets say of geometry (SVG 2, chapter 8.7)', () => {
  it.each([
    [
      'sizes',
      '<style>rect.a{width:10px;height:10px}circle{r:5px}</style><rect class="a"/><circle cx="50" cy="50"/>',
      100 + Math.PI * 25,
    ],
    ['a path', '<style>path{d:path("M0 0h10v10h-10z")}</style><path/>', 100],
    ['a transform in a rule', '<style>.a{transform:scale(2)}</style><rect class="a" width="10" height="10"/>', 400],
    ['a transform of its own', '<rect width="10" height="10" style="transform: translate(5px, 5px) scaleX(3)"/>', 300],
    [
      'a quarter turn about its middle',
      '<rect width="20" height="10" style="transform:rotate(0.25turn);transform-origin:10px 5px"/>',
      200,
    ],
  ])('%s', (_, body, area) => {
    expect(areaOf(body)).toBeCloseTo(area, 0);
  });

  it('turns about the origin that is said', () => {
    const { box } = read('<rect width="20" height="10" style="transform:rotate(90deg);transform-origin:10px 5px"/>').colours[0];
    expect([box.minX + 50, box.maxX + 50]).toEqual([expect.closeTo(5, 3), expect.closeTo(15, 3)]);
    expect(sentences('<rect width="9" height="9" style="transform:rotate(9deg);transform-origin:center"/>')).toContain(
      'about a point',
    );
  });
});

describe('of several branches', () => {
  const branches = '<g systemLanguage="xx"><rect width="10" height="10"/></g><g><rect x="50" width="20" height="20"/></g>';

  it('of a switch the first that is for us is drawn', () => {
    expect(areaOf(`<switch>${branches}<rect x="80" width="9" height="9"/></switch>`)).toBeCloseTo(400, 6);
    const foreign = '<foreignObject requiredExtensions="urn:x" width="9" height="9"/>';
    expect(areaOf(`<switch>${foreign}<rect width="10" height="10"/></switch>`)).toBeCloseTo(100, 6);
  });

  it('those for other languages are left out elsewhere, too', () => {
    expect(areaOf(branches)).toBeCloseTo(400, 6);
    expect(areaOf('<rect systemLanguage="de, en-GB" width="10" height="10"/>')).toBeCloseTo(100, 6);
  });
});

it('draws lines that do not scale in pixels of the page', () => {
  // One pixel of 25.4 / 96 mm along 40 mm.
  const body =
    '<g transform="scale(10)"><path d="M1 1H5" stroke="#000" stroke-width="1" vector-effect="non-scaling-stroke"/></g>';
  expect(areaOf(body)).toBeCloseTo((40 * 25.4) / 96, 1);
});

describe('what is left out is told', () => {
  it.each([
    [
      'markers',
      '<marker id="m"><path d="M0 0L9 9"/></marker><path d="M1 1H50" stroke="#000" marker-end="url(#m)"/>',
      'Arrowheads',
    ],
    [
      'words in a clip path',
      '<clipPath id="c"><text>hi</text></clipPath><rect width="9" height="9" clip-path="url(#c)"/>',
      '“hi”',
    ],
    ['another kind of content', '<foreignObject width="50" height="50"/>', 'foreignObject'],
    ['a path that breaks off', '<path d="M50 50 L60 50 L60 x 60z"/>', 'cannot be read'],
    ['a path that never begins', '<path d="L10 10L0 10z"/>', 'cannot be read'],
    ['a path with no numbers', '<path d="MNaN 0L10 10L0 10z"/>', 'cannot be read'],
    ['points that are none', '<polygon points="0,0 a,b 10,10"/>', 'cannot be read'],
    ['a size without end', '<rect width="1e309" height="10"/>', 'width="1e309"'],
  ])('%s', (_, body, words) => {
    expect(sentences(body + BESIDE)).toContain(words);
    expect(areaOf(body + BESIDE)).toBeGreaterThanOrEqual(600);
  });

  it('of DXF drawings: the sheet of paper, pieces without numbers', () => {
    const told = (...groups: (string | number)[]) =>
      importArtwork('dxf', dxf(...groups, ...SQUARE)).findings.map(({ sentence }) => sentence).join(' '); // prettier-ignore
    expect(told(0, 'CIRCLE', 67, 1, 10, 0, 20, 0, 40, 9)).toContain('on the sheet of paper');
    expect(told(0, 'CIRCLE', 10, 'x', 20, 0, 40, 'y')).toContain('CIRCLE without a number 10');
  });
});

it('draws polylines of a constant width as areas', () => {
  // A square of 10 around its middle line, 2 wide: from 12 × 12 without 8 × 8.
  const { colours } = importArtwork('dxf', dxf(...SQUARE.slice(0, 6), 43, 2, ...SQUARE.slice(6)));
  expect(colours[0].areaMm2).toBeCloseTo(144 - 64, 6);
});

describe('drawings without end', () => {
  const number = (() => {
    let state = 7;
    return () => (((state = (state * 1103515245 + 12345) & 0x7fffffff) / 0x7fffffff) * 100).toFixed(2);
  })();
  const points = (count: number): string => Array.from({ length: count }, () => `L${number()} ${number()}`).join('');
  const star = (n: number): string =>
    Array.from({ length: n }, (_, i) => {
      const angle = (2 * Math.PI * i * ((n - 1) / 2)) / n;
      return `${i === 0 ? 'M' : 'L'}${50 + 45 * Math.cos(angle)} ${50 + 45 * Math.sin(angle)}`;
    }).join('');

  it.each([
    ['a circle of 10²⁰', '<circle r="1e20"/>', 'further than 4 m'],
    ['a line 10²⁰ wide', '<path d="M1 1H50" stroke="#000" stroke-width="1e20" stroke-linejoin="round"/>', 'further than 4 m'],
    ['a curve by way of 10³⁰', '<path d="M0 0C1e30 0 0 1e30 50 50"/>', 'more than 400000 points'],
    ['a scribble of 20,000 points', `<path d="M0 0${points(20_000)}"/>`, `more than ${MOST_CROSSINGS} times`],
    [
      'the same as a line',
      `<path fill="none" stroke="#000" d="M0 0${points(20_000)}"/>`,
      `more than ${MOST_LINE_CROSSINGS} times`,
    ],
    // 49,000 places, each with four corners: half a minute.
    [
      '650 points, a hair wide',
      `<path fill="none" stroke="#000" stroke-width="0.001" d="M0 0${points(650)}"/>`,
      `more than ${MOST_LINE_CROSSINGS} times`,
    ],
    ['a star of 4,001', `<path d="${star(4001)}Z"/>`, `more than ${MOST_CROSSINGS} times`],
    [
      '2,000 lines over each other',
      Array.from({ length: 2000 }, () => `<path d="M${number()} ${number()}${points(1)}" stroke="#000"/>`).join(''),
      `more than ${MOST_CROSSINGS} times`,
    ],
  ])('are refused: %s', (_, body, words) => {
    expect(() => read(body)).toThrow(ArtworkError);
    expect(() => read(body)).toThrow(words);
  });

  it('are refused: a wide polyline of DXF over itself', () => {
    const corners = Array.from({ length: 650 }, () => [10, number(), 20, number()]).flat();
    const polyline = dxf(0, 'LWPOLYLINE', 8, 0, 90, 650, 43, 0.001, ...corners);
    expect(() => importArtwork('dxf', polyline)).toThrow(`more than ${MOST_LINE_CROSSINGS} times`);
  });

  it('are read where they come to nothing: an empty block many times over, the same clip path over and over', () => {
    const block = ['0', 'SECTION', '2', 'BLOCKS', '0', 'BLOCK', '2', 'E', '0', 'ENDBLK', '0', 'ENDSEC'].join('\n');
    const array = dxf(0, 'INSERT', 2, 'E', 70, 30_000, 71, 30_000, ...SQUARE).replace('0\nSECTION\n2\nENTITIES', `${block}\n0\nSECTION\n2\nENTITIES`); // prettier-ignore
    expect(importArtwork('dxf', array).colours[0].areaMm2).toBeCloseTo(100, 6);
    const clip = '<clipPath id="c"><circle cx="50" cy="50" r="45"/></clipPath>';
    const nested = `${clip}${'<g clip-path="url(#c)">'.repeat(150)}<rect width="100" height="100"/>${'</g>'.repeat(150)}`;
    expect(areaOf(nested)).toBeCloseTo(areaOf(`${clip}<rect width="100" height="100" clip-path="url(#c)"/>`), 6);
  });

  it('are read where they are long, and not tangled: 300 strokes over each other', () => {
    const body = Array.from({ length: 300 }, () => `<path d="M${number()} ${number()}${points(1)}" stroke="#000" stroke-width="0.5"/>`).join(''); // prettier-ignore
    expect(areaOf(body)).toBeGreaterThan(3000);
  });
});

describe('what is said of a file that cannot be read', () => {
  it.each([
    ['hello', 'it does not begin as one'],
    ['', 'it does not begin as one'],
    ['<svg><path d="M0 0"/>', 'it breaks off before its end'],
    ['<svg>\n<g></svg>', 'something in it is opened and not closed, or closed and not opened (line 2)'],
    ['<svg/>\nx', 'something stands after its end (line 2)'],
    ['<svg>&logo;</svg>', 'it uses a name with “&” that it does not explain (line 1)'],
    ['<svg width=3/>', 'a value in it is written wrongly (line 1)'],
    ['<svg><a:b/></svg>', ''],
  ])('%j is told in plain words', (source, words) => {
    let told = '';
    try {
      importArtwork('svg', source);
    } catch (error) {
      told = (error as Error).message;
    }
    expect(told).toContain(words);
    expect(told).not.toMatch(/root|node|\d:\d|undefined/u);
  });
});

describe('sizes of what is drawn', () => {
  it('are of what is seen, wherever it lies on its page', () => {
    const { seen, width } = importArtwork('svg', svg('<rect x="10" y="20" width="30" height="40"/><text>x</text>'));
    expect(width).toBe(100);
    expect([seen.maxX - seen.minX, seen.maxY - seen.minY, seen.minX, seen.maxY]).toEqual([30, 40, -40, 30]);
  });
});

describe('seams between outlines that meet', () => {
  it('are nobody’s specks', () => {
    // Two areas that share a curve, which one of them draws in two pieces (de Casteljau at 0.37), on a ground.
    const curve = [[50, 0], [80, 30], [20, 60], [50, 100]]; // prettier-ignore
    const between = (points: number[][]): number[][] =>
      points.slice(1).map((point, i) => point.map((v, k) => points[i][k] + (v - points[i][k]) * 0.37));
    const [ab, bc, cd] = between(curve);
    const [abc, bcd] = between([ab, bc, cd]);
    const [middle] = between([abc, bcd]);
    const body =
      '<rect width="100" height="100" fill="blue"/><path fill="red" d="M0 0L50 0C80 30 20 60 50 100L0 100Z"/>' +
      `<path fill="green" d="M100 0L50 0C${ab.join()} ${abc.join()} ${middle.join()}C${bcd.join()} ${cd.join()} 50 100L100 100Z"/>`;
    const { findings } = importArtwork('svg', svg(body));
    expect(findings.filter(({ kind }) => kind === 'speck')).toEqual([]);
    // A dot that was drawn is one.
    const dotted = importArtwork('svg', svg(`${body}<rect x="3" y="3" width=".05" height=".05" fill="gold"/>`));
    expect(dotted.findings.find(({ kind }) => kind === 'speck')?.sentence).toBe('1 speck of less than 0.01 mm² left out.');
  });
});
