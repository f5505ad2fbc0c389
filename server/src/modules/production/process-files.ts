import type { ProcessChoice } from '@plain-relief/api';
import { type Drawing } from '@plain-relief/core/drawing';
import { closedStl, closedThreeMf, dxfFile, svgFile } from '@plain-relief/core/format';
import {
  beamPlan,
  draftLack,
  inlayDrawing,
  maskDrawing,
  patternOf,
  pegMesh,
  printFindings,
  printSentences,
  split,
  USUAL_BEAM,
  USUAL_DRAFT,
  USUAL_INLAY,
  USUAL_MASK,
  USUAL_PEGS,
  USUAL_PRINT,
} from '@plain-relief/core/processes';
import { type Evaluation } from '@plain-relief/core/relief';
import { BACK, meshBounds } from '@plain-relief/core/mesh';
import { colouredInSpace, solidOf, spaceSolid } from '@plain-relief/core/solid';
import { strToU8, zipSync } from 'fflate';

/** Files of other ways of making than cutting, each an archive: drawings as SVG and DXF, a layer a process, and what is to be known. */

/** For a laser or a knife: fill, score, cut inside, cut outside. */
export function laserFiles(evaluation: Evaluation, name: string, process: ProcessChoice, date: Date): Uint8Array {
  const { kerf = USUAL_BEAM.kerf, leadIn = USUAL_BEAM.leadIn, overlap = USUAL_BEAM.overlap } = process;
  const { drawing, cutMm, scoredMm, fillMm2, cannot } = beamPlan(evaluation, { kerf, leadIn, overlap });
  const told = [
    `Kerf ${kerf} mm, lead-in ${leadIn} mm, overlap ${overlap} mm. Run in this order: fill, score, cut inside, cut outside.`,
    `Cut ${(cutMm / 1000).toFixed(2)} m, scored ${(scoredMm / 1000).toFixed(2)} m, filled ${(fillMm2 / 100).toFixed(1)} cm².`,
    ...cannot,
  ];
  return archive(evaluation, `${name}-laser`, drawing, told, date);
}

/** Masks to paint through, a layer a finish. @throws Error with a sentence where nothing is painted */
export function maskFiles(evaluation: Evaluation, name: string, process: ProcessChoice, date: Date): Uint8Array {
  const { choke = USUAL_MASK.choke, isMirrored = USUAL_MASK.isMirrored, border = USUAL_MASK.border } = process;
  const drawing = maskDrawing(evaluation, { choke, isMirrored, border });
  if (drawing.items.length === 0)
    throw new Error('No level of the sign wears a finish, so that there is nothing to mask: give a tier a finish first.');
  const layers = drawing.items.map(({ layer }) => layer).join(', ');
  const told = [`Openings ${choke} mm larger than what is painted${isMirrored ? ', mirrored' : ''}. Layers: ${layers}.`];
  return archive(evaluation, `${name}-masks`, drawing, told, date);
}

/** Pockets and the plugs that fill them, a layer each. @throws InlayError where nothing is filled, or the gap is too deep */
export function inlayFiles(evaluation: Evaluation, name: string, process: ProcessChoice, date: Date): Uint8Array {
  const { gap = USUAL_INLAY.gap, angle = USUAL_INLAY.angle, depth = USUAL_INLAY.depth, radius = USUAL_INLAY.radius } = process;
  const drawing = inlayDrawing(evaluation, { gap, angle, depth, radius });
  const how =
    angle > 0
      ? `Pockets ${depth} mm deep with a vee bit of ${angle}°; plugs are mirrored, cut with the same bit, and stand ${gap} mm over the floor: glue, press in, and plane off.`
      : `Straight sides; plugs are ${gap} mm smaller all round for glue.`;
  const corners =
    radius > 0
      ? `Corners are rounded for a tool of ${radius} mm radius.`
      : 'Corners are as sharp as drawn: for a beam or a blade.';
  return archive(evaluation, `${name}-inlays`, drawing, [how, corners], date);
}

/** A pattern for casting as STL, with what its sides lack of draft. */
export function patternFiles(evaluation: Evaluation, name: string, process: ProcessChoice, date: Date): Uint8Array {
  const { shrinkage = 1.5, draft = USUAL_DRAFT } = process;
  const solid = spaceSolid(evaluation);
  const pattern = patternOf(solid, shrinkage);
  const { areaMm2, least, at } = draftLack(solid, draft);
  const told = [
    `As large as ${(100 + shrinkage).toFixed(2)} % of the sign: the metal shrinks by ${shrinkage} %.`,
    at
      ? `${(areaMm2 / 100).toFixed(1)} cm² of its sides lean less than ${draft}° from upright, the steepest by ${least.toFixed(1)}°, the largest of them at ${at.x.toFixed(1)}, ${at.y.toFixed(1)}, ${at.z.toFixed(1)} mm: slope the sides of the tiers and of the blank, or have the foundry add draft.`
      : `All sides lean ${draft}° or more from upright.`,
  ];
  const files = {
    [`${name}-pattern.stl`]: closedStl(pattern, `${evaluation.sign.title}, pattern`),
    'read-me.txt': strToU8(`${told.join('\n')}\n`),
  };
  return zipSync(files, { mtime: date });
}

/** A 3MF of every piece that a sign is split into, a peg, and what a printer would have trouble with. @throws SplitError */
export function printFiles(evaluation: Evaluation, name: string, process: ProcessChoice, date: Date): Uint8Array {
  const { line = USUAL_PRINT.line, layer = USUAL_PRINT.layer, bedWidth = 0, bedDepth = 0, bedHeight = 0 } = process;
  const { upright = [], level = [], peg = USUAL_PEGS.diameter, pegDeep = USUAL_PEGS.deep, pegPlay = USUAL_PEGS.play } = process;
  const { title } = evaluation.sign;
  const anything = (mm: number): number => (mm > 0 ? mm : Infinity);
  const bed = { width: anything(bedWidth), depth: anything(bedDepth), height: anything(bedHeight) };
  const painted = colouredInSpace(evaluation, solidOf(evaluation, 'all but inserts'));
  const solid = painted.mesh;
  const back = Math.max(0, painted.wears[solid.belongs.indexOf(BACK)] ?? 0);
  const pegs = { diameter: peg, deep: pegDeep, play: pegPlay };
  const { pieces, pegs: places, loose } = split(solid, { upright, level }, pegs);
  const files: Record<string, Uint8Array> = {};
  const told: string[] = [];
  for (const { name: piece, mesh, from } of pieces) {
    const named = pieces.length === 1 ? name : `${name}-${piece}`;
    const belongs = from.map((triangle) => (triangle < 0 ? BACK : solid.belongs[triangle]));
    const wears = from.map((triangle) => (triangle < 0 ? back : painted.wears[triangle]));
    const of = { name: pieces.length === 1 ? title : piece, mesh: { ...painted, mesh: { ...mesh, belongs }, wears } };
    files[`${named}.3mf`] = closedThreeMf([of], title, date);
    const { min, max } = meshBounds(mesh);
    const [wide, deep, high] = [0, 1, 2].map((k) => max[k] - min[k]);
    const fits = high <= bed.height && ((wide <= bed.width && deep <= bed.depth) || (deep <= bed.width && wide <= bed.depth));
    if (pieces.length > 1) told.push(`${piece}: ${wide.toFixed(1)} × ${deep.toFixed(1)} × ${high.toFixed(1)} mm${fits ? '' : ', larger than the bed'}.`); // prettier-ignore
  }
  if (places.length > 0) {
    files[`${name}-peg.stl`] = closedStl(pegMesh(pegs), 'peg');
    told.push(
      `Print ${places.length} pegs ⌀ ${peg} mm, ${2 * pegDeep} mm long: their sockets are ${pegPlay} mm wider all round.`,
    );
  }
  for (const { axis, at, pegs: few } of loose)
    told.push(`At ${axis} = ${at} mm there is room for ${few === 0 ? 'no peg' : 'one peg'}: glue it against a straight edge, or take thinner pegs.`); // prettier-ignore
  const choice = { line, layer, ...(pieces.length === 1 && { bed }) };
  told.unshift(...printSentences(printFindings(evaluation, solid, choice), choice));
  files['read-me.txt'] = strToU8(`${told.join('\n')}\n`);
  return zipSync(files, { mtime: date });
}

function archive(evaluation: Evaluation, name: string, drawing: Drawing, told: readonly string[], date: Date): Uint8Array {
  const { unit, title } = evaluation.sign;
  const files = {
    [`${name}.svg`]: strToU8(svgFile(drawing, { unit, title })),
    [`${name}.dxf`]: strToU8(dxfFile(drawing, unit)),
    'read-me.txt': strToU8(`${told.join('\n')}\n`),
  };
  return zipSync(files, { mtime: date });
}
