import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Masthead } from './masthead';

@Component({
  selector: 'pr-nowhere-page',
  imports: [RouterLink, Masthead],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <pr-masthead />
    <main class="container py-5">
      <h1>There is nothing at this address</h1>
      <p>It may be mistyped, or what was here has been removed.</p>
      <a routerLink="/jobs" class="btn btn-primary">To the jobs</a>
    </main>
  `,
})
export class NowherePage {}
