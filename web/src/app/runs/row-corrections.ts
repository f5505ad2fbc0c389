import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { type Correction, lengthsOf, offeredSettings, settingWords } from '@plain-relief/core/runs';
import { FINISHES, type Sign } from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';

/** What is otherwise on one plate of a run alone: it stays so when the sign changes. */
@Component({
  selector: 'pr-row-corrections',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>This plate alone</h3>
    @for (each of told(); track $index) {
      <p>
        {{ each.words }}: <b>{{ each.value }}</b>
        <button
          type="button"
          class="btn btn-sm btn-link"
          [attr.aria-label]="'Take back: ' + each.words"
          (click)="takeBack($index)"
        >
          Take it back
        </button>
      </p>
    } @empty {
      <p class="quiet">As the sign is. Words are corrected in the list.</p>
    }
    <form (submit)="$event.preventDefault(); add(+what.value, value.value) && (value.value = '')">
      <select
        #what
        class="form-select form-select-sm"
        aria-label="What is otherwise on this plate"
        (change)="value.value = ''; chosen.set(+what.value)"
      >
        @for (each of offered(); track $index) {
          <option [value]="$index">{{ each.words }}</option>
        }
      </select>
      <input #value type="text" class="form-control form-control-sm" maxlength="200" aria-label="is" [placeholder]="hint()" />
      <button type="submit" class="btn btn-sm btn-outline-primary">Correct it</button>
    </form>
  `,
  styles: `
    h3 {
      margin: 0.6rem 0 0.3rem;
      font-size: 1rem;
    }
    p {
      margin: 0 0 0.2rem;
    }
    form {
      display: flex;
      gap: 0.5rem;
    }
    select {
      flex: 2;
    }
    input {
      flex: 1;
    }
    button {
      flex: none;
    }
  `,
})
export class RowCorrections {
  readonly sign = input.required<Sign>();
  readonly corrections = input.required<readonly Correction[]>();
  /** What is done to the corrections as they are then. */
  readonly changed = output<(corrections: readonly Correction[]) => readonly Correction[]>();
  protected readonly offered = computed(() => offeredSettings(this.sign()).filter(({ sets }) => sets.kind !== 'one of'));
  protected readonly told = computed(() =>
    this.corrections().map(({ sets, value }) => ({ words: settingWords(this.sign(), sets), value })),
  );

  protected readonly chosen = signal(0);
  /** What can be said there: what it is now. */
  protected readonly hint = computed((): string => {
    const sets = this.offered()[this.chosen()]?.sets;
    if (sets?.kind === 'length') {
      const now = lengthsOf(this.sign(), sets).find(({ of }) => of === sets.of);
      return now ? formatLength(now.mm, this.sign().unit) : '';
    }
    if (sets?.kind === 'finish') return FINISHES[0].name;
    return sets?.kind === 'option' ? (this.sign().options?.[0]?.name ?? '') : 'yes or no';
  });

  /** Whether it was said; a second one of the same takes the place of the first. */
  protected add(at: number, value: string): boolean {
    const sets = this.offered()[at]?.sets;
    if (!sets || value.trim() === '') return false;
    const words = settingWords(this.sign(), sets);
    const said = { sets, value: value.trim() };
    this.changed.emit((all) => [...all.filter((each) => settingWords(this.sign(), each.sets) !== words), said]);
    return true;
  }

  protected takeBack(at: number): void {
    const gone = this.corrections()[at];
    this.changed.emit((all) => all.filter((each) => each !== gone));
  }
}
