/**
 * How light and colours become a picture, by number. What comes of the same settings changes with it; a recipe says which it was
 * made in, so that a finished frame stays as it is until it is rendered anew.
 */
export const FIRST_RENDITION = 1;
/** Whose local contrast was held to what stands out by a quarter of a stop, whose tones drew bands beside bars, and whose sharpening held texture as it does edges. */
export const SECOND_RENDITION = 2;
export const RENDITION = 3;

export const RENDITIONS = [FIRST_RENDITION, SECOND_RENDITION, RENDITION] as const;

export type Rendition = (typeof RENDITIONS)[number];
