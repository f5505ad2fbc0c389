import { Injectable } from '@angular/core';
import type { SignProof, Task } from '@plain-relief/api';
import { type Note } from '@plain-relief/core/notes';
import { type Sign } from '@plain-relief/core/sign';
import { proofWords } from '../jobs/sign-proof';

export type StepName = 'Brief' | 'Layout' | 'Heights' | 'Check' | 'Proof' | 'Make';

const STEPS: readonly StepName[] = ['Brief', 'Layout', 'Heights', 'Check', 'Proof', 'Make'];

/** What can be looked at of a plate of a run: its brief, its proof and its files are those of the run. */
export const STEPS_OF_PLATE: ReadonlySet<StepName> = new Set<StepName>(['Layout', 'Heights', 'Check']);

const PREFIX = 'plain-relief/step/';

/** At which step each sign was left, as this browser knows it. */
@Injectable({ providedIn: 'root' })
export class LastSteps {
  of(sign: string): StepName {
    const kept = readKept(PREFIX + sign);
    return STEPS.find((step) => step === kept) ?? 'Layout';
  }

  keep(sign: string, step: StepName): void {
    try {
      localStorage.setItem(PREFIX + sign, step);
    } catch {
      // A browser that keeps nothing begins at the layout.
    }
  }
}

function readKept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

export interface StepView {
  readonly name: StepName;
  readonly mark: 'done' | 'begun' | 'open';
  /** What it still lacks, or that it lacks nothing. */
  readonly lacks: string;
}

/** The steps of a job with what each still lacks. */
export function stepsOf(
  sign: Sign,
  notes: readonly Note[],
  tasks: readonly Task[],
  revision: number,
  proof?: SignProof,
  /** What was measured beyond limits, where it was measured. */
  findings = 0,
): StepView[] {
  const texts = sign.parts.filter((part) => part.kind === 'text');
  const worded = texts.filter((part) => part.words.trim() !== '');
  // Letters that are cut out of their sheet need none.
  const isCutOut = (id: string): boolean => sign.blank.cutTo?.parts.includes(id) ?? false;
  const withoutTier = sign.parts.filter((part) => !isCutOut(part.id) && !part.tiers.some((tier) => tier.on));
  // Letters that were made outlines, and logos, are parts without words.
  const isBare = sign.parts.length === 0;
  const isWordless = texts.length > 0 && worded.length === 0;
  const errors = notes.filter(({ weight }) => weight === 'error').length;
  const warnings = notes.filter(({ weight }) => weight === 'warning').length;
  const open = errors + warnings + findings;
  const made = (kinds: readonly string[]): StepView['mark'] => {
    const done = tasks.filter((task) => kinds.includes(task.kind) && task.state === 'done');
    return done.some((task) => task.revision === revision) ? 'done' : done.length > 0 ? 'begun' : 'open';
  };
  const files = made(['stl', '3mf', 'glb', 'pieces', 'svg', 'dxf', 'package']);
  return [
    {
      name: 'Brief',
      mark: sign.blank.material === '' ? 'begun' : 'done',
      lacks: sign.blank.material === '' ? 'the material is not named' : 'complete',
    },
    {
      name: 'Layout',
      mark: isBare || isWordless ? 'open' : worded.length < texts.length ? 'begun' : 'done',
      lacks: isBare || isWordless ? 'no words yet' : worded.length < texts.length ? 'a line has no words' : 'complete',
    },
    {
      name: 'Heights',
      mark: isBare || isWordless ? 'open' : withoutTier.length > 0 ? 'begun' : 'done',
      lacks:
        isBare || isWordless
          ? 'nothing is raised or carved'
          : withoutTier.length > 0
            ? `${withoutTier[0].name} has no tier`
            : 'complete',
    },
    {
      name: 'Check',
      mark: sign.parts.length === 0 ? 'open' : open > 0 ? 'begun' : 'done',
      lacks: open > 0 ? `${open} to look at` : sign.parts.length === 0 ? 'nothing to check yet' : 'nothing to note',
    },
    {
      name: 'Proof',
      mark: !proof ? 'open' : proof.state === 'approved' && proof.revision === revision ? 'done' : 'begun',
      lacks: proofWords(proof, revision) || 'not sent yet',
    },
    {
      name: 'Make',
      mark: files,
      lacks: files === 'done' ? 'files of this revision' : files === 'begun' ? 'the sign has changed since' : 'no files yet',
    },
  ];
}
