import { inject, Injectable, signal } from '@angular/core';
import type { DriveStep } from 'driver.js';
import { Notices } from '../platform/notices';

const KEPT = 'plain-relief-tour';

/** A stop of the tour: what is pointed at, and what is said of it. */
export interface TourStop {
  readonly at: string;
  readonly title: string;
  readonly says: string;
}

export const TOUR: readonly TourStop[] = [
  {
    at: 'nav.steps',
    title: 'Six steps',
    says: 'Every sign goes from Brief to Make. Each step says what it still lacks, and any of them opens at any time.',
  },
  {
    at: 'aside.side',
    title: 'The ticket',
    says: 'What is made, in sentences. Every value is edited where it stands, in any unit; what is chosen unfolds.',
  },
  {
    at: 'pr-value-search',
    title: 'Find a value',
    says: 'Type “tracking” or “height” and press Enter: you are in it. The key is /.',
  },
  {
    at: '.views',
    title: 'The plan',
    says: 'To scale. Drag a part to move it, its handles to size it; type the distances that stand outside of the blank.',
  },
  {
    at: '.ladder',
    title: 'The ladder',
    says: 'The blank from its edge: what is raised hangs above the face, what is carved below. Drag a rung, or type its figure.',
  },
  {
    at: '.section',
    title: 'The section',
    says: 'The relief along the cut line, which is dragged in the plan. Point at it to read a height.',
  },
  {
    at: 'footer',
    title: 'Notes and facts',
    says: 'What will not work, with what mends it, and what the sign measures and weighs. Nothing is left out in silence.',
  },
  {
    at: 'pr-save-mark',
    title: 'Saved by itself',
    says: 'There is no button for it. Undo names what it undoes, and every state is kept under Brief, Revisions. Help is under ?.',
  },
];

/** A tour of the bench that can be left and taken up again where it was left. */
@Injectable({ providedIn: 'root' })
export class Tour {
  private readonly notices = inject(Notices);
  /** The stop that comes next; none where it was never begun, all where it is done. */
  private readonly next = signal(Number(localStorage.getItem(KEPT) ?? -1));
  /** Whether there is a bench to be shown. */
  readonly isPossible = signal(false);

  /** Whether it was begun and left before its end. */
  isBegun(): boolean {
    return this.next() > 0 && this.next() < TOUR.length;
  }

  /** Offers it to who has never seen it. */
  offer(): void {
    if (this.next() >= 0) return;
    this.keep(0);
    this.notices.say('New here? A tour of the bench takes two minutes.', { words: 'Take the tour', run: () => this.begin() });
  }

  /** Begins it, or goes on where it was left. */
  async begin(): Promise<void> {
    const { driver } = await import('driver.js');
    const stops = TOUR.filter(({ at }) => document.querySelector(at));
    const from = this.isBegun() ? stops.indexOf(TOUR[this.next()]) : 0;
    const steps = stops.map((stop, index): DriveStep => {
      const last = index === stops.length - 1;
      return { element: stop.at, popover: { title: stop.title, description: stop.says, doneBtnText: last ? 'Done' : undefined } };
    });
    const tour = driver({
      steps,
      animate: false,
      showProgress: true,
      progressText: '{{current}} of {{total}}',
      nextBtnText: 'Next',
      prevBtnText: 'Back',
      overlayColor: '#2b2a26',
      overlayOpacity: 0.45,
      onHighlightStarted: (_element, { element }) => this.keep(TOUR.findIndex(({ at }) => at === element)),
      onDestroyStarted: () => {
        if (tour.isLastStep()) this.keep(TOUR.length);
        else this.notices.say('The tour can be taken up again from the help (?).');
        tour.destroy();
      },
    });
    tour.drive(Math.max(0, from));
  }

  private keep(next: number): void {
    this.next.set(next);
    localStorage.setItem(KEPT, String(next));
  }
}
