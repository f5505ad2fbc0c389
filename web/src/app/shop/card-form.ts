import type { ShopCard } from '@plain-relief/api';
import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { LineField } from '../fields/line-field';
import { SessionService } from '../session/session.service';
import { CardService } from './card.service';
import { inBase64 } from './shop.service';

const MOST_BYTES = 500_000;

/** The kind of a picture by what its bytes in base 64 begin with: 0x89504e47 of PNG, 0xffd8ff of JPEG. */
function kindOf(base64: string): 'png' | 'jpeg' | undefined {
  if (base64.startsWith('iVBORw')) return 'png';
  return base64.startsWith('/9j/') ? 'jpeg' : undefined;
}

/** What stands on every sheet about the shop: its name, how it is reached, its terms, its logo. */
@Component({
  selector: 'pr-card-form',
  imports: [LineField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (card(); as own) {
      <form novalidate (submit)="$event.preventDefault(); keep()" aria-label="The shop on its sheets">
        <fieldset [disabled]="!isOwner">
          <pr-line-field label="Name" [most]="120" [value]="own.name" (valueChange)="write({ name: $event })" />
          <pr-line-field
            label="Where it is and how it is reached"
            [most]="300"
            [value]="own.contact"
            (valueChange)="write({ contact: $event })"
          />
          <pr-line-field
            label="Terms, a line each"
            [rows]="4"
            [most]="4000"
            [value]="own.terms"
            (valueChange)="write({ terms: $event })"
          />
          <div class="logo">
            @if (own.logo) {
              <img [src]="source(own.logo)" alt="The shop's logo" />
              <button type="button" class="btn btn-sm btn-link" (click)="write({ logo: undefined })">Take it out</button>
            }
            <label class="btn btn-sm btn-outline-primary file">
              {{ own.logo ? 'Another logo' : 'Add a logo' }} (PNG, JPEG)
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
  protected readonly card = signal<ShopCard | undefined>(undefined);
  protected readonly trouble = signal('');
  protected readonly said = signal('');

  constructor() {
    void this.attempt('', () => this.service.card());
  }

  protected write(change: Partial<ShopCard>): void {
    this.said.set('');
    this.card.update((card) => card && { ...card, ...change });
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
      this.write({ logo });
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }

  protected keep(): Promise<void> {
    const card = this.card();
    if (!card) return Promise.resolve();
    if (card.name.trim() === '') return Promise.resolve(this.trouble.set('The shop needs a name.'));
    return this.attempt('Kept: it stands on every proof from now on.', () => this.service.keep(card));
  }

  private async attempt(good: string, act: () => Promise<ShopCard>): Promise<void> {
    this.trouble.set('');
    try {
      this.card.set(await act());
      this.said.set(good);
    } catch (error) {
      this.trouble.set((error as Error).message);
    }
  }
}
