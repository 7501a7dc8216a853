/** Work on a picture that may be refused memory says so with the picture's size; nothing is lost by it. */
import { OutOfMemory } from '../../core/picture/kernels/heap.ts';
import type { FrameSize } from '../../core/math/frame-geometry.ts';
import { UserError } from '../user-error.ts';

/** Of a thread, an error has its words alone. */
const isOutOfMemory = (error: unknown): boolean =>
  error instanceof OutOfMemory || (error as Error | null)?.message === new OutOfMemory().message;

export async function sayingMemory<T>({ width, height }: FrameSize, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!isOutOfMemory(error)) throw error;
    const megapixels = Math.round((width * height) / 1e5) / 10;
    throw new UserError(
      `There is not enough memory for the ${megapixels} megapixels of this picture beside other work. Try it again when that is done.`
    );
  }
}
