import { Component, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { InTurn } from './in-turn';

@Component({
  imports: [InTurn],
  template: `@for (name of names(); track name) {
    <img [prInTurn]="name" alt="" />
  }`,
})
class Board {
  readonly names = signal(['a', 'b', 'c', 'd', 'e', 'f']);
}

/** jsdom lays nothing out: the test says what comes into view. */
class Watch {
  static all: Watch[] = [];
  private seen: Element | undefined;
  constructor(private readonly told: (seen: readonly { isIntersecting: boolean }[]) => void) {
    Watch.all.push(this);
  }
  observe(seen: Element): void {
    this.seen = seen;
  }
  disconnect(): void {
    this.seen = undefined;
  }
  show(isIntersecting = true): void {
    if (this.seen) this.told([{ isIntersecting }]);
  }
}

describe('pictures in turn', () => {
  const before = globalThis.IntersectionObserver;
  beforeEach(() => {
    Watch.all = [];
    globalThis.IntersectionObserver = Watch as never;
  });
  afterEach(() => void (globalThis.IntersectionObserver = before));

  async function board() {
    const fixture = TestBed.createComponent(Board);
    await fixture.whenStable();
    const page = fixture.nativeElement as HTMLElement;
    const begun = () => [...page.querySelectorAll('img')].map((image) => image.getAttribute('src') ?? '').join('');
    const show = async (...which: number[]) => {
      for (const i of which) Watch.all[i].show();
      await fixture.whenStable();
    };
    const end = (name: string, how: 'load' | 'error') => page.querySelector(`img[src="${name}"]`)!.dispatchEvent(new Event(how));
    return { fixture, begun, show, end };
  }

  it('load three at a time, the next when one has come or failed', async () => {
    const { begun, show, end } = await board();
    expect(begun()).toBe('');
    await show(0, 1, 2, 3, 4);
    expect(begun()).toBe('abc');
    end('b', 'load');
    expect(begun()).toBe('abcd');
    end('a', 'error');
    expect(begun()).toBe('abcde');
    // The last one is not in view.
    end('c', 'load');
    expect(begun()).toBe('abcde');
    await show(5);
    expect(begun()).toBe('abcdef');
  });

  it('make room when they go from the page before they have come', async () => {
    const { fixture, begun, show } = await board();
    await show(0, 1, 2, 3);
    fixture.componentInstance.names.set(['c', 'd']);
    await fixture.whenStable();
    expect(begun()).toBe('cd');
  });
});
