import { inject, Injectable, signal } from '@angular/core';
import { Router } from '@angular/router';
import { NgbOffcanvas, type NgbOffcanvasRef } from '@ng-bootstrap/ng-bootstrap/offcanvas';
import type { HelpPanel } from './help-panel';
import type { HelpTopic } from './help-pages';

/** What the help is about at an address. */
const topicAt = (url: string): HelpTopic =>
  url.startsWith('/shop')
    ? 'Shop'
    : /^\/jobs\/[^/]+\/places/u.test(url)
      ? 'In place'
      : /^\/jobs\/[^/]+\/runs/u.test(url)
        ? 'Run'
        : /^\/(?:jobs\/[^/]+\/proofs|outbox|turnaround)/u.test(url)
          ? 'Proof'
          : 'Jobs';

/** Opens the help beside the work, about where one is. */
@Injectable({ providedIn: 'root' })
export class Help {
  private readonly panels = inject(NgbOffcanvas);
  private readonly router = inject(Router);
  /** The step of a sign that is worked on; none away from the bench. */
  readonly step = signal<HelpTopic | undefined>(undefined);
  private open: NgbOffcanvasRef | undefined;

  /** Shows the help, or puts it away where it is shown. */
  async toggle(): Promise<void> {
    if (this.open) return this.open.dismiss();
    const { HelpPanel: panel } = await import('./help-panel');
    this.open = this.panels.open(panel, {
      position: 'end',
      backdrop: false,
      scroll: true,
      animation: false,
      ariaLabelledBy: 'help-title',
      panelClass: 'help-panel',
    });
    (this.open.componentInstance as HelpPanel).topic.set(this.step() ?? topicAt(this.router.url));
    this.open.hidden.subscribe(() => (this.open = undefined));
  }
}
