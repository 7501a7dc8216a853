/** Photographs by cameras nobody here made, which come with packages of the system: for tests, which read them there. */
import sharp from 'sharp';
import { srgbDecode } from '../core/colour/srgb-transfer.ts';
import { sensorToField } from '../core/math/frame-geometry.ts';
import { longEdges } from '../core/measure/edges/long-edges.ts';
import type { GreyPlane } from '../core/measure/edges/trace-polyline.ts';
import type { Curve } from '../core/optics/curve.ts';

const PACKAGES = {
  boards: '/usr/share/doc/opencv-doc/examples/data',
  pictures: '/usr/lib/python3/dist-packages/sklearn/datasets/images',
  backgrounds: '/usr/share/backgrounds'
};

/** Linear green light of a photograph, at most so many pixels on its longer side. */
export async function realPhotograph(
  from: keyof typeof PACKAGES,
  name: string,
  longest = 1600
): Promise<GreyPlane> {
  const { data, info } = await sharp(`${PACKAGES[from]}/${name}`)
    .toColourspace('srgb')
    .removeAlpha()
    .resize(longest, longest, { fit: 'inside', withoutEnlargement: true })
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  const green = Math.min(1, channels - 1);
  return {
    width,
    height,
    data: Float32Array.from({ length: width * height }, (_, i) =>
      srgbDecode(data[i * channels + green] / 255)
    )
  };
}

/** Its long smooth edges, as a lens is told from them. */
export const edgesOf = (plane: GreyPlane): Curve[] =>
  longEdges(plane, (place) => sensorToField(place, plane));
