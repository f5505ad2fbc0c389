import { type Blank } from '../document/schema-blank.js';
import { type Shape } from '../document/schema.js';
import { type FieldPath, plain, quietIf, type TicketWord, type Writer } from './sentence.js';

/** Shapes that have sizes of their own, by the words of a choice. */
const OWN_SHAPES = [
  ['rectangle', 'a rectangle'],
  ['circle', 'a circle'],
  ['ellipse', 'an ellipse'],
  ['stadium', 'a stadium'],
  ['polygon', 'a regular polygon'],
  ['arch', 'an arch'],
  ['sector', 'a piece of a ring'],
] as const;
const CORNERS = [
  ['rounded', 'rounded'],
  ['chamfered', 'chamfered'],
  ['scooped', 'scooped'],
] as const;
const STANDS = [
  ['flat', 'on a side'],
  ['point', 'on a corner'],
] as const;

const APEXES = [
  ['above', 'above'],
  ['below', 'below'],
] as const;

/** "a rectangle [w] wide and [h] high, corners [rounded] by [r]": a shape with sizes of its own. */
export function shapeWords(
  shape: Exclude<Shape, { kind: 'border' | 'combined' | 'line' | 'fixings' | 'braille' | 'code' }> | Blank['outline'],
  write: Writer,
  ...path: FieldPath
): TicketWord[] {
  const kinds = shape.kind === 'outline' ? [...OWN_SHAPES, ['outline', 'an outline'] as const] : OWN_SHAPES;
  const kind = write.choice('shape', shape.kind, kinds, ...path, 'kind');
  const size = (label: 'width' | 'height' | 'diameter' | 'rise' | 'radius', value: number) =>
    write.length(label, value, ...path, label);
  switch (shape.kind) {
    case 'circle':
      return [kind, plain(' of '), size('diameter', shape.diameter)];
    case 'polygon':
      return [
        kind,
        plain(' of '),
        write.number('sides', shape.sides, '', ...path, 'sides'),
        plain(' sides, '),
        size('diameter', shape.diameter),
        plain(' across corners'),
        // Opposite sides face each other only where their number is even.
        ...(shape.sides % 2 === 0
          ? [plain(' ('), write.length('across flats', shape.diameter * Math.cos(Math.PI / shape.sides), ...path, 'flats'), plain(' across flats)')] // prettier-ignore
          : []),
        plain(', standing '),
        write.choice('stand', shape.stands, STANDS, ...path, 'stands'),
      ];
    case 'sector':
      return [
        kind,
        plain(' '),
        size('height', shape.height),
        plain(' high, its middle line bent to a radius of '),
        size('radius', shape.radius),
        plain(' over '),
        write.number('span', shape.span, '°', ...path, 'span'),
        plain(', its centre '),
        write.choice('centre', shape.apex, APEXES, ...path, 'apex'),
      ];
    default:
      return [
        kind,
        plain(' '),
        size('width', shape.width),
        plain(' wide and '),
        size('height', shape.height),
        plain(' high'),
        ...(shape.kind === 'rectangle' ? cornerWords(shape, write, path) : []),
        ...(shape.kind === 'arch' ? [plain(', its arc rising '), size('rise', shape.rise)] : []),
      ];
  }
}

function cornerWords(shape: Extract<Shape, { kind: 'rectangle' }>, write: Writer, path: FieldPath): TicketWord[] {
  return quietIf(
    shape.cornerRadius === 0,
    plain(', corners '),
    write.choice('corners', shape.corners ?? 'rounded', CORNERS, ...path, 'corners'),
    plain(' by '),
    write.length('corner radius', shape.cornerRadius, ...path, 'cornerRadius'),
  );
}
