import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';
import { NgbHighlight, NgbTypeahead, type NgbTypeaheadSelectItemEvent } from '@ng-bootstrap/ng-bootstrap/typeahead';
import { type SoughtValue } from '@plain-relief/core/sign';
import { map, type Observable } from 'rxjs';

/** A field that goes to any value of the sign: typed by its name, taken with Enter. */
@Component({
  selector: 'pr-value-search',
  imports: [NgbTypeahead, NgbHighlight],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #row let-value="result" let-term="term">
      <ngb-highlight [result]="value.label" [term]="term" />
      <span class="about">{{ value.about }}</span>
      <span class="figure">{{ value.text }}</span>
    </ng-template>
    <input
      class="form-control form-control-sm"
      type="search"
      placeholder="Find a value"
      aria-label="Find a value"
      title="Any value of the sign by its name (/)"
      autocomplete="off"
      [ngbTypeahead]="search"
      [resultTemplate]="row"
      [inputFormatter]="nothing"
      popupClass="values"
      placement="bottom-end"
      (selectItem)="take($event)"
    />
  `,
  styles: `
    input {
      width: 8.2rem;
    }
    .about {
      margin-left: 0.5rem;
      opacity: 0.75;
    }
    .figure {
      float: right;
      overflow: hidden;
      max-width: 9rem;
      margin-left: 0.6rem;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class ValueSearch {
  /** The values that answer a question, the likeliest first. */
  readonly values = input.required<(question: string) => readonly SoughtValue[]>();
  readonly found = output<SoughtValue>();
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected readonly search = (typed: Observable<string>): Observable<readonly SoughtValue[]> =>
    typed.pipe(map((question) => this.values()(question)));
  protected readonly nothing = (): string => '';

  focus(): void {
    this.host.nativeElement.querySelector('input')?.focus();
  }

  protected take(event: NgbTypeaheadSelectItemEvent<SoughtValue>): void {
    event.preventDefault();
    const field = this.host.nativeElement.querySelector('input');
    if (field) field.value = '';
    this.found.emit(event.item);
  }
}
