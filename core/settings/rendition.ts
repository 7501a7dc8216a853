/**
 * How light and colours become a picture, by number. What comes of the same settings changes with it; a recipe says which it was
 * made in, so that a finished frame stays as it is until it is rendered anew.
 */
export const FIRST_RENDITION = 1;
export const RENDITION = 2;

export const RENDITIONS = [FIRST_RENDITION, RENDITION] as const;

export type Rendition = (typeof RENDITIONS)[number];
