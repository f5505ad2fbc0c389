import {
  type AskedMeans,
  evaluationsToCut,
  filesOfPrograms,
  keptMeans,
  MeansError,
  meansOf,
  programsOfSheet,
} from '@plain-relief/core/making';
import { type Nest, type NestChoice } from '@plain-relief/core/nesting';
import { type Evaluator } from '@plain-relief/core/relief';
import { type NamedFile, type SheetItem } from '@plain-relief/core/runs';
import { type Shop } from '@plain-relief/core/shop';
import { type Sign } from '@plain-relief/core/sign';

/** What became of the programs of a sheet: how long they take; why there are none, or what is wrong with them. */
export interface ToldPrograms {
  readonly minutes?: number;
  readonly trouble?: string;
}

/** Sheets of plates, with all that is needed to cut them. */
export interface LaidSheets {
  readonly sign: Sign;
  readonly items: readonly SheetItem[];
  /** The plates' own documents, in the order of the items. */
  readonly signs: readonly Sign[];
  readonly nest: Nest;
  readonly choice: NestChoice;
  readonly evaluator: Evaluator;
}

/** Programs that cut a sheet, from 0, on a machine of the shop, in a folder of their own. */
export function writtenPrograms(
  { sign, items, signs, nest, choice, evaluator }: LaidSheets,
  sheet: number,
  shop: Shop,
  asked: AskedMeans,
): ToldPrograms & { readonly files: readonly NamedFile[] } {
  try {
    const means = meansOf(keptMeans(shop, sign, asked));
    const evaluationOf = evaluationsToCut(evaluator, (item) => signs[item]);
    const { plan, trouble } = programsOfSheet({ title: sign.title, items, nest, choice, evaluationOf }, sheet, means);
    return {
      files: plan ? filesOfPrograms(plan, sheet) : [],
      ...(plan && { minutes: plan.minutes }),
      ...(trouble !== undefined && { trouble }),
    };
  } catch (error) {
    if (!(error instanceof MeansError)) throw error;
    return { files: [], trouble: error.message };
  }
}
