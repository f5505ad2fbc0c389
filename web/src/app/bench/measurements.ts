import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type LetterGap } from '@plain-relief/core/type';
import { type ClauseResult, type Finding, type FindingRemedy, HINTS, type Limits, limitsOf, USUAL_LIMITS } from '@plain-relief/core/inspection'; // prettier-ignore
import { LibraryService } from '../shop/library.service';
import { Notices } from '../platform/notices';
import { InspectionService } from '../relief/inspection.service';
import { ReliefService } from '../relief/relief.service';
import type { FiguresView, InspectionView, ReliefView } from '../relief/views';
import { SignStore } from './document/sign-store';

/** Quiet after which the solid is measured, in ms. */
const QUIET_MS = 400;
/** The same after which checks are made: while they are looked at, and while nobody looks. */
const SOON_MS = 60;
const IDLE_MS = 1500;
/** Checks that take no longer than this are made while nobody looks, for their count on the strip. */
const QUICK_MS = 400;
const MOST_PLACES = 40;
const FEW_LETTERS = 100;

interface Figures {
  readonly figures: FiguresView | undefined;
  /** What they are measured of. */
  readonly view: ReliefView | undefined;
}

/** What is measured of the sign once it is worked out: the solid, and the gaps between the letters of the selected text. */
@Injectable()
export class Measurements {
  private readonly store = inject(SignStore);
  private readonly relief = inject(ReliefService);
  private readonly inspections = inject(InspectionService);
  private readonly notices = inject(Notices);
  private readonly state = toSignal(this.store.state$);
  private readonly view = toSignal(this.relief.view$);
  private readonly isBusy = toSignal(this.relief.busy$, { initialValue: false });
  readonly figures = signal<Figures | undefined>(undefined);
  readonly gaps = signal<readonly LetterGap[]>([]);
  readonly isReadingGaps = signal(false);
  /** What the gaps were read of. */
  private known = '';

  /** Whether findings are wanted: while they are looked at. */
  readonly isChecking = signal(false);
  /** What was measured last; undefined until something was. */
  readonly inspection = signal<InspectionView | undefined>(undefined);
  private readonly measuring = signal(0);
  readonly isInspecting = computed(() => this.measuring() > 0);
  /** How many findings the sign has; undefined where they are of before. */
  readonly findingCount = computed(() =>
    this.inspected() === this.view() ? this.inspection()?.findings.filter(({ check }) => !HINTS.has(check)).length : undefined,
  );
  private readonly inspected = signal<ReliefView | undefined>(undefined);
  readonly chosenFinding = signal<Finding | undefined>(undefined);
  readonly chosenClause = signal<ClauseResult | undefined>(undefined);
  /** Places that are marked on the plan. */
  readonly found = computed(() => {
    if (!this.isChecking()) return [];
    const beyond = this.chosenClause()
      ?.beyond.flatMap(({ place }) => place ?? [])
      .slice(0, MOST_PLACES);
    return this.chosenFinding()?.places ?? beyond ?? [];
  });
  /** Heights between which the chosen finding is, above the face. */
  readonly foundHeights = computed(() => (this.isChecking() ? this.chosenFinding()?.heights : undefined));
  private readonly library = toSignal(inject(LibraryService).library$);
  /** The same object for as long as they say the same: the sign is not measured anew for each save. */
  private readonly limits = computed(
    (): Limits => {
      const [shop, sign] = [this.library()?.library, this.state()?.sign];
      const known = shop ? limitsOf(shop, sign?.blank.material ?? '') : USUAL_LIMITS;
      const distance = sign?.checks?.distance;
      return distance === undefined ? known : { ...known, distance };
    },
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );

  /** Words that the shop says are right. */
  private readonly words = computed(() => this.library()?.library.words ?? [], {
    equal: (a, b) => a.join('\n') === b.join('\n'),
  });

  constructor() {
    effect((onCleanup) => {
      const [view, limits, words] = [this.view(), this.limits(), this.words()];
      // What takes long to measure, as far as is known, is measured where somebody looks.
      const isQuick =
        view && view.took < QUICK_MS && view.facts.letters <= FEW_LETTERS && (untracked(this.inspection)?.took ?? 0) < QUICK_MS;
      if (this.isBusy() || !view || (!this.isChecking() && !isQuick)) return;
      const wait = setTimeout(() => void this.inspect(view, limits, words), this.isChecking() ? SOON_MS : IDLE_MS);
      onCleanup(() => clearTimeout(wait));
    });
    effect((onCleanup) => {
      if (this.isBusy() || !this.view()) return;
      // Not while somebody drags or types.
      const view = this.view();
      const measure = () => this.relief.figures().then((figures) => this.figures.set({ figures, view }));
      const wait = setTimeout(() => void measure(), QUIET_MS);
      onCleanup(() => clearTimeout(wait));
    });
    effect(() => this.followSelected());
  }

  private async inspect(view: ReliefView, limits: Limits, words: readonly string[]): Promise<void> {
    this.measuring.update((count) => count + 1);
    try {
      const { sign, side } = this.store.now!;
      const inspection = await this.inspections.inspect(sign, side, limits, words);
      if (!inspection || this.view() !== view) return;
      this.inspection.set(inspection);
      this.inspected.set(view);
      const [finding, clause] = [this.chosenFinding(), this.chosenClause()];
      this.chosenFinding.set(inspection.findings.find((each) => each.check === finding?.check && each.part === finding.part && each.about === finding.about)); // prettier-ignore
      this.chosenClause.set(inspection.clauses?.find((each) => each.clause.title === clause?.clause.title));
    } catch (error) {
      if (this.isChecking()) this.notices.say((error as Error).message);
    } finally {
      this.measuring.update((count) => count - 1);
    }
  }

  /** What mends a finding, tried on the sign as it is. */
  remediesOf(finding: Finding): Promise<readonly FindingRemedy[]> {
    return this.inspections.remediesOf(finding, this.limits());
  }

  /** Gaps are those of the newest sign, once it is worked out; a text that is only moved keeps its own. */
  private followSelected(): void {
    const { sign, selected } = this.state() ?? {};
    const part = sign?.parts.find(({ id }) => id === selected);
    if (this.isBusy()) return;
    const now = part?.kind === 'text' ? JSON.stringify({ ...part, place: 0, tiers: 0, sitsOn: 0 }) : '';
    if (now === this.known) return;
    this.known = now;
    if (part?.kind === 'text') void this.readGaps(part.id);
    else this.gaps.set([]);
  }

  private async readGaps(part: string): Promise<void> {
    this.isReadingGaps.set(true);
    try {
      const gaps = await this.relief.gaps(part);
      if (this.state()?.selected === part) this.gaps.set(gaps);
    } catch (error) {
      this.notices.say((error as Error).message);
    } finally {
      this.isReadingGaps.set(false);
    }
  }
}
