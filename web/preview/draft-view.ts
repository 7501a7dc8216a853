/** How coarse a picture in motion is drawn, so that it keeps up with the hand on any machine. */
import type { View } from '$core/picture/tile/mesh.ts';

/** Milliseconds that a picture in motion may take. */
const BUDGET = 30;
/** Screen pixels that one drawn pixel may cover, across and down. */
const STEPS = [1, 1.5, 2];

/** Whether a view can be drawn in time with all of its pixels. */
export const keepsUp = ({ width, height }: View, millisecondsPerPixel: number): boolean =>
  millisecondsPerPixel * width * height <= BUDGET;

/** The view with as many pixels as can be drawn in time; it shows the same, to be stretched onto the same place. */
export function draftView(view: View, millisecondsPerPixel: number): View {
  const whole = millisecondsPerPixel * view.width * view.height;
  const step = STEPS.find((each) => whole / (each * each) <= BUDGET) ?? STEPS[STEPS.length - 1];
  if (step === 1) return view;
  const width = Math.max(1, Math.round(view.width / step));
  const pixel = (view.pixel * view.width) / width;
  return { ...view, width, height: Math.max(1, Math.round((view.height * view.pixel) / pixel)), pixel };
}

/** What a pixel takes, after one more picture was timed: followed slowly, since single pictures may be held up. */
export const followed = (known: number, milliseconds: number, { width, height }: View): number => {
  const taken = milliseconds / (width * height);
  return known === 0 ? taken : known * 0.7 + taken * 0.3;
};
