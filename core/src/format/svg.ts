import { type Drawing, type Fill, type Item, type LabelItem } from '../drawing/index.js';
import { type Outline } from '../geometry/index.js';
import { type LengthUnit, MM_PER_INCH } from '../units/index.js';
import { figure, runPath } from './path-data.js';

const escaped = (text: string): string =>
  text.replace(/[&<>"']/gu, (c) => `&#${c.charCodeAt(0)};`).replace(/[\x00-\x08\x0b\x0c\x0e-\x1f]/gu, '');

/** Path data of an outline, y turned downwards; to be filled by the even-odd rule. */
export const outlinePath = (outline: Outline, per = 1): string => outline.map((contour) => runPath(contour, true, per)).join('');

export interface SvgChoice {
  /** Unit of the physical size and of the coordinates. */
  readonly unit: LengthUnit;
  readonly title: string;
  /** Extra space around the drawing, in mm. */
  readonly margin?: number;
}

/**
 * A drawing as an SVG file at true size: width and height in mm or inches, a viewBox in the same unit, one group a layer
 * (SVG 1.1, W3C, 7.2 and 7.7).
 */
export function svgFile(drawing: Drawing, { unit, title, margin = 0 }: SvgChoice): string {
  const per = unit === 'mm' ? 1 : MM_PER_INCH;
  const { minX, minY, maxX, maxY } = drawing.bounds;
  const width = (maxX - minX + 2 * margin) / per;
  const height = (maxY - minY + 2 * margin) / per;
  const layers = new Map<string, Item[]>();
  for (const item of drawing.items) {
    const own = layers.get(item.layer);
    if (own) own.push(item);
    else layers.set(item.layer, [item]);
  }
  const hatches: string[] = [];
  const groups = [...layers].map(([layer, items]) => {
    const body = items.map((item) => svgItem(item, per, hatches)).join('\n    ');
    return `  <g id="${escaped(layer.replace(/\s+/gu, '-'))}" data-layer="${escaped(layer)}">\n    ${body}\n  </g>`;
  });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${figure(width)}${unit}" height="${figure(height)}${unit}" ` +
      `viewBox="${figure((minX - margin) / per)} ${figure((-maxY - margin) / per)} ${figure(width)} ${figure(height)}">`,
    `  <title>${escaped(title)}</title>`,
    ...(hatches.length > 0 ? [`  <defs>${hatches.join('')}</defs>`] : []),
    ...groups,
    '</svg>',
    '',
  ].join('\n');
}

function svgItem(item: Item, per: number, hatches: string[]): string {
  if (item.kind === 'label') return svgLabel(item, per);
  const pen = item.pen;
  const dash = pen?.dash ? ` stroke-dasharray="${pen.dash.map((d) => figure(d / per)).join(' ')}"` : '';
  const stroke = pen ? ` stroke="${pen.colour}" stroke-width="${figure(pen.width / per)}"${dash}` : '';
  if (item.kind === 'line') return `<path fill="none"${stroke} d="${runPath(item.points, item.closed, per)}"/>`;
  const fill = item.fill ? svgFill(item.fill, per, hatches) : 'none';
  return `<path fill="${fill}" fill-rule="evenodd"${stroke} d="${outlinePath(item.outline, per)}"/>`;
}

function svgFill(fill: Fill, per: number, hatches: string[]): string {
  if (fill.kind === 'plain') return fill.colour;
  const id = `hatch-${hatches.length + 1}`;
  const size = fill.spacing / per;
  hatches.push(
    `<pattern id="${id}" width="${figure(size)}" height="${figure(size)}" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">` +
      `<rect width="${figure(size)}" height="${figure(size)}" fill="${fill.ground}"/>` +
      `<path d="M0 0H${figure(size)}M0 0V${figure(size)}" stroke="${fill.colour}" stroke-width="${figure(size / 8)}"/></pattern>`,
  );
  return `url(#${id})`;
}

/** Ratio of cap height to font size of the plain sans serif that labels are set in (common practice, no source). */
const CAP_SHARE = 0.7;

function svgLabel({ x, y, text, height, align, turn, colour }: LabelItem, per: number): string {
  const anchor = { left: 'start', centre: 'middle', right: 'end' }[align];
  const [px, py] = [figure(x / per), figure(-y / per)];
  const turned = turn === 0 ? '' : ` transform="rotate(${figure(-turn)} ${px} ${py})"`;
  return `<text x="${px}" y="${py}" font-size="${figure(height / CAP_SHARE / per)}" font-family="sans-serif" text-anchor="${anchor}" fill="${colour}"${turned}>${escaped(text)}</text>`;
}
