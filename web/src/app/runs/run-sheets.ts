import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { DomSanitizer } from '@angular/platform-browser';
import { type RunSheet } from '@plain-relief/core/runs';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../fields/length-field';
import type { DrawnSheets } from './run-desk';

/** How plates lie on sheets: what they are laid by, and the map of each. */
@Component({
  selector: 'pr-run-sheets',
  imports: [LengthField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-sheets.html',
  styleUrl: './run-sheets.scss',
})
export class RunSheets {
  readonly sheet = input.required<RunSheet>();
  readonly unit = input.required<LengthUnit>();
  readonly drawn = input<DrawnSheets | undefined>();
  readonly isBusy = input(false);
  readonly isLooking = input(false);
  readonly changed = output<RunSheet>();
  readonly asked = output();
  private readonly sanitizer = inject(DomSanitizer);
  /** Maps are of our own making, and shown as pictures: nothing in them runs. */
  protected readonly maps = computed(
    () =>
    (this.drawn()?.maps ?? []).map((svg) => this.sanitizer.bypassSecurityTrustUrl(`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`)), // prettier-ignore
  );
  protected readonly figures = computed(() => {
    const drawn = this.drawn();
    if (!drawn) return '';
    const { maps, share, lastMm, plates } = drawn;
    const sheets = maps.length === 1 ? '1 sheet' : `${maps.length} sheets`;
    return `${plates} ${plates === 1 ? 'plate' : 'plates'} on ${sheets}, ${(100 * share).toFixed(0)} % of them used; the last is used ${formatLength(Number(lastMm.toFixed(0)), this.unit())} up.`; // prettier-ignore
  });

  protected set(change: Partial<RunSheet>): void {
    this.changed.emit({ ...this.sheet(), ...change });
  }

  protected setTurns(value: string): void {
    this.set({ turns: value as RunSheet['turns'] });
  }
}
