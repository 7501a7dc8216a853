/** Colours of hues for the interface: of one lightness and strength, so that none stands out. */
const [LIGHTNESS, CHROMA] = [0.72, 0.12];

export const hueColour = (hue: number): string => `oklch(${LIGHTNESS} ${CHROMA} ${hue})`;

export const HUE_STRIP = `linear-gradient(to right, ${Array.from({ length: 25 }, (_, i) => hueColour(i * 15)).join(', ')})`;
