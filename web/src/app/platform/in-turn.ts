import { Directive, effect, ElementRef, inject, Injectable, input, type OnDestroy, signal } from '@angular/core';

/** Browsers ask a server for six things at once: so many are left for what somebody waits for. */
const MOST_AT_ONCE = 3;

/** Pictures that wait until fewer are on their way. */
@Injectable({ providedIn: 'root' })
export class Turns {
  private readonly begun = new Set<object>();
  private readonly waiting = new Map<object, () => void>();

  /** Begins at once or when it is its turn; another one of the same owner takes its place. */
  take(owner: object, begin: () => void): void {
    this.waiting.set(owner, begin);
    this.next();
  }

  /** Ended, failed, or not wanted any more. */
  leave(owner: object): void {
    this.waiting.delete(owner);
    this.begun.delete(owner);
    this.next();
  }

  private next(): void {
    for (const [owner, begin] of this.waiting) {
      if (this.begun.size >= MOST_AT_ONCE && !this.begun.has(owner)) continue;
      this.waiting.delete(owner);
      this.begun.add(owner);
      begin();
    }
  }
}

/**
 * A picture that the server may take seconds to draw: it loads when it comes into view, a few at a time, and not at all when it has
 * gone from the page.
 */
@Directive({
  selector: 'img[prInTurn]',
  host: { '(load)': 'leave()', '(error)': 'leave()' },
})
export class InTurn implements OnDestroy {
  readonly address = input.required<string>({ alias: 'prInTurn' });
  private readonly image = inject<ElementRef<HTMLImageElement>>(ElementRef).nativeElement;
  private readonly turns = inject(Turns);

  private readonly isNear = signal(false);
  private readonly watch = new IntersectionObserver(
    (seen) => this.isNear.update((was) => was || seen.some((one) => one.isIntersecting)),
    {
      rootMargin: '200px',
    },
  );

  constructor() {
    this.watch.observe(this.image);
    effect(() => {
      const address = this.address();
      if (this.isNear()) this.turns.take(this, () => (this.image.src = address));
    });
  }

  protected leave(): void {
    this.turns.leave(this);
  }

  ngOnDestroy(): void {
    this.watch.disconnect();
    // What is on its way is given up, so that it holds nothing else up.
    if (!this.image.complete) this.image.removeAttribute('src');
    this.turns.leave(this);
  }
}
