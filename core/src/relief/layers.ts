import { type Contour, type Outline } from '../outline/index.js';
import { type Action, type BlankEdge, type Part, type Sign, sinks, type Tier, tierLevel } from '../sign/index.js';
import { edgeRamp } from './edge-form.js';
import type { PlacedPart } from './part-outline.js';
import { Ramp } from './ramp.js';
import type { TierAreas } from './tier-area.js';

/** What a layer does to what is there. */
export type Does = 'raise' | 'carve' | 'set' | 'mark' | 'through';

/** A tier that is on, as it acts on the relief: an area with a height over it. */
export interface Layer {
  readonly part: string;
  readonly tier: string;
  readonly does: Does;
  /** The level that it comes to; {@link THROUGH} for a cut through. */
  readonly z: number;
  /** Heights by the distance from the area's edge; undefined where the edge is upright. */
  readonly ramp?: Ramp;
  readonly contours: readonly Contour[];
  /** Ids of the finishes of its level places and of its sides. */
  readonly top?: string;
  readonly sides?: string;
  /** Its slopes run from the edge to the middle: what is seen of them is its top. */
  readonly isRidged?: boolean;
}

const DOES = { raise: 'raise', carve: 'carve', line: 'carve', set: 'set', mark: 'mark', 'cut-through': 'through' } as const;

/** How far a tier rises or sinks, as a positive length. */
export function amountOfTier({ action }: Tier): number {
  switch (action.kind) {
    case 'raise':
    case 'carve':
      return action.by;
    case 'line':
      return action.depth;
    case 'set':
      return Math.abs(action.to);
    case 'mark':
    case 'cut-through':
      return 0;
  }
}

/** The height over a tier's area, by the distance from its edge; undefined where it is upright. */
export function tierRamp(tier: Tier, base: number): Ramp | undefined {
  if (tier.action.kind === 'cut-through' || tier.action.kind === 'mark' || !tier.edge) return undefined;
  const rise = edgeRamp(tier.edge, amountOfTier(tier));
  if (rise.isLevel) return undefined;
  const sign = sinks(tier.action) ? -1 : 1;
  return new Ramp(
    rise.distances,
    rise.heights.map((h) => Number((base + sign * h).toFixed(9))),
  );
}

/** A layer with the tier that it comes of; letters that rise or sink more than the others have layers of their own. */
export interface TierLayer extends Layer {
  readonly of: Tier;
  readonly isMore: boolean;
}

/** The layers of a part's tiers that are on, in order. */
export function layersOf(part: Part, placed: PlacedPart, base: number, areas: TierAreas): TierLayer[] {
  const groups = placed.groups ?? [{ more: 0, placed }];
  return part.tiers
    .filter(({ on }) => on)
    .flatMap((of) =>
      groups
        .filter(({ more, placed: letters }) => more === 0 || letters.contours.length + letters.strokes.length > 0)
        .map(({ more, placed: letters }): TierLayer => {
          const tier = more === 0 ? of : { ...of, action: withMore(of.action, more) };
          const ramp = tierRamp(tier, base);
          return {
            of,
            isMore: more !== 0,
            part: part.id,
            tier: tier.id,
            does: DOES[tier.action.kind],
            z: ramp ? ramp.end : tierLevel(tier, base),
            ramp,
            contours: areas.of(letters, tier, amountOfTier(tier), part.bridges),
            top: tier.finish?.top,
            sides: tier.finish?.sides,
            isRidged: tier.edge?.kind === 'ridged',
          };
        }),
    );
}

/** An action that rises or sinks by more, and at least not at all. */
function withMore(action: Action, more: number): Action {
  switch (action.kind) {
    case 'raise':
    case 'carve':
      return { ...action, by: Math.max(0, action.by + more) };
    case 'line':
      return { ...action, depth: Math.max(0, action.depth + more) };
    case 'set':
      return { ...action, to: action.to < 0 ? Math.min(0, action.to - more) : Math.max(0, action.to + more) };
    case 'mark':
    case 'cut-through':
      return action;
  }
}

/** How far below the face the edge of a blank with an edge form begins, in mm. */
export const edgeHeight = (edge: BlankEdge): number => (edge.kind === 'chamfered' ? edge.height : edge.radius);

/** The edge form of the blank as a first layer: it sinks from the face to the blank's edge. */
export function blankLayer({ blank }: Sign, contour: Contour): Layer | undefined {
  if (!blank.edge) return undefined;
  const height = Math.min(edgeHeight(blank.edge), blank.thickness);
  const rise = edgeRamp(blank.edge, height);
  const ramp = new Ramp(
    rise.distances,
    rise.heights.map((h) => h - height),
  );
  return {
    part: '',
    tier: '',
    does: 'set',
    z: 0,
    ramp,
    contours: [contour.slice()] as Outline,
    top: blank.finish?.face,
    sides: blank.finish?.sides,
  };
}
