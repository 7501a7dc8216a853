/** A stand-in for another program: changes a TIFF and saves it under its name, with its depth and its colour profile. */
import { readFile, rename, writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import sharp from 'sharp';

const HELP = `bin/outside-editor FILE [options]: changes a picture that was handed over, as another program would

  --brighter EV  makes it lighter by this (default 0.5)
  --crop         cuts a tenth off each side: it comes back with another size
  --cut-short    leaves half of the file, as a copy that was broken off
`;

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    brighter: { type: 'string', default: '0.5' },
    crop: { type: 'boolean', default: false },
    'cut-short': { type: 'boolean', default: false },
    help: { type: 'boolean', short: 'h', default: false }
  }
});

async function change(path: string, gain: number): Promise<Buffer> {
  const bytes = await readFile(path);
  if (values['cut-short']) return bytes.subarray(0, bytes.length / 2);
  const image = sharp(bytes, { ignoreIcc: true });
  const { width, height, depth } = await image.metadata();
  if (values.crop)
    image.extract({
      left: Math.round(width / 10),
      top: Math.round(height / 10),
      width: Math.round(width * 0.8),
      height: Math.round(height * 0.8)
    });
  // Codes, not light: close enough for a stand-in.
  return image
    .linear(gain ** (1 / 2.2), 0)
    .toColourspace(depth === 'ushort' ? 'rgb16' : 'srgb')
    .keepMetadata()
    .tiff({ compression: 'lzw', predictor: 'horizontal' })
    .toBuffer();
}

const gain = 2 ** Number(values.brighter);
if (values.help) process.stdout.write(HELP);
else if (positionals.length !== 1 || !Number.isFinite(gain)) {
  process.stderr.write(HELP);
  process.exitCode = 2;
} else {
  const [path] = positionals;
  try {
    const changed = await change(path, gain);
    await writeFile(`${path}.part`, changed);
    await rename(`${path}.part`, path);
    process.stdout.write(`${path}: changed.\n`);
  } catch (error) {
    process.stderr.write(`bin/outside-editor: ${path} cannot be changed (${(error as Error).message}).\n`);
    process.exitCode = 1;
  }
}
