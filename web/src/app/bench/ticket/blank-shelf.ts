import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type Blank } from '@plain-relief/core/sign';
import { NameField } from '../../fields/name-field';
import { NumberField } from '../../fields/number-field';
import { ShopService } from '../../shop/shop.service';

/** The shop's usual blanks for this sign, and what else is done with a blank as a whole. */
@Component({
  selector: 'pr-blank-shelf',
  imports: [NameField, NumberField, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      <select #usualField aria-label="usual blank" (change)="take(usualField)">
        <option value="">take a usual blank …</option>
        @for (row of shop().blanks; track row.id) {
          <option [value]="row.id">{{ row.name }}</option>
        }
      </select>
      or keep this one as
      <pr-name-field [value]="name()" label="name of a usual blank" (changed)="name.set($event)" />
      <button type="button" (click)="keep()">keep it</button>
      @if (said(); as sentence) {
        <span role="status">{{ sentence }} <a routerLink="/shop">Shop</a></span>
      }
    </p>
    <p>
      A new size of the blank moves nothing; the whole design at
      <pr-number-field
        [value]="100"
        suffix=" %"
        label="size of the whole design"
        [min]="5"
        [max]="2000"
        (changed)="scaled.emit($event / 100)"
      />
      of its size.
    </p>
  `,
  styles: `
    p {
      margin: 0.2rem 0 0;
      color: var(--pr-quiet);
      font-size: 0.94rem;
    }
    select {
      max-width: 12rem;
      border: 0;
      border-bottom: 1.5px solid var(--pr-accent);
      background: transparent;
      color: #1f5a52;
      font: inherit;
      font-weight: 600;
    }
    button {
      padding: 0;
      border: 0;
      background: none;
      color: var(--pr-accent);
    }
  `,
})
export class BlankShelf {
  readonly blank = input.required<Blank>();
  readonly taken = output<Blank>();
  readonly scaled = output<number>();
  private readonly service = inject(ShopService);
  protected readonly shop = toSignal(this.service.state$, { requireSync: true });
  protected readonly name = signal('Usual blank');
  protected readonly said = signal('');

  protected take(field: HTMLSelectElement): void {
    const row = this.shop().blanks.find(({ id }) => id === field.value);
    field.value = '';
    if (row) this.taken.emit(row.blank);
  }

  protected async keep(): Promise<void> {
    try {
      await this.service.addBlank(this.name(), this.blank());
      this.said.set(`Kept as “${this.name()}”.`);
    } catch (error) {
      this.said.set((error as Error).message);
    }
  }
}
