/**
 * Colours by their hue: nodes on a strip of hues (of OKLab, in degrees), each turning, strengthening and lightening what lies
 * about it. A node reaches its neighbours' places and no farther than 45°: at each node its own values hold, and what is
 * farther off stays as it is.
 */
import { smoothstep } from '../../math/smoothstep.ts';
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

/** A family of hues that one control changes: its middle, how far it reaches in full, and where it ends, in degrees of OKLab. */
interface Family {
  middle: number;
  whole: number;
  ends: number;
  /** What the control changes at 100, as nodes do. */
  chroma: number;
  light: number;
}
/** Skies from turquoise at the horizon to deep blue; what is stronger is deeper, too. */
const SKY: Family = { middle: 248, whole: 20, ends: 48, chroma: 70, light: -25 };
/** From brick and skin through wood and lamplight to yellow. */
const WARM: Family = { middle: 62, whole: 32, ends: 56, chroma: 70, light: 0 };

const shareIn = ({ middle, whole, ends }: Family, hue: number): number =>
  1 - smoothstep(whole, ends, Math.min(up(middle, hue), up(hue, middle)));

/** What changes colours by their hue: nodes, and the strength of whole families. */
export interface HueSettings {
  hues: readonly HueNode[];
  sky: number;
  warm: number;
}

/** A turn by cosine and sine with the change of chroma in it, lightness to add, and a number that is not used, for each step. */
export function hueTable({ hues, sky, warm }: HueSettings): Float32Array {
  const change = hueChange(hues);
  const table = new Float32Array((HUE_STEPS + 1) * 4);
  for (let i = 0; i <= HUE_STEPS; i++) {
    const own = ((i % HUE_STEPS) * 360) / HUE_STEPS;
    const { hue, ...nodes } = change(own);
    let { chroma, light } = nodes;
    for (const [family, percent] of [
      [SKY, sky],
      [WARM, warm]
    ] as const) {
      if (percent === 0) continue;
      const share = (shareIn(family, own) * percent) / 100;
      chroma += share * family.chroma;
      light += share * family.light;
    }
    chroma = Math.max(-100, chroma);
    const angle = (hue * Math.PI) / 180;
    const factor = 1 + chroma / 100;
    table.set([factor * Math.cos(angle), factor * Math.sin(angle), (light / 100) * FULL_LIGHT, 0], i * 4);
  }
  return table;
}
