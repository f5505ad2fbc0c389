import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { ProofCorrection, RunProof } from '@plain-relief/api';
import { dayOf } from '../platform/moments';
import { isAsApproved, proofWords } from './proof-words';

/** Where a run stands with its customer, and what of its words is to be otherwise. */
@Component({
  selector: 'pr-run-proof',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="told" [class.good]="isAsApproved()" role="status">
      <a [routerLink]="['/jobs', jobId(), 'proofs']">Proof {{ proof().letter }}</a> {{ words() }}
      @if (other(); as option) {
        The plates are made otherwise.
        @if (!isLooking()) {
          <button type="button" class="btn btn-sm btn-outline-primary" (click)="chosen.emit(option.id)">
            Make them as {{ option.name }}
          </button>
        }
      }
      @if (open().length > 1 && !isLooking()) {
        <button type="button" class="btn btn-sm btn-outline-primary" (click)="taken.emit(open())">
          Take all {{ open().length }} corrections
        </button>
      }
    </p>
    @if (proof().corrections.length > 0) {
      <ul aria-label="Corrections of the customer">
        @for (one of proof().corrections; track one.id) {
          <li [class.ended]="one.end !== null">
            <button type="button" class="plain" (click)="looked.emit(one.row)">Plate {{ one.number }}</button>
            {{ one.column }} “{{ one.was }}” to be <b dir="auto">“{{ one.value }}”</b> <span class="quiet">({{ one.who }})</span>
            @if (one.end === null && !isLooking()) {
              <button type="button" class="btn btn-sm btn-outline-primary" (click)="taken.emit([one])">Take it</button>
              <button type="button" class="btn btn-sm btn-link" (click)="left.emit(one)">Leave the word</button>
            } @else if (one.end !== null) {
              <span class="quiet">{{ one.end === 'taken' ? 'taken' : 'left' }}</span>
            }
          </li>
        }
      </ul>
    }
    @if (proof().remarks.length > 0) {
      <ul aria-label="Remarks on plates">
        @for (one of proof().remarks; track one.id) {
          <li>
            <button type="button" class="plain" (click)="looked.emit(one.row!)">Plate {{ one.number }}</button>
            {{ one.text }} <span class="quiet">({{ one.isFromShop ? 'the shop' : one.who }}, {{ day(one.at) }})</span>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    ul {
      max-height: 9rem;
      margin: 0 0 0.5rem;
      padding: 0 0.6rem;
      overflow: auto;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 0.2rem 0.5rem;
      align-items: baseline;
      padding: 0.1rem 0;
    }
    .ended {
      color: var(--pr-quiet);
    }
    .plain {
      padding: 0;
      border: 0;
      background: none;
      color: var(--pr-accent);
      text-decoration: underline;
    }
  `,
})
export class RunProofPanel {
  readonly proof = input.required<RunProof>();
  readonly jobId = input.required<string>();
  readonly isLooking = input(false);
  readonly taken = output<readonly ProofCorrection[]>();
  readonly left = output<ProofCorrection>();
  /** The option that plates are to be made as. */
  readonly chosen = output<string>();
  /** A plate, by the id of its row. */
  readonly looked = output<number>();
  protected readonly day = dayOf;
  protected readonly open = computed(() => this.proof().corrections.filter(({ end }) => end === null));
  /** What the customer chose, where plates are made as something else. */
  protected readonly other = computed(() => {
    const { option, state } = this.proof();
    return state === 'approved' && option && !option.isMade ? option : undefined;
  });
  protected readonly words = computed(() => proofWords(this.proof()));
  /** Whether what is made is what was approved. */
  protected readonly isAsApproved = computed(() => isAsApproved(this.proof()));
}
