import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { catalogue } from '../../../testing/fonts.js';
import { demoSigns } from '../../../testing/signs.js';
import { newText, newTier } from '../document/new-sign.js';
import { newOption, splitOption, withOption } from '../document/options.js';
import { type ShapePart, type Sign, type TextPart } from '../document/schema.js';
import { readSign } from '../document/validate.js';
import { setField } from '../edit/set-field.js';
import { changesBetween } from './changes.js';
import { ticket } from './ticket.js';
import { wordChanges } from './word-changes.js';

const demo = new Map(demoSigns().map(([name, document]) => [name.replace('.sign.json', ''), readSign(document)]));
const welcome = (): Sign => structuredClone(demo.get('welcome')!);

/** What is told when a sign is edited. */
function told(build: (sign: Sign) => void, sign = welcome()): string[] {
  const copy = structuredClone(sign);
  build(copy);
  return changesBetween(sign, copy, catalogue);
}

const firstText = (sign: Sign): TextPart => sign.parts.find((part): part is TextPart => part.kind === 'text')!;

describe('changesBetween', () => {
  it('says nothing of a sign that would be made the same', () => {
    for (const sign of demo.values()) expect(told(() => {}, sign)).toEqual([]);
    expect(
      told((sign) => {
        sign.guides = [{ across: true, at: 3 }];
        sign.parts[0].locked = true;
        sign.parts[0].group = 'g';
        sign.section = { x: 5, y: 5, turn: 45 };
      }),
    ).toEqual([]);
  });

  it('tells words, heights, sizes and places in the words of the ticket', () => {
    const name = firstText(welcome()).name;
    expect(told((sign) => void (firstText(sign).words = firstText(sign).words.replace(/\S+/u, 'Willmott')))[0]).toMatch(
      new RegExp(`^${name}: ‘.+’ → ‘Willmott’$`, 'u'),
    );
    const plate = { ...welcome(), parts: [] as Sign['parts'] };
    plate.parts.push({
      ...newText(plate, 'barlow-semibold'),
      words: 'OAK',
      tiers: [newTier('tier-1', { kind: 'raise', by: 2 })],
    });
    const [line] = plate.parts;
    expect(told((sign) => void (sign.parts[0].tiers[0].action = { kind: 'raise', by: 3 }), plate)).toEqual([
      `${line.name}: raised 2 mm → 3 mm`,
    ]);
    expect(told((sign) => setField(sign, ['parts', 0, 'tiers', 0, 'edge', 'kind'], 'sloped'), plate)).toEqual([
      expect.stringMatching(new RegExp(`^${line.name}: edge upright → sloped \\(slope \\d+°, sized at the \\w+\\)$`, 'u')),
    ]);
    expect(told((sign) => void (sign.blank.thickness = 9), plate)).toEqual([
      `Blank: thickness ${plate.blank.thickness} mm → 9 mm`,
    ]);
    expect(told((sign) => void (sign.parts[0].place.x += 12.5), plate)).toEqual([
      expect.stringMatching(new RegExp(`^${line.name}: .* 0 mm → 12\\.5 mm`, 'u')),
    ]);
  });

  it('tells what is new, gone, hidden, switched off, renamed, drawn otherwise', () => {
    const sign = welcome();
    const [part] = sign.parts;
    expect(told((s) => void s.parts.shift())).toContain(`${part.name} is left out`);
    expect(told((s) => void (s.parts[0].hidden = true))).toEqual([`${part.name}: is hidden and not made`]);
    expect(told((s) => void (s.parts[0].tiers[0].on = false))[0]).toMatch(/ is switched off$/u);
    expect(told((s) => void s.parts[0].tiers.push(newTier('new', { kind: 'raise', by: 1 })))[0]).toMatch(
      /: also raised by 1 mm/u,
    );
    expect(told((s) => void (s.parts[0].name = 'Crest'))).toEqual([`Crest: was called ${part.name}`]);
    expect(told((s) => void (s.title = 'Other'))).toEqual([`Title: ‘${sign.title}’ → ‘Other’`]);
    expect(told((s) => void s.parts.push({ ...newText(s, 'barlow-semibold'), words: 'NEW', name: 'Extra' }))[0]).toMatch(
      /^Extra is new: .*“NEW”/u,
    );
    const drawn = welcome();
    const logo = drawn.parts[addLogo(drawn)] as ShapePart & { shape: { path: string } };
    expect(told((s) => void ((s.parts[s.parts.length - 1] as typeof logo).shape.path = 'M0 0L2 0L1 1Z'), drawn)).toEqual([
      `${logo.name}: its outline is another`,
    ]);
  });

  it('tells an option only what it has beyond the sign', () => {
    const base = welcome();
    base.options = [newOption(base)];
    const id = base.options[0].id;
    const shown = structuredClone(withOption(base, id));
    setField(shown, ['parts', 0, 'tiers', 0, 'finish', 'top'], 'moss');
    const changed = splitOption(base, id, shown);
    expect(changesBetween(base, changed, catalogue)).toEqual([
      'Finish moss green is new',
      expect.stringMatching(/^Option A: .*finish of the top .* → moss green$/u),
    ]);
    expect(changesBetween(base, { ...base, options: [] }, catalogue)).toEqual(['Option A is left out']);
  });

  it('tells something of every value of the ticket that is set otherwise (property)', () => {
    const cases = [...demo.values()].filter(({ parts }) => parts.length < 12);
    fc.assert(
      fc.property(fc.nat(), fc.nat(), fc.double({ min: 0.5, max: 1.5, noNaN: true }), (which, at, share) => {
        const sign = cases[which % cases.length];
        const fields = ticket(sign, catalogue).flatMap(({ words, isGround }) =>
          isGround
            ? []
            : words.flatMap(({ field, text }) => (field?.kind === 'length' || field?.kind === 'number' ? [{ field, text }] : [])),
        );
        const { field } = fields[at % fields.length];
        const value = Number((field.value * share + 0.01).toFixed(2));
        const edited = structuredClone(sign);
        setField(edited, field.path, value);
        const isOther = JSON.stringify(edited) !== JSON.stringify(sign);
        expect(changesBetween(sign, edited, catalogue).length > 0).toBe(isOther);
      }),
      { numRuns: 60 },
    );
  });
});

/** Adds a triangle as a logo; gives its index. */
function addLogo(sign: Sign): number {
  const part = { ...newText(sign, 'barlow-semibold'), name: 'Crest' };
  const { id, name, place, sitsOn, tiers } = part;
  const shape = { kind: 'outline' as const, width: 10, height: 10, path: 'M0 0L1 0L1 1Z' };
  return sign.parts.push({ kind: 'shape', id, name, place, sitsOn, tiers, shape }) - 1;
}

describe('wordChanges', () => {
  it.each([
    ['Anna Wilmott', 'Anna Willmott', ['‘Wilmott’ → ‘Willmott’']],
    ['Anna Wilmott', 'Anna Wilmott Jr', ['‘Jr’ added after ‘Wilmott’']],
    ['Dr Anna Wilmott', 'Anna Wilmott', ['‘Dr’ taken out at the beginning']],
    ['A B C D E', 'A X C D Y Z', ['‘B’ → ‘X’', '‘E’ → ‘Y Z’']],
    ['A B', 'A\nB', ['the words are spaced or broken into lines otherwise']],
    ['', 'A', ['‘A’ added at the beginning']],
    ['A', 'A', []],
  ])('%j → %j', (before, after, expected) => {
    expect(wordChanges(before, after)).toEqual(expected);
  });

  it('tells as many words as differ from the longest common sub-list (property)', () => {
    const words = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 12 });
    const common = (a: readonly string[], b: readonly string[]): number =>
      a.length === 0 || b.length === 0
        ? 0
        : a[0] === b[0]
          ? 1 + common(a.slice(1), b.slice(1))
          : Math.max(common(a.slice(1), b), common(a, b.slice(1)));
    fc.assert(
      fc.property(words, words, (was, is) => {
        const text = wordChanges(was.join(' '), is.join(' ')).join(' ');
        const quoted = [...text.matchAll(/(after )?‘([^’]*)’/gu)]
          .filter(([, after]) => !after)
          .flatMap(([, , inside]) => inside.split(' '));
        expect(quoted.length).toBe(was.join(' ') === is.join(' ') ? 0 : was.length + is.length - 2 * common(was, is));
      }),
      { numRuns: 60 },
    );
  });
});
