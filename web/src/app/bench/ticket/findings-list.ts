import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { applyRemedy, type CheckCode, CHECKS, type Finding, type FindingRemedy } from '@plain-relief/core/inspection';
import { type Sign, type SignChecks } from '@plain-relief/core/sign';
import { NumberField } from '../../fields/number-field';
import { Notices } from '../../platform/notices';
import { LibraryService } from '../../shop/library.service';
import { SignStore } from '../document/sign-store';
import { Measurements } from '../measurements';

const GROUPS = [
  ['making', 'Making'],
  ['reading', 'Reading'],
  ['setting', 'Setting'],
  ['fixing', 'Fixing'],
] as const;

/** What is measured of a sign and beyond its limits, by what it is about, with remedies that were tried; and what is switched off. */
@Component({
  selector: 'pr-findings-list',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './findings-list.html',
  styleUrls: ['./check-panel.scss', './findings-list.scss'],
})
export class FindingsList {
  readonly sign = input.required<Sign>();
  readonly picked = output<string>();
  private readonly store = inject(SignStore);
  protected readonly measurements = inject(Measurements);
  private readonly library = inject(LibraryService);
  private readonly notices = inject(Notices);
  protected readonly checks = CHECKS;
  protected readonly groups = computed(() => {
    const findings = this.measurements.inspection()?.findings ?? [];
    return GROUPS.map(([group, title]) => ({
      title,
      findings: findings.filter(({ check }) => CHECKS[check].group === group),
    })).filter(({ findings: own }) => own.length > 0);
  });
  protected readonly count = computed(() => this.measurements.inspection()?.findings.length);
  /** Of the chosen finding; undefined while they are tried. */
  protected readonly remedies = signal<readonly FindingRemedy[] | undefined>(undefined);
  /** Whether a reason is asked for, for which its check is switched off. */
  protected readonly isReasoning = signal(false);

  /** Which finding is chosen, whenever it was measured. */
  private readonly chosen = computed(() => {
    const { check, part, about } = this.measurements.chosenFinding() ?? {};
    return [check, part, about].join(' ');
  });

  constructor() {
    // A reason that is being typed stays while the sign is measured anew.
    effect(() => {
      this.chosen();
      this.isReasoning.set(false);
    });
    effect((onCleanup) => {
      const finding = this.measurements.chosenFinding();
      let isOld = false;
      onCleanup(() => (isOld = true));
      this.remedies.set(undefined);
      if (!finding) return;
      this.measurements
        .remediesOf(finding)
        .catch(() => [])
        .then((remedies) => {
          if (!isOld) this.remedies.set(remedies);
        });
    });
  }

  /** Its places are marked on the plan; chosen once more they are not. */
  protected choose(finding: Finding): void {
    const isOff = finding === this.measurements.chosenFinding();
    this.measurements.chosenClause.set(undefined);
    this.measurements.chosenFinding.set(isOff ? undefined : finding);
    if (!isOff && finding.part !== undefined) this.picked.emit(finding.part);
  }

  protected mend(remedy: FindingRemedy): void {
    this.store.edit(remedy.label.toLowerCase(), `mend ${remedy.label}`, (sign) => applyRemedy(sign, remedy));
  }

  /** They are right, on every sign of the shop. */
  protected async keepWords(words: readonly string[]): Promise<void> {
    try {
      const { library } = await this.library.load();
      const own = [...new Set([...(library.words ?? []), ...words.map((word) => word.toLowerCase())])].sort((a, b) =>
        a.localeCompare(b),
      );
      await this.library.keep({ ...library, words: own });
    } catch (error) {
      this.notices.say((error as Error).message);
    }
  }

  protected switchOff(check: CheckCode, reason: string): void {
    if (reason.trim() === '') return;
    this.change('check switched off', (checks) => (checks.off = [...(checks.off ?? []), { check, reason: reason.trim() }]));
  }

  protected switchOn(check: string): void {
    this.change('check switched on', (checks) => {
      const off = checks.off?.filter((each) => each.check !== check) ?? [];
      if (off.length > 0) checks.off = off;
      else delete checks.off;
    });
  }

  protected setDistance(metres: number): void {
    this.change('distance that it is read from', (checks) => {
      if (metres > 0) checks.distance = metres;
      else delete checks.distance;
    });
  }

  protected readonly tilt = computed(() => this.sign().checks?.tilt);

  protected setTilt(degrees: number | undefined): void {
    this.change('how it stands outdoors', (checks) => {
      if (degrees === undefined) delete checks.tilt;
      else checks.tilt = degrees;
    });
  }

  protected setOrder(words: string): void {
    this.change('words that were ordered', (checks) => {
      if (words.trim() !== '') checks.order = words;
      else delete checks.order;
    });
  }

  private change(label: string, recipe: (checks: SignChecks) => void): void {
    this.store.editAll(label, label, (sign) => {
      const checks = (sign.checks ??= {});
      recipe(checks);
      if (Object.keys(checks).length === 0) delete sign.checks;
    });
  }
}
