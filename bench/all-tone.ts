/** Every tone and colour control in use at once, for measurements of what they cost. */
import type { PartialRecipe } from '../core/recipe/recipe.ts';

const zone = (hue: number) => ({ hue, chroma: 15, light: 10, saturation: -10 });

export const ALL_TONE = {
  tone: {
    exposure: 0.3,
    recovery: 40,
    highlights: -50,
    shadows: 40,
    contrast: 20,
    midtones: 10,
    white: 10,
    black: -10,
    bands: [
      { stop: -2, change: -0.4 },
      { stop: -5, change: 0.5 }
    ],
    fine: 20,
    middle: 20,
    broad: 15,
    haze: 20,
    levels: { black: 0.02, middle: 1.1, white: 0.97, outBlack: 0.01, outWhite: 1 },
    curve: [
      { x: 0.25, y: 0.22 },
      { x: 0.75, y: 0.78 }
    ],
    curveBlue: [{ x: 0.5, y: 0.52 }]
  },
  colour: {
    warmth: 10,
    saturation: 10,
    vibrance: 20,
    hues: [
      { at: 30, hue: 5, chroma: 10, light: -5 },
      { at: 250, hue: -5, chroma: 20, light: -10 }
    ],
    zoneShadows: zone(250),
    zoneMiddle: zone(120),
    zoneHighlights: zone(80),
    cast: 50,
    castFound: { shadows: { a: 0.01, b: -0.01 }, middle: { a: 0.01, b: 0 }, highlights: { a: 0, b: 0.01 } },
    redHue: 5,
    blueSaturation: 10,
    look: 'plaster',
    lookAmount: 40
  }
} satisfies PartialRecipe;
