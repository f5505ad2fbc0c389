import { ChangeDetectionStrategy, Component, computed, effect, type ElementRef, inject, input, output, signal, viewChild } from '@angular/core'; // prettier-ignore
import type { ProofCorrection, ProofPlates, ProofRun, Remark, ShopRemark } from '@plain-relief/api';
import { Api } from '../platform/api';
import { attempt } from '../platform/attempt';
import { timeOf } from '../platform/moments';

/** Where a frozen run is looked at: at a customer's address, or by the shop in its proof. */
export type PlatesSource = { readonly token: string } | { readonly proof: string };

/** A value of a plate that is to be otherwise. */
export interface AskedCorrection {
  readonly run: string;
  readonly row: number;
  readonly column: string;
  readonly value: string;
}

/** Plates shown at once, as the server gives them. */
const PAGE = 24;
/** ms without a key after which it is searched. */
const PAUSE_MS = 300;

type Plate = ProofPlates['plates'][number];

/** Every plate of a frozen run, a page at a time: looked at closely, remarked on, and its words corrected. */
@Component({
  selector: 'pr-plates-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plates-board.html',
  styleUrl: './plates-board.scss',
})
export class PlatesBoard {
  readonly run = input.required<ProofRun>();
  readonly source = input.required<PlatesSource>();
  /** The option of its sign that plates are seen as; where none is named the one that the run names. */
  readonly option = input<string | null>();
  readonly remarks = input<readonly Remark[]>([]);
  readonly corrections = input<readonly ProofCorrection[]>([]);
  /** Whether more may be said. */
  readonly isOpen = input(false);
  /** Whether words may be corrected: customers do. */
  readonly isCorrecting = input(false);
  readonly said = output<ShopRemark>();
  readonly corrected = output<AskedCorrection>();
  private readonly api = inject(Api);
  protected readonly trouble = signal('');
  protected readonly found = signal<ProofPlates | undefined>(undefined);
  protected readonly from = signal(0);
  protected readonly words = signal('');
  protected readonly isSaid = signal(false);
  /** The row of the plate that is looked at. */
  protected readonly looked = signal<number | undefined>(undefined);
  protected readonly page = PAGE;
  protected readonly time = timeOf;
  private readonly dialog = viewChild<ElementRef<HTMLDialogElement>>('dialog');
  private asked = 0;
  private pause: ReturnType<typeof setTimeout> | undefined;

  protected readonly plate = computed(() => this.found()?.plates.find(({ row }) => row === this.looked()));
  protected readonly ownCorrections = computed(() => this.corrections().filter(({ run }) => run === this.run().id));
  protected readonly ownRemarks = computed(() => this.remarks().filter(({ run }) => run === this.run().id));
  /** Rows of which something was said. */
  protected readonly toldRows = computed(() => new Set([...this.ownCorrections(), ...this.ownRemarks()].map(({ row }) => row)));
  protected readonly remarksHere = computed(() => this.ownRemarks().filter(({ row }) => row === this.looked()));
  /** The words of the plate that is looked at, with what is to become of them. */
  protected readonly fields = computed(() => {
    const plate = this.plate();
    return plate ? this.run().slots.map(({ slot, column }, i) => ({ key: `${plate.row} ${slot}`, slot, column, was: plate.values[i], correction: this.correctionOf(plate, column) })) : []; // prettier-ignore
  });

  constructor() {
    effect(() => void this.fetch(this.run().id, this.from(), this.words(), this.isSaid()));
    effect(() => {
      const dialog = this.dialog()?.nativeElement;
      if (dialog && this.plate() && !dialog.open) dialog.showModal();
    });
  }

  protected picture({ row }: Plate): string {
    const source = this.source();
    const at = 'token' in source ? `proof-links/${source.token}` : `proofs/${source.proof}`;
    const option = this.option();
    const query = option ? `?option=${encodeURIComponent(option)}` : '';
    return `/api/${at}/runs/${this.run().id}/plates/${row}/picture.png${query}`;
  }

  /** What is to be corrected of a plate, in words. */
  protected correctedWords({ row }: Plate): string {
    return this.ownCorrections().filter((each) => each.row === row).map(({ value }) => `“${value}”`).join(', '); // prettier-ignore
  }

  protected search(words: string): void {
    clearTimeout(this.pause);
    this.pause = setTimeout(() => {
      this.words.set(words);
      this.from.set(0);
    }, PAUSE_MS);
  }

  protected onlySaid(isSaid: boolean): void {
    this.isSaid.set(isSaid);
    this.from.set(0);
  }

  /** The plate before or after the one that is looked at, as far as the page goes. */
  protected step(by: number): void {
    const plates = this.found()?.plates ?? [];
    const next = plates[plates.findIndex(({ row }) => row === this.looked()) + by];
    if (next) this.looked.set(next.row);
  }

  protected correct(column: string, value: string): void {
    const row = this.looked();
    if (row !== undefined) this.corrected.emit({ run: this.run().id, row, column, value });
  }

  protected say(text: string): boolean {
    const row = this.looked();
    if (text.trim() === '' || row === undefined) return false;
    const { id: run, signId } = this.run();
    this.said.emit({ signId, run, row, text: text.trim() });
    return true;
  }

  private correctionOf({ row }: Plate, column: string | undefined): string | undefined {
    return this.ownCorrections().find((each) => each.row === row && each.column === column)?.value;
  }

  private async fetch(runId: string, from: number, words: string, isSaid: boolean): Promise<void> {
    const asked = ++this.asked;
    const source = this.source();
    const query = { ...(from > 0 && { from: String(from) }), ...(words.trim() !== '' && { words: words.trim() }), ...(isSaid && { only: 'said' as const }) }; // prettier-ignore
    await attempt(this.trouble, async () => {
      const found = await ('token' in source
        ? this.api.ask('GET /proof-links/:token/runs/:runId', { params: { token: source.token, runId }, query })
        : this.api.ask('GET /proofs/:id/runs/:runId', { params: { id: source.proof, runId }, query }));
      // What was asked for later counts.
      if (asked === this.asked) this.found.set(found);
    });
  }
}
