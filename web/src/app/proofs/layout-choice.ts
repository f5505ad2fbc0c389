import { ChangeDetectionStrategy, Component, computed, effect, forwardRef, inject, input, model, signal } from '@angular/core';
import { takeUntilDestroyed, toSignal } from '@angular/core/rxjs-interop';
import { type ControlValueAccessor, NG_VALUE_ACCESSOR, NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { type Block, BLOCKS, EVERYTHING, PAPER_NAMES, type SheetLayout } from '@plain-relief/core/sheet';
import { SessionService } from '../session/session.service';
import { CardService } from '../shop/card.service';
import { BLOCK_WORDS, CLOSING_BLOCKS, isSameLayout, type Way, wayOf } from '../shop/sheet-layout';
import { attempt } from '../platform/attempt';

/** What the sheet shows and on which paper: one of the shop's layouts, or as it is chosen here, which can be kept. */
@Component({
  selector: 'pr-layout-choice',
  imports: [ReactiveFormsModule],
  providers: [{ provide: NG_VALUE_ACCESSOR, useExisting: forwardRef(() => LayoutChoice), multi: true }],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details [formGroup]="form">
      <summary>The sheet: {{ layout().paper }} {{ wayWords[way()] }}{{ name() ? ', ' + name() : '' }}</summary>
      <div class="row1">
        <select #usualField class="form-select form-select-sm" aria-label="layout of the shop" (change)="take(usualField.value)">
          <option value="" [selected]="!name()">as chosen here</option>
          <option value="everything" [selected]="isEverything()">everything</option>
          @for (kept of layouts(); track kept.id) {
            <option [value]="kept.id" [selected]="current()?.id === kept.id">{{ kept.name }}</option>
          }
        </select>
        <select class="form-select form-select-sm" aria-label="paper" formControlName="paper">
          @for (paper of papers; track paper) {
            <option [value]="paper">{{ paper }}</option>
          }
        </select>
        <select class="form-select form-select-sm" aria-label="which way the paper lies" formControlName="way">
          @for (each of ways; track each) {
            <option [value]="each">{{ wayWords[each] }}</option>
          }
        </select>
      </div>
      <label>
        <input type="checkbox" formControlName="isInBothUnits" />
        lengths in millimetres and in inches
      </label>
      <label>
        <input type="checkbox" formControlName="isInFinishes" />
        plans in their finishes and not by heights
      </label>
      <div class="blocks" role="group" aria-label="What the sheet shows besides the plan">
        @for (block of blocks(); track block) {
          <label>
            <input
              #showField
              type="checkbox"
              [checked]="layout().shows.includes(block)"
              (change)="show(block, showField.checked)"
            />
            {{ words[block] }}
          </label>
        }
      </div>
      <div class="row1">
        @if (!isLooking && current(); as kept) {
          <button type="button" class="btn btn-sm btn-link" (click)="drop(kept.id)">
            Take “{{ kept.name }}” out of the shop
          </button>
        } @else if (!isLooking && !isEverything()) {
          <input
            #title
            class="form-control form-control-sm"
            maxlength="80"
            placeholder="Name of the layout"
            aria-label="Name of the layout"
          />
          <button type="button" class="btn btn-sm btn-outline-primary" (click)="keep(title.value)">Keep for the shop</button>
        }
      </div>
      @if (trouble()) {
        <p class="trouble" role="alert">{{ trouble() }}</p>
      }
    </details>
  `,
  styles: `
    details {
      margin-bottom: 0.8rem;
    }
    summary {
      font-weight: 700;
    }
    .row1 {
      display: flex;
      gap: 0.4rem;
      margin: 0.4rem 0;
    }
    .blocks {
      columns: 2;
      margin-top: 0.3rem;
    }
    label {
      display: block;
    }
  `,
})
export class LayoutChoice implements ControlValueAccessor {
  readonly layout = model<SheetLayout>(EVERYTHING);
  /** Of one sign, without the pages that a frozen proof closes with. */
  readonly isSheet = input(false);
  private readonly service = inject(CardService);
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly layouts = toSignal(this.service.layouts$, { requireSync: true });
  protected readonly current = computed(() => this.layouts().find(({ layout }) => isSameLayout(layout, this.layout())));
  protected readonly isEverything = computed(() => isSameLayout(EVERYTHING, this.layout()));
  protected readonly name = computed(() => this.current()?.name ?? (this.isEverything() ? 'everything' : ''));
  protected readonly trouble = signal('');
  protected readonly papers = PAPER_NAMES;
  protected readonly way = computed(() => wayOf(this.layout()));
  protected readonly ways: readonly Way[] = ['by the sign', 'across', 'upright'];
  protected readonly wayWords: Readonly<Record<Way, string>> = {
    'by the sign': 'turned by the sign',
    across: 'across',
    upright: 'upright',
  };
  protected readonly blocks = computed(() => BLOCKS.filter((block) => !this.isSheet() || !CLOSING_BLOCKS.has(block)));
  protected readonly words = BLOCK_WORDS;

  protected readonly form = inject(NonNullableFormBuilder).group({
    paper: EVERYTHING.paper,
    way: wayOf(EVERYTHING),
    isInBothUnits: false,
    isInFinishes: false,
  });
  private changed: (layout: SheetLayout) => void = () => undefined;

  constructor() {
    effect(() => {
      const { paper, isInBothUnits, isInFinishes = false } = this.layout();
      this.form.setValue({ paper, way: this.way(), isInBothUnits, isInFinishes }, { emitEvent: false });
    });
    this.form.valueChanges.pipe(takeUntilDestroyed()).subscribe(() => {
      const { way, ...rest } = this.form.getRawValue();
      this.change({ ...rest, isUpright: way === 'upright', isTurnedBySign: way === 'by the sign' });
    });
    void this.attempt(() => this.service.loadLayouts());
  }

  protected take(id: string): void {
    if (id === 'everything') this.choose(EVERYTHING);
    const kept = this.layouts().find((one) => one.id === id);
    if (kept) this.choose(kept.layout);
  }

  private change(change: Partial<SheetLayout>): void {
    this.choose({ ...this.layout(), ...change });
  }

  private choose(layout: SheetLayout): void {
    this.layout.set(layout);
    this.changed(layout);
  }

  writeValue(layout: SheetLayout): void {
    this.layout.set(layout);
  }

  registerOnChange(changed: (layout: SheetLayout) => void): void {
    this.changed = changed;
  }

  registerOnTouched(): void {
    // A layout is never wrong, and nobody asks whether it was left.
  }

  protected show(block: Block, isShown: boolean): void {
    const shows = new Set(this.layout().shows);
    if (isShown) shows.add(block);
    else shows.delete(block);
    this.change({ shows: BLOCKS.filter((each) => shows.has(each)) });
  }

  protected keep(name: string): Promise<void> {
    if (name.trim() === '') return Promise.resolve(this.trouble.set('A layout has a name, such as “Short, for e-mail”.'));
    return this.attempt(() => this.service.keepLayout(name.trim(), this.layout()));
  }

  protected drop(id: string): Promise<void> {
    return this.attempt(() => this.service.dropLayout(id));
  }

  private async attempt(act: () => Promise<unknown>): Promise<void> {
    await attempt(this.trouble, act);
  }
}
