import { type LabelledEdges } from './arrangement.js';
import { orient2d } from '../geometry/index.js';
import { sweep } from './sweep.js';

/** Triangles over numbered points, three numbers each, anticlockwise, and the label each lies in. */
export interface Triangles {
  readonly corners: Int32Array;
  readonly labels: Int32Array;
}

/** Int32 values that grow. */
class IntList {
  values = new Int32Array(1024);
  length = 0;
  push(value: number): void {
    if (this.length === this.values.length) {
      const larger = new Int32Array(this.length * 2);
      larger.set(this.values);
      this.values = larger;
    }
    this.values[this.length++] = value;
  }
  toArray(): Int32Array {
    return this.values.slice(0, this.length);
  }
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
 * Method: S. Hertel and K. Mehlhorn, "Fast triangulation of simple polygons", FCT 1983 (from memory): between two
 * neighbouring edges of the sweep a chain of points is kept that bulges away from the open side; a new point cuts off
 * every corner of the chain that it sees.
 */
export function triangulate(edges: LabelledEdges, wanted: (label: number) => boolean): Triangles {
  const { x, y, left, right } = edges;
  const corners = new IntList();
  const labels = new IntList();
  const vertexOf = new IntList();
  const next = new IntList();
  const previous = new IntList();
  /** The chain on the right of an edge of the sweep. */
  const chains: (Chain | undefined)[] = new Array(left.length);

  const newNode = (vertex: number): number => {
    vertexOf.push(vertex);
    next.push(-1);
    previous.push(-1);
    return vertexOf.length - 1;
  };
  const link = (a: number, b: number) => {
    next.values[a] = b;
    previous.values[b] = a;
  };
  const side = (a: number, b: number, c: number): number => {
    const [p, q, r] = [vertexOf.values[a], vertexOf.values[b], vertexOf.values[c]];
    return orient2d(x[p], y[p], x[q], y[q], x[r], y[r]);
  };
  const emit = (a: number, b: number, c: number, label: number) => {
    corners.push(vertexOf.values[a]);
    corners.push(vertexOf.values[b]);
    corners.push(vertexOf.values[c]);
    labels.push(label);
  };

  /** Adds a point at the right end, cutting off what it sees. */
  const append = (chain: Chain, vertex: number) => {
    const added = newNode(vertex);
    let end = chain.last;
    while (end !== chain.first && side(previous.values[end], end, added) > 0) {
      emit(previous.values[end], end, added, chain.label);
      end = previous.values[end];
    }
    link(end, added);
    chain.last = chain.latest = added;
  };
  /** Adds a point at the left end, cutting off what it sees. */
  const prepend = (chain: Chain, vertex: number) => {
    const added = newNode(vertex);
    let end = chain.first;
    while (end !== chain.last && side(added, end, next.values[end]) > 0) {
      emit(added, end, next.values[end], chain.label);
      end = next.values[end];
    }
    link(added, end);
    chain.first = chain.latest = added;
  };
  const close = (chain: Chain, vertex: number) => {
    const top = newNode(vertex);
    for (let a = chain.first; a !== chain.last; a = next.values[a]) emit(a, next.values[a], top, chain.label);
  };
  /** Parts a chain at its latest node by a point between its two edges; gives the right part, keeps the left. */
  const split = (chain: Chain, vertex: number): Chain => {
    const twin = newNode(vertexOf.values[chain.latest]);
    const rightPart: Chain = { first: twin, last: chain.last, latest: twin, label: chain.label };
    if (chain.latest === chain.last) rightPart.last = twin;
    else link(twin, next.values[chain.latest]);
    chain.last = chain.latest;
    append(chain, vertex);
    prepend(rightPart, vertex);
    return rightPart;
  };

  sweep(edges, ({ vertex, ended, begun, left: before }) => {
    const outer = before < 0 ? undefined : chains[before];
    const leftChain = outer;
    let rightChain: Chain | undefined;
    if (ended.length > 0) {
      rightChain = chains[ended[ended.length - 1]];
      for (let i = 0; i + 1 < ended.length; i++) {
        const inner = chains[ended[i]];
        if (inner) close(inner, vertex);
      }
      if (leftChain) append(leftChain, vertex);
      if (rightChain && begun.length > 0) prepend(rightChain, vertex);
      else if (rightChain && leftChain) {
        // Two open parts become one: the new point is the last of the left and the first of the right.
        prepend(rightChain, vertex);
        const shared = next.values[rightChain.first];
        link(leftChain.last, shared);
        leftChain.latest = leftChain.last;
        leftChain.last = rightChain.last;
      }
    } else if (leftChain) rightChain = split(leftChain, vertex);

    if (before >= 0) chains[before] = leftChain;
    for (let i = 0; i < begun.length; i++) {
      const e = begun[i];
      if (i === begun.length - 1) chains[e] = wanted(right[e]) ? rightChain : undefined;
      else if (wanted(right[e])) {
        const start = newNode(vertex);
        chains[e] = { first: start, last: start, latest: start, label: right[e] };
      } else chains[e] = undefined;
    }
  });
  return { corners: corners.toArray(), labels: labels.toArray() };
}
