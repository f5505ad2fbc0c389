import { type CutChoice, PlanError, type Progress, USUAL } from '../cutting/index.js';
import { troubleOf } from '../dry-run/index.js';
import { type Nest, type NestChoice, sizeOfSheet } from '../nesting/index.js';
import { type Evaluation, type Evaluator } from '../relief/index.js';
import { type MappedItem, type NamedFile, tooNearOnSheet, tooNearWords } from '../runs/index.js';
import { followsPrograms, materialFor, type Shop, type ShopMachine, type ShopMaterial, type ShopTool } from '../shop/index.js';
import { type Sign } from '../sign/index.js';
import { proposedTools } from './proposed-tools.js';
import { type SheetPlan, sheetPlan, type SheetWork } from './sheet-plan.js';
import { signToCut } from './sign-to-cut.js';

/** Plates of a run as they lie on sheets. */
export interface LaidPlates {
  /** Of the sign that they are all like. */
  readonly title: string;
  /** With their numbers for names. */
  readonly items: readonly MappedItem[];
  readonly nest: Pick<Nest, 'laid'>;
  readonly choice: NestChoice;
  /** How an item is to come out; the same object where plates are alike, so that they are laid once. */
  readonly evaluationOf: (item: number) => Evaluation;
}

/** What sheets are cut with: the same tools for all, or those that the plates of a sheet ask for. */
export interface SheetMeans extends Omit<CutChoice, 'tools'> {
  readonly tools: readonly ShopTool[] | ((evaluations: readonly Evaluation[]) => readonly ShopTool[]);
}

/** What of a shop's library the sheets of a run are cut with; kept as it is when programs are asked for. */
export interface KeptMeans {
  readonly machine: ShopMachine;
  readonly material: ShopMaterial;
  /** Those that were chosen; all of the shop's where it is left to the plates of a sheet which of them are used. */
  readonly tools: readonly ShopTool[];
  readonly isChosen: boolean;
}

/** Programs that are asked for by ids of a shop's library. */
export interface AskedMeans {
  readonly machine: string;
  /** Those that the plates of a sheet are proposed where none are named. */
  readonly tools?: readonly string[];
}

/** A machine, material or tool that a shop does not have. */
export class MeansError extends Error {
  /** @param path of what was asked */
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message);
    this.name = 'MeansError';
  }
}

/** What is asked for, of a shop's library. @throws MeansError where the shop has it not, or not any longer */
export function keptMeans(shop: Shop, { blank }: Pick<Sign, 'blank'>, { machine: id, tools: ids }: AskedMeans): KeptMeans {
  const machine = shop.machines.find((each) => each.id === id && followsPrograms(each));
  if (!machine) throw new MeansError('machine', 'The shop has this machine no longer: choose another.');
  const material = materialFor(shop, blank.material);
  if (!material)
    throw new MeansError('material', `The shop has no material “${blank.material}”: add it under Shop, or name another on the sign.`); // prettier-ignore
  if (!ids) return { machine, material, tools: shop.tools, isChosen: false };
  const tools = ids.map((toolId) => shop.tools.find((each) => each.id === toolId));
  if (tools.some((tool) => !tool)) throw new MeansError('tools', 'The shop has one of these tools no longer: choose others.');
  return { machine, material, tools: tools as ShopTool[], isChosen: true };
}

/** How sheets are cut by it, otherwise as usual. */
export const meansOf = ({ machine, material, tools, isChosen }: KeptMeans): SheetMeans => ({
  ...USUAL,
  machine,
  material,
  tools: isChosen ? tools : (plates) => proposedToolsOf(plates, { tools }),
});

/** What became of the programs of a sheet: the plan; why there is none, or what is wrong with it, in a sentence. Neither where nothing lies there. */
export interface MadePrograms {
  readonly plan?: SheetPlan;
  readonly trouble?: string;
}

/** mm between the places of a sheet that a dry run looks at. */
export const SHEET_CELL = 0.2;

/** What a sheet's folder of programs is called. @param sheet from 0 */
export const sheetFolder = (sheet: number): string => `sheet ${sheet + 1}`;

/**
 * How plates are to come out that signs say, for the programs of a sheet: those that are alike but for their titles are one object.
 * @param signOf of an item; its fonts are loaded
 */
export function evaluationsToCut(evaluator: Evaluator, signOf: (item: number) => Sign): LaidPlates['evaluationOf'] {
  const known = new Map<string, Evaluation>();
  return (item) => {
    const sign = signToCut(signOf(item));
    const key = JSON.stringify({ ...sign, title: '' });
    const evaluation = known.get(key) ?? evaluator.evaluateLoaded(sign);
    known.set(key, evaluation);
    return evaluation;
  };
}

/** The tools that plates are proposed, of each that is not like another, in the order of their numbers. */
export function proposedToolsOf(evaluations: readonly Evaluation[], shop: { readonly tools: readonly ShopTool[] }): ShopTool[] {
  const wanted = new Set([...new Set(evaluations)].flatMap((evaluation) => proposedTools(evaluation, shop)));
  return [...wanted].sort((a, b) => a.number - b.number);
}

/**
 * Lays, writes and proves the programs of one sheet, counted from 0. What cannot be laid is told, and keeps no other sheet from being made.
 * @param cell mm between the places that the dry run looks at
 * @param progress told how far it is, and with what
 */
export function programsOfSheet(
  { title, items, nest, choice, evaluationOf }: LaidPlates,
  sheet: number,
  means: SheetMeans,
  { cell = SHEET_CELL, progress }: { readonly cell?: number; readonly progress?: Progress } = {},
): MadePrograms {
  const own = nest.laid.filter((each) => each.sheet === sheet);
  // An offcut that nothing fits on.
  if (own.length === 0) return {};
  const near = tooNearOnSheet(items, nest, sheet, choice);
  if (near.length > 0) return { trouble: tooNearWords(near) };
  const works = own.map(({ item, x, y, turn }): SheetWork => ({ name: `plate ${items[item].name}`, evaluation: evaluationOf(item), x, y, turn })); // prettier-ignore
  const tools = typeof means.tools === 'function' ? means.tools(works.map(({ evaluation }) => evaluation)) : means.tools;
  try {
    const size = { ...sizeOfSheet(choice, sheet), spacing: choice.spacing };
    const plan = sheetPlan(works, size, { ...means, tools }, `${title}, ${sheetFolder(sheet)}`, { cell, progress });
    const trouble = troubleOf(plan.run);
    return { plan, ...(trouble !== '' && { trouble: `it is not proven: ${trouble}.` }) };
  } catch (error) {
    if (!(error instanceof PlanError)) throw error;
    return { trouble: error.message };
  }
}

/** The programs of a sheet in a folder of their own. */
export const filesOfPrograms = ({ programs }: SheetPlan, sheet: number): NamedFile[] =>
  programs.map(({ name, text }) => ({ name: `${sheetFolder(sheet)}/${name}`, content: text }));
