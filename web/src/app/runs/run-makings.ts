import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { RunMaking } from '@plain-relief/api';
import { ProgressRing } from '../fields/progress-ring';
import { dayOf } from '../platform/moments';
import { makingWords, shareMade, sizeWords } from './making-words';

/** What is to become of files that workers make. */
export interface Turn {
  readonly id: string;
  readonly state: 'paused' | 'running' | 'cancelled';
}

/** Files of a run that workers make: how far they are, and where they can be had. */
@Component({
  selector: 'pr-run-makings',
  imports: [ProgressRing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Files that workers make">
      @for (one of makings(); track one.id) {
        <li>
          <pr-progress-ring [share]="one.state === 'done' ? 1 : shareMade(one)" [label]="'Files of ' + one.title" />
          <div>
            @if (one.state === 'done') {
              <a [href]="'/api/makings/' + one.id + '/file'" download>{{ one.title }}, all files</a>
              <span class="quiet">({{ sizeWords(one.bytes) }})</span>
            }
            <span role="status">{{ words(one) }}</span>
            <span class="quiet"> Asked for by {{ one.who }}, {{ day(one.askedAt) }}.</span>
          </div>
          @switch (one.state) {
            @case ('running') {
              <button type="button" class="btn btn-sm btn-outline-primary" (click)="turned.emit({ id: one.id, state: 'paused' })">
                Pause
              </button>
            }
            @case ('paused') {
              <button
                type="button"
                class="btn btn-sm btn-outline-primary"
                (click)="turned.emit({ id: one.id, state: 'running' })"
              >
                Go on
              </button>
            }
          }
          @if (one.state === 'running' || one.state === 'paused') {
            <button type="button" class="btn btn-sm btn-link" (click)="turned.emit({ id: one.id, state: 'cancelled' })">
              End
            </button>
          }
        </li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0.5rem 0 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 0.6rem;
      align-items: baseline;
      padding: 0.4rem 0;
      border-top: 1px solid var(--pr-line);
    }
    pr-progress-ring {
      align-self: center;
    }
    div {
      display: flex;
      flex: 1;
      flex-wrap: wrap;
      gap: 0 0.4rem;
    }
  `,
})
export class RunMakings {
  readonly makings = input.required<readonly RunMaking[]>();
  readonly turned = output<Turn>();
  protected readonly words = makingWords;
  protected readonly shareMade = shareMade;
  protected readonly sizeWords = sizeWords;
  protected readonly day = dayOf;
}
