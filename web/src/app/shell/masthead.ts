import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Help } from '../help/help';
import { PersonMenu } from '../session/person-menu';

/** The band at the top of every place: the shop's name, the way to the jobs, and what the place puts into it. */
@Component({
  selector: 'pr-masthead',
  imports: [RouterLink, PersonMenu],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="masthead">
      <a routerLink="/jobs" class="masthead-name" aria-label="Plain Relief, to the jobs">
        <svg viewBox="0 0 32 32" aria-hidden="true"><path d="M3 26V19h6v-9h6v5h4V6h6v13h4v7z" /></svg>
        <span>Plain Relief</span>
      </a>
      <ng-content />
      <button type="button" class="help" aria-label="Help" title="Help (?)" (click)="help.toggle()">?</button>
      <pr-person-menu />
    </header>
  `,
  styles: `
    .help {
      flex: none;
      width: 2.1rem;
      height: 2.1rem;
      padding: 0;
      border: 1px solid var(--pr-line);
      border-radius: 50%;
      background: none;
      color: var(--pr-accent);
      font-weight: 700;
    }
  `,
})
export class Masthead {
  protected readonly help = inject(Help);
}
