import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { SaveState } from './autosave';

/** Says how saving stands, and why where nothing is saved. */
@Component({
  selector: 'pr-save-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <span class="mark" [class]="save().kind" role="status" [title]="reason()">{{ words() }}</span>
    @if (save().kind === 'refused') {
      <div class="choice" role="alert">
        <p>The server does not take the sign as it is. Mend this, and it is saved: {{ reason() }}</p>
      </div>
    }
  `,
  styles: `
    :host {
      position: relative;
    }
    .mark {
      color: var(--pr-quiet);
      white-space: nowrap;
    }
    .mark.waiting,
    .mark.refused,
    .mark.conflict {
      padding: 0.1rem 0.5rem;
      background: #f3dfc4;
      color: var(--pr-alarm);
      font-weight: 700;
    }
    .choice {
      position: absolute;
      top: 2rem;
      right: 0;
      z-index: 30;
      width: 24rem;
      padding: 0.7rem 0.9rem;
      border: 1px solid var(--pr-line);
      border-top: 3px solid var(--pr-alarm);
      background: var(--pr-sheet);
      box-shadow: 0 4px 18px rgb(60 45 10 / 25%);
    }
  `,
})
export class SaveMark {
  readonly save = input.required<SaveState>();
  protected readonly reason = computed(() => {
    const save = this.save();
    return 'reason' in save ? save.reason : '';
  });
  protected readonly words = computed(() => {
    const { kind, revision } = this.save();
    switch (kind) {
      case 'saved':
        return `saved, revision ${revision}`;
      case 'saving':
        return 'saving …';
      case 'waiting':
        return 'not saved yet: kept in this browser';
      case 'refused':
        return 'not saved: see why';
      case 'conflict':
        return 'saved elsewhere: choose';
    }
  });
}
