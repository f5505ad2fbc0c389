import { ChangeDetectionStrategy, Component, output } from '@angular/core';

const KEYS: readonly (readonly [string, string])[] = [
  ['n', 'a new line of text'],
  ['d', 'a copy of the selected part'],
  ['Delete', 'take the selected part out'],
  ['arrows', 'move the selected part by 1 mm or 1/16 in, ten times as far with Shift'],
  ['p · m · b', 'plan, model, or both'],
  ['f', 'show the whole blank'],
  ['Ctrl Z · Ctrl Shift Z', 'undo, redo'],
  ['Esc', 'let go of the selected part, or leave a field as it was'],
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
