/** Nodes on the strip of hues, as hands change them. */
import { type HueNode, MOST_NODES } from '$core/steps/colour/step.ts';

/** A hue this near to a node, in degrees, is meant for it. */
const NEAR = 12;

const between = (value: number, most: number): number =>
  Math.round(Math.min(most, Math.max(-most, value)) * 10) / 10;

export const turned = (degrees: number): number => Math.round((((degrees % 360) + 360) % 360) * 10) / 10;

const apart = (one: number, other: number): number => Math.abs(((one - other + 540) % 360) - 180);

/** The node that a hue is meant for: one that is there, or a new one; without room for another, the nearest. */
export function heldNode(hues: readonly HueNode[], hue: number): { hues: HueNode[]; held: number } {
  const at = turned(hue);
  const nearest = [...hues].sort((a, b) => apart(a.at, at) - apart(b.at, at))[0] as HueNode | undefined;
  if (nearest && (apart(nearest.at, at) < NEAR || hues.length >= MOST_NODES))
    return { hues: [...hues], held: nearest.at };
  return { hues: [...hues, { at, hue: 0, chroma: 0, light: 0 }], held: at };
}

/** The nodes with one of them changed, within what each may be. */
export const changedNode = (hues: readonly HueNode[], at: number, change: Partial<HueNode>): HueNode[] =>
  hues.map((node) => {
    if (node.at !== at) return { ...node };
    const next = { ...node, ...change };
    return {
      at: turned(next.at),
      hue: between(next.hue, 60),
      chroma: between(next.chroma, 100),
      light: between(next.light, 100)
    };
  });

export const withoutNode = (hues: readonly HueNode[], at: number): HueNode[] =>
  hues.filter((node) => node.at !== at).map((node) => ({ ...node }));
