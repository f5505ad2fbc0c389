import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type ClauseResult, meets, type Standard, STANDARDS, standardOf } from '@plain-relief/core/inspection';
import { type Sign } from '@plain-relief/core/sign';
import { ChoiceField } from '../../fields/choice-field';
import { LengthField } from '../../fields/length-field';
import { Notices } from '../../platform/notices';
import { InspectionService } from '../../relief/inspection.service';
import { SignStore } from '../document/sign-store';
import { Measurements } from '../measurements';

const MARKS = { passes: '✓', fails: '✗', look: '!', unknown: '–' } as const;
const WORDS = { passes: 'passes', fails: 'fails', look: 'to be judged', unknown: 'not told' } as const;

/** The standard that a sign is to meet, clause by clause, and one click that changes what has to be changed. */
@Component({
  selector: 'pr-standard-table',
  imports: [ChoiceField, LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './standard-table.html',
  styleUrls: ['./check-panel.scss', './standard-table.scss'],
})
export class StandardTable {
  readonly sign = input.required<Sign>();
  readonly picked = output<string>();
  private readonly store = inject(SignStore);
  private readonly inspections = inject(InspectionService);
  private readonly notices = inject(Notices);
  protected readonly measurements = inject(Measurements);
  protected readonly marks = MARKS;
  protected readonly words = WORDS;
  protected readonly choices = [
    { value: '', text: 'no standard' },
    ...STANDARDS.map(({ id, name }) => ({ value: id, text: name })),
  ];
  protected readonly standard = computed((): Standard | undefined => standardOf(this.sign().checks?.standard));
  protected readonly clauses = computed(() => (this.standard() ? this.measurements.inspection()?.clauses : undefined));
  protected readonly fails = computed(() => this.clauses()?.filter(({ verdict }) => verdict === 'fails').length ?? 0);
  protected readonly isMet = computed(() => meets(this.clauses() ?? []));
  protected readonly isChanging = signal(false);

  protected choose(id: string): void {
    this.store.editAll('standard', 'standard', (sign) => {
      const checks = (sign.checks ??= {});
      if (id === '') delete checks.standard;
      else checks.standard = id;
      if (Object.keys(checks).length === 0) delete sign.checks;
    });
  }

  protected hang(mm: number): void {
    this.store.editAll('height above the floor', 'floor', (sign) => void ((sign.checks ??= {}).floor = mm));
  }

  /** Its places are marked on the plan; chosen once more they are not. */
  protected mark(result: ClauseResult): void {
    const isOff = result === this.measurements.chosenClause();
    this.measurements.chosenFinding.set(undefined);
    this.measurements.chosenClause.set(isOff ? undefined : result);
    const part = result.worst?.part;
    if (!isOff && part !== undefined) this.picked.emit(part);
  }

  /** Changes the sign so that it meets the standard; the new words are translated as after every edit. */
  protected async makeMeet(): Promise<void> {
    this.isChanging.set(true);
    try {
      const before = this.store.whole;
      const met = await this.inspections.madeToMeet();
      if (!met || met.said.length === 0) return;
      if (this.store.whole !== before) return this.notices.say('The sign changed meanwhile: try again.');
      this.store.edit('made to meet the standard', 'meet', (sign) => void Object.assign(sign, met.sign));
      this.notices.say(met.said.join(' '), { words: 'Undo', run: () => this.store.undo() });
    } catch (error) {
      this.notices.say((error as Error).message);
    } finally {
      this.isChanging.set(false);
    }
  }
}
