import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { type LetterGap } from '@plain-relief/core/type';
import { type Finding, type Limits, limitsOf, USUAL_LIMITS } from '@plain-relief/core/inspection';
import { LibraryService } from '../shop/library.service';
import { Notices } from '../platform/notices';
import { ReliefService } from '../relief/relief.service';
import type { FiguresView, ReliefView } from '../relief/views';
import { SignStore } from './document/sign-store';

/** Quiet after which the solid is measured, in ms. */
const QUIET_MS = 400;

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
  /** From which the sign is read, in m; 0 where nobody says. */
  readonly distance = signal(0);
  /** What is beyond the limits; undefined until it was measured. */
  readonly findings = signal<readonly Finding[] | undefined>(undefined);
  readonly chosenFinding = signal<Finding | undefined>(undefined);
  /** Places that are marked on the plan. */
  readonly found = computed(() => (this.isChecking() ? (this.chosenFinding()?.places ?? []) : []));
  private readonly library = toSignal(inject(LibraryService).library$);
  private readonly limits = computed((): Limits => {
    const [shop, distance] = [this.library()?.library, this.distance()];
    const known = shop ? limitsOf(shop, this.state()?.sign.blank.material ?? '') : USUAL_LIMITS;
    return distance > 0 ? { ...known, distance } : known;
  });

  constructor() {
    effect((onCleanup) => {
      const [view, limits] = [this.view(), this.limits()];
      if (!this.isChecking() || this.isBusy() || !view) return;
      const wait = setTimeout(() => void this.inspect(view, limits), QUIET_MS);
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

  private async inspect(view: ReliefView, limits: Limits): Promise<void> {
    try {
      const findings = await this.relief.inspect(limits);
      if (this.view() !== view) return;
      this.findings.set(findings);
      const before = this.chosenFinding();
      this.chosenFinding.set(findings.find(({ check, part }) => check === before?.check && part === before.part));
    } catch (error) {
      this.notices.say((error as Error).message);
    }
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
