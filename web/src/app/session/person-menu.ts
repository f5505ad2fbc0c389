import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import {
  NgbDropdown,
  NgbDropdownButtonItem,
  NgbDropdownItem,
  NgbDropdownMenu,
  NgbDropdownToggle,
} from '@ng-bootstrap/ng-bootstrap/dropdown';
import { SessionService } from './session.service';

/** Who is signed in, and the way out. */
@Component({
  selector: 'pr-person-menu',
  imports: [NgbDropdown, NgbDropdownButtonItem, NgbDropdownItem, NgbDropdownMenu, NgbDropdownToggle, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (person(); as me) {
      <div ngbDropdown placement="bottom-end">
        <button
          type="button"
          class="me"
          ngbDropdownToggle
          [attr.aria-label]="initials(me.name) + ': ' + me.name + ', ' + me.role"
        >
          {{ initials(me.name) }}
        </button>
        <div ngbDropdownMenu>
          <p>
            <strong>{{ me.name }}</strong><br />{{ me.role }}
          </p>
          <a ngbDropdownItem routerLink="/people">{{ me.role === 'owner' ? 'People and what was done' : 'Your password' }}</a>
          <button type="button" ngbDropdownItem (click)="leave(false)">Sign out</button>
          <button type="button" ngbDropdownItem (click)="leave(true)">Sign out everywhere</button>
          @if (trouble()) {
            <p class="trouble" role="alert">{{ trouble() }}</p>
          }
        </div>
      </div>
    }
  `,
  styles: `
    .me {
      width: 2.1rem;
      height: 2.1rem;
      padding: 0;
      border: 1px solid var(--pr-line);
      border-radius: 50%;
      background: var(--pr-paper);
      color: var(--pr-ink);
      font-weight: 700;
      font-size: 0.85rem;
    }
    .me::after {
      content: none;
    }
    p {
      margin: 0;
      padding: 0.2rem 1rem 0.4rem;
    }
  `,
})
export class PersonMenu {
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly person = toSignal(this.session.person$);
  protected readonly trouble = signal('');

  protected initials(name: string): string {
    return name
      .split(/\s+/u)
      .map((word) => word[0])
      .slice(0, 2)
      .join('');
  }

  protected async leave(isEverywhere: boolean): Promise<void> {
    try {
      await this.session.signOut(isEverywhere);
      await this.router.navigateByUrl('/sign-in');
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }
}
