/** Mends developed planes, before the geometry. */
import type { SourceStage } from '../../picture/tile/stage.ts';
import type { Settings } from '../../settings/step.ts';
import type { PlacedPlanes } from '../../picture/tile/planes.ts';
import { extentOf } from '../../picture/tile/sensor-rectangle.ts';
import { boxesFor, changes, placed, placedSource } from './box.ts';
import { takeCableOut } from './cable.ts';
import { layIn } from './lay-in.ts';
import { placedFill } from './fill/fill.ts';
import { type Pass, passesOf } from './passes.ts';
import { holds } from './reader.ts';
import { type mendSchema, patchesAtWork } from './step.ts';

interface Given {
  recipe: { mend: Settings<typeof mendSchema> };
  plan: { projection: { size: Pass['size'] } };
}

/** Copies the pixels of `out` from planes that hold them. */
function copyFrom(planes: PlacedPlanes, out: PlacedPlanes): void {
  const left = Math.round((out.originX - planes.originX) * out.scaleX);
  const top = Math.round((out.originY - planes.originY) * out.scaleY);
  for (const name of ['r', 'g', 'b'] as const)
    for (let y = 0; y < out.height; y++) {
      const from = (top + y) * planes.width + left;
      out[name].set(planes[name].subarray(from, from + out.width), y * out.width);
    }
}

export const mendStage: SourceStage<'mend', Given, Pass> = {
  name: 'mend',
  kind: 'source',
  prepare({ recipe, plan }) {
    const patches = patchesAtWork(recipe.mend);
    return patches.length === 0 ? null : passesOf(patches, plan.projection.size);
  },
  needs: (made, { size, patches }) =>
    patches.filter((patch) => changes(patch, size, made)).flatMap((patch) => boxesFor(patch, size, made)),
  apply(from, out, { size, patches }) {
    copyFrom(from[0], out);
    const made = extentOf(out);
    for (const patch of patches) {
      if (!changes(patch, size, made)) continue;
      const boxes = boxesFor(patch, size, made);
      const found = boxes.map((box) => from.find((planes) => holds(planes, box, size)));
      // What only the rounding to whole pixels lets overlap was not asked for, and changes nothing.
      if (found.some((planes) => !planes)) continue;
      const [own, source] = found as PlacedPlanes[];
      const how = {
        ...placed(patch, size),
        source: placedSource(patch, size),
        feather: patch.feather / 100,
        opacity: patch.opacity / 100
      };
      if (patch.kind === 'cable') takeCableOut(how, own, out);
      else {
        const fill = patch.fill && placedFill(patch.fill, size);
        layIn({ ...how, heals: patch.kind !== 'clone', fill }, own, source, boxes[0], out);
      }
    }
  }
};
