import { newSign, type Part, readSign, type Sign } from '@plain-relief/core/sign';

/**
 * Parts from outside, each checked as a document is, apart from what they follow, which may be in another sign. None where one of
 * them is no part.
 */
export function readParts(text: string): readonly Part[] {
  try {
    const parts = JSON.parse(text) as Sign['parts'];
    return parts.filter((part) => readSign({ ...newSign('Copied', 'mm'), parts: [alone(part)] }).parts.length === 1);
  } catch {
    return [];
  }
}

function alone(part: Part): Part {
  const rest = { ...part, sitsOn: { kind: 'face' as const } };
  if (rest.kind === 'text') {
    if (rest.path?.kind === 'part') delete rest.path;
    return rest;
  }
  const { shape } = rest;
  if (shape.kind === 'border') return { ...rest, shape: { ...shape, of: 'blank' } };
  return shape.kind === 'combined' ? { ...rest, shape: { kind: 'circle', diameter: 1 } } : rest;
}
