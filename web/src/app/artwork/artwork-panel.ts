import { ChangeDetectionStrategy, Component, computed, inject, input, type OnDestroy, output, signal } from '@angular/core';
import { MOST_BYTES } from '@plain-relief/core/artwork';
import { formatArea, formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../fields/length-field';
import { type ArtworkColour, ArtworkService, type ArtworkView } from './artwork.service';

/** Artwork that was looked at and is to become parts of the sign. */
export interface TakenArtwork {
  readonly name: string;
  readonly colours: readonly ArtworkColour[];
}

/** A customer's drawing on its way into the sign: chosen, looked at with what was found and mended, sized, taken over. */
@Component({
  selector: 'pr-artwork-panel',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './artwork-panel.html',
  styleUrls: ['../bench/panel.scss', './artwork-panel.scss'],
})
export class ArtworkPanel implements OnDestroy {
  readonly unit = input.required<LengthUnit>();
  /** Job that the original is kept with. */
  readonly job = input.required<string>();
  readonly taken = output<TakenArtwork>();
  readonly closed = output();
  private readonly artworkService = inject(ArtworkService);
  private running: AbortController | undefined;

  private readonly file = signal<{ readonly name: string; readonly text: string } | undefined>(undefined);
  protected readonly artwork = signal<ArtworkView | undefined>(undefined);
  protected readonly isReading = signal(false);
  protected readonly refusal = signal('');
  protected readonly speck = signal(0.01);
  /** The width that was typed; the file's own where none was. */
  private readonly width = signal<number | undefined>(undefined);
  private readonly left = signal<ReadonlySet<string>>(new Set());
  protected readonly name = computed(() => this.file()?.name ?? '');
  /** A size is still to be given. */
  protected readonly lacksSize = computed(() => this.artwork()?.isSized === false && this.width() === undefined);
  protected readonly wanted = computed(() => (this.artwork()?.colours ?? []).filter(({ colour }) => !this.left().has(colour)));
  protected readonly frame = computed(() => {
    const art = this.artwork();
    if (!art) return '';
    const [w, h] = [art.width * 1000, art.height * 1000];
    return `${-w / 2} ${-h / 2} ${w} ${h}`;
  });

  ngOnDestroy(): void {
    this.running?.abort();
  }

  protected async chosen(files: FileList | null): Promise<void> {
    const [file] = files ?? [];
    if (!file) return;
    this.width.set(undefined);
    this.left.set(new Set());
    this.artwork.set(undefined);
    if (!/\.svg$/iu.test(file.name))
      return this.refusal.set(`“${file.name}” is no SVG drawing: save it as SVG and choose it again.`);
    if (file.size > MOST_BYTES)
      return this.refusal.set(
        `“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB and may have ${MOST_BYTES / 1e6}: take pictures and unused parts out of it.`,
      );
    this.file.set({ name: file.name, text: await file.text() });
    await this.read();
  }

  protected resize(width: number): Promise<void> {
    this.width.set(width);
    return this.read();
  }

  protected leaveSpecks(area: number): Promise<void> {
    // Typed as the side of a square.
    this.speck.set(area ** 2);
    return this.read();
  }

  protected speckSide(): number {
    return Math.sqrt(this.speck());
  }

  protected stop(): void {
    this.running?.abort();
  }

  protected toggle(colour: string): void {
    const left = new Set(this.left());
    if (!left.delete(colour)) left.add(colour);
    this.left.set(left);
  }

  protected isWanted(colour: string): boolean {
    return !this.left().has(colour);
  }

  protected async take(): Promise<void> {
    const file = this.file();
    if (!file) return;
    try {
      await this.artworkService.keep(this.job(), file.name, file.text);
    } catch (error) {
      return this.refusal.set(
        `The original could not be kept with the job, so nothing was taken over. ${(error as Error).message}`,
      );
    }
    this.taken.emit({ name: file.name.replace(/\.svg$/iu, ''), colours: this.wanted() });
  }

  protected area(mm2: number): string {
    return formatArea(mm2, this.unit());
  }

  protected length(mm: number): string {
    return formatLength(mm, this.unit());
  }

  private async read(): Promise<void> {
    const file = this.file();
    if (!file) return;
    this.running?.abort();
    const running = (this.running = new AbortController());
    this.refusal.set('');
    this.isReading.set(true);
    try {
      const choice = { width: this.width(), speck: this.speck() };
      const artwork = await this.artworkService.read({ source: file.text, choice }, running.signal);
      if (this.running === running) this.artwork.set(artwork);
    } catch (error) {
      if (this.running === running) this.refusal.set((error as Error).message);
    } finally {
      if (this.running === running) this.isReading.set(false);
    }
  }
}
