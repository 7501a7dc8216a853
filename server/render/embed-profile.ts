/**
 * Embeds an ICC profile in a finished 16-bit PNG or TIFF. The encoder would take the values for those of another
 * space and convert them; here they stay as they are.
 */
import { crc32, deflateSync } from 'node:zlib';

const ICC_TAG = 34675;
const TYPE_UNDEFINED = 7;

function pngChunk(name: string, content: Buffer): Buffer {
  const body = Buffer.concat([Buffer.from(name, 'latin1'), content]);
  const chunk = Buffer.alloc(body.length + 8);
  chunk.writeUInt32BE(content.length, 0);
  body.copy(chunk, 4);
  chunk.writeUInt32BE(crc32(body), body.length + 4);
  return chunk;
}

/** PNG (ISO/IEC 15948): profile and resolution directly behind the header chunk. */
function embedInPng(png: Buffer, profile: Buffer, ppi: number): Buffer {
  const headerEnd = 8 + 12 + png.readUInt32BE(8);
  // The encoder has written a resolution of its own.
  const rest: Buffer[] = [];
  for (let at = headerEnd; at < png.length;) {
    const end = at + 12 + png.readUInt32BE(at);
    if (png.toString('latin1', at + 4, at + 8) !== 'pHYs') rest.push(png.subarray(at, end));
    at = end;
  }
  const resolution = Buffer.alloc(9);
  const perMetre = Math.round(ppi / 0.0254);
  resolution.writeUInt32BE(perMetre, 0);
  resolution.writeUInt32BE(perMetre, 4);
  resolution.writeUInt8(1, 8);
  return Buffer.concat([
    png.subarray(0, headerEnd),
    pngChunk('iCCP', Buffer.concat([Buffer.from('ICC profile\0\0', 'latin1'), deflateSync(profile)])),
    pngChunk('pHYs', resolution),
    ...rest
  ]);
}

/** TIFF 6.0, little-endian: the first directory again at the end of the file, with one entry more. */
function embedInTiff(tiff: Buffer, profile: Buffer): Buffer {
  const at = tiff.readUInt32LE(4);
  const count = tiff.readUInt16LE(at);
  const entries = Array.from({ length: count }, (_, i) => tiff.subarray(at + 2 + i * 12, at + 14 + i * 12));
  const profileOffset = (tiff.length + 1) & ~1;
  const directoryOffset = (profileOffset + profile.length + 1) & ~1;
  const own = Buffer.alloc(12);
  own.writeUInt16LE(ICC_TAG, 0);
  own.writeUInt16LE(TYPE_UNDEFINED, 2);
  own.writeUInt32LE(profile.length, 4);
  own.writeUInt32LE(profileOffset, 8);
  const all = [...entries.filter((entry) => entry.readUInt16LE(0) !== ICC_TAG), own].sort(
    (a, b) => a.readUInt16LE(0) - b.readUInt16LE(0)
  );
  const out = Buffer.alloc(directoryOffset + 2 + all.length * 12 + 4);
  tiff.copy(out);
  profile.copy(out, profileOffset);
  out.writeUInt16LE(all.length, directoryOffset);
  all.forEach((entry, i) => entry.copy(out, directoryOffset + 2 + i * 12));
  tiff.copy(out, directoryOffset + 2 + all.length * 12, at + 2 + count * 12, at + 6 + count * 12);
  out.writeUInt32LE(directoryOffset, 4);
  return out;
}

/** `ppi` is the resolution for PNG; a TIFF has its own already. */
export function embedProfile(file: Buffer, format: 'png' | 'tiff', profile: Buffer, ppi: number): Buffer {
  return format === 'png' ? embedInPng(file, profile, ppi) : embedInTiff(file, profile);
}
