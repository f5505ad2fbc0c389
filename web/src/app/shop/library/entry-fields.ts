import type { Shop, ShopMachine, ShopMaterial, ShopTool } from '@plain-relief/core/shop';
import { formatLengthExact, LengthError, parseLength } from '@plain-relief/core/units';

/** The lists of a shop. */
export type ListName = 'materials' | 'tools' | 'machines';
export type Entry = ShopMaterial | ShopTool | ShopMachine;

/** How a value is shown and typed. */
export type FieldKind =
  | { readonly kind: 'words' }
  /** In any unit, kept in mm. */
  | { readonly kind: 'length' }
  | { readonly kind: 'figure'; readonly suffix: string }
  | { readonly kind: 'choice'; readonly choices: readonly (readonly [string, string])[] }
  | { readonly kind: 'flag' }
  /** Objects of figures, one a line. */
  | { readonly kind: 'rows'; readonly columns: readonly string[]; readonly example: string }
  | { readonly kind: 'lines' };

/** A value of an entry, by its path: “form.diameter”. */
export type Field = FieldKind & { readonly path: string; readonly label: string; readonly group?: string };

/** What was typed cannot be taken. */
export class FieldError extends Error {}

const figure = (path: string, label: string, suffix = '', group?: string): Field => ({
  kind: 'figure',
  path,
  label,
  suffix,
  ...(group && { group }),
});
const length = (path: string, label: string, group?: string): Field => ({ kind: 'length', path, label, ...(group && { group }) });
const lines = (path: string, label: string): Field => ({ kind: 'lines', path, label, group: 'How programs are written' });

const TOOL_KINDS = [
  ['end', 'end mill'],
  ['ball', 'ball nose'],
  ['vee', 'vee bit'],
  ['point', 'engraving point'],
  ['drill', 'drill'],
  ['taper', 'taper ball'],
] as const;
export const TOOL_WORDS: ReadonlyMap<string, string> = new Map(TOOL_KINDS);

const MACHINE_KINDS = ['router', 'engraver', 'laser', 'knife', 'printer'].map(
  (kind) => [kind, kind === 'knife' ? 'knife cutter' : kind] as const,
);

/** The fields of an entry, in the order in which they are read. */
export function fieldsOf(list: ListName, entry: Entry): readonly Field[] {
  if (list === 'materials') return MATERIAL;
  if (list === 'machines') return MACHINE;
  const { form } = entry as ShopTool;
  return [
    { kind: 'words', path: 'name', label: 'Name' },
    figure('number', 'Place in the changer (T)'),
    { kind: 'choice', path: 'form.kind', label: 'Form', choices: TOOL_KINDS },
    length('form.diameter', 'Diameter'),
    ...('angle' in form ? [figure('form.angle', form.kind === 'drill' ? 'Point angle' : 'Included angle', '°')] : []),
    ...('tip' in form ? [length('form.tip', form.kind === 'taper' ? 'Diameter of its ball' : 'Width of its flat tip')] : []),
    figure('flutes', 'Flutes'),
    length('cuttingLength', 'Cutting length'),
    length('shank', 'Shank'),
    length('holder.diameter', 'Diameter of the holder'),
    length('holder.standOut', 'Stands out of the holder'),
    figure('mostPlunge', 'Fastest straight down', 'mm/min'),
    figure('left', 'How many are left'),
  ];
}

const MATERIAL: readonly Field[] = [
  { kind: 'words', path: 'name', label: 'Name' },
  figure('density', 'Density', 'kg/m³'),
  { kind: 'rows', path: 'sheets', label: 'Sheets kept: width × height × thickness: price', columns: ['width', 'height', 'thickness', 'price'], example: '2000 × 1000 × 18: 95' }, // prettier-ignore
  length('leastWall', 'Least wall that survives'),
  length('leastStroke', 'Least raised stroke that survives'),
  figure('slenderness', 'Height of a stroke at most', 'times its width'),
  figure('depthPerPass', 'Deepest cut a pass', 'times the diameter'),
  {
    kind: 'rows',
    path: 'chipLoads',
    label: 'Chip load by diameter: diameter: mm a tooth',
    columns: ['diameter', 'chip'],
    example: '6: 0.08',
  },
  figure('surfaceSpeed', 'Surface speed', 'm/min'),
  figure('shrinkage', 'Shrinkage when cast', '%'),
  { kind: 'flag', path: 'isLaserSafe', label: 'A laser may cut it' },
];

const MACHINE: readonly Field[] = [
  { kind: 'words', path: 'name', label: 'Name' },
  { kind: 'choice', path: 'kind', label: 'Kind', choices: MACHINE_KINDS },
  length('area.width', 'Reaches across'),
  length('area.height', 'Reaches up'),
  length('travel', 'Travel in z'),
  figure('rapid', 'Rapid', 'mm/min'),
  figure('mostFeed', 'Fastest feed', 'mm/min'),
  figure('acceleration', 'Acceleration', 'mm/s²'),
  length('deviation', 'May round corners by'),
  figure('spindle.least', 'Slowest spindle', '/min'),
  figure('spindle.most', 'Fastest spindle', '/min'),
  figure('toolChange', 'A change of tools takes', 's'),
  { kind: 'flag', path: 'hasChanger', label: 'Changes tools by itself' },
  { kind: 'flag', path: 'knowsArcs', label: 'Knows arcs' },
  { kind: 'choice', path: 'rotary', label: 'Turns its work', choices: [['none', 'no'], ['x', 'about X, A in degrees'], ['y', 'about Y, A in degrees']] }, // prettier-ignore
  { kind: 'choice', path: 'dialect.units', label: 'Units', choices: [['mm', 'millimetres'], ['in', 'inches']], group: 'How programs are written' }, // prettier-ignore
  figure('dialect.decimals', 'Decimals', '', 'How programs are written'),
  figure('dialect.lineNumbers', 'Line numbers by', '(0 for none)', 'How programs are written'),
  { kind: 'words', path: 'dialect.extension', label: 'File extension', group: 'How programs are written' },
  lines('dialect.header', 'First lines'),
  lines('dialect.toolChange', 'Change of tools: {tool} and {name}'),
  lines('dialect.spindleOn', 'Spindle on: {speed}'),
  lines('dialect.spindleOff', 'Spindle off'),
  lines('dialect.coolantOn', 'Coolant on'),
  lines('dialect.coolantOff', 'Coolant off'),
  lines('dialect.footer', 'Last lines'),
];

/** Fields of the rates. */
export const RATES: readonly Field[] = [
  { kind: 'words', path: 'currency', label: 'Currency' },
  figure('machineHour', 'Machine hour'),
  figure('handHour', 'Hand hour'),
  figure('toolChange', 'Per change of tools'),
  figure('least', 'Least price of a sign'),
];

/** The value at a path. */
export function valueAt(entry: object, path: string): unknown {
  return path.split('.').reduce<unknown>((value, key) => (value as Record<string, unknown> | undefined)?.[key], entry);
}

/** An entry with another value at a path; of another form of tool with what that has besides. */
export function withValue<T extends object>(entry: T, path: string, value: unknown): T {
  const [key, ...rest] = path.split('.');
  const own = entry as Record<string, unknown>;
  if (rest.length === 0)
    return key === 'kind' && 'diameter' in own ? (withKind(own, value as string) as T) : ({ ...entry, [key]: value } as T);
  return { ...entry, [key]: withValue(own[key] as object, rest.join('.'), value) };
}

/** Angle and tip of forms that have them, where they had none before. */
const USUAL_ANGLE: Readonly<Record<string, number>> = { vee: 60, point: 30, drill: 118, taper: 10 };
const USUAL_TIP: Readonly<Record<string, number>> = { vee: 0.1, point: 0.2, taper: 1 };

function withKind({ diameter, angle, tip }: Record<string, unknown>, kind: string): object {
  return {
    kind,
    diameter,
    ...(kind in USUAL_ANGLE && { angle: angle ?? USUAL_ANGLE[kind] }),
    ...(kind in USUAL_TIP && { tip: tip ?? USUAL_TIP[kind] }),
  };
}

const plain = (value: number): string => String(Number(value.toFixed(6)));

/** A value as it is typed. */
export function written(field: Field, value: unknown): string {
  switch (field.kind) {
    case 'length':
      return formatLengthExact(value as number, 'mm');
    case 'figure':
      return plain(value as number);
    case 'lines':
      return (value as readonly string[]).join('\n');
    case 'rows':
      return (value as readonly Record<string, number>[])
        .map((row) => {
          const figures = field.columns.map((column) => plain(row[column]));
          return `${figures.slice(0, -1).join(' × ')}: ${figures.at(-1)}`;
        })
        .join('\n');
    default:
      return String(value);
  }
}

/** What was typed as the value that it stands for. @throws FieldError with what would be right */
export function readField(field: Field, text: string): unknown {
  switch (field.kind) {
    case 'words':
      if (text.trim() === '') throw new FieldError(`${field.label}: type some words.`);
      return text.trim();
    case 'length':
      try {
        return parseLength(text, 'mm');
      } catch (error) {
        if (error instanceof LengthError) throw new FieldError(`${field.label}: ${error.message}`);
        throw error;
      }
    case 'figure':
      return readFigure(text, field.label);
    case 'lines':
      return text
        .split('\n')
        .map((line) => line.trim())
        .filter((line) => line !== '');
    case 'rows':
      return text
        .split('\n')
        .filter((line) => line.trim() !== '')
        .map((line, i) => readRow(line, i, field));
    default:
      return text;
  }
}

function readFigure(text: string, label: string): number {
  const value = Number(text.replace(/[−–]/u, '-').replace(',', '.').trim());
  if (text.trim() === '' || !Number.isFinite(value)) throw new FieldError(`${label}: “${text}” is no figure.`);
  return value;
}

function readRow(line: string, index: number, { label, columns, example }: Field & { kind: 'rows' }): Record<string, number> {
  const figures = line.split(/[×x*:;]|\s+/u).filter((word) => word !== '');
  if (figures.length !== columns.length)
    throw new FieldError(`${label}, line ${index + 1}: “${line.trim()}” has ${figures.length} figures, and needs ${columns.length}, such as ${example}.`); // prettier-ignore
  return Object.fromEntries(columns.map((column, i) => [column, readFigure(figures[i], `${label}, line ${index + 1}`)]));
}

/** An id of its own for an entry, made of its name. */
export function freshId(name: string, taken: readonly string[]): string {
  const base =
    name
      .normalize('NFKD')
      .toLowerCase()
      .replace(/[^a-z0-9]+/gu, '-')
      .replace(/^-+|-+$/gu, '')
      .slice(0, 50) || 'entry';
  if (!taken.includes(base)) return base;
  for (let i = 2; ; i++) if (!taken.includes(`${base}-${i}`)) return `${base}-${i}`;
}

/** A first entry of a list, where there is none to copy. */
export function firstEntry(list: ListName): Entry {
  if (list === 'materials')
    return { id: 'material', name: 'New material', density: 700, sheets: [], leastWall: 1, leastStroke: 1, slenderness: 4, depthPerPass: 0.5, chipLoads: [{ diameter: 3, chip: 0.03 }, { diameter: 6, chip: 0.06 }], surfaceSpeed: 250, shrinkage: 0, isLaserSafe: false }; // prettier-ignore
  if (list === 'tools')
    return { id: 'tool', name: 'New end mill', number: 1, form: { kind: 'end', diameter: 3 }, flutes: 2, cuttingLength: 12, shank: 3, holder: { diameter: 22, standOut: 25 }, mostPlunge: 600, left: 1 }; // prettier-ignore
  return {
    id: 'machine',
    name: 'New machine',
    kind: 'router',
    area: { width: 600, height: 400 },
    travel: 100,
    rapid: 8000,
    mostFeed: 5000,
    acceleration: 400,
    deviation: 0.02,
    toolChange: 60,
    hasChanger: false,
    knowsArcs: true,
    rotary: 'none',
    spindle: { least: 6000, most: 24_000 },
    dialect: {
      header: ['G17 G40 G49 G54 G80 G90 G94', 'G91.1'],
      footer: ['M30'],
      toolChange: ['T{tool} M6'],
      spindleOn: ['S{speed} M3'],
      spindleOff: ['M5'],
      coolantOn: [],
      coolantOff: [],
      units: 'mm',
      decimals: 3,
      lineNumbers: 0,
      extension: 'ngc',
    },
  };
}

/** A few words of an entry, to be told apart by and searched in. */
export function factsOf(list: ListName, entry: Entry): string {
  if (list === 'tools') {
    const { form, number, cuttingLength, left } = entry as ShopTool;
    return `T${number}, ${TOOL_WORDS.get(form.kind)}, ⌀ ${plain(form.diameter)} mm${'angle' in form ? `, ${form.angle}°` : ''}, cuts ${plain(cuttingLength)} mm, ${left} left`;
  }
  if (list === 'machines') {
    const { kind, area, hasChanger } = entry as ShopMachine;
    return `${kind}, ${plain(area.width)} × ${plain(area.height)} mm, ${hasChanger ? 'changes tools by itself' : 'tools changed by hand'}`;
  }
  const { density, sheets } = entry as ShopMaterial;
  return `${plain(density)} kg/m³, ${sheets.length === 0 ? 'no sheets kept' : sheets.length === 1 ? 'one sheet' : `${sheets.length} sheets`}`;
}

/** The lists with those of a file taken over: entries of the same id are replaced, others added. */
export function takenOver(shop: Shop, file: unknown): { readonly shop: Shop; readonly words: string } {
  const holder = (file ?? {}) as Record<string, unknown>;
  const source = (typeof holder['library'] === 'object' && holder['library'] !== null ? holder['library'] : holder) as Record<
    string,
    unknown
  >;
  const words: string[] = [];
  let taken = shop;
  for (const list of ['materials', 'tools', 'machines'] as const) {
    const entries = source[list];
    if (!Array.isArray(entries)) continue;
    const incoming = entries as readonly Entry[];
    const ids = new Set(incoming.map(({ id }) => id));
    const kept = (shop[list] as readonly Entry[]).filter(({ id }) => !ids.has(id));
    taken = { ...taken, [list]: [...kept, ...incoming] };
    words.push(`${incoming.length} ${list}`);
  }
  if (typeof source['rates'] === 'object' && source['rates'] !== null) {
    taken = { ...taken, rates: source['rates'] as Shop['rates'] };
    words.push('rates');
  }
  if (words.length === 0) throw new FieldError('The file holds no materials, tools, machines or rates: it is no list of a shop.');
  return { shop: taken, words: words.join(', ') };
}
