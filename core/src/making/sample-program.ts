import { USUAL } from '../cutting/index.js';
import { programsOf, type WritablePlan } from '../gcode/index.js';
import { ProgramError, readProgram } from '../program/index.js';
import { type ShopMachine, type ShopMaterial, type ShopTool } from '../shop/index.js';

/** A short program in the dialect of a machine, and what is wrong with it: empty where it can be read back. */
export interface SampleProgram {
  readonly text: string;
  readonly trouble: string;
}

const TOOL: ShopTool = {
  id: 'sample',
  name: '3 mm end mill',
  number: 2,
  form: { kind: 'end', diameter: 3 },
  flutes: 2,
  cuttingLength: 12,
  shank: 3,
  holder: { diameter: 20, standOut: 25 },
  mostPlunge: 600,
  left: 1,
};
const MATERIAL: ShopMaterial = {
  id: 'sample',
  name: 'oak',
  density: 700,
  sheets: [],
  leastWall: 1,
  leastStroke: 1,
  slenderness: 4,
  depthPerPass: 0.5,
  chipLoads: [{ diameter: 3, chip: 0.03 }],
  surfaceSpeed: 200,
  shrinkage: 0,
  isLaserSafe: false,
};

/** A slot with a round end, 20 mm long and 1 mm deep, as a machine's dialect has it, read back as every program is. */
export function sampleProgram(machine: ShopMachine): SampleProgram {
  const half = Array.from({ length: 24 }, (_, i) => {
    const angle = -Math.PI / 2 + (Math.PI * (i + 1)) / 24;
    return [20 + 4 * Math.cos(angle), 4 + 4 * Math.sin(angle), -1];
  });
  const way = Float64Array.from([[20, 0, -1], ...half, [0, 8, -1]].flat());
  const plan: WritablePlan = {
    choice: { ...USUAL, machine, material: MATERIAL, tools: [TOOL] },
    zero: { x: 0, y: 0, z: 0 },
    safe: 3,
    cuts: [
      {
        tool: TOOL,
        purpose: 'clear',
        from: 0,
        to: -1,
        depthPerPass: 1,
        feeds: {
          speed: Math.min(machine.spindle.most, 18_000),
          feed: 1080,
          plunge: 360,
          speedBy: 'surface speed',
          feedBy: 'chip load',
          plungeBy: 'chip load',
        },
        runs: [
          {
            x: 0,
            y: 0,
            airTo: 0.5,
            stretches: [
              { points: Float64Array.of(0, 0, -1), pace: 'plunge' },
              { points: way, pace: 'cut' },
            ],
          },
        ],
        lengthMm: 0,
      },
    ],
  };
  const [{ text }] = programsOf(plan, 'Sample');
  return { text, trouble: troubleIn(text) };
}

function troubleIn(text: string): string {
  let [isTurning, hasTool, hasCut, hasEnded] = [false, false, false, false];
  try {
    for (const step of readProgram(text)) {
      hasEnded ||= step.kind === 'end';
      if (step.kind !== 'feed') continue;
      hasCut = true;
      isTurning ||= step.spindle !== 'still';
      hasTool ||= step.tool === TOOL.number;
    }
  } catch (error) {
    if (error instanceof ProgramError) return error.message;
    throw error;
  }
  if (!hasTool) return 'The program takes no tool up: what is written for the change of tools needs T{tool} and M6.';
  if (!isTurning) return 'The spindle stands still while it cuts: what turns it on needs S{speed} and M3.';
  return hasCut && hasEnded ? '' : 'The program has no end: its last lines need M30 or M2.';
}
