import { PlanError, USUAL } from '@plain-relief/core/cutting';
import { troubleOf } from '@plain-relief/core/dry-run';
import { proposedTools, sheetPlan, type SheetWork, signToCut } from '@plain-relief/core/making';
import { type Nest, type NestChoice, sizeOfSheet } from '@plain-relief/core/nesting';
import { type Evaluator } from '@plain-relief/core/relief';
import { type NamedFile, type SheetItem, tooNearOnSheet, tooNearWords } from '@plain-relief/core/runs';
import { materialFor, type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';

/** What became of the programs of a sheet: how long they take; why there are none, or what is wrong with them. */
export interface ToldPrograms {
  readonly minutes?: number;
  readonly trouble?: string;
}

/** A sheet of plates, with all that is needed to cut it. */
export interface LaidSheet {
  readonly sign: Sign;
  readonly items: readonly SheetItem[];
  /** The plates' own documents, in the order of the items. */
  readonly signs: readonly Sign[];
  readonly nest: Nest;
  readonly choice: NestChoice;
  readonly sheet: number;
  readonly evaluator: Evaluator;
}

/** mm between the places that a dry run looks at. */
const CELL = 0.2;

/** Programs that cut a sheet on a machine of the shop, with the tools that its first plate is proposed, in a folder of their own. */
export function programsOfSheet(
  { sign, items, signs, nest, choice, sheet, evaluator }: LaidSheet,
  shop: Shop,
  machineId: string,
): ToldPrograms & { readonly files: readonly NamedFile[] } {
  const machine = shop.machines.find(({ id }) => id === machineId);
  const material = materialFor(shop, sign.blank.material);
  if (!machine) return { files: [], trouble: 'The shop has this machine no longer: choose another.' };
  if (!material)
    return { files: [], trouble: `The shop has no material “${sign.blank.material}”: add it under Shop, or name another on the sign.` }; // prettier-ignore
  const own = nest.laid.filter((each) => each.sheet === sheet);
  // An offcut that nothing fits on.
  if (own.length === 0) return { files: [] };
  const near = tooNearOnSheet(items, nest, sheet, choice);
  if (near.length > 0) return { files: [], trouble: `Sheet ${sheet + 1}: ${tooNearWords(near)}` };
  const works = own.map(({ item, x, y, turn }): SheetWork => ({ name: `plate ${items[item].name}`, evaluation: evaluator.evaluateLoaded(signToCut(signs[item])), x, y, turn })); // prettier-ignore
  const how = { ...USUAL, machine, material, tools: proposedTools(works[0].evaluation, shop) };
  const name = `sheet ${sheet + 1}`;
  try {
    const plan = sheetPlan(works, { ...sizeOfSheet(choice, sheet), spacing: choice.spacing }, how, `${sign.title}, ${name}`, {
      cell: CELL,
    });
    const trouble = troubleOf(plan.run);
    return {
      files: plan.programs.map((program) => ({ name: `${name}/${program.name}`, content: program.text })),
      minutes: plan.minutes,
      ...(trouble !== '' && { trouble: `Sheet ${sheet + 1} is not proven: ${trouble}.` }),
    };
  } catch (error) {
    if (!(error instanceof PlanError)) throw error;
    return { files: [], trouble: `Sheet ${sheet + 1}: ${error.message}` };
  }
}
