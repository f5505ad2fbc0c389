import { type Edge } from '../src/sign/index.js';

/** Least and greatest height that is right: distances may be read a little aside. */
export interface Span {
  readonly least: number;
  readonly most: number;
}

export const tan = (degrees: number): number => Math.tan((degrees * Math.PI) / 180);

/** The rise above the start of an edge form at a distance d, of `amount` in all; distances run on beyond what is asked. */
export function riseOf(edge: Edge | undefined, amount: number, d: number): number {
  switch (edge?.kind) {
    case undefined:
      return amount;
    case 'sloped':
      return Math.min(amount, d / tan(edge.angle));
    case 'ridged': {
      const free = d / tan(edge.angle / 2);
      return edge.capped ? Math.min(amount, free) : free;
    }
    case 'chamfered': {
      const height = Math.min(edge.height, amount);
      return d >= edge.width ? amount : amount - height + (height * d) / edge.width;
    }
    case 'rounded': {
      const r = Math.min(edge.radius, amount);
      return d >= r ? amount : amount - r + Math.sqrt(Math.max(0, r * r - (r - d) ** 2));
    }
    case 'domed': {
      // Through the edge at its foot, level at its top: a segment of a circle (textbook), no more than a quarter of one.
      const [w, h] = [edge.width, Math.min(edge.width, amount)];
      if (d >= w || amount === 0) return amount;
      const r = (w * w + h * h) / (2 * h);
      return amount - r + Math.sqrt(Math.max(0, r * r - (w - d) ** 2));
    }
    case 'cove': {
      const r = Math.min(edge.radius, amount);
      return d >= r ? amount : amount - Math.sqrt(Math.max(0, r * r - d * d));
    }
  }
}

/** The heights that are right at a distance which may be read aside. */
export const spanned = (height: (d: number) => number, d: number, aside: number): Span => {
  const heights = [Math.max(0, d - aside), d, d + aside].map(height);
  return { least: Math.min(...heights), most: Math.max(...heights) };
};
