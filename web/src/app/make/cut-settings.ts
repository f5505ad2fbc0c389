import type { KeptPlan, PlanOrder } from '@plain-relief/api';
import type { Pattern, TabPlace, Turning } from '@plain-relief/core/cutting';
import type { Shop } from '@plain-relief/core/shop';

/** How signs may be held, and how high a tab stands. */
export type HoldingKind = 'tabs' | 'skin' | 'nothing';
export type ZeroAt = 'lower left' | 'lower right' | 'upper left' | 'upper right' | 'middle';

/** A rectangle that no path enters. */
export interface ClampField {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly above: number;
}

/** How a sign is cut, as it is typed on Make; lengths in mm. */
export interface CutSettings {
  readonly machine: string;
  readonly material: string;
  readonly tools: readonly string[];
  /** Undefined: as thick as the highest raise asks. */
  readonly stockThickness?: number;
  readonly zeroAt: ZeroAt;
  readonly zeroHeight: 'face of the stock' | 'bed';
  /** Part of the diameter from path to path. */
  readonly stepover: number;
  readonly allowance: number;
  readonly cusp: number;
  readonly direction: 'climb' | 'conventional';
  readonly pattern: Pattern;
  readonly holding: HoldingKind;
  readonly tabEvery: number;
  readonly tabWidth: number;
  readonly tabHeight: number;
  /** Where tabs are by hand; undefined: spread. */
  readonly tabsAt?: readonly TabPlace[];
  readonly skin: number;
  readonly overcut: number;
  readonly clamps: readonly ClampField[];
  /** Of a sign that is cut from two sides. */
  readonly turning?: Turning;
}

/** What is chosen where nobody has: as core has it (common practice, no source). */
export const USUAL_SETTINGS: Omit<CutSettings, 'machine' | 'material' | 'tools'> = {
  zeroAt: 'lower left',
  zeroHeight: 'face of the stock',
  stepover: 0.45,
  allowance: 0.2,
  cusp: 0.03,
  direction: 'climb',
  pattern: { kind: 'rings' },
  holding: 'tabs',
  tabEvery: 200,
  tabWidth: 6,
  tabHeight: 1.5,
  skin: 0.4,
  overcut: 0,
  clamps: [],
};

/** Pins where somebody wants them (common practice, no source). */
export const USUAL_PINS = { diameter: 6, apart: 15, deep: 8 };

/** What a plan is asked for with by these settings. */
export function orderOf(settings: CutSettings, side: PlanOrder['side'], option: string | undefined, face?: string): PlanOrder {
  const {
    machine,
    material,
    tools,
    stockThickness,
    zeroAt,
    zeroHeight,
    holding,
    tabEvery,
    tabWidth,
    tabHeight,
    tabsAt,
    skin,
    ...rest
  } = settings;
  const holdings = {
    tabs: { kind: 'tabs', every: tabEvery, width: tabWidth, height: tabHeight, ...(tabsAt && { at: tabsAt }) },
    skin: { kind: 'skin', thickness: skin },
    nothing: { kind: 'nothing' },
  } as const;
  return {
    ...(option !== undefined && { option }),
    ...(face !== undefined && { face }),
    side,
    machine,
    material,
    tools: [...tools],
    choice: {
      ...rest,
      ...(stockThickness !== undefined && { stockThickness }),
      zero: { at: zeroAt, height: zeroHeight },
      holding: holdings[holding],
    },
  };
}

/** The settings that a plan was asked for with. */
export function settingsOf({ machine, material, tools, choice = {} }: PlanOrder): CutSettings {
  const { zero, holding, ...rest } = choice as Partial<CutSettings> & {
    zero?: { at: ZeroAt; height: CutSettings['zeroHeight'] };
    holding?: {
      kind: HoldingKind;
      every?: number;
      width?: number;
      height?: number;
      thickness?: number;
      at?: readonly TabPlace[];
    };
  };
  const usual = USUAL_SETTINGS;
  return {
    ...usual,
    ...rest,
    machine,
    material,
    tools,
    zeroAt: zero?.at ?? usual.zeroAt,
    zeroHeight: zero?.height ?? usual.zeroHeight,
    holding: holding?.kind ?? usual.holding,
    tabEvery: holding?.every ?? usual.tabEvery,
    tabWidth: holding?.width ?? usual.tabWidth,
    tabHeight: holding?.height ?? usual.tabHeight,
    skin: holding?.thickness ?? usual.skin,
    ...(holding?.at && { tabsAt: holding.at }),
  };
}

/** Without what the shop has no longer; undefined where machine or material is gone. */
export function stillThere(settings: CutSettings, { machines, materials, tools }: Shop): CutSettings | undefined {
  const has = (list: readonly { readonly id: string }[], id: string): boolean => list.some((each) => each.id === id);
  if (!has(machines, settings.machine) || !has(materials, settings.material)) return undefined;
  return { ...settings, tools: settings.tools.filter((id) => has(tools, id)) };
}

/** Why a plan is not of what is seen now; empty where it is. */
export function isBehind(
  { revision, order }: KeptPlan,
  now: { readonly revision: number; readonly option?: string; readonly side: PlanOrder['side']; readonly face?: string },
): string {
  if (order.side !== now.side) return `It is of the ${order.side}.`;
  if (order.option !== now.option) return 'It is of another option.';
  if (order.face !== now.face) return 'It is of another face.';
  return revision === now.revision
    ? ''
    : `The sign has changed since: it is of revision ${revision}, and the sign is at ${now.revision}.`;
}

/** “1 h 05 min”, “12.4 min”. */
export function minutesWords(minutes: number): string {
  if (minutes < 60) return `${minutes.toFixed(1)} min`;
  const whole = Math.round(minutes);
  return `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, '0')} min`;
}

/** “3:05”, “1:02:09” of a film. */
export function clockWords(seconds: number): string {
  const whole = Math.floor(seconds);
  const [h, m, s] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  const two = (value: number): string => String(value).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}
