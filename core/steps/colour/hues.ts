/**
 * Colours by their hue: nodes on a strip of hues (of OKLab, in degrees), each turning, strengthening and lightening what lies
 * about it. A node reaches its neighbours' places and no farther than 45°: at each node its own values hold, and what is
 * farther off stays as it is.
 */
import type { HueNode } from './step.ts';

/** Half degrees: entries of the table, with one more to interpolate to. */
export const HUE_STEPS = 720;
/** Degrees that a node reaches to each side, at most and at least. */
const REACH = 45;
const NEAREST = 2;
/** Lightness that 100 adds. */
const FULL_LIGHT = 0.25;

/** Degrees from one hue up to another, 0 to 360. */
const up = (from: number, to: number): number => (((to - from) % 360) + 360) % 360;

/** The nodes in order of their hues; of those upon each other the last. */
export function hueNodes(nodes: readonly HueNode[]): HueNode[] {
  const apart: HueNode[] = [];
  for (const node of [...nodes].reverse())
    if (apart.every(({ at }) => Math.min(up(at, node.at), up(node.at, at)) >= NEAREST)) apart.push(node);
  return apart.sort((a, b) => up(0, a.at) - up(0, b.at));
}

const bump = (away: number, width: number): number =>
  away >= width ? 0 : (1 + Math.cos((Math.PI * away) / width)) / 2;

export interface HueChange {
  hue: number;
  chroma: number;
  light: number;
}

/** What the nodes change a hue by, in their own units. */
export function hueChange(nodes: readonly HueNode[]): (hue: number) => HueChange {
  const ordered = hueNodes(nodes);
  const parts = ordered.map((node, i) => {
    const next = ordered[(i + 1) % ordered.length];
    const last = ordered[(i + ordered.length - 1) % ordered.length];
    const alone = ordered.length === 1;
    return {
      node,
      above: alone ? REACH : Math.min(REACH, up(node.at, next.at)),
      below: alone ? REACH : Math.min(REACH, up(last.at, node.at))
    };
  });
  return (hue) => {
    const sum: HueChange = { hue: 0, chroma: 0, light: 0 };
    for (const { node, above, below } of parts) {
      const away = up(node.at, hue);
      const weight = away < 180 ? bump(away, above) : bump(360 - away, below);
      sum.hue += weight * node.hue;
      sum.chroma += weight * node.chroma;
      sum.light += weight * node.light;
    }
    return sum;
  };
}

/** A turn by cosine and sine with the change of chroma in it, lightness to add, and a number that is not used, for each step. */
export function hueTable(nodes: readonly HueNode[]): Float32Array {
  const change = hueChange(nodes);
  const table = new Float32Array((HUE_STEPS + 1) * 4);
  for (let i = 0; i <= HUE_STEPS; i++) {
    const { hue, chroma, light } = change(((i % HUE_STEPS) * 360) / HUE_STEPS);
    const angle = (hue * Math.PI) / 180;
    const factor = 1 + chroma / 100;
    table.set([factor * Math.cos(angle), factor * Math.sin(angle), (light / 100) * FULL_LIGHT, 0], i * 4);
  }
  return table;
}
