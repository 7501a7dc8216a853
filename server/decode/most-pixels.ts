/**
 * Largest picture taken in: well above any camera, and what can be developed. Its codes take 6 bytes a pixel, its planes 12, its
 * halves 4 and a picture of 16 bits 6 more, of the 4 GB that the kernels can address.
 */
export const MOST_PIXELS = 150e6;

/** Why a picture of a size is not taken, in words for its user. */
export const tooLarge = (width: number, height: number): string =>
  `This picture has ${Math.round((width * height) / 1e6)} megapixels (${width} x ${height}): there is not enough memory for more than ${MOST_PIXELS / 1e6}. Make it smaller, and add it again.`;
