import { boxOfSegments, Cells, DisjointSets, IntListMap, PointSet } from '../geometry/index.js';
import { node, type Segments } from './noding.js';

/** Segments as they were split, between points that are given from the first point of all. */
interface Noded {
  readonly x: Int32Array;
  readonly y: Int32Array;
  readonly from: Int32Array;
  readonly to: Int32Array;
  readonly tag: Int32Array;
}

/** Below this many segments there is nothing to gain. */
const FEWEST = 400;
/** Numbers that are remembered in all: about 100 MB. */
const MOST_NUMBERS = 24_000_000;
/** Grid steps within which segments may have to do with each other, and the cells that tell which do: a quarter of a mm. */
const MARGIN = 3;
const CELL = 2000;
const MOST_CELLS = 8_000_000;

/**
 * Splits segments as {@link node} does, clusters that nothing else comes near one by one, and remembers every different cluster:
 * the letters of a word with all that is in them are worked out once each, and what an edit does not touch not again. What comes
 * out does not depend on what is remembered, since every cluster is split as if it lay at the origin.
 */
export class NodingMemory {
  private readonly known = new IntListMap<Noded>(MOST_NUMBERS);

  node(points: PointSet, input: Segments): Segments {
    if (input.from.length < FEWEST) return node(points, input);
    const out: Segments = { from: [], to: [], tag: [] };
    for (const cluster of clusters(points, input)) this.add(points, input, cluster, out);
    return out;
  }

  private add(points: PointSet, { from, to, tag }: Segments, cluster: readonly number[], out: Segments): void {
    const { x, y } = points;
    const [x0, y0] = [x[from[cluster[0]]], y[from[cluster[0]]]];
    const key = new Int32Array(5 * cluster.length);
    cluster.forEach((s, i) => {
      const at = 5 * i;
      key[at] = x[from[s]] - x0;
      key[at + 1] = y[from[s]] - y0;
      key[at + 2] = x[to[s]] - x0;
      key[at + 3] = y[to[s]] - y0;
      key[at + 4] = tag[s];
    });
    let noded = this.known.get(key);
    if (!noded) {
      noded = nodedOf(key);
      this.known.set(key, noded, 2 * noded.x.length + 3 * noded.from.length);
    }
    const numbers = Int32Array.from(noded.x, (px, i) => points.add(px + x0, noded.y[i] + y0));
    for (let i = 0; i < noded.from.length; i++) {
      out.from.push(numbers[noded.from[i]]);
      out.to.push(numbers[noded.to[i]]);
      out.tag.push(noded.tag[i]);
    }
  }
}

function nodedOf(key: Int32Array): Noded {
  const points = new PointSet(key.length / 2);
  const segments: Segments = { from: [], to: [], tag: [] };
  for (let at = 0; at < key.length; at += 5) {
    segments.from.push(points.add(key[at], key[at + 1]));
    segments.to.push(points.add(key[at + 2], key[at + 3]));
    segments.tag.push(key[at + 4]);
  }
  const { from, to, tag } = node(points, segments);
  return {
    x: points.x.slice(0, points.size),
    y: points.y.slice(0, points.size),
    from: Int32Array.from(from),
    to: Int32Array.from(to),
    tag: Int32Array.from(tag),
  };
}

/** The numbers of segments that have to do with each other, cluster by cluster, in the order of the first of each. */
function clusters(points: PointSet, { from, to }: Segments): number[][] {
  const { x, y } = points;
  const n = from.length;
  const box = boxOfSegments(points, from, to);
  const area = (box.maxX - box.minX + 1) * (box.maxY - box.minY + 1);
  const cells = new Cells(box, Math.max(CELL, Math.ceil(Math.sqrt(area / MOST_CELLS))), MARGIN);
  const first = new Int32Array(cells.columns * cells.rows).fill(-1);
  const joined = new DisjointSets(n);
  for (let s = 0; s < n; s++) {
    cells.along(x[from[s]], y[from[s]], x[to[s]], y[to[s]], (c) => {
      if (first[c] < 0) first[c] = s;
      else joined.join(s, first[c]);
    });
  }
  return joined.groups();
}
