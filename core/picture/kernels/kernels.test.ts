/** Every kernel against its oracle: plain words in double precision, to 1e-4 of full scale. */
import { apply, invert3 } from '../../math/matrix3.ts';
import { LAB_TO_ROOTS, REC2020_TO_LMS, ROOTS_TO_LAB } from '../../colour/oklab.ts';
import { describe, expect, it, vi } from 'vitest';
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { srgbEncode } from '../../colour/srgb-transfer.ts';
import { removeFringePlainly } from '../../steps/lens/remove-fringe.oracle.ts';
import { removeFringe } from '../../steps/lens/remove-fringe.ts';
import { buildMesh } from '../geometry/build-mesh.ts';
import { resamplePlainly } from '../geometry/resample.oracle.ts';
import { resample } from '../geometry/resample.ts';
import { lensModel } from '../../optics/lens-model.ts';
import { halfDiagonal } from '../../math/frame-geometry.ts';
import { SRGB_TO_REC2020 } from '../../colour/primaries.ts';
import { rotationFromAngles } from '../../math/rotation.ts';
import { packRgb, packRgba8 } from '../output/pack-pixels.ts';
import { sharpenedLuma } from '../output/sharpen.oracle.ts';
import { sharpen } from '../output/sharpen-stage.ts';
import { giveTileBack } from '../tile/tile.ts';
import { developPlainly } from '../raw/develop.oracle.ts';
import { developBand } from '../raw/develop.ts';
import type { Mosaic } from '../raw/mosaic.ts';
import { halve } from '../tile/halve.ts';
import {
  type PlacedPlanes,
  type Planes,
  addresses,
  allocatePlanes,
  givePlanesBack,
  placeOn,
  takePlanes
} from '../tile/planes.ts';
import { STORED_16, fillPlanes, storePlanes } from '../tile/stored-planes.ts';
import { inArena } from './arena.ts';
import {
  addressOf,
  arraysInUse,
  giveBack,
  keptTable,
  takeFloat32,
  takeUint16,
  takeUint32,
  takeUint8
} from './heap.ts';
import { KernelsUnavailable, createMemory, kernelMemory, kernels, useMemory } from './kernels.ts';

/** A small generator of even numbers from 0 to 1 (Park & Miller 1988), so that every run sees the same. */
function random(seed = 7): () => number {
  let state = seed;
  return () => (state = (state * 48271) % 2147483647) / 2147483647;
}

/** Planes with smooth colours, edges, noise, some light above white, and a little below black. */
function picture(width: number, height: number, dark = 0): PlacedPlanes {
  const next = random();
  const planes = allocatePlanes(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      const light = (x + 2 * y) % 37 < 9 ? 1.6 : 0.3 + 0.2 * Math.sin(x / 5) * Math.cos(y / 7);
      planes.r[at] = light * (0.8 + 0.2 * next()) - dark;
      planes.g[at] = light * (0.6 + 0.3 * next()) - dark;
      planes.b[at] = light * (0.5 + 0.5 * next()) - dark;
    }
  return placeOn(planes, { width, height });
}

const worst = (one: ArrayLike<number>, other: ArrayLike<number>): number => {
  let most = 0;
  for (let i = 0; i < one.length; i++) {
    // What is no number is worse than anything.
    const apart = Math.abs(one[i] - other[i]);
    most = apart <= most ? most : Number.isNaN(apart) ? Infinity : apart;
  }
  return most;
};

const worstOf = (one: Planes, other: Planes): number =>
  Math.max(...(['r', 'g', 'b'] as const).map((c) => worst(one[c], other[c])));

describe('the heap', () => {
  it('gives blocks that do not overlap, and the same memory again', () => {
    const next = random(3);
    const held: Uint32Array[] = [];
    const taken = kernels().takenBytes();
    const before = arraysInUse();
    for (let i = 0; i < 800; i++) {
      if (next() < 0.45 && held.length > 0) {
        const [array] = held.splice(Math.floor(next() * held.length), 1);
        expect(new Set(array).size).toBe(1);
        giveBack(array);
      } else {
        const array = takeUint32(1 + Math.floor(next() ** 4 * 60_000));
        held.push(array.fill(i));
        expect(array.byteOffset % 64).toBe(0);
      }
    }
    for (const array of held) expect(new Set(array).size).toBe(1);
    giveBack(...held, ...held);
    expect(kernels().takenBytes()).toBe(taken);
    expect(arraysInUse()).toBe(before);
    const large = takeFloat32(5_000_000);
    const where = large.byteOffset;
    giveBack(large);
    expect(takeFloat32(5_000_000).byteOffset).toBe(where);
  });

  it('says so when memory is refused, and goes on', () => {
    const before = kernelMemory();
    useMemory(createMemory([40]));
    expect(() => takeUint8(40 * 65536)).toThrow('not enough memory');
    expect(takeUint8(30 * 65536).length).toBe(30 * 65536);
    useMemory(before);
    expect(() => addressOf(new Uint8Array(4))).toThrow('does not stand in the memory');
    expect(() => createMemory([])).toThrow(KernelsUnavailable);
  });

  it('gives back what an arena took, also when the work fails', () => {
    const taken = kernels().takenBytes();
    expect(() =>
      inArena((arena) => {
        arena.float32(1000);
        arena.addressOf([1, 2, 3]);
        expect(kernels().takenBytes()).toBeGreaterThan(taken);
        throw new Error('It failed.');
      })
    ).toThrow('It failed.');
    expect(kernels().takenBytes()).toBe(taken);
  });
});

describe('a machine without what it takes', () => {
  it('is told of, in words', async () => {
    vi.resetModules();
    const validate = vi.spyOn(WebAssembly, 'validate').mockReturnValue(false);
    const fresh = await import('./kernels.ts');
    expect(() => fresh.kernels()).toThrow(/lacks WebAssembly with SIMD and threads/);
    validate.mockRestore();
    vi.stubGlobal('WebAssembly', undefined);
    vi.resetModules();
    const without = await import('./kernels.ts');
    expect(() => without.useMemory(null as never)).toThrow(/WebAssembly is switched off/);
    vi.unstubAllGlobals();
  });
});

describe('kernels', () => {
  const WIDTH = 150;
  const HEIGHT = 97;

  function mosaic(extra: Partial<Mosaic> = {}): Mosaic {
    const next = random(11);
    const data = new Uint16Array((WIDTH + 9) * (HEIGHT + 5));
    for (let i = 0; i < data.length; i++) {
      const [x, y] = [i % (WIDTH + 9), Math.floor(i / (WIDTH + 9))];
      const light = (x + y) % 41 < 8 ? 5 : 0.25 + 0.2 * Math.sin(x / 6) * Math.sin(y / 4);
      const shot = light * (0.3 + 0.25 * ((x & 1) + (y & 1))) + (next() - 0.5) * 0.03;
      data[i] = Math.min(4095, Math.max(0, 256 + shot * 3839));
      if (next() < 0.002) data[i] = 4000;
    }
    return {
      data,
      stride: WIDTH + 9,
      left: 5,
      top: 3,
      width: WIDTH,
      height: HEIGHT,
      pattern: [1, 0, 2, 1],
      black: 256,
      white: 4095,
      multipliers: [2.1, 1, 1.6],
      turns: 0,
      ...extra
    };
  }

  it.each([
    ['without the sizes of red and blue', {}],
    ['with the sizes of red and blue', { lateral: { red: [0.012, 0.004], blue: [-0.015, 0.002, 0.001] } }],
    ['with its noise', { noise: { gain: 3e-3, read: 6e-3 } }]
  ])('develop a mosaic %s', (told, extra) => {
    const [found, wanted] = [allocatePlanes(WIDTH, HEIGHT), allocatePlanes(WIDTH, HEIGHT)];
    developBand(mosaic(extra), found, 0, HEIGHT);
    developPlainly(mosaic(extra), wanted);
    expect(worstOf(found, wanted)).toBeLessThan(1e-4);
    // What is told does something.
    if (told.startsWith('without')) return;
    developBand(mosaic(), wanted, 0, HEIGHT);
    expect(worstOf(found, wanted)).toBeGreaterThan(0.01);
  });

  it('develop a picture smaller than what they look about', () => {
    const small = mosaic({ width: 16, height: 18 });
    const [found, wanted] = [allocatePlanes(16, 18), allocatePlanes(16, 18)];
    developBand(small, found, 0, 18);
    developPlainly(small, wanted);
    expect(worstOf(found, wanted)).toBeLessThan(1e-4);
  });

  it.each([
    [1.8, false, false],
    [1.07, false, false],
    [1.07, true, false],
    [0.6, true, false],
    [4.3, true, false],
    [2.2, true, true]
  ])('resample at %d source pixels to one, colours apart: %s, in motion: %s', (reduction, apart, draft) => {
    const source = picture(230, 160);
    const size = { width: 230, height: 160 };
    const lateral = { red: [0.006], blue: [-0.004, 0.002] };
    const projection = {
      size,
      focal: 1,
      model: lensModel({ terms: [0, -0.05], ...(apart ? { lateral } : {}) }),
      rotation: rotationFromAngles({ roll: 3, pitch: 8, yaw: -5 })
    };
    const pixel = reduction / halfDiagonal(size);
    const [width, height] = [260, 190].map((pixels) => Math.round(pixels / reduction));
    const view = { left: (-width / 2) * pixel, top: (-height / 2) * pixel, pixel, width, height };
    const mesh = buildMesh(projection, view);
    const made = (): Planes & { valid: Uint8Array } => ({
      ...allocatePlanes(width, height),
      valid: takeUint8(width * height)
    });
    const [found, wanted] = [made(), made()];
    resample(source, mesh, found, { draft });
    resamplePlainly(source, mesh, wanted, draft);
    expect(worst(found.valid, wanted.valid)).toBe(0);
    expect(worst(found.valid, new Uint8Array(width * height).fill(1))).toBe(1);
    expect(worstOf(found, wanted)).toBeLessThan(1e-4);
  });

  it('halve, also odd sizes', () => {
    for (const [width, height] of [
      [64, 40],
      [61, 33],
      [7, 5]
    ]) {
      const source = picture(width, height);
      const half = halve(source);
      for (let y = 0; y < half.height; y++)
        for (let x = 0; x < half.width; x++) {
          const column = [2 * x, Math.min(2 * x + 1, width - 1)];
          const row = [2 * y, Math.min(2 * y + 1, height - 1)];
          const four = row.flatMap((py) => column.map((px) => source.b[py * width + px]));
          expect(half.b[y * half.width + x]).toBeCloseTo(four.reduce((a, b) => a + b) / 4, 5);
        }
    }
  });

  it('store planes as codes and read them again', () => {
    const source = picture(31, 17, 0.4);
    const codes = takeUint16(31 * 17 * 3);
    storePlanes(source, codes);
    for (const [i, plane] of [source.r, source.g, source.b].entries())
      for (let at = 0; at < plane.length; at++) {
        const code = 65535 * Math.sqrt(Math.min(1, Math.max(0, plane[at]) / 2.5));
        expect(Math.abs(codes[at * 3 + i] - code)).toBeLessThanOrEqual(0.51);
      }
    const read = allocatePlanes(31, 17);
    fillPlanes(codes, 31, read, STORED_16);
    expect(
      worst(
        read.g,
        source.g.map((value) => Math.max(0, value))
      )
    ).toBeLessThan(1e-4);
    const elsewhere = allocatePlanes(40, 20);
    fillPlanes(Uint16Array.from(codes), 31, elsewhere, STORED_16, 5, 2);
    expect(elsewhere.r[2 * 40 + 5]).toBe(read.r[0]);
    expect(elsewhere.b[18 * 40 + 35]).toBe(read.b[16 * 31 + 30]);
  });

  it('scale colours by their luminance, and fade what is above white towards it', () => {
    const count = 103;
    const { r, g, b } = picture(count, 1, 0.3);
    for (const plane of [r, g, b]) plane.forEach((value, i) => (plane[i] = value * 4));
    const weights = [0.25, 0.65, 0.1];
    const gain = (share: number): number => 0.5 + share;
    const luminance = ([red, green, blue]: number[]): number =>
      weights[0] * red + weights[1] * green + weights[2] * blue;
    const before = Array.from({ length: count }, (_, i) => [r[i], g[i], b[i]]);
    const scaled = before.map((colour) => {
      const share = Math.min(1, Math.max(0, luminance(colour) / 4));
      return colour.map((value) => value * gain(share));
    });
    inArena((arena) => {
      const [at, table] = [arena.addressOf(weights), arena.addressOf(tabulate(gain))];
      kernels().scaleByLuminance(addressOf(r), addressOf(g), addressOf(b), count, at, table, STEPS, 4);
    });
    const planes = [r, g, b];
    planes.forEach((plane, c) =>
      expect(
        worst(
          plane,
          scaled.map((each) => each[c])
        )
      ).toBeLessThan(1e-4)
    );
    const faded = scaled.map((colour) => {
      const most = Math.max(...colour);
      if (most <= 1) return colour;
      const grey = Math.min(1, luminance(colour));
      const share = most - grey < 1e-6 ? 0 : (1 - grey) / (most - grey);
      return colour.map((value) => grey + (value - grey) * share);
    });
    expect(faded.some((colour, i) => colour !== scaled[i])).toBe(true);
    inArena((arena) =>
      kernels().fadeToWhite(addressOf(r), addressOf(g), addressOf(b), count, arena.addressOf(weights))
    );
    planes.forEach((plane, c) =>
      expect(
        worst(
          plane,
          faded.map((each) => each[c])
        )
      ).toBeLessThan(1e-4)
    );
  });

  it('scale chroma in Oklab', () => {
    const count = 103;
    const { r, g, b } = picture(count, 1, 0.1);
    const before = Array.from({ length: count }, (_, i): [number, number, number] => [r[i], g[i], b[i]]);
    const [spareA, spareB] = [Math.cos(0.9), Math.sin(0.9)];
    const wanted = before.map((colour) => {
      const lab = apply(
        ROOTS_TO_LAB,
        apply(REC2020_TO_LMS, colour).map(Math.cbrt) as [number, number, number]
      );
      const chroma = Math.hypot(lab[1], lab[2]);
      const near = Math.max(0, (lab[1] * spareA + lab[2] * spareB) / Math.max(chroma, 1e-6));
      const factor = 1.2 * (1 + 0.7 * Math.max(0, 1 - chroma / 0.2) * (1 - 0.6 * near ** 4));
      const roots = apply(LAB_TO_ROOTS, [lab[0], lab[1] * factor, lab[2] * factor]);
      return apply(invert3(REC2020_TO_LMS), roots.map((root) => root ** 3) as [number, number, number]);
    });
    inArena((arena) => {
      const matrices = [...REC2020_TO_LMS, ...ROOTS_TO_LAB, ...LAB_TO_ROOTS, ...invert3(REC2020_TO_LMS)];
      const numbers = arena.addressOf([...matrices, 1.2, 0.7, 0.2, spareA, spareB, 0, 0, 0, 0.1]);
      kernels().gradeColours(addressOf(r), addressOf(g), addressOf(b), count, numbers, 0, 0, 0, 0);
    });
    [r, g, b].forEach((plane, c) =>
      expect(
        worst(
          plane,
          wanted.map((each) => each[c])
        )
      ).toBeLessThan(1e-4)
    );
  });

  it('mix colours, look values up, multiply by gains of a mesh, and pack', () => {
    const count = 103;
    const { r, g, b } = picture(count, 1, 0.3);
    const matrix = [0.9, 0.2, -0.1, 0.05, 1.1, -0.15, -0.02, 0.3, 0.72];
    const wanted = Array.from({ length: count }, (_, i) => {
      const colour = [r[i], g[i], b[i]].map((value) => Math.min(1, value));
      return [0, 3, 6].map(
        (row) => matrix[row] * colour[0] + matrix[row + 1] * colour[1] + matrix[row + 2] * colour[2]
      );
    });
    inArena((arena) =>
      kernels().mixColours(addressOf(r), addressOf(g), addressOf(b), count, arena.addressOf(matrix), 1)
    );
    [r, g, b].forEach((plane, c) =>
      expect(
        worst(
          plane,
          wanted.map((each) => each[c])
        )
      ).toBeLessThan(1e-5)
    );
    const table = keptTable(tabulate(srgbEncode));
    kernels().lookUpPlane(addressOf(r), count, table, STEPS, 0);
    kernels().lookUpPlane(addressOf(g), count, table, STEPS, 1);
    const encoded = (value: number): number => srgbEncode(Math.min(1, Math.max(0, value)));
    expect(
      worst(
        r,
        wanted.map(([red]) => encoded(red))
      )
    ).toBeLessThan(1e-4);
    expect(Math.min(...g)).toBeLessThan(-0.05);
    expect(
      worst(
        g,
        wanted.map(([, green]) => Math.sign(green) * encoded(Math.abs(green)))
      )
    ).toBeLessThan(1e-4);

    // Nodes of 4 x 3 every 32 pixels; a row 40 pixels down from column 11 on.
    const nodes = takeFloat32(12);
    for (let i = 0; i < 12; i++) nodes[i] = 1 + 0.1 * i + 0.03 * i * i;
    const plane = takeFloat32(70).fill(2);
    kernels().multiplyBetween(addressOf(plane), 70, addressOf(nodes), 4, 32, 40, 11);
    for (let x = 0; x < 70; x++) {
      const [px, py] = [(x + 11 + 0.5) / 32, 40.5 / 32];
      const [ix, iy] = [Math.floor(px), Math.floor(py)];
      const line = (y: number): number =>
        nodes[y * 4 + ix] * (1 - px + ix) + nodes[y * 4 + ix + 1] * (px - ix);
      expect(plane[x]).toBeCloseTo(2 * (line(iy) * (1 - py + iy) + line(iy + 1) * (py - iy)), 4);
    }
  });

  it('pack 8 and 16 bits, rounded, bounded, and clear or black where nothing is', () => {
    const width = 7;
    const rows = { ...picture(width, 3, 0.3), top: 1, left: 0, valid: takeUint8(21).fill(1) };
    rows.valid[5] = rows.valid[20] = 0;
    const [rgb8, rgb16, rgba] = [new Uint8Array(84), new Uint16Array(84), new Uint8ClampedArray(112)];
    packRgb(rgb8, width)(rows);
    packRgb(rgb16, width)(rows);
    packRgba8(rgba, width)(rows);
    for (let i = 0; i < 21; i++) {
      [rows.r, rows.g, rows.b].forEach((plane, c) => {
        const value = Math.min(1, Math.max(0, plane[i])) * rows.valid[i];
        // What is smoother than a code is dithered; its own test says how.
        const next = i % width === width - 1 ? value : Math.min(1, Math.max(0, plane[i + 1]));
        const rough = Math.abs(next - Math.min(1, Math.max(0, plane[i]))) * 255 > 1.01;
        if (rough || !rows.valid[i]) expect(rgb8[21 + i * 3 + c]).toBe(Math.floor(value * 255 + 0.5));
        expect(Math.abs(rgb8[21 + i * 3 + c] - value * 255)).toBeLessThan(1.51);
        expect(Math.abs(rgb16[21 + i * 3 + c] - value * 65535)).toBeLessThanOrEqual(0.51);
        if (rows.valid[i]) expect(rgba[28 + i * 4 + c]).toBe(Math.floor(value * 255 + 0.5));
      });
      expect(rgba[28 + i * 4 + 3]).toBe(rows.valid[i] * 255);
    }
    // Nothing is written before the rows.
    expect([...rgb8.subarray(0, 21), ...rgba.subarray(0, 28)].every((value) => value === 0)).toBe(true);
  });

  it('take fringes away', () => {
    const colours = [
      { amount: 0.8, hue: 310, range: 80 },
      { amount: 1, hue: 150, range: 60 },
      { amount: 0.5, hue: 20, range: 360 }
    ];
    const [found, wanted, before] = [picture(131, 70), picture(131, 70), picture(131, 70)];
    const options = { colours, width: 5, toWorking: SRGB_TO_REC2020 };
    removeFringe(found, options);
    removeFringePlainly(wanted, options);
    expect(worstOf(found, wanted)).toBeLessThan(1e-4);
    expect(worstOf(found, before)).toBeGreaterThan(0.1);
  });

  it('sharpen planes as the definition says, where some pixels are missing too', () => {
    const [width, height] = [45, 30];
    const next = random(5);
    const planes = { ...takePlanes(width, height), valid: takeUint8(width * height).fill(1) };
    for (let i = 0; i < width * height; i++) {
      const light = i % 30 < 14 ? 0.1 + 0.2 * next() : 0.7 + 0.2 * next();
      planes.r[i] = light;
      planes.g[i] = light + 0.05 * next();
      planes.b[i] = light - 0.05 * next();
    }
    // Rows without any pixel above, and slanted borders at both sides.
    const first = (y: number): number => Math.max(0, Math.ceil(6 - y / 8));
    const last = (y: number): number => Math.min(width, 30 + y) - 1;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (y >= 4 && x >= first(y) && x <= last(y)) continue;
        planes.valid[i] = planes.r[i] = planes.g[i] = planes.b[i] = 0;
      }
    const before = { r: planes.r.slice(), g: planes.g.slice(), b: planes.b.slice() };
    const luma = (x: number, y: number): number => {
      const row = Math.max(4, Math.min(height - 1, y));
      const column = Math.max(first(row), Math.min(last(row), x));
      const i = row * width + column;
      return 0.2126 * before.r[i] + 0.7152 * before.g[i] + 0.0722 * before.b[i];
    };
    for (const options of [
      { radius: 1.3, amount: 0.9 },
      { radius: 0.6, amount: 0.55 }
    ]) {
      for (const plane of ['r', 'g', 'b'] as const) planes[plane].set(before[plane]);
      sharpen(planes, options);
      let changed = 0;
      for (let y = 4; y < height; y++)
        for (let x = first(y); x <= last(y); x++) {
          const i = y * width + x;
          const change = sharpenedLuma(luma, x, y, options) - luma(x, y);
          changed = Math.max(changed, Math.abs(change));
          for (const plane of ['r', 'g', 'b'] as const) {
            const wanted = Math.min(1, Math.max(0, before[plane][i] + change));
            expect(Math.abs(planes[plane][i] - wanted), `${plane} ${x} ${y}`).toBeLessThan(1e-5);
          }
        }
      expect(changed).toBeGreaterThan(0.02);
    }
    giveTileBack(planes);
  });

  it('add glow between cells and between nodes, whatever the slope, and none where no ray arrives', () => {
    const next = random(11);
    const [width, left, row, step, columns] = [61, 5, 9, 14, 6];
    const grid = { width: 23, height: 17 };
    const nodes = (most: number): Float32Array =>
      Float32Array.from({ length: 3 * columns }, () => most * (1.3 * next() - 0.1));
    const [x, y, gains] = [nodes(grid.width), nodes(grid.height), nodes(3)];
    // Corners that no ray arrives at, or whose light is not known.
    x[3] = gains[5] = NaN;
    const cells = Float32Array.from({ length: 4 * grid.width * grid.height }, (_, i) =>
      i % 4 < 3 ? next() : 0
    );
    const planes = [0, 1, 2].map(() => Float32Array.from({ length: width }, () => 1.2 * next()));
    const weights = Float32Array.from({ length: width }, next);
    const [low, high, amount] = [0.4, 0.9, 0.7];

    const along = (of: Float32Array, column: number): number => {
      const place = (row + 0.5) / step;
      const [line, cell] = [Math.floor(place), Math.floor(column / step)];
      const at = (c: number): number => {
        const [above, below] = [of[line * columns + c], of[(line + 1) * columns + c]];
        return above + (below - above) * (place - line);
      };
      return at(cell) + (at(cell + 1) - at(cell)) * ((column + 0.5) / step - cell);
    };
    const bounded = (value: number, most: number): number =>
      Math.min(most - 1 - 1e-3, Math.max(0, value || 0));
    const light = ([r, g, b]: number[]): number => 0.2627 * r + 0.678 * g + 0.0593 * b;
    const bright = (value: number): number => {
      const t = Math.min(1, Math.max(0, (value - low) / (high - low)));
      return t * t * (3 - 2 * t);
    };
    const expected: number[][] = [[], [], []];
    let none = 0;
    for (let i = 0; i < width; i++) {
      const own = planes.map((plane) => plane[i]);
      const places = [along(x, left + i), along(y, left + i)];
      const [px, py] = [bounded(places[0], grid.width), bounded(places[1], grid.height)];
      const [cx, cy] = [Math.floor(px), Math.floor(py)];
      const spread = [0, 1, 2].map((c) => {
        const at = (dx: number, dy: number): number => cells[4 * ((cy + dy) * grid.width + cx + dx) + c];
        const above = at(0, 0) + (at(1, 0) - at(0, 0)) * (px - cx);
        const below = at(0, 1) + (at(1, 1) - at(0, 1)) * (px - cx);
        return along(gains, left + i) * (above + (below - above) * (py - cy));
      });
      const [here, about] = [light(own), light(spread)];
      const share = amount * Math.max(0, 1 - (bright(here) * here) / about) * weights[i];
      if (!(about > 0)) none++;
      own.forEach((value, c) => (expected[c][i] = value + (about > 0 ? share * spread[c] : 0)));
    }
    inArena((arena) => {
      const copies = planes.map((plane) => {
        const copy = arena.float32(width + 1);
        copy.set(plane);
        copy[width] = 0.25;
        return copy;
      });
      const [r, g, b] = copies.map(addressOf);
      const [ax, ay, ag, aw, ac] = [x, y, gains, weights, cells].map((each) => arena.addressOf(each));
      kernels().addGlow(
        ...([r, g, b, width, ax, ay, ag, columns, step, row, left] as const),
        ...([ac, grid.width, grid.height, low, high, amount, aw] as const)
      );
      copies.forEach((copy, c) => {
        expect(worst(copy.subarray(0, width), expected[c])).toBeLessThan(1e-4);
        expect(copy[width]).toBe(0.25);
      });
    });
    expect(none).toBeGreaterThan(0);
    expect(none).toBeLessThan(width / 2);
  });

  it('mix planes by weights read from a grid over the frame', () => {
    const size = { width: 97, height: 61 };
    const mesh = {
      view: { left: 0, top: 0, pixel: 1, width: 40, height: 24 },
      step: 16,
      columns: 4,
      rows: 3,
      x: Float32Array.from({ length: 12 }, (_, i) => 7 + 16 * 1.5 * (i % 4) + 2 * Math.floor(i / 4)),
      y: Float32Array.from({ length: 12 }, (_, i) => 3 + 16 * 1.2 * Math.floor(i / 4) + (i % 4)),
      colours: null,
      error: 0
    };
    const weights = { width: 33, height: 20, values: takeUint8(33 * 20 + 1) };
    const grid = (column: number, row: number): number =>
      ((Math.min(32, column) * 7 + Math.min(19, row) * 13) % 256) / 255;
    for (let row = 0; row < 20; row++)
      for (let column = 0; column < 33; column++)
        weights.values[row * 33 + column] = Math.round(grid(column, row) * 255);
    const [rows, other, itself] = [takePlanes(37, 5), takePlanes(37, 5), takePlanes(37, 5)];
    for (const plane of ['r', 'g', 'b'] as const)
      for (let i = 0; i < 37 * 5; i++) {
        rows[plane][i] = itself[plane][i] = i / 100;
        other[plane][i] = (plane === 'g' ? -1 : 1) * (1 + i / 50);
      }
    inArena((arena) => {
      const out = addressOf(arena.float32(37 * 5));
      const x = arena.addressOf(mesh.x.map((at) => (at * 33) / size.width - 0.5));
      const y = arena.addressOf(mesh.y.map((at) => (at * 20) / size.height - 0.5));
      const { mixRows, weighRow } = kernels();
      // Rows from the ninth on, their first pixel the third of the tile.
      for (let row = 0; row < 5; row++)
        weighRow(x, y, 4, 16, 9 + row, 3, 37, addressOf(weights.values), 33, 20, out + row * 37 * 4);
      const matrix = arena.addressOf([1, 0, 0, 0.5, 0.5, 0, 0, 0.25, 1]);
      mixRows(...addresses(rows), ...addresses(other), matrix, out, 37 * 5);
      // Of itself: twice its red where the weight is whole.
      const doubled = arena.addressOf([2, 0, 0, 0, 1, 0, 0, 0, 1]);
      mixRows(...addresses(itself), ...addresses(itself), doubled, out, 37 * 5);
    });
    for (let y = 0; y < 5; y++)
      for (let x = 0; x < 37; x++) {
        const [across, down] = [(x + 3.5) / 16, (y + 9.5) / 16];
        const placeX = 7 + 24 * across + 2 * down;
        const placeY = 3 + 19.2 * down + across;
        const gx = Math.max(0, Math.min(32, (placeX * 33) / 97 - 0.5));
        const gy = Math.max(0, Math.min(19, (placeY * 20) / 61 - 0.5));
        const [cx, cy] = [Math.floor(gx), Math.floor(gy)];
        const [fx, fy] = [gx - cx, gy - cy];
        const weight =
          (grid(cx, cy) * (1 - fx) + grid(cx + 1, cy) * fx) * (1 - fy) +
          (grid(cx, cy + 1) * (1 - fx) + grid(cx + 1, cy + 1) * fx) * fy;
        const i = y * 37 + x;
        const own = i / 100;
        const there = 1 + i / 50;
        expect(Math.abs(rows.r[i] - (own + weight * (there - own)))).toBeLessThan(0.01);
        expect(Math.abs(rows.g[i] - (own + weight * (0 - own)))).toBeLessThan(0.01);
        expect(Math.abs(rows.b[i] - (own + weight * (0.75 * there - own)))).toBeLessThan(0.01);
        expect(Math.abs(itself.r[i] - own * (1 + weight))).toBeLessThan(0.01);
        expect(itself.b[i]).toBeCloseTo(own, 6);
      }
    giveBack(weights.values);
    for (const each of [rows, other, itself]) givePlanesBack(each);
  });

  it.each([
    ['the finest base alone', [0, 0, 0], false],
    ['details', [0.4, -0.3, 0.5], false],
    ['details and haze', [0.4, -0.3, 0.5], true]
  ])('light a row anew by %s, in steps of four pixels and of one', (_, details, hazy) => {
    inArena((arena) => {
      const [width, height, count, step] = [24, 9, 61, 16];
      const numbers = [0.25, 0.65, 0.1, 1e-4, 0, ...details, -9, 2, 40, 64, 0.2, 0.5, 0.6, 0.7, 1, 0, 16];
      // Lines that change evenly over the grid: between its cells nothing is lost.
      const slope = (k: number, x: number, y: number): number => 0.9 - 0.1 * k + 0.05 * x - 0.02 * y;
      const offset = (k: number, x: number, y: number): number => 0.1 * k - 0.03 * x + 0.05 * y;
      const thin = (x: number, y: number): [number, number] => [0.02 + 0.001 * x, 0.3 - 0.01 * y];
      const [grid, haze] = [arena.float32(width * height * 8), arena.float32(width * height * 2)];
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) {
          const bases = [0, 1, 2, 3];
          grid.set(
            [...bases.map((k) => slope(k, x, y)), ...bases.map((k) => offset(k, x, y))],
            (y * width + x) * 8
          );
          haze.set(thin(x, y), (y * width + x) * 2);
        }
      const table = Array.from({ length: 40 }, (__, i) => 1.5 * Math.sin(i / 7));
      const veils = Array.from({ length: 66 }, (__, i) => 0.5 * (i / 64) ** 2);
      const between = (of: readonly number[], at: number): number => {
        const i = Math.floor(at);
        return of[i] + (of[i + 1] - of[i]) * (at - i);
      };
      for (const each of [0.07, 0.3]) {
        const nodes = Array.from({ length: 12 }, (__, i) => i);
        const x = arena.addressOf(nodes.map((i) => 1.3 + each * step * (i % 6) + 0.2 * Math.floor(i / 6)));
        const y = arena.addressOf(nodes.map((i) => 2.1 + 0.4 * Math.floor(i / 6) + 0.05 * (i % 6)));
        const gains = arena.addressOf(nodes.map((i) => 0.1 * (i % 6) + 0.3 * Math.floor(i / 6)));
        const rows = takePlanes(count, 1);
        const more = Array.from({ length: count }, (__, n) => 0.2 * Math.sin(n / 3));
        const before: number[][] = [];
        for (let n = 0; n < count; n++) {
          before.push([0.05 + n / 40, 0.3 + 0.2 * Math.sin(n), 0.02 + n / 90]);
          [rows.r[n], rows.g[n], rows.b[n]] = before[n];
        }
        kernels().relightRow(
          ...addresses(rows),
          count,
          x,
          y,
          gains,
          6,
          step,
          5,
          3,
          addressOf(grid),
          hazy ? addressOf(haze) : 0,
          width,
          height,
          arena.addressOf(numbers),
          arena.addressOf(table),
          arena.addressOf(veils),
          arena.addressOf(more),
          addressOf(arena.float32(2 * (count + 8)))
        );
        for (let n = 0; n < count; n++) {
          const [across, down] = [(n + 3.5) / step, 5.5 / step];
          const px = 1.3 + each * step * across + 0.2 * down;
          const py = 2.1 + 0.4 * down + 0.05 * across;
          const gained = 0.1 * across + 0.3 * down;
          const [r, g, b] = before[n];
          const light = Math.log2(0.25 * r + 0.65 * g + 0.1 * b + 1e-4) - gained;
          const bases = [0, 1, 2, 3].map((k) => slope(k, px, py) * light + offset(k, px, py));
          // What each base leaves of the finer one before it.
          const away = bases.map((base, k) => (k < 2 ? light : bases[k - 1]) - base);
          let stops = between(table, Math.min(38, Math.max(0, (bases[0] + gained + 9) * 2)));
          details.forEach((detail, k) => {
            const apart = away[k + 1];
            stops += (detail * apart) / (1 + 16 * apart ** 2);
          });
          stops += more[n];
          const [by, from] = thin(px, py);
          const share = Math.min(1, Math.max(0, by * light + from));
          const veil = hazy ? between(veils, share * 64) : 0;
          [r, g, b].forEach((value, c) => {
            const air = [0.5, 0.6, 0.7][c];
            let clear = value - veil * air;
            const rest = 0.2 * value * (1 - veil);
            if (hazy && clear < 2 * rest) clear = rest + Math.max(0, clear) ** 2 / (4 * rest);
            const wanted = (clear * 2 ** stops) / (1 - veil);
            const made = [rows.r, rows.g, rows.b][c][n];
            expect(Math.abs(made - wanted) / wanted).toBeLessThan(2e-3);
          });
        }
        givePlanesBack(rows);
      }
    });
  });

  it('draw weights to what lines over light and hue say, between every fourth pixel straight', () => {
    inArena((arena) => {
      const [width, height, count] = [12, 9, 45];
      // Lines that change evenly over the grid: between its cells nothing is lost.
      const line = (x: number, y: number): number[] => [
        0.1 + 0.02 * x,
        -0.2 + 0.03 * y,
        0.3 - 0.01 * x + 0.02 * y,
        0.5 - 0.03 * x
      ];
      const lines = arena.float32(width * height * 4);
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++) lines.set(line(x, y), (y * width + x) * 4);
      const x = arena.addressOf(Array.from({ length: 12 }, (_, i) => 0.6 + 2.2 * (i % 4)));
      const y = arena.addressOf(Array.from({ length: 12 }, (_, i) => 0.4 + 2.5 * Math.floor(i / 4)));
      const gained = arena.addressOf(Array.from({ length: 12 }, (_, i) => 0.1 * (i % 4)));
      const [stops, hues, out] = [arena.float32(count), arena.float32(count), arena.float32(count)];
      for (let i = 0; i < count; i++) {
        stops[i] = -3 + 0.1 * i;
        hues[i] = 0.5 * Math.sin(i);
        out[i] = (i % 7) / 7;
      }
      const before = new Float32Array(out);
      const [row, left] = [6, 2];
      const [grid, light, hue, to] = [lines, stops, hues, out].map(addressOf);
      const { weighLines } = kernels();
      weighLines(x, y, gained, 4, 16, row, left, count, grid, width, height, light, hue, to);
      for (let i = 0; i < count; i++) {
        const across = (i + left + 0.5) / 16;
        const [tilt, turn, offset, keep] = line(0.6 + 2.2 * across, 0.4 + 2.5 * ((row + 0.5) / 16));
        const wanted = tilt * (stops[i] - 0.1 * across) + turn * hues[i] + offset + keep * before[i];
        expect(Math.abs(out[i] - Math.min(1, Math.max(0, wanted))), `${i}`).toBeLessThan(1e-4);
      }
    });
  });

  it('count colours', () => {
    const rgba = takeUint8(12);
    rgba.set([255, 0, 10, 255, 0, 0, 0, 255, 200, 100, 50, 0]);
    const counts = takeUint32(1033).fill(0);
    kernels().countColours(addressOf(rgba), 3, addressOf(counts));
    const filled = [...counts.entries()].filter(([, count]) => count > 0);
    // Luminance of the first: (255 · 54 + 10 · 19) / 256.
    expect(filled).toEqual([
      [0, 1],
      [255, 1],
      [256, 2],
      [512, 1],
      [522, 1],
      [768, 1],
      [768 + 54, 1],
      [1024, 2],
      [1025, 1],
      [1026, 1],
      [1027, 1],
      [1030, 1],
      [1031, 2],
      [1032, 1]
    ]);
  });

  it('average squares, and follow a guide', () => {
    const [width, height] = [43, 29];
    const { g: guide, b: input } = picture(width, height);
    const count = width * height;
    const mean = (plane: ArrayLike<number>, radius: number): Float64Array =>
      Float64Array.from({ length: count }, (_, at) => {
        const [cx, cy] = [at % width, Math.floor(at / width)];
        let [sum, n] = [0, 0];
        for (let y = Math.max(0, cy - radius); y <= Math.min(height - 1, cy + radius); y++)
          for (let x = Math.max(0, cx - radius); x <= Math.min(width - 1, cx + radius); x++, n++)
            sum += plane[y * width + x];
        return sum / n;
      });
    const k = kernels();
    const [across, out] = [takeFloat32(count + 2 * width + 16), takeFloat32(count)];
    for (const radius of [1, 5, 60]) {
      k.boxMean(addressOf(guide), width, height, radius, addressOf(across), addressOf(out));
      expect(worst(out, mean(guide, radius))).toBeLessThan(1e-5);
    }
    const [ig, pg, ip, ii] = [0, 1, 2, 3].map(() => takeFloat32(count));
    const box = (plane: Float32Array, to: Float32Array): void =>
      k.boxMean(addressOf(plane), width, height, 3, addressOf(across), addressOf(to));
    k.multiplyPlanes(addressOf(guide), addressOf(input), count, addressOf(out));
    box(out, ip);
    k.multiplyPlanes(addressOf(guide), addressOf(guide), count, addressOf(out));
    box(out, ii);
    box(guide, ig);
    box(input, pg);
    k.guidedLines(addressOf(ig), addressOf(pg), addressOf(ip), addressOf(ii), count, 0.01);
    const products = mean(
      Float64Array.from(guide, (value, i) => value * input[i]),
      3
    );
    const squares = mean(
      Float64Array.from(guide, (value) => value * value),
      3
    );
    const [means, inputs] = [mean(guide, 3), mean(input, 3)];
    const slope = means.map((m, i) => (products[i] - m * inputs[i]) / (squares[i] - m * m + 0.01));
    expect(worst(ii, slope)).toBeLessThan(1e-4);
    expect(
      worst(
        ip,
        inputs.map((p, i) => p - slope[i] * means[i])
      )
    ).toBeLessThan(1e-4);
  });
});
