import { type Layer } from '../placing/layers.js';
import { FACE_LAYER, LEVEL_STEP, type Material, type Surface } from './relief-function.js';
import { type SideBand, sideBandsOf } from './side-bands.js';

/** Labels of the relief's plan: outside the blank, cut through, and from 2 on the places with material. */
export const OUTSIDE = 0;
export const HOLE = 1;
export const FIRST_PLACE = 2;

/** Whether a label of the plan is a place with material. */
export const isSolid = (label: number): boolean => label >= FIRST_PLACE;

/** What of a blank is painted. */
export interface Paint {
  readonly isFacePainted: boolean;
  readonly isBackPainted: boolean;
  /** Id of the finish of its edge. */
  readonly sides?: string;
}

/** The material of a place with what its upright sides are made by. */
export interface Banded extends Material {
  readonly sides?: readonly SideBand[];
}

/** Gives places that look and measure alike the same label. */
export class PlanLabels {
  /** By label from {@link FIRST_PLACE} on. */
  readonly materials: Banded[] = [];
  /** Whether upright sides are told apart: where nothing but the bare blank is seen they need not be. */
  readonly hasSides: boolean;
  private readonly labels = new Map<string, number>();

  constructor(
    private readonly paint: Paint,
    private readonly layers: readonly Layer[],
  ) {
    this.hasSides =
      paint.sides !== undefined || layers.some(({ sides, operation }) => sides !== undefined || operation === 'insert');
  }

  /** The label of a material, given now if it is new. */
  of(material: Material): number {
    const { surface, under } = material;
    const sides = this.hasSides ? sideBandsOf(material, (layer) => this.sideAppearance(layer)) : undefined;
    const bands = sides?.map(({ to, layer }) => `${to} ${this.sideAppearance(layer)}`).join() ?? '';
    const key = `${keyOf(surface)} ${this.appearanceOf(surface)} ${keyOf(under)} ${this.appearanceOf(under)} ${bands}`;
    let label = this.labels.get(key);
    if (label === undefined) {
      label = FIRST_PLACE + this.materials.length;
      this.labels.set(key, label);
      this.materials.push({ ...material, sides });
    }
    return label;
  }

  /** What a label stands for; undefined where there is no material. */
  materialOf(label: number): Banded | undefined {
    return this.materials[label - FIRST_PLACE];
  }

  private appearanceOf({ layer, marked }: Surface): string {
    const isPainted = layer === FACE_LAYER ? this.paint.isFacePainted : this.paint.isBackPainted;
    const own = layer >= 0 ? finishesOf(this.layers[layer]) : isPainted ? 'painted' : '';
    return `${own} ${marked ?? ''}`;
  }

  private sideAppearance(layer: number): string {
    if (layer < 0) return this.paint.sides ?? '';
    const { top, sides, isRidged, operation } = this.layers[layer];
    return `${(isRidged ? (top ?? sides) : sides) ?? ''}${operation === 'insert' ? ` of ${layer}` : ''}`;
  }
}

/** What tells places of one surface apart. */
function finishesOf({ top, sides, operation, part, tier }: Layer): string {
  const finishes = top || sides ? `${top ?? ''} ${sides ?? ''}` : '';
  // Of another material.
  return operation === 'insert' || operation === 'back up' ? `${finishes} ${operation} ${part} ${tier}` : finishes;
}

function keyOf(surface: Surface): string {
  switch (surface.kind) {
    case 'level':
      return `${Math.round(surface.z / LEVEL_STEP)}${surface.plane ? ` by ${surface.plane.key}` : ''}`;
    case 'profile':
      return surface.profile.key;
    case 'embedded':
      return `${surface.embedded.layer} ${surface.band}`;
  }
}
