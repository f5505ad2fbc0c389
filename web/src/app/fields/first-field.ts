import { afterNextRender, booleanAttribute, Directive, ElementRef, inject, input } from '@angular/core';

/** A field that has the focus when it is first shown. The attribute of HTML does that for the first field of a document alone. */
@Directive({ selector: 'input[prFirst]' })
export class FirstField {
  readonly isFirst = input(true, { alias: 'prFirst', transform: booleanAttribute });
  private readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  constructor() {
    afterNextRender(() => {
      if (this.isFirst()) this.field.focus();
    });
  }
}
