/** Labels of least energy by expansion moves (Boykov, Veksler & Zabih, PAMI 2001), each a minimum cut (Dinic 1970). */

export interface Labelling {
  nodes: number;
  labels: number;
  /** Pairs of nodes that are neighbours. */
  pairs: readonly (readonly [number, number])[];
  /** Cost of a label at a node. */
  own(node: number, label: number): number;
  /** Cost of two labels beside each other at a pair; 0 where they are the same. */
  between(pair: number, one: number, other: number): number;
}

interface Network {
  head: Int32Array;
  to: number[];
  next: number[];
  room: number[];
}

function connect(
  { head, to, next, room }: Network,
  from: number,
  into: number,
  forth: number,
  back: number
): void {
  to.push(into, from);
  room.push(forth, back);
  next.push(head[from], head[into]);
  head[from] = to.length - 2;
  head[into] = to.length - 1;
}

const LEAST = 1e-9;

/** Lets as much flow from source to sink as there is room for, and returns which nodes the source still reaches. */
function cut(network: Network, source: number, sink: number): Uint8Array {
  const { head, to, next, room } = network;
  const count = head.length;
  const level = new Int32Array(count);
  const at = new Int32Array(count);
  const queue = new Int32Array(count);
  const reach = (): boolean => {
    level.fill(-1);
    level[source] = 0;
    queue[0] = source;
    for (let first = 0, last = 1; first < last; first++)
      for (let edge = head[queue[first]]; edge >= 0; edge = next[edge])
        if (room[edge] > LEAST && level[to[edge]] < 0) {
          level[to[edge]] = level[queue[first]] + 1;
          queue[last++] = to[edge];
        }
    return level[sink] >= 0;
  };
  const path: number[] = [];
  while (reach()) {
    at.set(head);
    // One way after another from the source, by edges that lead a level further.
    let node = source;
    path.length = 0;
    for (;;) {
      if (node === sink) {
        const flow = path.reduce((least, edge) => Math.min(least, room[edge]), Infinity);
        for (const edge of path) {
          room[edge] -= flow;
          room[edge ^ 1] += flow;
        }
        path.length = 0;
        node = source;
        continue;
      }
      let edge = at[node];
      while (edge >= 0 && !(room[edge] > LEAST && level[to[edge]] === level[node] + 1)) edge = next[edge];
      at[node] = edge;
      if (edge >= 0) {
        path.push(edge);
        node = to[edge];
      } else if (node === source) break;
      else {
        level[node] = -1;
        node = to[path.pop()! ^ 1];
      }
    }
  }
  return Uint8Array.from(level, (each) => (each >= 0 ? 1 : 0));
}

const SWEEPS = 4;

/** Betters labels until no label can be spread any more; they are changed in place. */
export function expand(problem: Labelling, labels: Uint8Array): void {
  const { nodes, pairs, own, between } = problem;
  const [source, sink] = [nodes, nodes + 1];
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let moved = false;
    for (let wider = 0; wider < problem.labels; wider++) {
      const network: Network = { head: new Int32Array(nodes + 2).fill(-1), to: [], next: [], room: [] };
      const change = new Float64Array(nodes);
      for (let node = 0; node < nodes; node++) change[node] = own(node, wider) - own(node, labels[node]);
      pairs.forEach(([p, q], pair) => {
        const [keepBoth, keepFirst, keepSecond] = [
          between(pair, labels[p], labels[q]),
          between(pair, labels[p], wider),
          between(pair, wider, labels[q])
        ];
        // What would not be a cut is taken as the most that is one.
        const both = Math.min(keepBoth, keepFirst + keepSecond);
        change[p] += keepSecond - both;
        change[q] -= keepSecond;
        const room = keepFirst + keepSecond - both;
        if (room > LEAST) connect(network, p, q, room, 0);
      });
      for (let node = 0; node < nodes; node++)
        if (change[node] > 0) connect(network, source, node, change[node], 0);
        else if (change[node] < 0) connect(network, node, sink, -change[node], 0);
      const keeps = cut(network, source, sink);
      for (let node = 0; node < nodes; node++)
        if (!keeps[node] && labels[node] !== wider) {
          labels[node] = wider;
          moved = true;
        }
    }
    if (!moved) return;
  }
}
