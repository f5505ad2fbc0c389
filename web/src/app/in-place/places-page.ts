import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { type Place } from '@plain-relief/core/in-place';
import { attempt } from '../platform/attempt';
import { isTypedInto } from '../platform/typed-into';
import { SessionService } from '../session/session.service';
import { Masthead } from '../shell/masthead';
import type { Documents, PlacePicture, ReadingPicture } from './place-desk';
import { PlaceFields } from './place-fields';
import { PlacePictures } from './place-pictures.service';
import { type PlaceEdit, PlaceStage } from './place-stage';
import { PlacesService } from './places.service';
import { ReadingSheet } from './reading-sheet';
import { savedPicture } from './saved-picture';

/** Pixels of the longer side: while something is dragged, at rest, and of what is taken away. */
const COARSE = 800;
const FINE = 1600;
/** ms of rest after which a picture is drawn finely. */
const REST_MS = 220;

const SAVED: Readonly<Record<'saved' | 'saving' | 'failed', string>> = {
  saved: 'Saved',
  saving: 'Saving …',
  failed: 'Not saved',
};

/** Signs of a job as they will hang: before a photograph of the place, or before a plain ground. */
@Component({
  selector: 'pr-places-page',
  imports: [Masthead, PlaceFields, PlaceStage, ReadingSheet, RouterLink],
  providers: [PlacesService, PlacePictures],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './places-page.html',
  styleUrl: './places-page.scss',
  host: { '(window:keydown)': 'key($event)' },
})
export class PlacesPage {
  /** Of the job. */
  readonly id = input.required<string>();
  private readonly service = inject(PlacesService);
  private readonly pictures = inject(PlacePictures);
  protected readonly state = toSignal(this.service.state$, { requireSync: true });
  protected readonly isLooking = inject(SessionService).isMaker;
  protected readonly trouble = signal('');
  /** Why there is no picture. */
  protected readonly fault = signal('');
  protected readonly isBusy = signal(false);
  protected readonly showing = signal<'hung' | 'read'>('hung');
  /** The sign that is read. */
  protected readonly read = signal(0);
  protected readonly picture = signal<PlacePicture | undefined>(undefined);
  protected readonly reading = signal<ReadingPicture | undefined>(undefined);
  protected readonly isDrawing = signal(false);
  protected readonly saved = SAVED;
  private timer: ReturnType<typeof setTimeout> | undefined;

  protected readonly unit = computed(() => this.state().job?.unit ?? 'mm');
  /** What is drawn: it is not drawn anew for being saved. */
  private readonly place = computed(() => this.state().shown?.document);
  private readonly shownId = computed(() => this.state().shown?.id);
  private readonly documents = computed(() => this.state().documents);
  protected readonly names = computed(() => {
    const { shown, job } = this.state();
    return (shown?.document.signs ?? []).map(
      ({ sign }) => job?.signs.find(({ id }) => id === sign)?.title ?? 'a sign that is gone',
    );
  });

  constructor() {
    effect(() => void attempt(this.trouble, () => this.service.open(this.id())));
    effect(() => {
      this.shownId();
      this.picture.set(undefined);
      this.reading.set(undefined);
    });
    effect(() => {
      const place = this.place();
      if (place) void this.draw(place, this.documents(), this.showing(), this.read());
    });
  }

  protected show(id: string): void {
    this.read.set(0);
    this.service.show(id);
  }

  protected create(): Promise<boolean> {
    return attempt(this.trouble, () => this.service.create());
  }

  protected remove(id: string): Promise<boolean> {
    return attempt(this.trouble, () => this.service.remove(id));
  }

  protected edit({ label, change }: PlaceEdit): void {
    const { shown } = this.state();
    if (shown) this.service.edit(label, { document: change(shown.document) });
  }

  protected settle(label: string): void {
    this.service.settle(label);
  }

  protected rename(title: string): void {
    if (title.trim() !== '') this.service.edit('name', { title: title.trim().slice(0, 120) });
  }

  protected async photograph(file: File): Promise<void> {
    this.isBusy.set(true);
    await attempt(this.trouble, () => this.service.photograph(file));
    this.isBusy.set(false);
  }

  protected undo(): void {
    this.service.undo();
  }

  protected redo(): void {
    this.service.redo();
  }

  protected key(event: KeyboardEvent): void {
    if (
      this.isLooking ||
      !(event.ctrlKey || event.metaKey) ||
      event.key.toLowerCase() !== 'z' ||
      isTypedInto(event.target as HTMLElement)
    )
      return;
    event.preventDefault();
    if (event.shiftKey) this.service.redo();
    else this.service.undo();
  }

  /** The picture as a file: with its photograph or its colours, or clear. */
  protected async take(): Promise<void> {
    const { shown } = this.state();
    const picture = this.picture();
    if (!shown || !picture) return;
    await attempt(this.trouble, () => savedPicture(shown.document.ground, picture, shown.title));
  }

  /** At once coarsely, so that it follows the hand, and finely when nothing has happened for a while. */
  private async draw(place: Place, documents: Documents, showing: 'hung' | 'read', index: number): Promise<void> {
    clearTimeout(this.timer);
    this.isDrawing.set(true);
    try {
      if (showing === 'read') {
        const at = Math.min(index, place.signs.length - 1);
        const reading = at < 0 ? undefined : await this.pictures.read(place, at, documents, Math.max(1, devicePixelRatio));
        if (reading) this.reading.set(reading);
      } else {
        const coarse = await this.pictures.draw(place, documents, COARSE);
        if (!coarse) return;
        this.picture.set(coarse);
        this.timer = setTimeout(() => void this.drawFinely(place, documents), REST_MS);
      }
      this.fault.set('');
    } catch (error) {
      this.fault.set((error as Error).message);
    }
    this.isDrawing.set(false);
  }

  private async drawFinely(place: Place, documents: Documents): Promise<void> {
    const fine = await this.pictures.draw(place, documents, FINE).catch(() => undefined);
    if (fine && this.state().shown?.document === place) this.picture.set(fine);
  }
}
