import type { CrossSection, ManifoldToplevel } from 'manifold-3d';
import { type Backer } from '../src/sign/index.js';
import { CHORDS } from './shape-outline.js';

/** A bar behind letters and its hole, by the definition: as long as they are and by so much longer at either end. */
export function barBehind(
  { CrossSection }: ManifoldToplevel,
  { y, height, ends, beyond, hole }: Extract<Backer, { kind: 'bar' }>,
  kept: CrossSection,
): { readonly bar: CrossSection; readonly hole?: CrossSection } {
  const { min, max } = kept.bounds();
  const [from, to] = [min[0] - (beyond?.left ?? 0), max[0] + (beyond?.right ?? 0)];
  const middle: [number, number] = [(from + to) / 2, y];
  const r = Math.min(to - from, height) / 2;
  const [across, up] = [(to - from) / 2 - r, height / 2 - r];
  const corners: [number, number][] = [[-across, -up], [-across, up], [across, -up], [across, up]]; // prettier-ignore
  const bar =
    ends === 'round'
      ? CrossSection.hull(corners.map((corner) => CrossSection.circle(r, CHORDS).translate(corner)))
      : CrossSection.square([to - from, height], true);
  const placed = bar.translate(middle);
  if (!hole) return { bar: placed };
  const radius = hole.diameter / 2;
  const x = hole.end === 'left' ? from + hole.edge + radius : to - hole.edge - radius;
  return { bar: placed, hole: CrossSection.circle(radius, CHORDS).translate([x, y]) };
}
