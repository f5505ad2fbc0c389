import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { type Note, type Remedy } from '@plain-relief/core/notes';

/** A remedy that is to be applied, to a part or to the blank. */
export interface Mending {
  readonly part?: string;
  readonly remedy: Remedy;
}

/** What is done where a remedy is taken. */
function remedyWords(remedy: Remedy): string {
  switch (remedy.kind) {
    case 'bridges':
      return 'Hold them by bridges';
    case 'backer':
      return 'Put a plate behind them';
    case 'later':
      return 'Build it after that';
    case 'font':
      return `Set it in ${remedy.name}`;
  }
}

/** A note: a click goes to its part, and its remedy mends it. */
@Component({
  selector: 'pr-note-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (note().part; as part) {
      <button type="button" title="Show it in the plan" (click)="picked.emit(part)">{{ note().text }}</button>
    } @else {
      <span>{{ note().text }}</span>
    }
    @if (note().remedy; as remedy) {
      <button type="button" class="remedy" (click)="mended.emit({ part: note().part, remedy })">{{ wordsOf(remedy) }}</button>
    }
  `,
  styleUrl: './note-line.scss',
})
export class NoteLine {
  readonly note = input.required<Note>();
  readonly picked = output<string>();
  readonly mended = output<Mending>();
  protected readonly wordsOf = remedyWords;
}
