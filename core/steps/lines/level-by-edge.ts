/** The level tool: a roll that makes one edge plumb or level, with pitch and yaw as they stand. */
import { type Projection, fieldToUpright } from '../../picture/geometry/projection.ts';
import type { Point } from '../../math/frame-geometry.ts';
import { type AlignedKind, angleFromTrue } from './line-angles.ts';
import { type Angles, rotationFromAngles } from '../../math/rotation.ts';

/** What an edge in the corrected picture is most nearly. */
export function nearerKind(a: Point, b: Point): AlignedKind {
  return Math.abs(b[1] - a[1]) > Math.abs(b[0] - a[0]) ? 'plumb' : 'level';
}

/**
 * Roll in degrees that makes the edge from a to b (field positions as the glass put them) true; null when it cannot be
 * seen in the turned view, or no roll within ±45° does it.
 */
export function rollForEdge(
  a: Point,
  b: Point,
  kind: AlignedKind,
  angles: Angles,
  projection: Projection
): number | null {
  let { roll } = angles;
  for (let i = 0; i < 20; i++) {
    const view = { ...projection, rotation: rotationFromAngles({ ...angles, roll }) };
    const p = fieldToUpright(a, view);
    const q = fieldToUpright(b, view);
    if (!p || !q) return null;
    const off = angleFromTrue({ id: '', kind, a: p, b: q });
    roll -= off;
    if (Math.abs(off) < 1e-7) break;
  }
  return Math.abs(roll) <= 45 ? roll : null;
}
