/**
 * Light above white in developed planes. Stored as it is, a window four times as bright as white would draw dark rims about
 * itself when a kernel with negative lobes passes over it, and outweigh its frame when pixels are averaged: above white the
 * planes hold 1 + ln(light), which continues the line with the same slope. Light up to white stays bit for bit what it is.
 */
export const foldHighlight = (light: number): number => (light <= 1 ? light : 1 + Math.log(light));

/** The light that a plane's value stands for. */
export const unfoldHighlight = (value: number): number => (value <= 1 ? value : Math.exp(value - 1));
