/** Codes that exclude each other on a line: of each group one may stand there (RS274/NGC, table 4). */
const G_GROUPS: readonly (readonly [string, readonly number[]])[] = [
  ['what is done once', [4, 53, 92, 92.1, 92.2, 92.3]],
  ['the motion', [0, 1, 2, 3, 80, 81, 82, 83, 85, 89]],
  ['the plane', [17, 18, 19]],
  ['the distances', [90, 91]],
  ['the distances of arc centres', [90.1, 91.1]],
  ['the feed', [93, 94]],
  ['the unit', [20, 21]],
  ['the cutter compensation', [40]],
  ['the tool length', [43, 49]],
  ['the retreat of drilling', [98, 99]],
  ['the coordinate system', [54, 55, 56, 57, 58, 59, 59.1, 59.2, 59.3]],
  ['the path control', [61, 61.1, 64]],
];

const M_GROUPS: readonly (readonly [string, readonly number[]])[] = [
  ['the stop', [0, 1, 2, 30, 60]],
  ['the tool change', [6]],
  ['the spindle', [3, 4, 5]],
  ['the coolant', [7, 8, 9]],
  ['the overrides', [48, 49]],
];

/** Codes of the language that are not read, with what to do instead. */
const NOT_READ: Readonly<Record<string, string>> = {
  G10: 'offsets are set at the machine, and are not read from programs.',
  G28: 'the machine’s own places are not known here: retreat by G0 to a height instead.',
  G30: 'the machine’s own places are not known here: retreat by G0 to a height instead.',
  'G38.2': 'probing has no path that could be foreseen.',
  G41: 'cutter radius compensation is not read: a program has the paths of the tool itself.',
  G42: 'cutter radius compensation is not read: a program has the paths of the tool itself.',
  G84: 'tapping is not read.',
  G86: 'boring with a stopped spindle is not read: use G85 or G89.',
  G87: 'back boring is not read.',
  G88: 'boring with a retreat by hand is not read.',
};

/** What a code is about, as a group of which one may stand on a line; a sentence where it is not read. */
export function groupOf(letter: 'g' | 'm', value: number): { readonly group: string } | { readonly refusal: string } {
  const code = Number(value.toFixed(1));
  const groups = letter === 'g' ? G_GROUPS : M_GROUPS;
  const found = groups.find(([, codes]) => codes.includes(code));
  if (found) return { group: found[0] };
  const name = `${letter.toUpperCase()}${code}`;
  return { refusal: `${name}: ${NOT_READ[name] ?? 'this code is not known.'}` };
}
