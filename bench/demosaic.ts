/**
 * npm run bench:demosaic PHOTOGRAPH…: how near developing comes to photographs that were turned into mosaics, beside the raw
 * library's adaptive method (AHD) on the same files: CPSNR in dB of gamma-encoded values, eight pixels at the border left out.
 * Wants Debian's libraw-bin for the comparison.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import sharp from 'sharp';
import { srgbDecode, srgbEncode } from '../core/colour/srgb-transfer.ts';
import { developBand } from '../core/picture/raw/develop.ts';
import { allocatePlanes, givePlanesBack } from '../core/picture/tile/planes.ts';
import { decodeFile } from '../server/decode/decode-file.ts';
import { BLACK, WHITE } from '../scenes/camera/capture.ts';
import { WHITE_RESPONSE } from '../scenes/camera/colour.ts';
import { writeDng } from '../scenes/camera/dng.ts';
import { DEMO_FRAMES, dngFacts } from '../scenes/demo-frames.ts';

const MARGIN = 8;
const folder = mkdtempSync(join(tmpdir(), 'line-true-demosaic-'));

interface Pixels {
  width: number;
  height: number;
  /** Interleaved RGB, 0..1, linear. */
  linear: Float32Array;
}

async function photograph(path: string): Promise<Pixels> {
  const image = sharp(path).removeAlpha().toColourspace('srgb');
  const { data, info } = await image.raw().toBuffer({ resolveWithObject: true });
  const [width, height] = [info.width & ~1, info.height & ~1];
  const linear = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let i = 0; i < width * 3; i++)
      linear[y * width * 3 + i] = srgbDecode(
        data[
          y * info.width * info.channels + Math.floor(i / 3) * info.channels + (info.channels < 3 ? 0 : i % 3)
        ] / 255
      );
  return { width, height, linear };
}

/** A raw file that saw it, each colour as bright as the camera sees grey. */
function mosaicFile({ width, height, linear }: Pixels, path: string): void {
  const data = new Uint16Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const c = (x & 1) + (y & 1);
      // A little below white, so that nothing clips.
      data[y * width + x] =
        BLACK +
        0.5 +
        (linear[(y * width + x) * 3 + c] * WHITE_RESPONSE[c] * 0.9 * (WHITE - BLACK)) /
          Math.max(...WHITE_RESPONSE);
    }
  writeFileSync(path, writeDng({ data, width, height, turns: 0 }, dngFacts(DEMO_FRAMES[0])));
}

/** A picture's values against the photograph's, both scaled to the same mean by colour. */
function cpsnr(
  { width, height, linear }: Pixels,
  valueAt: (x: number, y: number, c: number) => number
): number {
  const gains = [0, 1, 2].map((c) => {
    let [ours, theirs] = [0, 0];
    for (let y = MARGIN; y < height - MARGIN; y++)
      for (let x = MARGIN; x < width - MARGIN; x++) {
        ours += linear[(y * width + x) * 3 + c];
        theirs += valueAt(x, y, c);
      }
    return ours / theirs;
  });
  let [sum, count] = [0, 0];
  const byte = (value: number): number => Math.round(255 * srgbEncode(Math.min(1, Math.max(0, value))));
  for (let y = MARGIN; y < height - MARGIN; y++)
    for (let x = MARGIN; x < width - MARGIN; x++)
      for (let c = 0; c < 3; c++, count++) {
        const apart = byte(linear[(y * width + x) * 3 + c]) - byte(valueAt(x, y, c) * gains[c]);
        sum += apart * apart;
      }
  return 10 * Math.log10((255 * 255 * count) / sum);
}

const totals = [0, 0];
const paths = process.argv.slice(2);
for (const path of paths) {
  const truth = await photograph(path);
  const { width, height } = truth;
  const file = join(folder, 'mosaic.dng');
  mosaicFile(truth, file);
  const decoded = await decodeFile(readFileSync(file), 'mosaic.dng');
  if (decoded.kind !== 'mosaic') throw new Error('This is no mosaic.');
  const planes = allocatePlanes(width, height);
  developBand(decoded.mosaic, planes, 0, height);
  const ours = [planes.r, planes.g, planes.b];
  const own = cpsnr(truth, (x, y, c) => ours[c][y * width + x]);
  givePlanesBack(planes);
  // Linear, 16 bits, the camera's own colours, no rotation, AHD.
  execFileSync('dcraw_emu', ['-q', '3', '-4', '-T', '-o', '0', '-t', '0', file], { stdio: 'ignore' });
  const { data, info } = await sharp(`${file}.tiff`)
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const theirs = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
  const [dx, dy] = [(width - info.width) >> 1, (height - info.height) >> 1];
  const other = cpsnr(truth, (x, y, c) => theirs[((y - dy) * info.width + x - dx) * 3 + c] / 65535);
  totals[0] += own;
  totals[1] += other;
  process.stdout.write(`${basename(path).padEnd(24)} ${own.toFixed(2)} dB, AHD ${other.toFixed(2)} dB\n`);
}
const [own, other] = totals.map((total) => total / paths.length);
process.stdout.write(
  `mean ${own.toFixed(2)} dB, AHD ${other.toFixed(2)} dB: ${(own - other).toFixed(2)} dB above (wanted 1.0)\n`
);
