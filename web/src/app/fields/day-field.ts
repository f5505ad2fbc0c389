import { ChangeDetectionStrategy, Component, effect, Injectable, input, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { NgbDateAdapter, type NgbDateStruct, NgbInputDatepicker } from '@ng-bootstrap/ng-bootstrap/datepicker';

/** Days as they are kept: 2026-11-25. */
@Injectable()
export class IsoDays extends NgbDateAdapter<string> {
  override fromModel(day: string | null): NgbDateStruct | null {
    const [, year, month, date] = /^(\d{4})-(\d{2})-(\d{2})$/u.exec(day ?? '') ?? [];
    return year === undefined ? null : { year: Number(year), month: Number(month), day: Number(date) };
  }

  override toModel(day: NgbDateStruct | null): string | null {
    if (!day) return null;
    const [year, ...rest] = [day.year, day.month, day.day].map(String);
    return [year.padStart(4, '0'), ...rest.map((part) => part.padStart(2, '0'))].join('-');
  }
}

/** A day of the calendar, typed as 2026-11-25 or chosen from a month; none where it is empty. */
@Component({
  selector: 'pr-day-field',
  imports: [ReactiveFormsModule, NgbInputDatepicker],
  providers: [{ provide: NgbDateAdapter, useClass: IsoDays }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="day">
      <input
        #days="ngbDatepicker"
        ngbDatepicker
        class="form-control figure"
        [attr.aria-label]="label()"
        [class.is-invalid]="isWrong()"
        [formControl]="control"
        [minDate]="{ year: 1900, month: 1, day: 1 }"
        container="body"
        maxlength="10"
        placeholder="2026-11-25"
        autocomplete="off"
        (blur)="isWrong.set(control.invalid)"
      />
      <button
        type="button"
        class="btn btn-sm btn-outline-primary"
        (click)="days.toggle()"
        [attr.aria-label]="'Calendar: ' + label()"
      >
        calendar
      </button>
    </div>
    @if (isWrong()) {
      <p class="trouble">Write the day as 2026-11-25, or choose it from the calendar.</p>
    }
  `,
  styles: `
    .day {
      display: flex;
      gap: 0.3rem;
    }
    input {
      width: 8rem;
    }
  `,
})
export class DayField {
  /** As 2026-11-25; empty for none. */
  readonly value = input.required<string>();
  readonly label = input.required<string>();
  readonly changed = output<string>();
  protected readonly control = new FormControl<string | null>(null);
  /** What was typed is no day; said once the field is left. */
  protected readonly isWrong = signal(false);

  constructor() {
    effect(() => this.control.setValue(this.value() || null, { emitEvent: false }));
    this.control.valueChanges.pipe(takeUntilDestroyed()).subscribe((day) => {
      if (this.control.invalid) return;
      this.isWrong.set(false);
      if ((day ?? '') !== this.value()) this.changed.emit(day ?? '');
    });
  }
}
