/** A border about a picture: how large the whole is, where the picture lies in it, and where a fine line runs. */
import type { FrameSize } from '../../../math/frame-geometry.ts';
import type { FinishSettings } from '../step.ts';

export interface BorderSettings extends Pick<
  FinishSettings,
  'enabled' | 'border' | 'borderColour' | 'borderLine' | 'borderLineAt' | 'borderLineColour'
> {
  /** Width to height, such as `4:5`, or `none`. */
  borderPaper: string;
}

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export interface BorderLayout extends FrameSize {
  /** Where the picture lies. */
  picture: Box;
  /** What the line encloses and what encloses it, whole pixels; null: there is none. */
  line: { outside: Box; inside: Box } | null;
}

/** Whether anything lies about the picture. */
export const hasBorder = ({ enabled, border, borderPaper }: BorderSettings): boolean =>
  enabled && (border > 0 || borderPaper !== 'none');

/** The whole for a picture of a size, not yet in whole pixels. */
function wholeFor({ border, borderPaper }: BorderSettings, { width, height }: FrameSize): FrameSize {
  const about = (2 * border * Math.min(width, height)) / 100;
  const least = { width: width + about, height: height + about };
  if (borderPaper === 'none') return least;
  const [across, down] = borderPaper.split(':').map(Number);
  const ratio = across / down;
  return {
    width: Math.max(least.width, least.height * ratio),
    height: Math.max(least.height, least.width / ratio)
  };
}

/** The size of the whole for a picture at full size. */
export function borderedSize(settings: BorderSettings, picture: FrameSize): FrameSize {
  if (!hasBorder(settings)) return picture;
  const { width, height } = wholeFor(settings, picture);
  return { width: Math.round(width), height: Math.round(height) };
}

/** The size of the picture in a whole of a size, for one that has `full` at full size. */
export function pictureWithin(settings: BorderSettings, full: FrameSize, whole: FrameSize): FrameSize {
  if (!hasBorder(settings)) return whole;
  const most = wholeFor(settings, full);
  const scale = Math.min(whole.width / most.width, whole.height / most.height);
  return {
    width: Math.max(1, Math.min(whole.width, Math.round(full.width * scale))),
    height: Math.max(1, Math.min(whole.height, Math.round(full.height * scale)))
  };
}

/** Where all of it lies, in whole pixels. */
export function layBorder(settings: BorderSettings, picture: FrameSize, whole: FrameSize): BorderLayout {
  const left = Math.floor((whole.width - picture.width) / 2);
  const top = Math.floor((whole.height - picture.height) / 2);
  const at: Box = { left, top, right: left + picture.width, bottom: top + picture.height };
  const { borderLine, borderLineAt } = settings;
  const room = Math.min(left, top, whole.width - at.right, whole.height - at.bottom);
  const thick = Math.min(
    room,
    Math.max(1, Math.round((borderLine * Math.min(picture.width, picture.height)) / 1000))
  );
  if (borderLine === 0 || thick < 1) return { ...whole, picture: at, line: null };
  const gap = Math.round(((room - thick) * borderLineAt) / 100);
  const grown = (by: number): Box => ({
    left: at.left - by,
    top: at.top - by,
    right: at.right + by,
    bottom: at.bottom + by
  });
  return { ...whole, picture: at, line: { outside: grown(gap + thick), inside: grown(gap) } };
}
