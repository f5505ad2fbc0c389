import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { MOST_BYTES } from '@plain-relief/core/artwork';
import { bendAlong, type Sign } from '@plain-relief/core/sign';
import { formatLength } from '@plain-relief/core/units';
import { ArtworkService } from '../../artwork/artwork.service';
import { Notices } from '../../platform/notices';
import { SignStore } from '../document/sign-store';

/** Takes the line that a sign is bent along from a drawing of the ground. */
@Component({
  selector: 'pr-line-from-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="plain" title="SVG or DXF, seen from above, the reader below: its longest line, as straight pieces and arcs">
      {{ isReading() ? 'reading …' : 'take its line from a drawing …' }}
      <input #field type="file" class="visually-hidden" accept=".svg,.dxf" (change)="take(field)" [disabled]="isReading()" />
    </label>
    @if (isReading()) {
      <button type="button" class="plain" (click)="stop?.abort()">stop</button>
    }
    @if (trouble()) {
      <p class="trouble" role="alert">{{ trouble() }}</p>
    }
  `,
  styles: `
    label,
    button {
      padding: 0;
      border: 0;
      background: none;
      color: var(--pr-accent);
      cursor: pointer;
      font-size: 0.92rem;
    }

    label:focus-within {
      outline: 2px solid var(--pr-accent);
    }

    .trouble {
      color: var(--pr-alarm);
    }
  `,
})
export class LineFromDrawing {
  readonly sign = input.required<Sign>();
  private readonly artwork = inject(ArtworkService);
  private readonly store = inject(SignStore);
  private readonly notices = inject(Notices);
  protected readonly isReading = signal(false);
  protected readonly trouble = signal('');
  protected stop: AbortController | undefined;

  protected async take(field: HTMLInputElement): Promise<void> {
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    this.trouble.set('');
    this.isReading.set(true);
    this.stop = new AbortController();
    try {
      if (file.size > MOST_BYTES)
        throw new Error(`“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB and may have ${MOST_BYTES / 1e6}.`);
      const { support, blank, unit } = this.sign();
      // A sheet’s corners are bent as sharply inside as it is thick.
      const corner = support?.kind === 'bent' ? 2 * blank.thickness : blank.thickness;
      const kind = /\.dxf$/iu.test(file.name) ? 'dxf' : 'svg';
      const { pieces, length, off, isOutline, isSized } = await this.artwork.readLine({ kind, text: await file.text(), corner }, this.stop.signal); // prettier-ignore
      this.store.edit('line from a drawing', `line ${performance.now()}`, (sign) => bendAlong(sign, pieces));
      const told = (mm: number): string => formatLength(mm, unit);
      this.notices.say(
        `${isOutline ? 'An outline' : 'A line'} ${told(length)} long in ${pieces.length} pieces, off what is drawn by ${told(off)} at most.` +
          (isOutline ? ' It was opened where it lies furthest back.' : '') +
          (isSized ? '' : ' The drawing does not say its size: check the length.'),
      );
    } catch (error) {
      this.trouble.set((error as Error).message);
    } finally {
      this.isReading.set(false);
    }
  }
}
