import { draftLack, USUAL_DRAFT, withDraft } from '../processes/index.js';
import { type Evaluation } from '../relief/index.js';
import { type Mesh } from '../mesh/index.js';
import { type Sign } from '../sign/index.js';
import { type Finding } from './finding.js';
import { type Limits } from './limits.js';

/** mm² of sides that are told. */
const LEAST = 1;
/** mm above the back up to which a side is one of the blank, or of a hole: those are cut after casting. */
const AT_BACK = 1e-6;

/** Sides of what is raised or carved that keep a pattern in the sand, of materials that are cast. */
export function castingFindings({ sign }: Evaluation, solid: Mesh, { shrinkage }: Limits): Finding[] {
  if (!shrinkage) return [];
  const { positions: p, triangles } = solid;
  const back = -sign.blank.thickness + AT_BACK;
  const isSide = (triangle: number): boolean => [0, 1, 2].every((corner) => p[3 * triangles[3 * triangle + corner] + 2] > back);
  const { areaMm2, least, at } = draftLack(solid, USUAL_DRAFT, isSide);
  if (areaMm2 < LEAST || !at) return [];
  const text = `Where it is cast, ${areaMm2.toFixed(0)} mm² of sides lean ${least.toFixed(1)}° from upright: a pattern leaves the sand from ${USUAL_DRAFT}° on.`;
  return [{ check: 'no-draft', text, measured: least, limit: USUAL_DRAFT, places: [{ x: at.x, y: at.y }] }];
}

/** The tiers of every part, leaning where they stood upright. */
export const leaningParts = (sign: Sign): Sign['parts'] => withDraft(sign, USUAL_DRAFT).parts;
