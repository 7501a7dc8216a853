/** Known errors laid upon a picture: the frame stays, and what it shows is as if the lens bowed or the sensor were noisy. */
import { sensorToField, fieldToSensor } from '../../core/math/frame-geometry.ts';
import { valueAt, type GreyPlane } from '../../core/measure/edges/trace-polyline.ts';
import { lensModel, undistort } from '../../core/optics/lens-model.ts';
import { gaussian, seededRandom } from '../../core/math/random.ts';

/** Bows by `bow` of the radius at the corner (positive: pincushion). */
export function bowed(plane: GreyPlane, bow: number): GreyPlane {
  const model = lensModel({ terms: [0, bow] });
  const { width, height } = plane;
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [sx, sy] = fieldToSensor(undistort(sensorToField([x + 0.5, y + 0.5], plane), model), plane);
      data[y * width + x] = valueAt(plane, sx, sy);
    }
  return { width, height, data };
}

/** Noise of photons, as strong as `amount` at white. */
export function noisy(plane: GreyPlane, amount: number, seed: number): GreyPlane {
  const random = seededRandom(seed);
  return {
    ...plane,
    data: plane.data.map((value) => Math.max(0, value + gaussian(random) * amount * Math.sqrt(value + 0.01)))
  };
}

/** Twice the size, each pixel between its neighbours: as soft as an enlarged picture is. */
export function enlarged({ width, height, ...rest }: GreyPlane): GreyPlane {
  const plane = { width, height, ...rest };
  const data = new Float32Array(4 * width * height);
  for (let y = 0; y < 2 * height; y++)
    for (let x = 0; x < 2 * width; x++)
      data[y * 2 * width + x] = valueAt(plane, (x + 0.5) / 2, (y + 0.5) / 2);
  return { width: 2 * width, height: 2 * height, data };
}
