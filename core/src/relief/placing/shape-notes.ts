import { type Note, note } from '../../notes/index.js';
import { type Blank, type Shape, type Sign } from '../../sign/index.js';

/** Note where a corner radius is more than half the shorter side, or an arc rises more than half its width. */
export function radiusNote(shape: Shape | Blank['outline'], name: string, sign: Sign, part?: string): Note[] {
  const [asked, most] =
    shape.kind === 'rectangle'
      ? [shape.cornerRadius, Math.min(shape.width, shape.height) / 2]
      : shape.kind === 'arch'
        ? [shape.rise, Math.min(shape.width / 2, shape.height)]
        : [0, 0];
  if (asked <= most) return [];
  return [note(shape.kind === 'arch' ? 'rise-reduced' : 'radius-reduced', { part }, name, asked, most, sign.unit)];
}
