import { type Part, type Sign } from '../document/schema.js';

/**
 * What an edit took away or changed besides what it was for, in sentences: what was set by hand on letters that are gone, and what
 * becomes of parts that followed, surrounded, sat on or were made of parts that are gone.
 */
export function sideEffects(before: Sign, after: Sign): string[] {
  const now = new Map(after.parts.map((part) => [part.id, part]));
  const names = new Map(before.parts.flatMap(({ id, name }) => (now.has(id) ? [] : [[id, name]])));
  if (before.parts === after.parts) return [];
  return before.parts.flatMap((part) => {
    const next = now.get(part.id);
    return next ? [...lettersLost(part, next), ...hostsLost(part, next, names)] : orphaned(part, names);
  });
}

function lettersLost(part: Part, next: Part): string[] {
  if (part.kind !== 'text' || next.kind !== 'text' || part.words === next.words) return [];
  const lost = (part.letters?.length ?? 0) - (next.letters?.length ?? 0);
  if (lost <= 0) return [];
  return [
    `What was set by hand on ${lost === 1 ? 'a letter' : `${lost} letters`} of ${part.name} went with ${lost === 1 ? 'it' : 'them'}.`,
  ];
}

/** @param gone names of the parts that are gone, by id */
function hostsLost(part: Part, next: Part, gone: ReadonlyMap<string, string>): string[] {
  const out: string[] = [];
  if (part.sitsOn.kind === 'part' && next.sitsOn.kind === 'face' && gone.has(part.sitsOn.part))
    out.push(`${next.name} sits on the face now: ${gone.get(part.sitsOn.part)} is gone.`);
  if (part.kind === 'text' && next.kind === 'text' && part.path?.kind === 'part' && !next.path && gone.has(part.path.part))
    out.push(`${next.name} runs straight now: ${gone.get(part.path.part)}, which it ran along, is gone.`);
  if (part.kind !== 'shape' || next.kind !== 'shape') return out;
  const [from, to] = [part.shape, next.shape];
  if (from.kind === 'border' && to.kind === 'border' && to.of === 'blank' && gone.has(from.of))
    out.push(`${next.name} follows the blank now: ${gone.get(from.of)} is gone.`);
  if (from.kind === 'combined' && to.kind === 'combined' && to.of.length < from.of.length)
    out.push(`${next.name} is made of what is left.`);
  return out;
}

/** A combined part goes with the last of those that it is made of. */
function orphaned(part: Part, gone: ReadonlyMap<string, string>): string[] {
  if (part.kind !== 'shape' || part.shape.kind !== 'combined' || !part.shape.of.every((id) => gone.has(id))) return [];
  return [`${part.name} went, too: it was made of ${part.shape.of.map((id) => gone.get(id)).join(', ')}.`];
}
