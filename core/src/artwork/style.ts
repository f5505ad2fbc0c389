import { colord, extend, type Plugin } from 'colord';
import namesPlugin from 'colord/plugins/names';
import type { CssNode, Rule } from 'css-tree';
import parse from 'css-tree/parser';
import { type Element } from './xml.js';

// Its type is written for CommonJS; the module's default is the plugin itself.
extend([namesPlugin as unknown as Plugin]);

/** Properties that children take over (SVG 2, appendix on properties). */
const INHERITED = [
  'fill',
  'fill-rule',
  'clip-rule',
  'stroke',
  'stroke-width',
  'stroke-linejoin',
  'stroke-linecap',
  'stroke-miterlimit',
  'stroke-dasharray',
  'color',
  'visibility',
  'fill-opacity',
  'stroke-opacity',
  'marker',
  'marker-start',
  'marker-mid',
  'marker-end',
] as const;
const OWN = ['display', 'opacity', 'clip-path', 'mask', 'filter', 'overflow', 'vector-effect'] as const;
/** Attributes that style sheets may set as well (SVG 2, chapters 8.7 and 9.3, and CSS Transforms 1). */
const GEOMETRY = new Set(['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'd', 'transform', 'transform-origin']);
const KNOWN = new Set<string>([...INHERITED, ...OWN]);

/** Values of properties as they apply to an element. */
export type Style = Readonly<Record<string, string>>;

/** Rules of the file's style sheets, in order, by simple selector: a name, a class, an id, or `*`. */
export class StyleSheet {
  private readonly rules: { readonly selector: string; readonly weight: number; readonly values: Style }[] = [];
  /** Selectors that are not simple and had no effect. */
  readonly passedOver: string[] = [];

  constructor(text: string) {
    for (const { prelude, block } of rulesOf(text)) {
      if (prelude.type !== 'Raw') continue;
      const values = valuesOf(block);
      for (const selector of prelude.value.split(',').map((each) => each.trim())) {
        const weight = weightOf(selector);
        if (weight === undefined) this.passedOver.push(selector);
        else this.rules.push({ selector, weight, values });
      }
    }
    // The order of rules decides among equals: sort keeps it.
    this.rules.sort((a, b) => a.weight - b.weight);
  }

  /** An element with the geometry that rules and its style attribute give it in place of its attributes. */
  withGeometry(element: Element): Element {
    const given: Record<string, string> = {};
    const take = (values: Style) => {
      for (const [key, value] of Object.entries(values)) if (GEOMETRY.has(key)) given[key] = value;
    };
    for (const rule of this.rules) if (isMeant(rule.selector, element)) take(rule.values);
    if (element.attributes.style !== undefined) take(declarations(element.attributes.style));
    if (Object.keys(given).length === 0) return element;
    if (given.d !== undefined) given.d = /^path\(\s*(['"])(.*)\1\s*\)$/su.exec(given.d)?.[2] ?? '';
    return { ...element, attributes: { ...element.attributes, ...given } };
  }

  /** The style of an element whose parent's is given: attributes, then rules, then its own style attribute. */
  apply(element: Element, parent: Style): Style {
    const { attributes } = element;
    const out: Record<string, string> = {};
    for (const key of INHERITED) if (parent[key] !== undefined) out[key] = parent[key];
    const set = (values: Style) => {
      for (const [key, value] of Object.entries(values)) {
        if (!KNOWN.has(key)) continue;
        if (value === 'inherit') {
          if (parent[key] === undefined) delete out[key];
          else out[key] = parent[key];
        } else out[key] = value;
      }
    };
    set(attributes);
    for (const { selector, values } of this.rules) if (isMeant(selector, element)) set(values);
    set(declarations(attributes.style ?? ''));
    return out;
  }
}

/** Whether a simple selector means an element. */
function isMeant(selector: string, { name, attributes }: Element): boolean {
  if (selector === '*' || selector === name || selector === `#${attributes.id}`) return true;
  if (attributes.class === undefined) return false;
  const classes = attributes.class.split(/\s+/u);
  return classes.some((each) => each !== '' && (selector === `.${each}` || selector === `${name}.${each}`));
}

/** Every rule of a style sheet in order, also those within at-rules; none of one that is nested deeper than can be read. */
function rulesOf(text: string): Rule[] {
  const out: Rule[] = [];
  const visit = (node: CssNode): void => {
    if (node.type === 'Rule') out.push(node);
    else if (node.type === 'Atrule' && node.block) visit(node.block);
    else if (node.type === 'StyleSheet' || node.type === 'Block') node.children.forEach(visit);
  };
  visit(read(text, 'stylesheet'));
  return out;
}

const NOTHING: CssNode = { type: 'Raw', value: '' };

/** Reads CSS but for selectors and values, which are left as they are written. */
function read(text: string, context: 'stylesheet' | 'declarationList'): CssNode {
  try {
    return parse(text, { context, parseRulePrelude: false, parseAtrulePrelude: false, parseValue: false });
  } catch (error) {
    // Blocks in blocks without an end.
    if (error instanceof RangeError) return NOTHING;
    throw error;
  }
}

function weightOf(selector: string): number | undefined {
  if (selector === '*') return 0;
  if (/^[a-zA-Z]+$/u.test(selector)) return 1;
  if (/^\.[\w-]+$/u.test(selector)) return 10;
  if (/^[a-zA-Z]+\.[\w-]+$/u.test(selector)) return 11;
  return /^#[\w-]+$/u.test(selector) ? 100 : undefined;
}

const declarations = (text: string): Style => (text === '' ? {} : valuesOf(read(text, 'declarationList')));

function valuesOf(list: CssNode): Style {
  const out: Record<string, string> = {};
  if (list.type !== 'DeclarationList' && list.type !== 'Block') return out;
  list.children.forEach((node) => {
    if (node.type === 'Declaration' && node.value.type === 'Raw') out[node.property.toLowerCase()] = node.value.value.trim();
  });
  return out;
}

/** A paint as “#rrggbb”, a reference, or nothing. */
export type Paint =
  { readonly kind: 'plain'; readonly colour: string } | { readonly kind: 'reference'; readonly id: string } | undefined;

/** Reads a paint; what is not understood is black, as in any viewer. */
export function readPaint(value: string | undefined, current: string | undefined): Paint {
  const text = (value ?? '').trim();
  if (text === '' || text === 'none' || text === 'transparent') return undefined;
  const reference = /^url\(\s*['"]?#([^'")]+)['"]?\s*\)/u.exec(text);
  if (reference) return { kind: 'reference', id: reference[1] };
  const parsed = colord(/^currentcolor$/iu.test(text) ? (current ?? 'black') : text);
  if (parsed.isValid() && parsed.alpha() === 0) return undefined;
  return { kind: 'plain', colour: parsed.isValid() ? parsed.alpha(1).toHex() : '#000000' };
}

/** The mean of several colours, for gradients. */
export function meanColour(colours: readonly string[]): string {
  const parts = colours.map((colour) => colord(colour)).filter((colour) => colour.isValid());
  if (parts.length === 0) return '#000000';
  const sum = { r: 0, g: 0, b: 0 };
  for (const part of parts) {
    const { r, g, b } = part.toRgb();
    [sum.r, sum.g, sum.b] = [sum.r + r, sum.g + g, sum.b + b];
  }
  return colord({ r: sum.r / parts.length, g: sum.g / parts.length, b: sum.b / parts.length }).toHex();
}
