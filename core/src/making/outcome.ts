import { type PinHole, type TabPlace } from '../cutting/index.js';
import { type Box } from '../geometry/index.js';
import { type DryRun } from '../dry-run/index.js';
import { type Cost } from './cost.js';
import { type PlannedFile, type WrittenPlan } from './written-plan.js';

/** A file of a plan, as it is kept. */
export interface KeptFile extends PlannedFile {
  readonly toolName: string;
  /** How far the tool's tip stands out of its holder, in mm. */
  readonly standOut: number;
  readonly bytes: number;
  readonly lines: number;
  readonly sha256: string;
}

/** What is known of a plan that was made: all that is shown of it but the ways themselves, which are read off its programs. */
export interface PlanOutcome extends Omit<WrittenPlan, 'plan' | 'programs' | 'run' | 'files' | 'stock'> {
  readonly files: readonly KeptFile[];
  readonly stock: { readonly top: number; readonly bottom: number; readonly box: Box };
  /** Height at which tools move freely. */
  readonly safe: number;
  /** Where tabs hold; plans that were kept before they could be moved have none. */
  readonly tabs?: readonly TabPlace[];
  /** Holes of pins; plans that were kept before there were any have none. */
  readonly pins?: readonly PinHole[];
  readonly run: Omit<DryRun, 'duration'>;
  /** mm between the places at which the dry run looked. */
  readonly cell: number;
  readonly cost: Cost;
}

/** Puts together what is kept of a plan. @param hash of a text, in hexadecimal: SHA-256 */
export function outcomeOf(written: WrittenPlan, cost: Cost, cell: number, hash: (text: string) => string): PlanOutcome {
  const { plan, programs, run, files, stock, ...figures } = written;
  return {
    ...figures,
    files: files.map((file, i) => ({
      ...file,
      toolName: programs[i].tool.name,
      standOut: programs[i].tool.holder.standOut,
      // Programs are ASCII.
      bytes: programs[i].text.length,
      lines: programs[i].text.split('\n').length - 1,
      sha256: hash(programs[i].text),
    })),
    stock: { ...stock, box: plan.stock.box },
    safe: plan.safe,
    tabs: plan.tabs,
    pins: plan.pins,
    run: withoutDuration(run),
    cell,
    cost,
  };
}

function withoutDuration(run: DryRun): Omit<DryRun, 'duration'> {
  const found: Partial<DryRun> = { ...run };
  delete (found as { duration?: unknown }).duration;
  return found as Omit<DryRun, 'duration'>;
}

/** Places at which a dry run looks where nothing is asked, at most. */
const MOST_PLACES = 12_500_000;

/** mm between the places of a dry run of a sign so large: 0.1, or as near as is looked at in reasonable time. */
export function usualCell({ minX, minY, maxX, maxY }: Box): number {
  const least = Math.sqrt(((maxX - minX) * (maxY - minY)) / MOST_PLACES);
  return least <= 0.1 ? 0.1 : Math.ceil(least * 20) / 20;
}
