import type { ProofRun, ProofSign, ShopRemark } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, type OnDestroy, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { LineField } from '../fields/line-field';
import { dayOf, timeOf } from '../platform/moments';
import { type AskedCorrection, PlatesBoard } from '../proofs/plates-board';
import { RemarkBoard } from '../proofs/remark-board';
import { CustomerService } from './customer.service';
import { TurningModel } from './turning-model';
import { attempt } from '../platform/attempt';

const TICKS = [
  ['spelling', 'I have read every word: the spelling is right.'],
  ['sizes', 'The sizes are right.'],
  ['colours', 'The colours and finishes are right.'],
] as const;

/** What a customer sees at the address of a proof: the signs, room for remarks, and the answer. No account, nothing else of the shop. */
const LOOKS = [
  ['picture', 'Picture'],
  ['sizes', 'Sizes and finishes'],
  ['model', 'Turn it'],
] as const;
type Look = (typeof LOOKS)[number][0];

@Component({
  selector: 'pr-customer-page',
  imports: [LineField, PlatesBoard, RemarkBoard, TurningModel],
  providers: [CustomerService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './customer-page.html',
  styleUrl: './customer-page.scss',
})
export class CustomerPage implements OnDestroy {
  readonly token = input.required<string>();
  /** Who looks: the shop sees what the customer sees, and cannot answer for them. */
  readonly by = input<string>();
  private readonly service = inject(CustomerService);
  protected readonly state = toSignal(this.service.state$, { requireSync: true });
  protected readonly proof = computed(() => this.state().proof);
  protected readonly isOpen = computed(() => this.proof()?.state === 'open' && this.by() !== 'shop');
  protected readonly name = signal('');
  protected readonly wishes = signal('');
  protected readonly ticks = signal<Readonly<Record<string, boolean>>>({});
  /** The option that is looked at, by sign; and the one that is chosen, which is the last looked at on purpose. */
  protected readonly choices = signal<Readonly<Record<string, string>>>({});
  /** How every sign is seen; as a picture where nothing else was chosen. */
  private readonly seen = signal<Readonly<Record<string, Look>>>({});
  /** Addresses of drawings that have come. */
  protected readonly drawn = signal<ReadonlySet<string>>(new Set());
  protected readonly looks = LOOKS;
  protected readonly source = computed(() => ({ token: this.token() }));
  protected readonly trouble = signal('');
  protected readonly isBusy = signal(false);
  protected readonly isAsking = signal(false);
  protected readonly tickWords = TICKS;
  protected readonly day = dayOf;
  protected readonly time = timeOf;
  /** Whom the proof is for, of which day, job and quantity. */
  protected readonly about = computed(() => {
    const { customer, createdAt, job } = this.proof() ?? { customer: '', createdAt: '' };
    const pieces = job && (job.quantity === 1 ? 'one piece' : `${job.quantity} pieces`);
    return [customer, createdAt && dayOf(createdAt), ...(job ? [`job ${job.number}`, pieces] : [])].join(', ');
  });
  /** What is still missing before approval. */
  protected readonly lacks = computed(() => {
    const open = this.proof()?.signs.find(({ id, options }) => options.length > 0 && !this.choices()[id]);
    if (open) return `Choose an option of “${open.title}” first.`;
    const count = this.proof()?.corrections.length ?? 0;
    if (count > 0) return `You corrected ${count === 1 ? 'a plate' : `${count} words of plates`}: ask for changes, and the shop sends a new proof.`; // prettier-ignore
    if (TICKS.some(([key]) => !this.ticks()[key])) return 'Tick all three once you have looked.';
    return this.name().trim() === '' ? 'Write your name.' : '';
  });

  constructor() {
    effect(() => void this.service.open(this.token(), this.by()));
  }

  ngOnDestroy(): void {
    this.service.close();
  }

  /** The runs that make a sign. */
  protected runsOf(sign: string): readonly ProofRun[] {
    return (this.proof()?.runs ?? []).filter(({ signId }) => signId === sign);
  }

  /** Of a sign that a list is made by its own title is names of columns. */
  protected titleOf({ id, title }: ProofSign): string {
    const runs = this.runsOf(id);
    return runs.length === 1 ? runs[0].title : title;
  }

  protected optionOf({ id }: ProofSign): string | undefined {
    return this.proof()?.choices?.[id] ?? this.choices()[id];
  }

  protected optionName(sign: ProofSign): string {
    return sign.options.find(({ id }) => id === this.optionOf(sign))?.name ?? '';
  }

  /** A drawing has come, or cannot: its words stand there then. */
  protected come(address: string): void {
    this.drawn.update((before) => new Set([...before, address]));
  }

  protected address(sign: ProofSign, what: 'picture.png' | 'sizes.svg' | 'model.glb'): string {
    const option = this.optionOf(sign);
    const query = option === undefined ? '' : `?option=${encodeURIComponent(option)}`;
    return `/api/proof-links/${this.token()}/signs/${sign.id}/${what}${query}`;
  }

  protected placeAddress(id: string, what: 'picture.png' | 'photograph'): string {
    return `/api/proof-links/${this.token()}/places/${id}/${what}`;
  }

  protected sheet(): string {
    return `/api/proof-links/${this.token()}/sheet.pdf`;
  }

  protected choose(sign: string, option: string): void {
    this.choices.set({ ...this.choices(), [sign]: option });
  }

  protected setTick(key: string, isTicked: boolean): void {
    this.ticks.set({ ...this.ticks(), [key]: isTicked });
  }

  protected lookOf(sign: string): Look {
    return this.seen()[sign] ?? 'picture';
  }

  protected lookAt(sign: string, look: Look): void {
    this.seen.set({ ...this.seen(), [sign]: look });
  }

  protected remark(remark: ShopRemark): Promise<void> {
    return this.attempt(() => this.service.remark(this.name().trim() || this.proof()?.customer || 'the customer', remark));
  }

  protected correct(correction: AskedCorrection): Promise<void> {
    return this.attempt(() => this.service.correct(this.name().trim() || this.proof()?.customer || 'the customer', correction));
  }

  /** With corrections of plates there is something to ask for. */
  protected beginAsking(): void {
    this.isAsking.set(!this.isAsking());
    const count = this.proof()?.corrections.length ?? 0;
    if (this.wishes().trim() === '' && count > 0)
      this.wishes.set(count === 1 ? 'Please put the plate right as I corrected it.' : `Please put the ${count} words right that I corrected.`); // prettier-ignore
  }

  protected async approve(): Promise<void> {
    if (this.lacks()) return this.trouble.set(this.lacks());
    await this.attempt(() => this.service.approve(this.name().trim(), this.ticks(), this.choices()));
  }

  protected async askChanges(): Promise<void> {
    if (this.name().trim() === '') return this.trouble.set('Write your name.');
    if (this.wishes().trim() === '') return this.trouble.set('Say what should be changed.');
    await this.attempt(() => this.service.askChanges(this.name().trim(), this.wishes().trim()));
  }

  private async attempt(action: () => Promise<void>): Promise<void> {
    this.isBusy.set(true);
    await attempt(this.trouble, action);
    this.isBusy.set(false);
  }
}
