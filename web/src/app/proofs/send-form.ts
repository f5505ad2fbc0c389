import type { Frozen, Job, KeptPlace, ListedRun, NewProof } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, type ValidatorFn, Validators } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { LineField } from '../fields/line-field';
import { EVERYTHING, type SheetLayout } from '@plain-relief/core/sheet';
import { LayoutChoice } from './layout-choice';
import type { OpenNotes } from './proofs.service';
import { SlotWords } from '../fields/slot-words';

/** A whole number from 1 to another, as it is typed. */
const wholeUpTo =
  (most: number): ValidatorFn =>
  ({ value }) => {
    const typed = Number(value);
    return Number.isInteger(typed) && typed >= 1 && typed <= most ? null : { whole: true };
  };

/** What is frozen and sent, to whom, with which words. */
@Component({
  selector: 'pr-send-form',
  imports: [LayoutChoice, LineField, ReactiveFormsModule, RouterLink, SlotWords],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './send-form.html',
  styleUrl: './send-form.scss',
})
export class SendForm {
  readonly job = input.required<Job>();
  /** The letter that the proof will have. */
  readonly letter = input.required<string>();
  /** Whom the last one went to. */
  readonly earlier = input('');
  /** Ids of the signs that the last proof showed. */
  readonly last = input<readonly string[]>([]);
  /** Notes left open on signs, which somebody has to confirm before the proof goes out. */
  readonly open = input<readonly OpenNotes[]>([]);
  /** Where its signs hang. */
  readonly places = input<readonly Pick<KeptPlace, 'id' | 'title'>[]>([]);
  /** Lists that signs are made by. */
  readonly runs = input<readonly ListedRun[]>([]);
  readonly isBusy = input(false);
  readonly sent = output<Frozen<NewProof>>();
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  /** Places that are left out. */
  protected readonly left = signal<ReadonlySet<string>>(new Set());
  /** Runs of the chosen signs, and those of them that are left out. */
  protected readonly offeredRuns = computed(() => this.runs().filter(({ sign }) => this.chosen().has(sign)));
  protected readonly leftRuns = signal<ReadonlySet<string>>(new Set());
  protected readonly form = new FormGroup({
    recipient: new FormControl('', {
      nonNullable: true,
      validators: [Validators.pattern(/^\s*[^\s@<>,;]+@[^\s@<>,;]+\s*$/u), Validators.required],
    }),
    message: new FormControl('', { nonNullable: true }),
    days: new FormControl('30', { nonNullable: true, validators: [wholeUpTo(365)] }),
    isReminding: new FormControl(true, { nonNullable: true }),
    remindAfter: new FormControl('3', { nonNullable: true, validators: [wholeUpTo(60)] }),
    layout: new FormControl<SheetLayout>(EVERYTHING, { nonNullable: true }),
  });
  protected readonly fault = signal('');
  /** Signs whose open notes were confirmed. */
  protected readonly seen = signal<ReadonlySet<string>>(new Set());

  constructor() {
    effect(() => {
      const all = this.job().signs.map(({ id }) => id);
      const last = this.last().filter((id) => all.includes(id));
      this.chosen.set(new Set(last.length > 0 ? last : all));
    });
    effect(() => this.form.controls.recipient.setValue(this.earlier() || mailAddressIn(this.job().contact)));
    const { isReminding, remindAfter } = this.form.controls;
    isReminding.valueChanges
      .pipe(takeUntilDestroyed())
      .subscribe((isOn) => (isOn ? remindAfter.enable() : remindAfter.disable()));
  }

  protected choose(id: string, isChosen: boolean): void {
    this.chosen.set(withOne(this.chosen(), id, isChosen));
  }

  protected choosePlace(id: string, isShown: boolean): void {
    this.left.set(withOne(this.left(), id, !isShown));
  }

  protected chooseRun(id: string, isShown: boolean): void {
    this.leftRuns.set(withOne(this.leftRuns(), id, !isShown));
  }

  protected chooseAll(isChosen: boolean): void {
    this.chosen.set(new Set(isChosen ? this.job().signs.map(({ id }) => id) : []));
  }

  protected confirm(id: string, isSeen: boolean): void {
    this.seen.set(withOne(this.seen(), id, isSeen));
  }

  protected send(): void {
    const signs = this.job()
      .signs.map(({ id }) => id)
      .filter((id) => this.chosen().has(id));
    const { recipient, message, days, isReminding, remindAfter, layout } = this.form.getRawValue();
    const { controls } = this.form;
    if (signs.length === 0) return this.fault.set('Choose at least one sign.');
    if (controls.recipient.invalid)
      return this.fault.set(`“${recipient.trim()}” is no mail address: write one, such as desk@quillstreet.example.org.`);
    if (controls.days.invalid) return this.fault.set('The address can work for 1 to 365 days.');
    if (controls.remindAfter.invalid) return this.fault.set('A reminder can go out after 1 to 60 days.');
    const open = this.open().filter(({ signId }) => this.chosen().has(signId));
    const unseen = open.find(({ signId }) => !this.seen().has(signId));
    if (unseen) return this.fault.set(`Confirm that “${unseen.title}” goes out as it is, or leave it out of this proof.`);
    this.fault.set('');
    this.sent.emit({
      signs,
      recipient: recipient.trim(),
      message: message.trim(),
      days: Number(days),
      layout,
      ...(this.places().length > 0 && { places: this.places().flatMap(({ id }) => (this.left().has(id) ? [] : [id])) }),
      ...(this.runs().length > 0 && { runs: this.offeredRuns().flatMap(({ id }) => (this.leftRuns().has(id) ? [] : [id])) }),
      ...(isReminding && { remindAfter: Number(remindAfter) }),
      ...(open.length > 0 && { confirmed: open.map(({ signId, notes }) => ({ signId, notes })) }),
    });
  }
}

/** A set with one more, or one less. */
function withOne(before: ReadonlySet<string>, one: string, isIn: boolean): ReadonlySet<string> {
  const next = new Set(before);
  if (isIn) next.add(one);
  else next.delete(one);
  return next;
}

/** The mail address in a customer's contact, such as "Marit Solheim, grounds@fernhollow.example.org". */
const mailAddressIn = (contact: string): string => /[^\s,;<>]+@[^\s,;<>]+/u.exec(contact)?.[0] ?? '';
