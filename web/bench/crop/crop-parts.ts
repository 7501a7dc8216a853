import type { Command } from '../controls/commands.ts';
import { stepParts } from '../parts/step-parts.ts';
import { WAYS } from '../controls/ways.ts';
import CropDeck from './CropDeck.svelte';
import { cropHandles } from './crop-handles.ts';
import { createCropTool } from './crop-tool.svelte.ts';
import { moveEdge, nudgeCrop } from './crop-view.ts';

export const cropParts = stepParts({
  deck: CropDeck,
  // The crop is shown in other steps as well: the sheet draws it.
  overlay: null,
  handles: cropHandles,
  createTool: createCropTool,
  commands(bench) {
    const own = { group: 'Crop', step: 'crop', tenfold: true } as const;
    return [
      ...WAYS.map(([dx, dy, way, key]): Command => ({
        ...own,
        id: `crop ${way}`,
        label: `Move the crop ${way} by a pixel`,
        keys: [key],
        run: (by) => nudgeCrop(bench, dx * by, dy * by)
      })),
      ...WAYS.flatMap(([dx, dy, way, key]) =>
        ([1, -1] as const).map((side): Command => {
          const edge = dx === 0 ? (side > 0 ? 'bottom' : 'top') : side > 0 ? 'right' : 'left';
          return {
            ...own,
            id: `crop ${edge} edge ${way}`,
            label: `Move the ${edge} edge of the crop ${way}`,
            keys: [`${side > 0 ? '' : 'Control+'}Alt+${key}`],
            run: (by) => moveEdge(bench, dx === 0 ? { x: 0, y: side } : { x: side, y: 0 }, dx * by, dy * by)
          };
        })
      )
    ];
  }
});
