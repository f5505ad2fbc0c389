import { type FontEntry } from '../src/type/index.js';
import { BRAILLE_TABLES } from '../src/braille/index.js';
import { blankAllRound, laidBlock, readSign, type Sign, SignSchema, type Support } from '../src/sign/index.js';
import { Random } from './random.js';

/**
 * Signs over every field of the schema, from a seed. The schema itself is walked, so that a new field is in it by itself; what a
 * field refers to is told by its name in {@link REFERENCES}, and how large it usually is in {@link USUAL}. A reference that is not known
 * here is an error.
 */

/**
 * `plain`: sizes that a shop would choose. `extreme`: anything that the schema allows, its limits above all.
 * `bent`: plain sizes, all around something, with many levels that lie flat in it.
 */
export type Manner = 'plain' | 'extreme' | 'bent';

interface Schema {
  readonly type?: string;
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly required?: readonly string[];
  readonly items?: Schema;
  readonly maxItems?: number;
  readonly minItems?: number;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly exclusiveMinimum?: number;
  readonly pattern?: string;
  readonly minLength?: number;
  readonly maxLength?: number;
}

/** Usual values in mm, degrees or percent, by the name of a field, or by the kind of what it is part of and its name. */
const USUAL: Readonly<Record<string, readonly [number, number]>> = {
  width: [4, 150],
  height: [4, 80],
  diameter: [3, 90],
  cornerRadius: [0, 20],
  rise: [1, 40],
  thickness: [1, 10],
  length: [10, 200],
  inset: [-4, 25],
  x: [-130, 130],
  y: [-70, 70],
  stepX: [-60, 60],
  stepY: [-40, 40],
  by: [0.2, 8],
  to: [-9, 9],
  radius: [0.3, 6],
  margin: [0.5, 8],
  wall: [1, 4],
  face: [0.5, 4],
  edge: [0.5, 4],
  depth: [0.3, 6],
  below: [0, 5],
  floor: [-10, 100],
  shift: [-20, 20],
  tracking: [-5, 30],
  kern: [-1, 3],
  more: [-2, 3],
  size: [70, 140],
  stretch: [60, 160],
  turn: [-180, 180],
  angle: [3, 60],
  amount: [-8, 8],
  heightLimit: [1, 20],
  cap: [0.1, 1],
  at: [-100, 100],
  count: [1, 5],
  quantity: [1, 8],
  lines: [2, 4],
  'offset.by': [-3, 5],
  'stroke.width': [0.3, 6],
  'line.width': [0.3, 4],
  'bridges.width': [0.5, 3],
  'border.width': [0, 10],
  'chamfered.width': [0.3, 6],
  'chamfered.height': [0.3, 5],
  'capitals.height': [5, 45],
  'em.size': [6, 60],
  'seen-width.width': [20, 250],
  'seen-height.height': [4, 60],
  'arc.radius': [15, 120],
  'arc.span': [40, 360],
  'ring.radius': [5, 60],
  'ridged.angle': [20, 140],
  'polygon.sides': [3, 12],
  'percent.of': [2, 200],
  'studs.diameter': [1, 5],
  'fixings.diameter': [2, 12],
  'fixings.inset': [2, 30],
  'domed.width': [0.3, 6],
  'code.module': [0.4, 3],
  'code.height': [4, 30],
  'braille.base': [1, 3],
  'braille.dots': [2, 4],
  'braille.cell': [5, 9],
  'braille.line': [8, 14],
  'braille.ball': [1, 3],
  'braille.room': [10, 120],
  distance: [0.5, 40],
  'cylinder.radius': [30, 300],
  'cylinder.lid': [1, 10],
  'cylinder.floor': [1, 10],
  'cone.bottom': [30, 300],
  'cone.top': [30, 300],
  'cone.height': [60, 400],
  'cone.lid': [1, 10],
  'cone.floor': [1, 10],
  'bent.neutral': [30, 50],
  'bent.centre': [0, 200],
  'swept.centre': [0, 200],
  'swept.centreUp': [0, 60],
  'swept.stretch': [1, 5],
  'ellipse.depth': [20, 100],
  'dome.radius': [80, 400],
  'dome.stretch': [1, 5],
  'sector.radius': [20, 200],
  'sector.height': [10, 60],
  'sector.span': [20, 300],
};

/** What a field whose value is an id means by it. */
const REFERENCES: Readonly<Record<string, 'own' | 'group' | 'part' | 'tier' | 'finish'>> = {
  id: 'own',
  group: 'group',
  part: 'part',
  of: 'part',
  follows: 'part',
  parts: 'part',
  tier: 'tier',
  top: 'finish',
  sides: 'finish',
  face: 'finish',
  back: 'finish',
};

const WORDS = [
  'FERN',
  'Gate',
  'HOLLOW 8',
  'A&B',
  'Quill',
  'LT',
  'Osprey',
  'é',
  'OO',
  'i',
  '24–7',
  'مرحبا',
  'שלום',
  'R%@',
  'St. ﬁ',
];
/** Words of codes: such as some can say and some cannot. */
const CODED = ['TREE 2041', '978020137962', '01234567890', 'millrace.example/27', 'Äsche ^7', '9780201379621'];
const NAMES = ['Rim', 'Line 1', 'A & B "q"', 'ÄÖÜ', '<b>', 'مرحبا', '🙂'];

/** No value can be made, as where an earlier part is needed and there is none. */
class Impossible extends Error {}

/** The fields on the way to a value, the kinds of what they are part of, and what was made of those so far. */
interface Where {
  readonly key: string;
  readonly kind: string;
  readonly scale: 'blank' | 'part';
}

const TOP: Where = { key: '', kind: '', scale: 'part' };

/** A sign without what a block cannot have, its blank as large as that. */
function asBlock(sign: Sign, support: Extract<Support, { kind: 'block' }>): Sign {
  const { width, height, depth } = laidBlock(support);
  const blank: Sign['blank'] = {
    ...sign.blank,
    outline: { kind: 'rectangle', width, height, cornerRadius: 0 },
    thickness: depth,
  };
  for (const key of ['edge', 'backEdge', 'cutTo'] as const) delete blank[key];
  const parts = sign.parts.map((part) => ({ ...part }));
  for (const part of parts) delete part.side;
  return { ...sign, blank, parts };
}

class Maker {
  private readonly ids: { id: string; side: string; tiers: string[] }[] = [];
  private count = 0;
  private side = 'front';
  private lastPart = '';
  private readonly finishes: readonly string[];

  constructor(
    private readonly random: Random,
    private readonly manner: Manner,
    private readonly fonts: readonly string[],
  ) {
    this.finishes = Array.from({ length: random.whole(0, 4) }, (_, i) => `finish-${i}`);
  }

  sign(): unknown {
    const sign = this.value(SignSchema as Schema, TOP) as Sign;
    // By itself no blank would be as wide as its support is round.
    if (sign.support?.kind === 'block' && this.random.chance(0.8)) return asBlock(sign, sign.support);
    const outline = blankAllRound(sign.support, Number(this.random.between(30, 200).toFixed(1)));
    // A blank may be no larger than the schema has it.
    const isSmall = outline && 'width' in outline && outline.width <= 8000;
    return (isSmall || outline?.kind === 'sector') && this.random.chance(0.8)
      ? { ...sign, blank: { ...sign.blank, outline } }
      : sign;
  }

  private value(schema: Schema, where: Where): unknown {
    if (schema.const !== undefined) return schema.const;
    if (schema.oneOf) return this.oneOf(schema.oneOf, where);
    if (schema.anyOf) return this.oneOf(schema.anyOf, where);
    switch (schema.type) {
      case 'object':
        return this.object(schema, where);
      case 'array':
        return this.array(schema, where);
      case 'boolean':
        return this.random.chance(where.key === 'on' ? 0.9 : where.key === 'hidden' ? 0.1 : 0.5);
      case 'integer':
      case 'number':
        return this.number(schema, where);
      case 'string':
        return this.text(schema, where);
      default:
        throw new Error(`The generator cannot make a value of type ${String(schema.type)} for “${where.key}”.`);
    }
  }

  private oneOf(variants: readonly Schema[], where: Where): unknown {
    for (const variant of this.inOrder(variants, where)) {
      try {
        return this.value(variant, where);
      } catch (error) {
        if (!(error instanceof Impossible)) throw error;
      }
    }
    throw new Impossible();
  }

  /** Variants in the order in which they are tried; of what is bent no blocks, and levels that are set before others. */
  private inOrder(variants: readonly Schema[], { key }: Where): readonly Schema[] {
    const all = this.random.shuffled(variants);
    if (this.manner !== 'bent') return all;
    const kindOf = ({ properties }: Schema): unknown => properties?.kind?.const;
    if (key === 'support') return all.filter((each) => kindOf(each) !== 'block');
    const isSet = (each: Schema): boolean => kindOf(each) === 'set';
    return key === 'action' && this.random.chance(0.5) ? [...all.filter(isSet), ...all.filter((each) => !isSet(each))] : all;
  }

  private object({ properties = {}, required = [] }: Schema, { key, scale }: Where): unknown {
    const kind = String(properties.kind?.const ?? key);
    const isPart = 'sitsOn' in properties;
    const out: Record<string, unknown> = {};
    // Parts before what names them; the side of a part before what it sits on, and its tiers last.
    const order = Object.keys(properties).sort((a, b) => rank(a) - rank(b));
    if (isPart) this.side = 'front';
    for (const name of order) {
      const isNeeded = required.includes(name);
      if (!isNeeded && !this.random.chance(shareOf(name, this.manner))) continue;
      const field = name === 'finishes' ? this.finishList(properties[name]) : undefined;
      try {
        const value =
          field ?? this.value(properties[name], { key: name, kind, scale: name === 'blank' ? 'blank' : isPart ? 'part' : scale });
        if (value === undefined) continue;
        out[name] = value;
      } catch (error) {
        if (!(error instanceof Impossible) || isNeeded) throw error;
      }
      if (isPart && name === 'side') this.side = 'back';
    }
    if (isPart) {
      const tiers = (out.tiers as { id: string }[]).map(({ id }) => id);
      this.ids.push({ id: out.id as string, side: this.side, tiers });
    }
    return Object.fromEntries(Object.keys(properties).filter((name) => name in out).map((name) => [name, out[name]])); // prettier-ignore
  }

  private finishList(schema: Schema): unknown {
    return this.finishes.map((id) => ({ ...(this.value(schema.items!, { ...TOP, key: 'finishes' }) as object), id }));
  }

  private array({ items = {}, minItems = 0, maxItems = 100 }: Schema, where: Where): unknown {
    const usual = { parts: 4, tiers: 2, fit: 3, letters: 3, options: 2, of: 2 }[where.key] ?? 2;
    const most = Math.min(maxItems, this.manner === 'extreme' && this.random.chance(0.1) ? usual * 3 : usual);
    const least = Math.max(minItems, where.key === 'parts' || where.key === 'tiers' ? 1 : 0);
    const out: unknown[] = [];
    for (let i = this.random.whole(least, Math.max(least, most)); i > 0; i--) {
      try {
        out.push(this.value(items, where));
      } catch (error) {
        if (!(error instanceof Impossible)) throw error;
      }
    }
    if (out.length < minItems) throw new Impossible();
    return REFERENCES[where.key] === 'part' ? [...new Set(out)] : out;
  }

  private number(schema: Schema, { key, kind, scale }: Where): number {
    const isWhole = schema.type === 'integer';
    const low = schema.minimum ?? schema.exclusiveMinimum ?? -1e6;
    const high = schema.maximum ?? 1e6;
    const least = schema.exclusiveMinimum === undefined ? low : low + Math.min(1e-6, (high - low) * 1e-6);
    const fit = (value: number): number =>
      within(isWhole || this.random.chance(0.7) ? Number(value.toFixed(1)) : Number(value.toFixed(3)), least, high, isWhole);
    if (kind === 'letters' && key === 'at') return this.random.whole(0, 5);
    if (this.manner === 'extreme' && this.random.chance(0.25)) {
      const size = Math.exp(this.random.between(Math.log(1e-6), Math.log(Math.max(1e-5, high))));
      // Whether the grid keeps what is about as wide as its steps is not promised.
      const seen = size > 1e-5 && size < 1e-3 ? 1e-3 : size;
      return within(this.random.pick([least, high, 0, seen, -seen, 1e-6]), least, high, isWhole);
    }
    const [from, to] = USUAL[`${kind}.${key}`] ?? USUAL[key] ?? [Math.max(low, -50), Math.min(high, 50)];
    // Blanks are larger than what stands on them.
    if (
      scale === 'blank' &&
      (key === 'width' || key === 'height' || (key === 'diameter' && kind !== 'studs')) &&
      kind !== 'chamfered'
    )
      return fit(this.random.between(80, 350));
    if (scale === 'blank' && key === 'thickness' && kind === 'blank') return fit(this.random.between(3, 25));
    return fit(this.random.between(from, to));
  }

  private text({ pattern, minLength = 0, maxLength = 100 }: Schema, { key, kind }: Where): string {
    const { random } = this;
    if (pattern?.startsWith('^[A-Za-z0-9_-]')) return this.reference(key);
    if (pattern?.startsWith('^(?=.*[^ ])')) return `slot ${this.count++}`;
    if (pattern?.startsWith('^#')) return `#${random.whole(0, 0xffffff).toString(16).padStart(6, '0')}`;
    if (pattern?.startsWith('^[0-9a-f-]{36}')) return '00000000-0000-4000-8000-000000000000';
    if (key === 'cells') return Array.from({ length: random.whole(0, 8) }, () => (random.chance(0.1) ? '\n' : String.fromCodePoint(0x2800 + random.whole(0, 63)))).join(''); // prettier-ignore
    if (key === 'table') return random.pick(BRAILLE_TABLES).id;
    if (pattern?.startsWith('^[a-z0-9-]')) return 'ada-703';
    if (key === 'font') return random.pick(this.fonts);
    if (key === 'path' && kind === 'outline') return pathData(random, this.manner);
    if (key === 'words' && kind === 'code') return random.pick(CODED);
    if (key === 'words') {
      const lines = Array.from({ length: random.whole(1, 2) }, () =>
        Array.from({ length: random.whole(1, 2) }, () => random.pick(WORDS)).join(' '),
      );
      return this.manner === 'extreme' && random.chance(0.1) ? random.pick(['', ' ', '\n', 'x'.repeat(60)]) : lines.join('\n');
    }
    const text = random.pick(NAMES).slice(0, maxLength);
    return text.length < minLength ? 'n' : text;
  }

  private reference(key: string): string {
    const means = REFERENCES[key];
    const { random, ids } = this;
    switch (means) {
      case 'own':
        return `${['p', 'q'][this.count % 2]}${this.count++}`;
      case 'group':
        return `group-${random.whole(0, 1)}`;
      case 'finish':
        if (this.finishes.length === 0) throw new Impossible();
        return random.pick(this.finishes);
      case 'tier': {
        const tiers = ids.find(({ id }) => id === this.lastPart)?.tiers ?? [];
        if (tiers.length === 0) throw new Impossible();
        return random.pick(tiers);
      }
      case 'part': {
        const some = ids.filter(({ side }) => side === this.side || key !== 'part');
        if (some.length === 0) throw new Impossible();
        return (this.lastPart = random.pick(some).id);
      }
      default:
        throw new Error(`The generator does not know what “${key}” refers to: say so in REFERENCES.`);
    }
  }
}

/** The value nearest to one that the schema allows. */
const within = (value: number, low: number, high: number, isWhole: boolean): number =>
  Math.min(high, Math.max(isWhole ? Math.ceil(low) : low, isWhole ? Math.round(value) : value));

/** Fields in the order in which they are made. */
const ORDER = ['kind', 'id', 'finishes', 'side', 'parts', 'blank', 'options', 'sitsOn', 'part', 'tier', 'tiers'];
const rank = (name: string): number => {
  const at = ORDER.indexOf(name);
  return at < 0 ? 6.5 : at === 10 ? 20 : at;
};

/** How often a field that may be left out is there. */
function shareOf(name: string, manner: Manner): number {
  const plain: Readonly<Record<string, number>> = { finishes: 1, cutTo: 0.12, hidden: 0.05, edge: 0.6, side: 0.25, options: 0.3, copies: 0.2, frame: 0.2, ground: 0.05 }; // prettier-ignore
  if (manner === 'bent' && (name === 'support' || name === 'flat')) return name === 'flat' ? 0.7 : 1;
  return plain[name] ?? (manner === 'extreme' ? 0.5 : 0.25);
}

/** Paths about the origin of lines, curves and arcs, absolute and relative: round ones, and ones that cross themselves. */
function pathData(random: Random, manner: Manner): string {
  const runs: string[] = [];
  for (let r = random.whole(1, manner === 'extreme' ? 4 : 2); r > 0; r--) {
    const [cx, cy, size] = [random.between(-10, 10), random.between(-10, 10), random.between(3, 20)];
    const n = random.whole(3, 8);
    const isWild = random.chance(0.3);
    const at = (i: number): Point => {
      const angle = isWild ? random.between(0, 6.28) : (2 * Math.PI * i) / n;
      const reach = size * random.between(0.4, 1);
      return [cx + reach * Math.cos(angle), cy + reach * Math.sin(angle)];
    };
    const writer = new PathWriter(new Random(Math.round(1000 * size)), at(0));
    for (let i = 1; i < n; i++) {
      const points = random.pick([1, 1, 2, 3]);
      writer.to(Array.from({ length: points }, (_, k) => at(i - 1 + (k + 1) / points)));
    }
    runs.push(writer.data + (random.chance(0.85) ? 'Z' : ''));
  }
  return runs.join('');
}

type Point = readonly [number, number];

/** Writes a path with every command of SVG 2, section 9.3: how a step is written is drawn from random numbers of its own. */
class PathWriter {
  data: string;
  private x: number;
  private y: number;
  private last = 'M';

  constructor(
    private readonly random: Random,
    [x, y]: Point,
  ) {
    [this.x, this.y] = [rounded(x), rounded(y)];
    this.data = `M${this.x} ${this.y}`;
  }

  /** A step by its points: a line or an arc to one, a quadratic curve by two, a cubic by three. */
  to(points: readonly Point[]): void {
    const { random } = this;
    const isRelative = random.chance(0.4);
    const [x, y] = points[points.length - 1];
    const pairs = (from: number): number[] =>
      points.slice(from).flatMap((at) => (isRelative ? [at[0] - this.x, at[1] - this.y] : [...at]));
    let letter = ['L', 'Q', 'C'][points.length - 1];
    let numbers = pairs(0);
    if (letter === 'Q' && this.last === 'Q' && random.chance(0.3)) [letter, numbers] = ['T', pairs(1)];
    else if (letter === 'C' && random.chance(0.3)) [letter, numbers] = ['S', pairs(1)];
    else if (letter === 'L' && random.chance(0.15))
      [letter, numbers] = random.chance(0.5) ? ['H', pairs(0).slice(0, 1)] : ['V', pairs(0).slice(1)]; // prettier-ignore
    else if (letter === 'L' && random.chance(0.25)) {
      const span = Math.hypot(x - this.x, y - this.y);
      const radii = [random.between(0.3, 1.5) * span, random.between(0.3, 1.5) * span];
      [letter, numbers] = ['A', [...radii, random.whole(-90, 90), random.whole(0, 1), random.whole(0, 1), ...pairs(0)]];
    }
    this.write(letter, numbers.map(rounded), isRelative);
  }

  private write(letter: string, numbers: readonly number[], isRelative: boolean): void {
    this.data += (isRelative ? letter.toLowerCase() : letter) + numbers.join(' ');
    this.last = letter;
    const from = isRelative ? [this.x, this.y] : [0, 0];
    if (letter !== 'V') this.x = rounded(from[0] + numbers[numbers.length - (letter === 'H' ? 1 : 2)]);
    if (letter !== 'H') this.y = rounded(from[1] + numbers[numbers.length - 1]);
  }
}

const rounded = (value: number): number => Number(value.toFixed(2));

/** The sign of a seed, as a document that is read as any other. @throws SignError where the generator made one that is none */
export function generatedSign(seed: number, manner: Manner, catalogue: readonly FontEntry[]): Sign {
  const random = new Random(manner === 'bent' ? 1_000_000 + seed : seed * 2 + (manner === 'extreme' ? 1 : 0));
  const document = new Maker(random, manner, catalogue.map(({ id }) => id)).sign(); // prettier-ignore
  return readSign(JSON.parse(JSON.stringify(document)), catalogue);
}
