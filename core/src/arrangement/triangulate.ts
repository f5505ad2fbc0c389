import { type LabelledEdges } from './arrangement.js';
import { IntList, orient2d } from '../geometry/index.js';
import { sweep } from './sweep.js';

/** Triangles over numbered points, three numbers each, anticlockwise, and the label each lies in. */
export interface Triangles {
  readonly corners: Int32Array;
  readonly labels: Int32Array;
}

/** The lower border of the open part of a place between two neighbouring edges, from left to right. */
interface Chain {
  first: number;
  last: number;
  /** The node met last by the sweep: a point that splits the place is joined to it. */
  latest: number;
  readonly label: number;
}

/**
 * Covers every place whose label `wanted` accepts with triangles, in one sweep: O(n log n), exact, every point and edge
 * of the plan kept, so that neighbouring places share their borders corner by corner.
 *
 * Method: S. Hertel and K. Mehlhorn, "Fast triangulation of simple polygons", FCT 1983, LNCS 158: between two
 * neighbouring edges of the sweep a chain of points is kept that bulges away from the open side; a new point cuts off
 * every corner of the chain that it sees.
 */
export function triangulate(edges: LabelledEdges, wanted: (label: number) => boolean): Triangles {
  const { left, right } = edges;
  const chains = new Chains(edges);
  /** The chain on the right of an edge of the sweep. */
  const beside: (Chain | undefined)[] = new Array(left.length);
  sweep(edges, ({ vertex, ended, begun, left: before }) => {
    const outer = before < 0 ? undefined : beside[before];
    for (let i = 0; i + 1 < ended.length; i++) {
      const inner = beside[ended[i]];
      if (inner) chains.close(inner, vertex);
    }
    let last: Chain | undefined;
    if (ended.length === 0) last = outer && chains.split(outer, vertex);
    else {
      last = beside[ended[ended.length - 1]];
      if (outer) chains.append(outer, vertex);
      if (last && begun.length > 0) chains.prepend(last, vertex);
      else if (last && outer) chains.join(outer, last, vertex);
    }
    for (let i = 0; i < begun.length; i++) {
      const label = right[begun[i]];
      const isLast = i === begun.length - 1;
      beside[begun[i]] = !wanted(label) ? undefined : isLast ? last : chains.begin(vertex, label);
    }
  });
  return chains.triangles();
}

/** The chains of a sweep, as doubly linked nodes, and the triangles that were cut off them. */
class Chains {
  private readonly corners = new IntList();
  private readonly labels = new IntList();
  private readonly vertexOf = new IntList();
  private readonly next = new IntList();
  private readonly previous = new IntList();

  constructor(private readonly points: Pick<LabelledEdges, 'x' | 'y'>) {}

  begin(vertex: number, label: number): Chain {
    const start = this.newNode(vertex);
    return { first: start, last: start, latest: start, label };
  }

  /** Adds a point at the right end, cutting off what it sees. */
  append(chain: Chain, vertex: number): void {
    const { previous } = this;
    const added = this.newNode(vertex);
    let end = chain.last;
    while (end !== chain.first && this.side(previous.values[end], end, added) > 0) {
      this.emit(previous.values[end], end, added, chain.label);
      end = previous.values[end];
    }
    this.link(end, added);
    chain.last = chain.latest = added;
  }

  /** Adds a point at the left end, cutting off what it sees. */
  prepend(chain: Chain, vertex: number): void {
    const { next } = this;
    const added = this.newNode(vertex);
    let end = chain.first;
    while (end !== chain.last && this.side(added, end, next.values[end]) > 0) {
      this.emit(added, end, next.values[end], chain.label);
      end = next.values[end];
    }
    this.link(added, end);
    chain.first = chain.latest = added;
  }

  /** Covers what is left of a chain from the point at which its place ends. */
  close(chain: Chain, vertex: number): void {
    const { next } = this;
    const top = this.newNode(vertex);
    for (let a = chain.first; a !== chain.last; a = next.values[a]) this.emit(a, next.values[a], top, chain.label);
  }

  /** Parts a chain at its latest node by a point between its two edges; gives the right part, keeps the left. */
  split(chain: Chain, vertex: number): Chain {
    const twin = this.newNode(this.vertexOf.values[chain.latest]);
    const rightPart: Chain = { first: twin, last: chain.last, latest: twin, label: chain.label };
    if (chain.latest === chain.last) rightPart.last = twin;
    else this.link(twin, this.next.values[chain.latest]);
    chain.last = chain.latest;
    this.append(chain, vertex);
    this.prepend(rightPart, vertex);
    return rightPart;
  }

  /** Makes one chain of two whose places meet in a point, which is the last of the left one already. */
  join(left: Chain, right: Chain, vertex: number): void {
    this.prepend(right, vertex);
    this.link(left.last, this.next.values[right.first]);
    left.latest = left.last;
    left.last = right.last;
  }

  triangles(): Triangles {
    return { corners: this.corners.toArray(), labels: this.labels.toArray() };
  }

  private newNode(vertex: number): number {
    this.vertexOf.push(vertex);
    this.next.push(-1);
    this.previous.push(-1);
    return this.vertexOf.length - 1;
  }

  private link(a: number, b: number): void {
    this.next.values[a] = b;
    this.previous.values[b] = a;
  }

  private side(a: number, b: number, c: number): number {
    const { x, y } = this.points;
    const { values } = this.vertexOf;
    const [p, q, r] = [values[a], values[b], values[c]];
    return orient2d(x[p], y[p], x[q], y[q], x[r], y[r]);
  }

  private emit(a: number, b: number, c: number, label: number): void {
    const { corners, vertexOf } = this;
    corners.push(vertexOf.values[a]);
    corners.push(vertexOf.values[b]);
    corners.push(vertexOf.values[c]);
    this.labels.push(label);
  }
}
