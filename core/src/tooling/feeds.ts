/** Chip load at a tool diameter: mm a tooth. */
export interface ChipLoad {
  readonly diameter: number;
  readonly chip: number;
}

/** What a material says of cutting it. */
export interface CuttingData {
  /** By ascending diameter; between them in proportion. */
  readonly chipLoads: readonly ChipLoad[];
  /** Cutting speed at the edge of the tool, m/min. */
  readonly surfaceSpeed: number;
}

/** What machine and tool let be. */
export interface SpindleLimits {
  /** Revolutions a minute. */
  readonly leastSpeed: number;
  readonly mostSpeed: number;
  /** mm a minute. */
  readonly mostFeed: number;
  /** mm a minute straight down. */
  readonly mostPlunge: number;
}

/** What held a figure down or up. */
export type Limit = 'surface speed' | 'slowest spindle' | 'fastest spindle' | 'chip load' | 'fastest feed' | 'most plunge';

/** How fast a tool turns and moves, and what that was limited by. */
export interface Feeds {
  /** Revolutions a minute. */
  readonly speed: number;
  /** mm a minute, across and down. */
  readonly feed: number;
  readonly plunge: number;
  readonly speedBy: Limit;
  readonly feedBy: Limit;
  readonly plungeBy: Limit;
}

/** Part of the feed across that a tool is fed down at (common practice, no source). */
const PLUNGE_PART = 1 / 3;

/** Chip load for a diameter, in proportion between those that are known, and to the diameter below the least and above the greatest. */
export function chipLoadAt(chipLoads: readonly ChipLoad[], diameter: number): number {
  const above = chipLoads.findIndex((each) => each.diameter >= diameter);
  if (above <= 0) {
    const end = above === 0 ? chipLoads[0] : chipLoads[chipLoads.length - 1];
    return (end.chip * diameter) / end.diameter;
  }
  const [low, high] = [chipLoads[above - 1], chipLoads[above]];
  return low.chip + ((high.chip - low.chip) * (diameter - low.diameter)) / (high.diameter - low.diameter);
}

/**
 * Speed and feeds: n = 1000·v/(π·D), and n·z·f for z flutes at the chip load f (Machinery's Handbook, Speeds and Feeds), within what
 * spindle, machine and tool stand. What is not whole is cut off: revolutions and mm a minute.
 */
export function feedsFor(diameter: number, flutes: number, data: CuttingData, limits: SpindleLimits): Feeds {
  const wanted = (1000 * data.surfaceSpeed) / (Math.PI * diameter);
  const speed = Math.floor(Math.min(limits.mostSpeed, Math.max(limits.leastSpeed, wanted)));
  const fed = speed * flutes * chipLoadAt(data.chipLoads, diameter);
  const feed = Math.max(1, Math.floor(Math.min(fed, limits.mostFeed)));
  const plunge = Math.max(1, Math.floor(Math.min(feed * PLUNGE_PART, limits.mostPlunge)));
  return {
    speed,
    feed,
    plunge,
    speedBy: wanted > limits.mostSpeed ? 'fastest spindle' : wanted < limits.leastSpeed ? 'slowest spindle' : 'surface speed',
    feedBy: fed > limits.mostFeed ? 'fastest feed' : 'chip load',
    plungeBy: feed * PLUNGE_PART > limits.mostPlunge ? 'most plunge' : 'chip load',
  };
}
