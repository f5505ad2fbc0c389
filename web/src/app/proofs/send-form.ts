import type { Frozen, Job, NewProof } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, effect, input, output, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { LineField } from '../fields/line-field';
import { EVERYTHING, type SheetLayout } from '@plain-relief/core/sheet';
import { LayoutChoice } from './layout-choice';
import type { OpenNotes } from './proofs.service';

/** What is frozen and sent, to whom, with which words. */
@Component({
  selector: 'pr-send-form',
  imports: [LayoutChoice, LineField, RouterLink],
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
  readonly isBusy = input(false);
  readonly sent = output<Frozen<NewProof>>();
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly recipient = signal('');
  protected readonly message = signal('');
  protected readonly days = signal(30);
  protected readonly isReminding = signal(true);
  protected readonly remindAfter = signal(3);
  protected readonly layout = signal<SheetLayout>(EVERYTHING);
  protected readonly fault = signal('');
  /** Signs whose open notes were confirmed. */
  protected readonly seen = signal<ReadonlySet<string>>(new Set());

  constructor() {
    effect(() => {
      const all = this.job().signs.map(({ id }) => id);
      const last = this.last().filter((id) => all.includes(id));
      this.chosen.set(new Set(last.length > 0 ? last : all));
    });
    effect(() => this.recipient.set(this.earlier() || mailAddressIn(this.job().contact)));
  }

  protected choose(id: string, isChosen: boolean): void {
    const next = new Set(this.chosen());
    if (isChosen) next.add(id);
    else next.delete(id);
    this.chosen.set(next);
  }

  protected chooseAll(isChosen: boolean): void {
    this.chosen.set(new Set(isChosen ? this.job().signs.map(({ id }) => id) : []));
  }

  protected confirm(id: string, isSeen: boolean): void {
    const next = new Set(this.seen());
    if (isSeen) next.add(id);
    else next.delete(id);
    this.seen.set(next);
  }

  protected send(): void {
    const signs = this.job()
      .signs.map(({ id }) => id)
      .filter((id) => this.chosen().has(id));
    const recipient = this.recipient().trim();
    if (signs.length === 0) return this.fault.set('Choose at least one sign.');
    if (!/^[^\s@<>,;]+@[^\s@<>,;]+$/u.test(recipient))
      return this.fault.set(`“${recipient}” is no mail address: write one, such as desk@quillstreet.example.org.`);
    if (!isWhole(this.days(), 365)) return this.fault.set('The address can work for 1 to 365 days.');
    if (this.isReminding() && !isWhole(this.remindAfter(), 60))
      return this.fault.set('A reminder can go out after 1 to 60 days.');
    const open = this.open().filter(({ signId }) => this.chosen().has(signId));
    const unseen = open.find(({ signId }) => !this.seen().has(signId));
    if (unseen) return this.fault.set(`Confirm that “${unseen.title}” goes out as it is, or leave it out of this proof.`);
    this.fault.set('');
    this.sent.emit({
      signs,
      recipient,
      message: this.message().trim(),
      days: this.days(),
      layout: this.layout(),
      ...(this.isReminding() && { remindAfter: this.remindAfter() }),
      ...(open.length > 0 && { confirmed: open.map(({ signId, notes }) => ({ signId, notes })) }),
    });
  }
}

const isWhole = (value: number, most: number): boolean => Number.isInteger(value) && value >= 1 && value <= most;

/** The mail address in a customer's contact, such as "Marit Solheim, grounds@fernhollow.example.org". */
const mailAddressIn = (contact: string): string => /[^\s,;<>]+@[^\s,;<>]+/u.exec(contact)?.[0] ?? '';
