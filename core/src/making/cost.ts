import { type Evaluation } from '../relief/index.js';
import { type ShopMaterial, type ShopRates } from '../shop/index.js';
import { figuresOf, solidOf } from '../solid/index.js';
import { type WrittenPlan } from './written-plan.js';

/** One part of what a sign costs, with what it comes from. */
export interface CostLine {
  readonly what: 'machine' | 'tool changes' | 'material' | 'finishing' | 'up to the least price';
  readonly amount: number;
  /** In words: “12.4 min at 48 an hour”. */
  readonly from: string;
}

export interface Cost {
  readonly currency: string;
  readonly total: number;
  readonly lines: readonly CostLine[];
}

/** What is made, as far as it decides what it costs. */
export interface Made {
  readonly machineMinutes: number;
  readonly toolChanges: number;
  /** Size and thickness of the stock in mm. */
  readonly width: number;
  readonly height: number;
  readonly thickness: number;
  readonly material: ShopMaterial;
  /** mm² of each kind of finish, by its name in the rates. */
  readonly finished: ReadonlyMap<string, number>;
}

/**
 * What one sign costs by the shop's rates. Material is its part of the cheapest sheet, by area, that is thick enough; of none that is kept
 * nothing is counted, and the line says so.
 */
export function costOf(made: Made, rates: ShopRates): Cost {
  const { machineMinutes, toolChanges, finished } = made;
  const lines: CostLine[] = [
    {
      what: 'machine',
      amount: (machineMinutes / 60) * rates.machineHour,
      from: `${machineMinutes.toFixed(1)} min at ${rates.machineHour} an hour`,
    },
    { what: 'tool changes', amount: toolChanges * rates.toolChange, from: `${toolChanges} at ${rates.toolChange}` },
    materialLine(made),
  ];
  for (const [finish, mm2] of finished) {
    const rate = rates.finishing.find((each) => each.finish === finish);
    if (rate) lines.push({ what: 'finishing', amount: (mm2 / 1e6) * rate.perSquareMetre, from: `${finish}, ${(mm2 / 1e4).toFixed(0)} cm² at ${rate.perSquareMetre} a square metre` }); // prettier-ignore
  }
  const sum = lines.reduce((all, { amount }) => all + amount, 0);
  if (sum < rates.least)
    lines.push({ what: 'up to the least price', amount: rates.least - sum, from: `${rates.least} at least` });
  return { currency: rates.currency, total: Math.max(sum, rates.least), lines };
}

function materialLine({ material, width, height, thickness }: Made): CostLine {
  const fitting = material.sheets.filter((sheet) => sheet.thickness >= thickness - 1e-6 && fits(sheet, width, height));
  const part = (sheet: ShopMaterial['sheets'][number]): number => (sheet.price * width * height) / (sheet.width * sheet.height);
  const [cheapest] = [...fitting].sort((a, b) => part(a) - part(b));
  if (!cheapest)
    return {
      what: 'material',
      amount: 0,
      from: `no sheet of ${material.name} is kept that is ${thickness} mm thick and large enough`,
    };
  const share = ((100 * width * height) / (cheapest.width * cheapest.height)).toFixed(1);
  return {
    what: 'material',
    amount: part(cheapest),
    from: `${share} % of a sheet ${cheapest.width} × ${cheapest.height} × ${cheapest.thickness} at ${cheapest.price}`,
  };
}

/** Either way round. */
const fits = (sheet: { readonly width: number; readonly height: number }, width: number, height: number): boolean =>
  (sheet.width >= width && sheet.height >= height) || (sheet.width >= height && sheet.height >= width);

/** What a sign costs that is made by a plan, by {@link costOf}: of finishes those count that are applied. */
export function costOfPlan(
  evaluation: Evaluation,
  { plan, minutes, files }: Pick<WrittenPlan, 'plan' | 'minutes' | 'files'>,
  rates: ShopRates,
): Cost {
  const { box, top, bottom } = plan.stock;
  const finished = new Map<string, number>();
  for (const { finish, topMm2, sidesMm2 } of figuresOf(evaluation, solidOf(evaluation)).areas) {
    const isApplied = evaluation.sign.finishes?.some(({ id }) => id === finish.id);
    if (isApplied) finished.set(finish.gloss, (finished.get(finish.gloss) ?? 0) + topMm2 + sidesMm2);
  }
  return costOf(
    {
      machineMinutes: minutes,
      toolChanges: files.length,
      width: box.maxX - box.minX,
      height: box.maxY - box.minY,
      thickness: top - bottom,
      material: plan.choice.material,
      finished,
    },
    rates,
  );
}
