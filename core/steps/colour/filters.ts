/** What black-and-white sees through the trade's filters: percent of red, green and blue light (linear, sRGB's primaries). */
export const FILTERS = {
  none: [21, 72, 7],
  yellow: [34, 66, 0],
  orange: [52, 48, 0],
  red: [80, 20, 0],
  green: [10, 85, 5],
  blue: [5, 20, 75]
} as const satisfies Record<string, readonly [number, number, number]>;
