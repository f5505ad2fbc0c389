import { ChangeDetectionStrategy, Component, output } from '@angular/core';

const KEYS: readonly (readonly [string, string])[] = [
  ['n · d · Delete', 'a new line of text; a copy of what is chosen; take it out'],
  ['Shift', 'with a click, or Enter on the ladder: choose several; drag with it: all in a box'],
  ['arrows', 'move what is chosen by 1 mm or 1/16 in, ten times as far with Shift'],
  ['t · T · x', 'a quarter turn to the left, to the right; mirror'],
  ['c · C', 'bring to the middle of the blank, across; up, words by their capitals'],
  ['g · G · l · h', 'group, ungroup; lock; hide'],
  ['e · r', 'the points of an outline; measure'],
  ['Alt', 'while dragging: held to nothing'],
  ['p · m · b · 0 · o', 'plan, model, or both; the whole blank; the other side'],
  ['/ · Ctrl K', 'any value of the sign by its name: “tracking”, Enter'],
  ['Alt ↑ · Alt ↓', 'on the ladder: later or earlier in the build order'],
  ['Ctrl A · C · X · V', 'choose all; copy, cut, and put in place, also in another sign'],
  ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
  ['Esc', 'let go of what is chosen, or leave a field as it was'],
  ['letters', 'in “Letters and gaps”, with Tab on a gap: left and right arrows close and open it'],
  ['Tab · Enter', 'go from value to value in the ticket, take a typed value'],
  ['?', 'these keys'],
];

/** The keys of the bench and how lengths are typed. */
@Component({
  selector: 'pr-keys-help',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section role="dialog" aria-label="Keys and lengths">
      <header>
        <h2>Keys</h2>
        <button type="button" class="btn btn-sm btn-link" (click)="closed.emit()">Close</button>
      </header>
      <dl>
        @for (key of keys; track key[0]) {
          <dt class="figure">{{ key[0] }}</dt>
          <dd>{{ key[1] }}</dd>
        }
      </dl>
      <h2>Lengths</h2>
      <p>
        Every length takes any unit, whatever the sign is shown in: <b class="figure">19mm</b>, <b class="figure">3/4 in</b>,
        <b class="figure">1 ft 2 1/2 in</b>, <b class="figure">6 mm + 1/8 in</b>. In a length, the up and down keys change it step
        by step.
      </p>
    </section>
  `,
  styles: `
    section {
      position: absolute;
      right: 1rem;
      bottom: 1rem;
      z-index: 20;
      width: 27rem;
      padding: 0.8rem 1rem;
      border: 1px solid var(--pr-line);
      border-top: 3px solid var(--pr-accent);
      background: var(--pr-sheet);
      box-shadow: 0 4px 18px rgb(60 45 10 / 25%);
    }
    header {
      display: flex;
      justify-content: space-between;
    }
    h2 {
      font-size: 1.05rem;
    }
    dl {
      display: grid;
      grid-template-columns: 9rem 1fr;
      gap: 0.15rem 0.6rem;
    }
    dd,
    p {
      margin: 0;
    }
  `,
})
export class KeysHelp {
  readonly closed = output();
  protected readonly keys = KEYS;
}
