/** The crop's corners, edges and inside, for the keyboard. */
import type { CropHandle } from '$core/steps/crop/resize-crop.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import type { SheetHandle } from '../sheet/sheet-handle.ts';
import type { SheetState } from '../sheet/sheet-state.svelte.ts';
import { boxOnSheet } from '../sheet/sheet-view.ts';
import { moveEdge, nudgeCrop } from './crop-view.ts';

/** Pixels that a handle can be taken hold of within, out of the crop and into it: outside a drag turns the picture. */
export const HANDLE_OUT = 6;
export const HANDLE_IN = 16;

/** In order round the crop, from its upper left corner. */
export const CROP_HANDLES: readonly (CropHandle & { name: string })[] = [
  { x: -1, y: -1, name: 'upper left corner' },
  { x: 0, y: -1, name: 'top edge' },
  { x: 1, y: -1, name: 'upper right corner' },
  { x: 1, y: 0, name: 'right edge' },
  { x: 1, y: 1, name: 'lower right corner' },
  { x: 0, y: 1, name: 'bottom edge' },
  { x: -1, y: 1, name: 'lower left corner' },
  { x: -1, y: 0, name: 'left edge' }
];

export function cropHandles(bench: Bench, sheet: SheetState): SheetHandle[] {
  const { left, top, width, height } = boxOnSheet(bench.plan.crop, sheet.view);
  const place = (x: number, y: number): [number, number] => [
    left + ((x + 1) / 2) * width,
    top + ((y + 1) / 2) * height
  ];
  return [
    {
      id: 'crop',
      label: 'Crop, all of it',
      at: place(0, 0),
      nudge: (dx, dy) => nudgeCrop(bench, dx, dy)
    },
    ...CROP_HANDLES.map(({ x, y, name }): SheetHandle => ({
      id: `crop ${x} ${y}`,
      label: `Crop, ${name}`,
      at: place(x, y),
      nudge: (dx, dy) => moveEdge(bench, { x, y }, dx, dy)
    }))
  ];
}
