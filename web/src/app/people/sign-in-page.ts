import type { Door } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { LineField } from '../fields/line-field';
import { SessionService } from '../session/session.service';

/** The door of the shop: who comes says who they are. */
@Component({
  selector: 'pr-sign-in-page',
  imports: [LineField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main>
      <form [formGroup]="form" (ngSubmit)="enter()" aria-label="Sign in">
        <h1>
          <svg viewBox="0 0 32 32" aria-hidden="true"><path d="M3 26V19h6v-9h6v5h4V6h6v13h4v7z" /></svg>
          Plain Relief
        </h1>
        @if (door()?.isNew) {
          <p>Nobody works here yet. Whoever comes first owns the shop, and adds the others.</p>
          <pr-line-field label="Your name" fill="name" [most]="120" formControlName="name" />
        }
        <pr-line-field label="E-mail address" type="email" fill="username" [isFirst]="true" formControlName="email" />
        <pr-line-field
          label="Password"
          type="password"
          [fill]="door()?.isNew ? 'new-password' : 'current-password'"
          formControlName="password"
        />
        @if (door()?.isNew) {
          <p class="quiet">Ten letters or more; long is better than odd.</p>
        }
        @if (trouble()) {
          <p class="trouble" role="alert">{{ trouble() }}</p>
        }
        <button type="submit" class="btn btn-primary" [disabled]="isBusy()">
          {{ door()?.isNew ? 'Begin' : 'Sign in' }}
        </button>
      </form>
      @if (door()?.demo; as demo) {
        <section class="told" aria-label="People of the demo">
          <p>
            This is the demo shop. Its people sign in with the password <code>{{ demo.password }}</code>:
          </p>
          @for (person of demo.people; track person.email) {
            <button type="button" class="btn btn-sm btn-outline-primary" (click)="enterAs(person.email, demo.password)">
              {{ person.name }}, {{ person.role }}
            </button>
          }
        </section>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 25rem;
      margin: 12vh auto 0;
      padding: 0 1rem;
    }
    form,
    .told {
      padding: 1.2rem 1.4rem 1.4rem;
      border: 1px solid var(--pr-line);
      background: var(--pr-sheet);
    }
    .told {
      margin-top: 1rem;
      border-left: 4px solid var(--pr-brass);
      white-space: normal;
    }
    .told button {
      margin: 0 0.4rem 0.4rem 0;
    }
    code {
      color: inherit;
      font-weight: 700;
    }
    h1 {
      display: flex;
      gap: 0.6rem;
      align-items: center;
      margin-bottom: 1rem;
      font-size: 1.5rem;
    }
    svg {
      width: 2rem;
      fill: var(--pr-accent);
    }
  `,
})
export class SignInPage {
  /** Where to go on; from the address. */
  readonly then = input<string>();
  private readonly session = inject(SessionService);
  private readonly router = inject(Router);
  protected readonly door = signal<Door | undefined>(undefined);
  protected readonly form = inject(NonNullableFormBuilder).group({ name: '', email: '', password: '' });
  protected readonly trouble = signal('');
  protected readonly isBusy = signal(false);

  constructor() {
    void this.look();
  }

  protected enterAs(email: string, password: string): void {
    this.form.patchValue({ email, password });
    void this.enter();
  }

  protected async enter(): Promise<void> {
    const { name, email, password } = this.typed();
    const isNew = this.door()?.isNew === true;
    const lacks =
      isNew && name === '' ? 'your name' : email === '' ? 'your e-mail address' : password === '' ? 'your password' : '';
    if (lacks) return this.trouble.set(`Type ${lacks}.`);
    if (isNew && password.length < 10) return this.trouble.set('The password needs ten letters or more.');
    this.trouble.set('');
    this.isBusy.set(true);
    try {
      await (isNew ? this.session.begin(name, email, password) : this.session.signIn(email, password));
      await this.goOn();
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
    this.isBusy.set(false);
  }

  private typed(): { name: string; email: string; password: string } {
    const { name, email, password } = this.form.getRawValue();
    return { name: name.trim(), email: email.trim(), password };
  }

  private async look(): Promise<void> {
    try {
      const door = await this.session.look();
      if (door) this.door.set(door);
      else await this.goOn();
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  /** To places of the application alone: an address of elsewhere is none of its paths. */
  private async goOn(): Promise<void> {
    const then = this.then() ?? '';
    await this.router.navigateByUrl(/^\/(?!\/|sign-in)/u.test(then) ? then : '/jobs');
  }
}
