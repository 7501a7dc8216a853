/** Takes the pictures of the skies that ship, anew: `node --no-warnings --import tsx tools/make-skies.ts`. */
import { join } from 'node:path';
import sharp from 'sharp';
import { SKY_VIEWS, skyPicture } from '../scenes/sky-pictures.ts';
import { SHIPPED_SKIES } from '../server/skies/shipped-skies.ts';

const [WIDTH, HEIGHT] = [2400, 1500];

for (const [name, view] of Object.entries(SKY_VIEWS)) {
  const raw = { width: WIDTH, height: HEIGHT, channels: 3 } as const;
  await sharp(skyPicture(view, WIDTH, HEIGHT), { raw })
    .jpeg({ quality: 93, chromaSubsampling: '4:4:4' })
    .toFile(join(SHIPPED_SKIES, `${name}.jpg`));
}
