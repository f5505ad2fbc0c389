import { ChangeDetectionStrategy, Component, computed, inject, input, type OnDestroy, output, signal } from '@angular/core';
import { type ArtworkChoice, MOST_BYTES, plainChoice, type TraceChoice } from '@plain-relief/core/artwork';
import { formatArea, formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../fields/length-field';
import { type ArtworkColour, ArtworkService, type ArtworkView, type ChosenFile } from './artwork.service';
import { oneOf } from '../platform/one-of';

/** Artwork that was looked at and is to become parts of the sign. */
export interface TakenArtwork {
  readonly name: string;
  readonly colours: readonly ArtworkColour[];
}

/** A picture to be laid under the plan. */
export interface LaidPicture {
  readonly file: string;
  readonly width: number;
  readonly height: number;
}

/** Numbered marks on the picture: at most so many of a kind, more would hide it. */
const MOST_MARKS = 40;

/** A customer's file on its way into the sign: chosen, looked at with what was found and mended, sized, taken over. */
@Component({
  selector: 'pr-artwork-panel',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './artwork-panel.html',
  styleUrls: ['../bench/ticket/panel.scss', './artwork-panel.scss'],
})
export class ArtworkPanel implements OnDestroy {
  readonly unit = input.required<LengthUnit>();
  /** Job that the original is kept with. */
  readonly job = input.required<string>();
  readonly taken = output<TakenArtwork>();
  readonly laid = output<LaidPicture>();
  readonly closed = output();
  private readonly artworkService = inject(ArtworkService);
  private running: AbortController | undefined;

  protected readonly file = signal<ChosenFile | undefined>(undefined);
  protected readonly artwork = signal<ArtworkView | undefined>(undefined);
  protected readonly isReading = signal(false);
  protected readonly refusal = signal('');
  protected readonly choice = signal<ArtworkChoice>(plainChoice('svg'));
  protected readonly trace = signal<TraceChoice>({ width: 100, threshold: 128, smoothing: 1, isLight: false, speck: 0.1 });
  /** Address of the chosen picture, to be seen beside its outlines. */
  protected readonly picture = signal<string | undefined>(undefined);
  /** The finding that is pointed at. */
  protected readonly pointed = signal(-1);
  private readonly left = signal<ReadonlySet<ArtworkColour>>(new Set());
  protected readonly name = computed(() => this.file()?.name ?? '');
  protected readonly isPicture = computed(() => this.file()?.kind === 'picture');
  /** A size is still to be given. */
  protected readonly lacksSize = computed(
    () => !this.isPicture() && this.artwork()?.isSized === false && this.choice().width === undefined,
  );
  protected readonly wanted = computed(() => (this.artwork()?.colours ?? []).filter((colour) => !this.left().has(colour)));
  protected readonly frame = computed(() => {
    const art = this.artwork();
    if (!art) return '';
    const [w, h] = [art.width * 1000, art.height * 1000];
    const margin = Math.max(w, h) * 0.03;
    return `${-w / 2 - margin} ${-h / 2 - margin} ${w + 2 * margin} ${h + 2 * margin}`;
  });
  /** What was found with places, each place a numbered mark. */
  protected readonly marks = computed(() => {
    const art = this.artwork();
    if (!art) return [];
    const radius = Math.max(art.width, art.height) * 22;
    return art.findings.flatMap(({ spots }, index) =>
      spots.slice(0, MOST_MARKS).map(({ x, y }) => ({ index, x: x * 1000, y: -y * 1000, radius })),
    );
  });

  ngOnDestroy(): void {
    this.running?.abort();
    this.forgetPicture();
  }

  protected readonly oneOf = oneOf;
  protected readonly rules = ['as-drawn', 'nonzero', 'evenodd'] as const;
  protected readonly overlaps = ['hidden', 'whole'] as const;

  protected async chosen(files: FileList | null): Promise<void> {
    const [file] = files ?? [];
    if (!file) return;
    this.left.set(new Set());
    this.artwork.set(undefined);
    this.file.set(undefined);
    this.forgetPicture();
    const ending = /\.(svg|dxf|png|jpe?g)$/iu.exec(file.name)?.[1].toLowerCase();
    if (ending === undefined)
      return this.refusal.set(`“${file.name}” is no drawing or picture that can be read: save it as SVG, DXF, PNG or JPEG.`);
    if (file.size > MOST_BYTES)
      return this.refusal.set(
        `“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB and may have ${MOST_BYTES / 1e6}: take pictures and unused parts out of it.`,
      );
    if (ending === 'svg' || ending === 'dxf') {
      this.choice.set(plainChoice(ending));
      this.file.set({ kind: ending, name: file.name, text: await file.text() });
    } else {
      this.file.set({ kind: 'picture', name: file.name, bytes: await file.arrayBuffer() });
      this.picture.set(URL.createObjectURL(file));
    }
    await this.read();
  }

  protected set(change: Partial<ArtworkChoice>): Promise<void> {
    this.choice.update((before) => ({ ...before, ...change }));
    return this.read();
  }

  /** How wide the file's page is where what is drawn on it has a width. */
  protected pageFor({ width, seen }: ArtworkView, wanted: number): number {
    return (wanted * width) / Math.max(1e-9, seen.maxX - seen.minX);
  }

  protected setTrace(change: Partial<TraceChoice>): Promise<void> {
    this.trace.update((before) => ({ ...before, ...change }));
    return this.read();
  }

  /** Specks are told as the side of a square. */
  protected readonly speckSide = computed(() => Math.sqrt(this.isPicture() ? this.trace().speck : this.choice().speck));

  protected leaveSpecks(side: number): Promise<void> {
    const speck = side ** 2;
    return this.isPicture() ? this.setTrace({ speck }) : this.set({ speck });
  }

  protected stop(): void {
    this.running?.abort();
  }

  protected toggle(colour: ArtworkColour): void {
    const left = new Set(this.left());
    if (!left.delete(colour)) left.add(colour);
    this.left.set(left);
  }

  protected isWanted(colour: ArtworkColour): boolean {
    return !this.left().has(colour);
  }

  protected async take(): Promise<void> {
    const file = this.file();
    if (!file || !(await this.keep(file))) return;
    this.taken.emit({ name: file.name.replace(/\.\w+$/u, ''), colours: this.wanted() });
  }

  protected async lay(): Promise<void> {
    const file = this.file();
    const art = this.artwork();
    if (!file) return;
    const kept = await this.keep(file);
    const { width } = this.trace();
    if (kept) this.laid.emit({ file: kept, width, height: art?.height ?? width });
  }

  /** Keeps the original with the job and gives its id; says why where that does not work. */
  private async keep(file: ChosenFile): Promise<string | undefined> {
    try {
      return (await this.artworkService.keep(this.job(), file)).id;
    } catch (error) {
      this.refusal.set(`The original could not be kept with the job, so nothing was taken over. ${(error as Error).message}`);
      return undefined;
    }
  }

  protected area(mm2: number): string {
    return formatArea(mm2, this.unit());
  }

  protected length(mm: number): string {
    return formatLength(mm, this.unit());
  }

  private forgetPicture(): void {
    const picture = this.picture();
    if (picture) URL.revokeObjectURL(picture);
    this.picture.set(undefined);
  }

  private async read(): Promise<void> {
    const file = this.file();
    if (!file) return;
    this.running?.abort();
    const running = (this.running = new AbortController());
    this.refusal.set('');
    this.isReading.set(true);
    try {
      const order =
        file.kind === 'picture'
          ? { kind: file.kind, bytes: file.bytes, choice: this.trace() }
          : { kind: file.kind, text: file.text, choice: this.choice() };
      const artwork = await this.artworkService.read(order, running.signal);
      if (this.running !== running) return;
      this.left.set(new Set());
      this.artwork.set(artwork);
    } catch (error) {
      if (this.running === running) this.refusal.set((error as Error).message);
    } finally {
      if (this.running === running) this.isReading.set(false);
    }
  }
}
