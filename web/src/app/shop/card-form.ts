import type { ShopCard } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { LineField } from '../fields/line-field';
import { SessionService } from '../session/session.service';
import { CardService } from './card.service';
import { inBase64 } from './shop.service';
import { attempt } from '../platform/attempt';

const MOST_BYTES = 500_000;

/** The kind of a picture by what its bytes in base 64 begin with: 0x89504e47 of PNG, 0xffd8ff of JPEG. */
function kindOf(base64: string): 'png' | 'jpeg' | undefined {
  if (base64.startsWith('iVBORw')) return 'png';
  return base64.startsWith('/9j/') ? 'jpeg' : undefined;
}

/** What stands on every sheet about the shop: its name, how it is reached, its terms, its logo. */
@Component({
  selector: 'pr-card-form',
  imports: [LineField, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (isLoaded()) {
      <form [formGroup]="form" (ngSubmit)="keep()" aria-label="The shop on its sheets">
        <fieldset [disabled]="!isOwner">
          <pr-line-field label="Name" [most]="120" formControlName="name" />
          <pr-line-field label="Where it is and how it is reached" [most]="300" formControlName="contact" />
          <pr-line-field label="Terms, a line each" [rows]="4" [most]="4000" formControlName="terms" />
          <div class="logo">
            @if (logo(); as shown) {
              <img [src]="source(shown)" alt="The shop's logo" />
              <button type="button" class="btn btn-sm btn-link" (click)="logo.set(undefined)">Take it out</button>
            }
            <label class="btn btn-sm btn-outline-primary file">
              {{ logo() ? 'Another logo' : 'Add a logo' }} (PNG, JPEG)
              <input #file type="file" accept=".png,.jpg,.jpeg" (change)="chosen(file)" />
            </label>
          </div>
          @if (isOwner) {
            <button type="submit" class="btn btn-primary">Keep</button>
          } @else {
            <p class="quiet">An owner changes this.</p>
          }
        </fieldset>
        @if (trouble()) {
          <p class="trouble" role="alert">{{ trouble() }}</p>
        }
        @if (said()) {
          <p role="status">{{ said() }}</p>
        }
      </form>
    }
  `,
  styles: `
    form {
      max-width: 40rem;
    }
    .logo {
      display: flex;
      gap: 0.8rem;
      align-items: center;
      margin-bottom: 0.8rem;
    }
    img {
      max-width: 12rem;
      max-height: 4rem;
      background: #fff;
    }
    .file input {
      position: absolute;
      width: 1px;
      opacity: 0;
    }
    .file:focus-within {
      outline: 2px solid var(--pr-brass);
    }
  `,
})
export class CardForm {
  private readonly service = inject(CardService);
  protected readonly isOwner = inject(SessionService).person?.role === 'owner';
  protected readonly form = new FormGroup({
    name: new FormControl('', { nonNullable: true, validators: [Validators.required, Validators.pattern(/\S/u)] }),
    contact: new FormControl('', { nonNullable: true }),
    terms: new FormControl('', { nonNullable: true }),
  });
  /** In base 64. */
  protected readonly logo = signal<string | undefined>(undefined);
  protected readonly isLoaded = signal(false);
  protected readonly trouble = signal('');
  protected readonly said = signal('');

  constructor() {
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => this.said.set(''));
    void this.attempt('', () => this.service.card());
  }

  protected source(logo: string): string {
    return `data:image/${kindOf(logo)};base64,${logo}`;
  }

  protected async chosen(input: HTMLInputElement): Promise<void> {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    if (file.size > MOST_BYTES) {
      const size = (file.size / 1000).toFixed(0);
      return this.trouble.set(`“${file.name}” has ${size} kB, and a logo may have ${MOST_BYTES / 1000}.`);
    }
    try {
      this.trouble.set('');
      const logo = await inBase64(file);
      if (!kindOf(logo)) return this.trouble.set(`“${file.name}” is no PNG and no JPEG: save the logo as one of them.`);
      this.said.set('');
      this.logo.set(logo);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  protected keep(): Promise<void> {
    if (this.form.invalid) return Promise.resolve(this.trouble.set('The shop needs a name.'));
    const logo = this.logo();
    const card: ShopCard = { ...this.form.getRawValue(), ...(logo !== undefined && { logo }) };
    return this.attempt('Kept: it stands on every proof from now on.', () => this.service.keep(card));
  }

  private async attempt(good: string, act: () => Promise<ShopCard>): Promise<void> {
    await attempt(this.trouble, async () => {
      const { name, contact, terms, logo } = await act();
      this.form.setValue({ name, contact, terms });
      this.logo.set(logo);
      this.isLoaded.set(true);
      this.said.set(good);
    });
  }
}
