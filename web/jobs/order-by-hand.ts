/** Frames that are dragged among each other. */
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';

/** Where those that are dragged would come: beside a frame. */
export type Side = 'before' | 'after';

export interface Placing {
  /** Those that are dragged with a frame. */
  moved: (id: string) => string[];
  /** Puts frames beside another one. */
  put: (ids: readonly string[], target: string, side: Side) => void;
}

const framesOf = ({ frames }: Record<string, unknown>): string[] | null =>
  Array.isArray(frames) ? (frames as string[]) : null;

/** Lets a frame's element be dragged, and be dropped beside; `over` hears on which side something would come. */
export function placeable(
  element: HTMLElement,
  id: string,
  { moved, put }: Placing,
  over: (side: Side | null) => void
): () => void {
  const sideAt = (x: number): Side => {
    const { left, width } = element.getBoundingClientRect();
    return x < left + width / 2 ? 'before' : 'after';
  };
  return combine(
    draggable({ element, getInitialData: () => ({ frames: moved(id) }) }),
    dropTargetForElements({
      element,
      canDrop: ({ source }) => framesOf(source.data)?.includes(id) === false,
      onDrag: ({ location }) => over(sideAt(location.current.input.clientX)),
      onDragLeave: () => over(null),
      onDrop({ source, location }) {
        over(null);
        put(framesOf(source.data) ?? [], id, sideAt(location.current.input.clientX));
      }
    })
  );
}
