import { notesOf } from '@plain-relief/core/checks';
import { isWatertight, meshBounds, volume } from '@plain-relief/core/mesh';
import { type Evaluation } from '@plain-relief/core/relief';
import { SignError } from '@plain-relief/core/sign';
import { figuresOf, inSpaceOrFlat, solidOf } from '@plain-relief/core/solid';
import { CommandError, readArguments } from './command.js';
import { OF_SIGN, signFrom } from './one-sign.js';

/** What signs are: size, levels, areas by finish, letters and notes. Of several, a list with their files. @throws CommandError and what the core throws */
export async function inspectCommand(args: readonly string[], usage: string): Promise<object> {
  const { values, positionals: paths } = readArguments(args, OF_SIGN, usage);
  if (paths.length === 0) throw new CommandError(usage);
  const inspected = async (path: string): Promise<object> => inspection((await signFrom(path, values)).evaluation);
  if (paths.length === 1) return inspected(paths[0]);
  const all: object[] = [];
  for (const path of paths) {
    try {
      all.push({ file: path, ...(await inspected(path)) });
    } catch (error) {
      // By itself it does not say which.
      throw error instanceof SignError ? new CommandError(`${path}: ${error.message}`) : error;
    }
  }
  return all;
}

function inspection(evaluation: Evaluation): object {
  const { sign, levels } = evaluation;
  const flat = solidOf(evaluation);
  const { mesh } = inSpaceOrFlat(evaluation, flat);
  const hasMaterial = mesh.triangles.length > 0;
  return {
    version: sign.version,
    title: sign.title,
    unit: sign.unit,
    boundsMm: hasMaterial ? meshBounds(mesh) : null,
    volumeMm3: hasMaterial ? volume(mesh) : 0,
    watertight: isWatertight(mesh),
    triangles: mesh.triangles.length / 3,
    finishes: figuresOf(evaluation, flat).areas.map(({ finish, topMm2, sidesMm2 }) => ({
      name: finish.name,
      topMm2,
      sidesMm2,
    })),
    levels: levels.map(({ z, areaMm2 }) => ({ z, areaMm2 })),
    letters: evaluation.parts.reduce((sum, part) => sum + part.letters, 0),
    notes: notesOf(evaluation).map(({ code, weight, text, part, tier }) => ({ code, weight, text, part, tier })),
  };
}
