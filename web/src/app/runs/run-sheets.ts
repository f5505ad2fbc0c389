import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { bounds } from '@plain-relief/core/geometry';
import { colliding, laidOutline } from '@plain-relief/core/nesting';
import { nestChoiceOf, type RunSheet } from '@plain-relief/core/runs';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { LengthField } from '../fields/length-field';
import { NumberField } from '../fields/number-field';
import type { DrawnSheets, LaidPlate } from './run-desk';
import { SheetMap } from './sheet-map';

/** A sheet that the shop keeps, as it is offered. */
export interface KeptSheet {
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

/** How plates lie on sheets: what they are laid by, the map of each, and what is put elsewhere by hand. */
@Component({
  selector: 'pr-run-sheets',
  imports: [LengthField, NumberField, SheetMap],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './run-sheets.html',
  styleUrl: './run-sheets.scss',
})
export class RunSheets {
  readonly sheet = input.required<RunSheet>();
  readonly unit = input.required<LengthUnit>();
  readonly drawn = input<DrawnSheets | undefined>();
  /** Of the shop's library. */
  readonly kept = input<readonly KeptSheet[]>([]);
  readonly isBusy = input(false);
  readonly isLooking = input(false);
  readonly changed = output<RunSheet>();
  readonly asked = output();
  protected readonly choice = signal<number | undefined>(undefined);
  /** The one that is dragged, where it is at the moment. */
  private readonly dragged = signal<LaidPlate | undefined>(undefined);
  protected readonly figures = computed(() => {
    const drawn = this.drawn();
    if (!drawn) return '';
    const { count, share, lastMm, plates } = drawn;
    const sheets = count === 1 ? '1 sheet' : `${count} sheets`;
    return `${plates} ${plates === 1 ? 'plate' : 'plates'} on ${sheets}, ${(100 * share).toFixed(0)} % of them used; the last is used ${formatLength(Number(lastMm.toFixed(0)), this.unit())} up.`; // prettier-ignore
  });
  protected readonly sheets = computed(() => {
    const { laid = [], sizes = [] } = this.drawn() ?? {};
    const bySheet = sizes.map((): LaidPlate[] => []);
    for (const plate of laid) bySheet[plate.sheet].push(plate);
    const { offcuts = [], clamps = [] } = this.sheet();
    return sizes.map((size, at) => ({ size, plates: bySheet[at], clamps: at < offcuts.length ? [] : clamps, isOffcut: at < offcuts.length })); // prettier-ignore
  });
  protected readonly locked = computed(() => new Set(this.sheet().locked?.map(({ row }) => row)));
  /** Plates put by hand that lie too near to something. */
  protected readonly near = computed(() => {
    const dragged = this.dragged();
    const laid = (this.drawn()?.laid ?? []).map((plate) => (plate.id === dragged?.id ? dragged : plate));
    const byHand = this.locked();
    if (byHand.size === 0 && !dragged) return new Set<number>();
    const own = laid.map(({ sheet, x, y, turn }, item) => ({ item, sheet, x, y, turn }));
    const choice = { ...nestChoiceOf({ sheet: this.sheet() }), locked: own.filter(({ item }) => byHand.has(laid[item].id) || laid[item] === dragged) }; // prettier-ignore
    const found = colliding(laid.map(({ edge }) => edge), { laid: own }, choice); // prettier-ignore
    return new Set([...found].map((item) => laid[item].id));
  });
  protected readonly plate = computed(() => this.drawn()?.laid.find(({ id }) => id === this.choice()));
  /** The lower left corner of the chosen plate as it lies. */
  protected readonly corner = computed(() => {
    const plate = this.plate();
    if (!plate) return { x: 0, y: 0 };
    const { minX, minY } = bounds(laidOutline(plate.edge, plate))!;
    return { x: minX, y: minY };
  });

  protected set(change: Partial<RunSheet>): void {
    this.changed.emit({ ...this.sheet(), ...change });
  }

  protected setTurns(value: string): void {
    this.set({ turns: value as RunSheet['turns'] });
  }

  protected takeKept(index: string): void {
    const kept = this.kept().at(Number(index));
    if (index !== '' && kept) this.set({ width: kept.width, height: kept.height });
  }

  protected addOffcut(): void {
    const { width, height, offcuts = [] } = this.sheet();
    this.set({ offcuts: [...offcuts, { width: Math.round(width / 2), height: Math.round(height / 2) }] });
  }

  protected setOffcut(at: number, change: Partial<{ width: number; height: number }>): void {
    this.set({ offcuts: this.sheet().offcuts?.map((each, i) => (i === at ? { ...each, ...change } : each)) });
  }

  protected removeOffcut(at: number): void {
    this.set({ offcuts: this.sheet().offcuts?.filter((_, i) => i !== at) });
  }

  protected addClamp(): void {
    this.set({ clamps: [...(this.sheet().clamps ?? []), { x: 0, y: 0, width: 60, height: 40 }] });
  }

  protected setClamp(at: number, change: Partial<{ x: number; y: number; width: number; height: number }>): void {
    this.set({ clamps: this.sheet().clamps?.map((each, i) => (i === at ? { ...each, ...change } : each)) });
  }

  protected removeClamp(at: number): void {
    this.set({ clamps: this.sheet().clamps?.filter((_, i) => i !== at) });
  }

  protected dragTo(plate: LaidPlate): void {
    this.dragged.set(plate);
  }

  /** A plate stays from now on where it was put. */
  protected lock({ id: row, sheet, x, y, turn }: LaidPlate): void {
    this.dragged.set(undefined);
    const others = (this.sheet().locked ?? []).filter((each) => each.row !== row);
    this.set({ locked: [...others, { row, sheet, x, y, turn }] });
  }

  protected place(change: Partial<{ x: number; y: number }>): void {
    const plate = this.plate();
    if (!plate) return;
    const { x, y } = { ...this.corner(), ...change };
    this.lock({ ...plate, x: plate.x + x - this.corner().x, y: plate.y + y - this.corner().y });
  }

  protected onSheet(number: number): void {
    const plate = this.plate();
    if (plate) this.lock({ ...plate, sheet: number - 1 });
  }

  /** By a quarter about its middle. */
  protected turn(): void {
    const plate = this.plate();
    if (!plate) return;
    const before = bounds(laidOutline(plate.edge, plate))!;
    const turned = { ...plate, turn: (plate.turn + 90) % 360 };
    const after = bounds(laidOutline(plate.edge, turned))!;
    const shift = (a: number, b: number, c: number, d: number): number => (a + b - c - d) / 2;
    this.lock({ ...turned, x: turned.x + shift(before.minX, before.maxX, after.minX, after.maxX), y: turned.y + shift(before.minY, before.maxY, after.minY, after.maxY) }); // prettier-ignore
  }

  protected free(id: number): void {
    this.set({ locked: this.sheet().locked?.filter(({ row }) => row !== id) });
  }

  protected freeAll(): void {
    this.set({ locked: undefined });
  }
}
