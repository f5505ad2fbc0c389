import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { Pins } from '@plain-relief/core/cutting';
import { followsPrograms, type Shop, type ShopTool } from '@plain-relief/core/shop';
import { formatLength, type LengthUnit } from '@plain-relief/core/units';
import { ChoiceField } from '../fields/choice-field';
import { LengthField } from '../fields/length-field';
import { NumberField } from '../fields/number-field';
import { type ClampField, type CutSettings, type HoldingKind, USUAL_PINS, type ZeroAt } from './cut-settings';

interface ToolRow {
  readonly tool: ShopTool;
  readonly words: string;
  readonly isTaken: boolean;
}

const ZEROS: readonly ZeroAt[] = ['lower left', 'lower right', 'upper left', 'upper right', 'middle'];
const HOLDINGS: readonly (readonly [HoldingKind, string])[] = [
  ['tabs', 'tabs'],
  ['skin', 'a thin skin'],
  ['nothing', 'nothing'],
];

/** What a sign is cut with: machine, material, stock, tools, and how; in sentences that can be changed where they stand. */
@Component({
  selector: 'pr-make-setup',
  imports: [ChoiceField, LengthField, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './make-setup.html',
  styleUrl: './make-setup.scss',
})
export class MakeSetup {
  readonly shop = input.required<Shop>();
  readonly unit = input.required<LengthUnit>();
  /** Whether nothing may be asked for at the moment, and why. */
  readonly isBusy = input(false);
  /** Whether it is cut from both sides. */
  readonly hasBack = input(false);
  readonly settings = model.required<CutSettings>();
  readonly asked = output();

  protected readonly machines = computed(() =>
    this.shop()
      .machines.filter(followsPrograms)
      .map(({ id, name }) => ({ value: id, text: name })),
  );
  protected readonly materials = computed(() => this.shop().materials.map(({ id, name }) => ({ value: id, text: name })));
  protected readonly zeros = ZEROS.map((at) => ({ value: at, text: at === 'middle' ? 'middle' : `${at} corner` }));
  protected readonly zeroHeights = [
    { value: 'face of the stock', text: 'face of the stock' },
    { value: 'bed', text: 'bed' },
  ];
  protected readonly holdings = HOLDINGS.map(([value, text]) => ({ value, text }));
  protected readonly directions = [
    { value: 'climb', text: 'climb' },
    { value: 'conventional', text: 'conventional' },
  ];
  protected readonly patterns = [
    { value: 'rings', text: 'rings' },
    { value: 'lines', text: 'straight lines' },
  ];
  protected readonly linesAt = computed(() => {
    const { pattern } = this.settings();
    return pattern.kind === 'lines' ? pattern.angle : undefined;
  });
  protected readonly tools = computed((): readonly ToolRow[] => {
    const taken = new Set(this.settings().tools);
    return this.shop().tools.map((tool) => ({ tool, words: this.words(tool), isTaken: taken.has(tool.id) }));
  });
  protected readonly hasEndMill = computed(() => this.tools().some(({ tool, isTaken }) => isTaken && tool.form.kind === 'end'));

  protected readonly axes = [
    { value: 'upright', text: 'upright middle line, left to right' },
    { value: 'level', text: 'level middle line, top to bottom' },
  ];
  protected readonly axis = computed(() => this.settings().turning?.axis ?? 'upright');
  protected readonly pins = computed(() => this.settings().turning?.pins);

  protected chooseAxis(value: string): void {
    this.change({ turning: { ...this.settings().turning, axis: value === 'level' ? 'level' : 'upright' } });
  }

  protected addPins(): void {
    this.setPins({});
  }

  protected setPins(change: Partial<Pins>): void {
    this.change({ turning: { axis: this.axis(), pins: { ...USUAL_PINS, ...this.pins(), ...change } } });
  }

  protected dropPins(): void {
    this.change({ turning: { axis: this.axis() } });
  }

  protected change(change: Partial<CutSettings>): void {
    this.settings.update((settings) => ({ ...settings, ...change }));
  }

  protected take(id: string, isTaken: boolean): void {
    const { tools } = this.settings();
    this.change({ tools: isTaken ? [...tools, id] : tools.filter((each) => each !== id) });
  }

  protected chooseZero(value: string): void {
    const at = ZEROS.find((each) => each === value);
    if (at) this.change({ zeroAt: at });
  }

  protected chooseZeroHeight(value: string): void {
    this.change({ zeroHeight: value === 'bed' ? 'bed' : 'face of the stock' });
  }

  protected chooseHolding(value: string): void {
    const found = HOLDINGS.find(([kind]) => kind === value);
    if (found) this.change({ holding: found[0] });
  }

  protected chooseDirection(value: string): void {
    this.change({ direction: value === 'climb' ? 'climb' : 'conventional' });
  }

  protected choosePattern(value: string): void {
    this.change({ pattern: value === 'lines' ? { kind: 'lines', angle: 0 } : { kind: 'rings' } });
  }

  protected addClamp(): void {
    this.change({ clamps: [...this.settings().clamps, { x: -10, y: -10, width: 30, height: 20, above: 15 }] });
  }

  protected setClamp(index: number, change: Partial<ClampField>): void {
    this.change({ clamps: this.settings().clamps.map((clamp, i) => (i === index ? { ...clamp, ...change } : clamp)) });
  }

  protected dropClamp(index: number): void {
    this.change({ clamps: this.settings().clamps.filter((_, i) => i !== index) });
  }

  private words({ form, cuttingLength, left }: ShopTool): string {
    const angle = 'angle' in form ? `, ${form.angle}°` : '';
    const few = left === 0 ? ', none left' : left === 1 ? ', the last' : '';
    return `⌀ ${formatLength(form.diameter, this.unit())}${angle}, cuts ${formatLength(cuttingLength, this.unit())} deep${few}`;
  }
}
