/** Skies as picture files: taken in at a size that is enough, and read for the stages. */
import sharp from 'sharp';
import { storeSky } from '../../core/steps/areas/another-sky/stored-sky.ts';
import { MOST_PIXELS, tooLarge } from '../decode/most-pixels.ts';
import { UserError } from '../user-error.ts';

/** Longest and shortest edges in pixels: clouds are soft, and less than the least would be seen to be. */
const LONGEST = 2400;
const LEAST = 400;

export interface SkyFile {
  picture: Buffer;
  width: number;
  height: number;
}

/** Makes a picture of a sky what is kept of it; throws a UserError where it is none, damaged or too small. */
export async function skyFile(bytes: Uint8Array): Promise<SkyFile> {
  const options = { limitInputPixels: false, failOn: 'warning' } as const;
  try {
    const { width, height, format } = await sharp(bytes, options).metadata();
    if (!['jpeg', 'png', 'tiff'].includes(format)) throw new UserError('A sky is a JPEG, PNG or TIFF file.');
    if (width * height > MOST_PIXELS) throw new UserError(tooLarge(width, height));
    if (Math.min(width, height) < LEAST)
      throw new UserError(
        `This picture has ${width} x ${height} pixels: a sky needs ${LEAST} at least both ways. Take a larger one.`
      );
    const { data, info } = await sharp(bytes, options)
      .autoOrient()
      .flatten({ background: '#fff' })
      .resize({ width: LONGEST, height: LONGEST, fit: 'inside', withoutEnlargement: true })
      .toColourspace('srgb')
      .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
      .toBuffer({ resolveWithObject: true });
    return { picture: data, width: info.width, height: info.height };
  } catch (error) {
    if (error instanceof UserError) throw error;
    throw new UserError(
      'This picture of a sky cannot be read: it is no JPEG, PNG or TIFF file, damaged or cut short. Save or copy it again.'
    );
  }
}

/** The bytes that stages are given, from a picture file. */
export async function skyBytes(picture: Uint8Array): Promise<Uint8Array> {
  const { data, info } = await sharp(picture)
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const codes = new Uint16Array(info.width * info.height * 3);
  for (let i = 0; i < codes.length; i++)
    codes[i] = data[info.channels === 3 ? i : Math.floor(i / 3) * info.channels] * 257;
  return storeSky({ width: info.width, height: info.height, codes });
}

/** The size of a sky as they are kept, which is not made anew: it would be another picture. */
export async function keptSkySize(bytes: Uint8Array): Promise<{ width: number; height: number }> {
  try {
    const { width, height, format } = await sharp(bytes).metadata();
    if (format !== 'jpeg' || Math.max(width, height) > LONGEST) throw new Error('another format');
    await skyBytes(bytes);
    return { width, height };
  } catch {
    throw new UserError('It is no sky as Line True keeps them.');
  }
}
