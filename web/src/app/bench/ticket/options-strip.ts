import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Sign } from '@plain-relief/core/sign';
import { ChoiceField } from '../../fields/choice-field';
import { NameField } from '../../fields/name-field';

const PLAIN = 'plain';

/** Which of a sign's options is shown and edited; options are added, named and taken out here. */
@Component({
  selector: 'pr-options-strip',
  imports: [ChoiceField, NameField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (options().length > 0) {
      <p>
        Shown is <pr-choice-field [value]="value()" label="option shown" [choices]="choices()" (changed)="show($event)" />
        @if (current(); as option) {
          @if (isLooking()) {
            .
          } @else {
            , named
            <pr-name-field
              [value]="option.name"
              label="name of the option"
              (changed)="renamed.emit({ option: option.id, name: $event })"
            />. Its heights, finishes and what is switched on are its own, all else is that of the sign.
          }
        } @else {
          .
        }
      </p>
    }
    <p class="acts" [hidden]="isLooking()">
      <button type="button" class="plain" (click)="added.emit()">
        {{ options().length > 0 ? 'Another option' : 'Offer options to choose from' }}
      </button>
      @if (current(); as option) {
        <button type="button" class="plain" (click)="removed.emit(option.id)">Take {{ option.name }} out</button>
      }
    </p>
  `,
  styles: `
    :host {
      display: block;
      padding: 0.35rem 0.9rem;
      border-bottom: 1px solid var(--pr-line);
    }
    p {
      margin: 0;
    }
    .acts {
      display: flex;
      gap: 1rem;
    }
    .plain {
      padding: 0;
      border: 0;
      background: none;
      color: var(--pr-accent);
      font-weight: 500;
    }
  `,
})
export class OptionsStrip {
  readonly sign = input.required<Sign>();
  readonly option = input<string>();
  /** Whether options can only be looked at. */
  readonly isLooking = input(false);
  readonly shown = output<string | undefined>();
  readonly added = output();
  readonly removed = output<string>();
  readonly renamed = output<{ readonly option: string; readonly name: string }>();
  protected readonly options = computed(() => this.sign().options ?? []);
  protected readonly current = computed(() => this.options().find(({ id }) => id === this.option()));
  protected readonly value = computed(() => this.option() ?? PLAIN);
  protected readonly choices = computed(() => [
    { value: PLAIN, text: 'the sign as it stands' },
    ...this.options().map(({ id, name }) => ({ value: id, text: name })),
  ]);

  protected show(value: string): void {
    this.shown.emit(value === PLAIN ? undefined : value);
  }
}
