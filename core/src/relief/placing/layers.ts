import { ContourSet } from '../../arrangement/index.js';
import { type Outline } from '../../geometry/index.js';
import { mirrored } from './mirrored.js';
import {
  amountOf,
  type BlankEdge,
  type Bridges,
  isUpright,
  operationOf,
  type Part,
  sinks,
  THROUGH,
  type Tier,
  tierLevel,
  type TierOperation,
  withMore,
} from '../../sign/index.js';
import { edgeProfile } from '../profile/edge-form.js';
import { type LetterGroup, type PlacedPart } from './part-outline.js';
import { HeightProfile } from '../profile/height-profile.js';
import { type TierAreas } from './tier-area.js';
import { type SupportPlane } from '../../support/index.js';

/**
 * What a layer does to what is there. `keep`: nothing is left where no layer of this kind lies; `back up`: where nothing is left
 * there is a plate behind, and behind what is left, too.
 */
export type Operation = TierOperation | 'keep' | 'back up';

/** A tier that is on, as it acts on the relief: an area with a height over it. */
export interface Layer {
  readonly part: string;
  readonly tier: string;
  readonly operation: Operation;
  /** The level that it comes to, seen from the reader; {@link THROUGH} for a cut through. */
  readonly z: number;
  /** The plane that its levels are measured from where that is not the face; its sides are upright then. */
  readonly plane?: SupportPlane;
  /** Of an insert and of a plate behind, the level of its back. */
  readonly under?: number;
  /** Whether it acts on the side that is turned away: what it raises stands further back. */
  readonly isBehind?: boolean;
  /** Heights by the distance from the area's edge; undefined where the edge is upright. */
  readonly profile?: HeightProfile;
  readonly area: ContourSet;
  /** Where slopes lean outwards, what is level of the area: distances count from where it has grown to. */
  readonly level?: ContourSet;
  /** Ids of the finishes of its level places and of its sides. */
  readonly top?: string;
  readonly sides?: string;
  /** Its slopes run from the edge to the middle: what is seen of them is its top. */
  readonly isRidged?: boolean;
}

/** The height over a tier's area, by the distance from its edge; undefined where it is upright. */
export function tierProfile(tier: Tier, base: number): HeightProfile | undefined {
  if (!tier.edge || isUpright(tier.action)) return undefined;
  const rise = edgeProfile(tier.edge, amountOf(tier.action));
  if (rise.isLevel) return undefined;
  const sign = sinks(tier.action) ? -1 : 1;
  return new HeightProfile(
    rise.distances,
    rise.heights.map((h) => Number((base + sign * h).toFixed(9))),
  );
}

/** A layer with the tier that it comes of; letters that rise, sink or are bridged otherwise than the rest have layers of their own. */
export interface TierLayer extends Layer {
  readonly of: Tier;
  readonly isMore: boolean;
}

/**
 * The layers of a part's tiers that are on, in order.
 * @param planeOf tells the planes that levels are measured from in place of the face
 * @param behind the thickness of the blank for a part on the side that is turned away
 */
export function layersOf(
  part: Part,
  placed: PlacedPart,
  base: number,
  areas: TierAreas,
  planeOf: (tier: Tier) => SupportPlane | undefined,
  behind?: number,
): TierLayer[] {
  const groups = placed.groups ?? [{ more: 0, placed }];
  return part.tiers
    .filter(({ on }) => on)
    .flatMap((of) =>
      groups
        .filter(({ placed: letters }, i) => i === 0 || !letters.area.isEmpty || letters.strokes.length > 0)
        .flatMap(({ placed: letters, ...way }, i): TierLayer[] => {
          const { more } = way;
          const plane = planeOf(of);
          const upright = plane && of.edge ? { ...of, edge: undefined } : of;
          const tier = more === 0 ? upright : { ...upright, action: withMore(of.action, more) };
          const profile = tierProfile(tier, base);
          const z = profile ? profile.end : tierLevel(tier, base);
          const layer: TierLayer = {
            of,
            isMore: i !== 0,
            part: part.id,
            tier: tier.id,
            operation: operationOf(tier.action),
            z,
            ...(plane && { plane }),
            ...(tier.action.kind === 'insert' && { under: z - tier.action.thickness }),
            profile,
            ...areas.of(letters, tier, amountOf(tier.action), bridgesOf(part, way)),
            top: tier.finish?.top,
            sides: tier.finish?.sides,
            isRidged: tier.edge?.kind === 'ridged',
          };
          const { action } = tier;
          const gap = action.kind === 'insert' ? areas.gap(letters, tier, action.clearance ?? 0) : ContourSet.EMPTY;
          // Around an insert stays what it is smaller by.
          const both = gap.isEmpty ? [layer] : [layer, { ...layer, operation: 'through' as const, z: THROUGH, under: undefined, area: gap, isMore: true }]; // prettier-ignore
          return behind === undefined ? both : both.map((each) => turnedAway(each, behind));
        }),
    );
}

/** The bridges of letters that may have others than the rest of their part. */
export function bridgesOf(
  { bridges }: Pick<Part, 'bridges'>,
  way: Pick<LetterGroup, 'bridges' | 'bridgeTurn'>,
): Bridges | undefined {
  if (!bridges || way.bridges === 0) return undefined;
  return { ...bridges, count: way.bridges ?? bridges.count, turn: bridges.turn + (way.bridgeTurn ?? 0) };
}

/** A layer as the other side sees it: mirrored, its heights measured from the face that is turned to the reader. */
function turnedAway(layer: TierLayer, thickness: number): TierLayer {
  const { z, under, profile, level } = layer;
  const seen = (height: number): number => Number((-thickness - height).toFixed(9));
  return {
    ...layer,
    isBehind: true,
    area: mirrored(layer.area),
    ...(level && { level: mirrored(level) }),
    z: under === undefined ? (z === THROUGH ? z : seen(z)) : seen(under),
    ...(under !== undefined && { under: seen(z) }),
    profile: profile && new HeightProfile(profile.distances, profile.heights.map(seen)),
  };
}

/** How far below the face the edge of a blank with an edge form begins, in mm. */
export const edgeHeight = (edge: BlankEdge): number => (edge.kind === 'chamfered' ? edge.height : edge.radius);

/** Whether a layer is an edge form of the blank. */
export const isEdgeLayer = (layer: Layer | undefined): boolean => layer?.operation === 'set' && layer.part === '';

/** What a blank is like on a side: its edge form, and the finishes of its face and of its edge. */
export interface BlankSide {
  readonly edge?: BlankEdge;
  readonly face?: string;
  readonly sides?: string;
}

/**
 * The edge form of a side of the blank as a first layer: it sinks from the face to the edge.
 * @param isBehind for the side that is turned away
 */
export function edgeLayer(side: BlankSide, outline: Outline, thickness: number, isBehind: boolean): Layer | undefined {
  if (!side.edge) return undefined;
  const height = Math.min(edgeHeight(side.edge), thickness);
  const rise = edgeProfile(side.edge, height);
  // Too narrow for a slope: the edge stays upright.
  if (rise.isLevel) return undefined;
  const profile = new HeightProfile(
    rise.distances,
    rise.heights.map((h) => (isBehind ? height - h - thickness : h - height)),
  );
  return {
    part: '',
    tier: '',
    operation: 'set',
    z: isBehind ? -thickness : 0,
    ...(isBehind && { isBehind }),
    profile,
    area: ContourSet.loose(outline),
    top: side.face,
    sides: side.sides,
  };
}
