import type { Job } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { NgbTypeahead } from '@ng-bootstrap/ng-bootstrap/typeahead';
import { map, merge, type Observable, Subject } from 'rxjs';
import { DayField } from '../fields/day-field';
import { FirstField } from '../fields/first-field';
import { JobsService } from './jobs.service';

const REMEDIES: Readonly<Record<string, string>> = {
  customer: 'Whose job is it? Write the customer’s name.',
  title: 'What is wanted? A few words, such as “Entrance sign”.',
  quantity: 'How many? A whole number from 1 to 100 000.',
};

@Component({
  selector: 'pr-new-job-form',
  imports: [DayField, FirstField, ReactiveFormsModule, NgbTypeahead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './new-job-form.html',
  styleUrl: './new-job-form.scss',
})
export class NewJobForm {
  readonly customers = input.required<readonly string[]>();
  readonly made = output<Job>();
  readonly dropped = output();
  private readonly jobs = inject(JobsService);
  protected readonly focused = new Subject<string>();
  protected readonly error = signal('');
  protected readonly isBusy = signal(false);
  protected readonly form = new FormGroup({
    customer: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/\S/u)] }),
    title: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/\S/u)] }),
    dueOn: new FormControl('', { nonNullable: true }),
    quantity: new FormControl(1, {
      nonNullable: true,
      validators: [Validators.required, Validators.min(1), Validators.max(100_000), Validators.pattern(/^\d+$/u)],
    }),
    unit: new FormControl<'mm' | 'in'>('mm', { nonNullable: true }),
  });

  /** Known customers that hold what is typed; all of them when the field is entered. */
  protected readonly known = (typed$: Observable<string>): Observable<readonly string[]> =>
    merge(typed$, this.focused).pipe(
      map((typed) =>
        this.customers()
          .filter((name) => name.toLowerCase().includes(typed.toLowerCase()))
          .slice(0, 8),
      ),
    );

  protected fault(name: 'customer' | 'title' | 'quantity'): string {
    const control = this.form.controls[name];
    return control.invalid && control.touched ? REMEDIES[name] : '';
  }

  /** Esc closes a list that is open, and the form where none is. */
  protected leave({ target }: Event): void {
    const isListOpen = target instanceof HTMLElement && target.getAttribute('aria-expanded') === 'true';
    if (!isListOpen) this.dropped.emit();
  }

  protected async submit(): Promise<void> {
    this.form.markAllAsTouched();
    if (this.form.invalid || this.isBusy()) return;
    const { customer, title, dueOn, quantity, unit } = this.form.getRawValue();
    this.isBusy.set(true);
    this.error.set('');
    try {
      const made = await this.jobs.create({
        customer: customer.trim(),
        title: title.trim(),
        dueOn: dueOn || null,
        quantity: Number(quantity),
        unit,
      });
      this.made.emit(made);
    } catch (error) {
      this.error.set((error as Error).message);
    } finally {
      this.isBusy.set(false);
    }
  }
}
