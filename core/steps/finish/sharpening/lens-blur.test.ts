/** Undoing the blur of the demo camera's lenses, against its scenes without: both are means of the scene over squares of the sensor. */
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../../../math/random.ts';
import { shippedProfiles } from '../../../optics/shipped-profiles.ts';
import { completeRecipe } from '../../../recipe/recipe.ts';
import { packRgb } from '../../../picture/output/pack-pixels.ts';
import { foldHighlight, unfoldHighlight } from '../../../picture/tile/highlights.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../../../picture/tile/planes.ts';
import { demoShot, developShot } from '../../../render/demo-frame.oracle.ts';
import { FACTS, wholeView } from '../../../render/painted-frame.ts';
import { renderInputs } from '../../../render/render-inputs.ts';
import { renderTile } from '../../../render/render-tile.ts';
import { profileTerms } from '../../../optics/profile.ts';
import { SENSOR_HALF_DIAGONAL } from '../../../../scenes/camera/lenses.ts';
import { discreteGaussian } from './lens-blur.ts';
import type { FinishSettings } from '../step.ts';

/** Pixels of the scene for one of the picture, along each side. */
const FINER = 3;
const SIZE = { width: 420, height: 280 };
/** Of ISO 100, as it is after demosaicing. */
const NOISE = { gain: 1.7e-5, read: 1e-4 };

/** Means of a scene over squares as wide as asked for about each pixel, in its own colours. */
function squareMeans(scene: PlacedPlanes, widthAt: (r2: number) => number): PlacedPlanes {
  const out = placeOn(allocatePlanes(SIZE.width, SIZE.height), SIZE);
  const { width: wide, height: tall } = scene;
  for (const name of ['r', 'g', 'b'] as const) {
    const sums = new Float64Array((wide + 1) * (tall + 1));
    for (let y = 0; y < tall; y++)
      for (let x = 0, row = 0; x < wide; x++) {
        row += Math.min(1, unfoldHighlight(scene[name][y * wide + x]));
        sums[(y + 1) * (wide + 1) + x + 1] = sums[y * (wide + 1) + x + 1] + row;
      }
    const sumTo = (x: number, y: number): number => {
      const [px, py] = [Math.min(wide, Math.max(0, x)), Math.min(tall, Math.max(0, y))];
      const [i, j] = [Math.min(wide - 1, Math.floor(px)), Math.min(tall - 1, Math.floor(py))];
      const at = j * (wide + 1) + i;
      const along = (from: number): number => sums[from] + (sums[from + 1] - sums[from]) * (px - i);
      return along(at) + (along(at + wide + 1) - along(at)) * (py - j);
    };
    for (let y = 0; y < SIZE.height; y++)
      for (let x = 0; x < SIZE.width; x++) {
        const [ox, oy] = [x + 0.5 - SIZE.width / 2, y + 0.5 - SIZE.height / 2];
        const half = (widthAt((4 * (ox * ox + oy * oy)) / (SIZE.width ** 2 + SIZE.height ** 2)) * FINER) / 2;
        const [cx, cy] = [(x + 0.5) * FINER, (y + 0.5) * FINER];
        const sum =
          sumTo(cx + half, cy + half) -
          sumTo(cx - half, cy + half) -
          sumTo(cx + half, cy - half) +
          sumTo(cx - half, cy - half);
        out[name][y * SIZE.width + x] = sum / (4 * half * half);
      }
  }
  return out;
}

interface Known {
  sharp: PlacedPlanes;
  /** As the lens draws it, with the sensor's noise. */
  seen: PlacedPlanes;
  /** Of pixels of this size, the softness of the profile. */
  told: { focalLength: number; middle: number; corners: number };
}

function known(name: string): Known {
  const shot = demoShot(name, SIZE.width * FINER);
  const { lens, focalLength } = shot.setup;
  const { middle, corners } = lens.blur!;
  const scene = developShot({
    ...shot,
    setup: { ...shot.setup, iso: 0.5, dust: false, lens: { ...lens, blur: undefined } }
  });
  const sharp = squareMeans(scene, () => 1);
  const seen = squareMeans(scene, (r2) => 1 + middle + (corners - middle) * r2);
  givePlanesBack(scene);
  const random = seededRandom(5);
  for (const plane of [seen.r, seen.g, seen.b])
    plane.forEach((value, i) => {
      const noise = Math.sqrt(NOISE.gain * value + NOISE.read ** 2);
      plane[i] = foldHighlight(value + 0.7 * noise * gaussian(random));
    });
  for (const plane of [sharp.r, sharp.g, sharp.b])
    plane.forEach((value, i) => (plane[i] = foldHighlight(value)));
  const terms = profileTerms(
    shippedProfiles.find(({ id }) => id === lens.profile.id)!,
    { focalLength, aperture: lens.aperture, sensorHalfDiagonal: SENSOR_HALF_DIAGONAL }
  ).softness!;
  // The profile speaks of a sensor of 3,000 pixels; these are larger.
  const inMicrometres = (field: number): number => field * SENSOR_HALF_DIAGONAL * 1000 * (3000 / SIZE.width);
  return {
    sharp,
    seen,
    told: { focalLength, middle: inMicrometres(terms.middle), corners: inMicrometres(terms.corners) }
  };
}

/** Codes of 16 bits, geometry untouched. */
function codesOf(
  source: PlacedPlanes,
  finish: Partial<FinishSettings>,
  told: Known['told'] | null
): Uint16Array {
  const profile = { ...shippedProfiles[0], id: 'told', softness: told ? [told] : [] };
  const facts = {
    ...FACTS,
    ...{ size: SIZE, noise: NOISE, focalLength: 24, sensorHalfDiagonal: SENSOR_HALF_DIAGONAL }
  };
  const recipe = completeRecipe({
    finish,
    lens: { profile: 'told', distortion: 0, lateral: 0, falloff: 0 }
  } as never);
  const { stages } = renderInputs(recipe, facts, { auto: null, known: [profile] });
  const out = new Uint16Array(SIZE.width * SIZE.height * 3);
  renderTile({ source, stages, view: wholeView(SIZE) }, packRgb(out, SIZE.width));
  return out;
}

/** Peak signal to noise, in dB, of places whose distance from the middle is in a range. */
function likeness(one: Uint16Array, other: Uint16Array, from = 0, to = 1): number {
  let [sum, count] = [0, 0];
  for (let y = 8; y < SIZE.height - 8; y++)
    for (let x = 8; x < SIZE.width - 8; x++) {
      const r =
        Math.hypot(x - SIZE.width / 2, y - SIZE.height / 2) / Math.hypot(SIZE.width / 2, SIZE.height / 2);
      if (r < from || r >= to) continue;
      for (let c = 0; c < 3; c++, count++) {
        const at = (y * SIZE.width + x) * 3 + c;
        sum += ((one[at] - other[at]) / 65535) ** 2;
      }
    }
  return -10 * Math.log10(sum / count);
}

describe('a discrete Gaussian', () => {
  it.each([0.02, 0.1, 0.5, 2, 9])('of variance %f has it, and weighs 1', (variance) => {
    const reach = 24;
    const weights = discreteGaussian(variance, reach);
    expect(weights.reduce((sum, weight) => sum + weight)).toBeCloseTo(1, 9);
    expect(weights.reduce((sum, weight, i) => sum + weight * (i - reach) ** 2, 0)).toBeCloseTo(variance, 6);
  });
});

describe('undoing the blur of a lens', () => {
  // The zoom stopped down before bricks, and wide open in the reading room.
  it.each(['SML_0109', 'SML_0124'])(
    'of %s gains a decibel and a half against the scene without blur',
    (name) => {
      const { sharp, seen, told } = known(name);
      const truth = codesOf(sharp, {}, null);
      const gain = (finish: Partial<FinishSettings>, by: Known['told'] | null, from = 0, to = 1): number =>
        likeness(codesOf(seen, finish, by), truth, from, to) -
        likeness(codesOf(seen, {}, by), truth, from, to);
      const undo = { sharpening: 100, sharpeningKind: 'deconvolving' } as const;
      const undone = gain(undo, told);
      expect(undone).toBeGreaterThan(1.5);
      // More than any contrast about edges does.
      for (const sharpening of [30, 60, 100])
        expect(undone).toBeGreaterThan(gain({ sharpening }, told) + 0.25);
      // In the corners more is to be undone than in the middle: what undoes the middle's alone leaves some.
      const middles = { ...told, corners: told.middle };
      expect(gain(undo, told, 0.7)).toBeGreaterThan(gain(undo, middles, 0.7) + 0.1);
      expect(gain(undo, told, 0, 0.2)).toBeCloseTo(gain(undo, middles, 0, 0.2), 1);
      // A lens that nothing is known of is undone by the radius.
      expect(gain({ ...undo, radius: 0.5 }, null)).toBeGreaterThan(1.2);
      [sharp, seen].forEach(givePlanesBack);
    }
  );
});
