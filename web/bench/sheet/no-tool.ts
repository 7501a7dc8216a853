/** A step that does nothing with the pointer: a drag moves the picture. */
import type { SheetTool } from './sheet-tool.ts';

export const noTool = (): SheetTool => ({
  cursor: '',
  magnified: null,
  down: () => false,
  move() {},
  up() {},
  drop() {}
});
