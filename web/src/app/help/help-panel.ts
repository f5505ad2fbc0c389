import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { NgbActiveOffcanvas } from '@ng-bootstrap/ng-bootstrap/offcanvas';
import { HELP_PAGES, helpFor, type HelpTopic } from './help-pages';
import { Tour } from './tour';

/** The help beside the work: a page for each step, found by its words. */
@Component({
  selector: 'pr-help-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header class="offcanvas-header">
      <h2 class="offcanvas-title" id="help-title">Help</h2>
      <button type="button" class="btn-close" aria-label="Close the help" (click)="panel.dismiss()"></button>
    </header>
    <div class="offcanvas-body">
      <div class="top">
        <input
          #searchField
          type="search"
          class="form-control form-control-sm"
          placeholder="Search the help …"
          aria-label="Search the help"
          [value]="search()"
          (input)="search.set(searchField.value)"
        />
        @if (tour.isPossible()) {
          <button type="button" class="btn btn-sm btn-outline-primary" (click)="beginTour()">
            {{ tour.isBegun() ? 'Go on with the tour' : 'Take the tour' }}
          </button>
        }
      </div>
      <nav aria-label="Pages of the help">
        @for (page of found(); track page.id) {
          <button
            type="button"
            class="plain"
            [attr.aria-current]="page.id === shown()?.id ? 'page' : null"
            (click)="topic.set(page.id)"
          >
            {{ page.id }}
          </button>
        } @empty {
          <p class="quiet">No page has these words.</p>
        }
      </nav>
      @if (shown(); as page) {
        <article>
          <h3>{{ page.title }}</h3>
          @if (page.picture; as name) {
            <img [src]="'/help/' + name + '.png'" [alt]="page.shows ?? ''" width="1280" height="800" />
          }
          @for (paragraph of page.paragraphs; track $index) {
            <p>{{ paragraph }}</p>
          }
          @if (page.keys; as keys) {
            <dl>
              @for (key of keys; track key[0]) {
                <dt class="figure">{{ key[0] }}</dt>
                <dd>{{ key[1] }}</dd>
              }
            </dl>
          }
        </article>
      }
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      min-height: 0;
      height: 100%;
    }
    .top {
      display: flex;
      gap: 0.5rem;
      margin-bottom: 0.6rem;

      .btn {
        flex: none;
      }
    }
    nav {
      display: flex;
      flex-wrap: wrap;
      gap: 0.15rem 0.7rem;
      margin-bottom: 0.8rem;
    }
    .plain {
      padding: 0.1rem 0;
      border: 0;
      border-bottom: 2px solid transparent;
      background: none;
      color: var(--pr-accent);

      &[aria-current] {
        border-color: var(--pr-brass);
        color: var(--pr-ink);
        font-weight: 700;
      }
    }
    h3 {
      font-size: 1.12rem;
    }
    img {
      width: 100%;
      height: auto;
      margin-bottom: 0.7rem;
      border: 1px solid var(--pr-line);
    }
    p {
      margin-bottom: 0.6rem;
    }
    dl {
      display: grid;
      grid-template-columns: 8.5rem 1fr;
      gap: 0.15rem 0.6rem;
    }
    dd {
      margin: 0;
    }
  `,
})
export class HelpPanel {
  protected readonly panel = inject(NgbActiveOffcanvas);
  protected readonly tour = inject(Tour);
  /** The page that was asked for. */
  readonly topic = signal<HelpTopic>('Layout');
  protected readonly search = signal('');
  protected readonly found = computed(() => helpFor(this.search()));
  /** Of what was found the page that is asked for, or the first. */
  protected readonly shown = linkedSignal(() => {
    const found = this.found();
    return found.find(({ id }) => id === this.topic()) ?? found[0] ?? HELP_PAGES.find(({ id }) => id === this.topic());
  });

  protected beginTour(): void {
    this.panel.dismiss();
    void this.tour.begin();
  }
}
