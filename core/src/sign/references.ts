import type { Part } from './schema.js';

/** The parts whose outlines a part follows, and where it says so. */
export function outlinesUsed(part: Part): { readonly at: string; readonly id: string }[] {
  if (part.kind === 'text') return part.path?.kind === 'part' ? [{ at: 'path.part', id: part.path.part }] : [];
  const { shape } = part;
  if (shape.kind === 'border') return shape.of === 'blank' ? [] : [{ at: 'shape.of', id: shape.of }];
  return shape.kind === 'combined' ? shape.of.map((id, i) => ({ at: `shape.of[${i}]`, id })) : [];
}
