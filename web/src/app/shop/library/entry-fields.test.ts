import { readFileSync } from 'node:fs';
import { describe, expect, it } from '@jest/globals';
import { readShop, type Shop, type ShopTool } from '@plain-relief/core/shop';
import { type Entry, factsOf, FieldError, fieldsOf, firstEntry, freshId, type ListName, RATES, readField, takenOver, valueAt, withValue, written } from './entry-fields'; // prettier-ignore

const demo = JSON.parse(readFileSync('demo/shop.json', 'utf8')) as { library: unknown };
const shop = readShop(demo.library);
const LISTS = ['materials', 'tools', 'machines'] as const;
const all = LISTS.flatMap((list) => (shop[list] as readonly Entry[]).map((entry) => [list, entry] as const));

describe('entries of the shop’s lists', () => {
  it.each(all.map(([list, entry]) => [list, entry.name, entry] as const))(
    '%s: what is shown of %s is read as it was',
    (list, _, entry) => {
      let again: Entry = entry;
      for (const field of fieldsOf(list, entry)) {
        const value = valueAt(entry, field.path);
        expect(value).toBeDefined();
        if (field.kind !== 'flag') again = withValue(again, field.path, readField(field, written(field, value)));
      }
      expect(again).toEqual(entry);
    },
  );

  it('have a field for every value of the schema but the id', () => {
    const leaves = (value: unknown, path: string): string[] =>
      typeof value === 'object' && value !== null && !Array.isArray(value)
        ? Object.entries(value).flatMap(([key, each]) => leaves(each, path === '' ? key : `${path}.${key}`))
        : [path];
    for (const [list, entry] of all) {
      const shown = fieldsOf(list, entry).map(({ path }) => path);
      expect(
        leaves(entry, '')
          .filter((path) => path !== 'id')
          .sort(),
      ).toEqual([...shown].sort());
    }
    expect(
      leaves(shop.rates, '')
        .filter((path) => path !== 'finishing')
        .sort(),
    ).toEqual(RATES.map(({ path }) => path).sort());
  });

  it('that are begun, or become another form of tool, are as the schema has them', () => {
    for (const list of LISTS) {
      const lists: Shop = { ...shop, [list]: [firstEntry(list)] };
      expect(readShop(lists)).toEqual(lists);
    }
    let tool = firstEntry('tools') as ShopTool;
    for (const kind of ['vee', 'drill', 'ball', 'taper', 'point', 'end']) {
      tool = withValue(tool, 'form.kind', kind);
      const lists: Shop = { ...shop, tools: [{ ...tool, shank: 12, form: tool.form }] };
      expect(readShop(lists).tools[0].form.kind).toBe(kind);
    }
  });

  it.each<[ListName, string, string, unknown]>([
    ['tools', 'form.diameter', '1/4 in', 6.35],
    ['materials', 'chipLoads', '3: 0,05\n 6 0.08 ', [{ diameter: 3, chip: 0.05 }, { diameter: 6, chip: 0.08 }]], // prettier-ignore
    ['materials', 'sheets', '2440 x 1220 x 18; 95', [{ width: 2440, height: 1220, thickness: 18, price: 95 }]],
    ['machines', 'dialect.header', 'G17\n\n G90 ', ['G17', 'G90']],
  ])('%s: %s typed as %j is %j', (list, path, text, value) => {
    const field = fieldsOf(list, shop[list][0]).find((each) => each.path === path)!;
    expect(readField(field, text)).toEqual(value);
  });

  it.each<[ListName, string, string, RegExp]>([
    ['tools', 'flutes', 'two', /Flutes: “two” is no figure/u],
    ['tools', 'form.diameter', 'thick', /Diameter: .*thick/u],
    ['materials', 'sheets', '2000 × 18', /line 1: “2000 × 18” has 2 figures, and needs 4/u],
    ['materials', 'name', ' ', /Name: type some words/u],
  ])('%s: %s typed as %j is refused with what would be right', (list, path, text, words) => {
    const field = fieldsOf(list, shop[list][0]).find((each) => each.path === path)!;
    expect(() => readField(field, text)).toThrow(words);
  });

  it('are told apart in a few words, and get ids of their own', () => {
    expect(factsOf('tools', shop.tools[0])).toBe('T1, end mill, ⌀ 6 mm, cuts 22 mm, ' + shop.tools[0].left + ' left');
    expect([freshId('1/4 in End Mill', []), freshId('Eiche', ['eiche', 'eiche-2']), freshId('日本', [])]).toEqual([
      '1-4-in-end-mill',
      'eiche-3',
      'entry',
    ]);
  });

  it('are taken over from a file: the same ones replaced, others added, what it does not name left', () => {
    const [first] = shop.tools;
    const file = {
      tools: [
        { ...first, left: 9 },
        { ...first, id: 'other', number: 90 },
      ],
    };
    const { shop: taken, words } = takenOver(shop, file);
    expect(words).toBe('2 tools');
    expect(taken.tools).toHaveLength(shop.tools.length + 1);
    expect(taken.tools.find(({ id }) => id === first.id)?.left).toBe(9);
    expect(taken.materials).toBe(shop.materials);
    expect(takenOver(shop, demo).words).toBe(`${shop.materials.length} materials, ${shop.tools.length} tools, ${shop.machines.length} machines, rates`); // prettier-ignore
    for (const nothing of [null, 7, [], {}, { tools: 'many' }]) expect(() => takenOver(shop, nothing)).toThrow(FieldError);
  });
});
