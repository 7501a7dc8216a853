import { converter, differenceCiede2000 } from 'culori';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { srgbDecode, srgbEncode } from '../../../colour/srgb-transfer.ts';
import { type Rgb, inputsFor, paint, rendered } from '../../../render/painted-frame.ts';
import { CubeError, parseCube, writeCube } from './cube-file.ts';
import type { Look, LookTable } from './look.ts';
import { partLook } from './part-look.ts';
import { SHIPPED_LOOKS } from './shipped-looks.ts';
import { readStoredLook, storeLook } from './stored-look.ts';

/** A cube of smooth but crooked colours, over a domain of its own. */
function crooked(size: number, own: Partial<Look> = {}): Look {
  const values = new Float32Array(3 * size ** 3);
  for (let b = 0, i = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++, i += 3) {
        const [x, y, z] = [r, g, b].map((v) => v / (size - 1));
        values.set([0.1 + 0.8 * x * (1 - 0.3 * z), y ** 1.4, 0.2 * x + 0.7 * Math.sqrt(z)], i);
      }
  return { name: 'Crooked', kind: '3D', size, from: [0, 0, 0], to: [1, 1, 1], space: 'srgb', values, ...own };
}

/** A colour through a cube, reckoned by sorting: the walk goes along the largest share first. */
function walked({ size, from, to, values }: Look, colour: Rgb): number[] {
  const node = (place: readonly number[]): number[] => {
    const at = 3 * ((place[2] * size + place[1]) * size + place[0]);
    return [values[at], values[at + 1], values[at + 2]];
  };
  const at = colour.map((value, c) =>
    Math.min(size - 1, Math.max(0, ((value - from[c]) / (to[c] - from[c])) * (size - 1)))
  );
  const corner = at.map((value) => Math.min(size - 2, Math.floor(value)));
  const shares = at.map((value, c) => value - corner[c]);
  let out = node(corner);
  let before = node(corner);
  const place = [...corner];
  for (const c of [0, 1, 2].sort((a, b) => shares[b] - shares[a])) {
    place[c]++;
    const next = node(place);
    out = out.map((value, i) => value + shares[c] * (next[i] - before[i]));
    before = next;
  }
  return out;
}

/** The same where a colour lies outside of the nodes: the table goes on as it came, mirrored about its end. */
function walkedBeyond(look: Look, colour: Rgb): number[] {
  const ends = colour.map((value, c) => Math.min(look.to[c], Math.max(look.from[c], value)));
  const back = colour.map((value, c) => 2 * ends[c] - value) as unknown as Rgb;
  const [end, mirror] = [walked(look, colour), walked(look, back)];
  const isOutside = ends.some((value, c) => value !== colour[c]);
  return end.map((value, c) => Math.min(1, Math.max(0, isOutside ? 2 * value - mirror[c] : value)));
}

const COLOURS: Rgb[] = Array.from({ length: 60 }, (_, i) => [
  ((i * 37) % 60) / 59,
  ((i * 23 + 11) % 60) / 59,
  ((i * 17 + 5) % 60) / 59
]);
/** What a look makes of encoded colours. */
function through(look: Look, lookAmount = 100, colours = COLOURS): Rgb[] {
  const source = paint((x) => {
    const colour = colours[Math.min(colours.length - 1, Math.floor((x * colours.length) / 600))];
    return colour.map(srgbDecode) as unknown as Rgb;
  });
  const out = rendered(
    source,
    inputsFor({ colour: { look: 'one', lookAmount } }, { rendering: 'display' }),
    undefined,
    undefined,
    look
  );
  return colours.map((_, i) => {
    const at = (200 * 600 + Math.floor(((i + 0.5) * 600) / colours.length)) * 3;
    return [0, 1, 2].map((c) => out[at + c] / 65535) as unknown as Rgb;
  });
}
const difference = differenceCiede2000();
const apart = (one: readonly number[], other: readonly number[]): number =>
  difference(
    { mode: 'rgb', r: one[0], g: one[1], b: one[2] },
    { mode: 'rgb', r: other[0], g: other[1], b: other[2] }
  );

describe('a look', () => {
  it('is laid over colours by tetrahedra, as an independent walk has it', () => {
    for (const look of [crooked(2), crooked(9), crooked(5, { from: [0.1, 0, -0.2], to: [0.9, 1.3, 1] })])
      through(look).forEach((out, i) => expect(apart(out, walkedBeyond(look, COLOURS[i]))).toBeLessThan(0.1));
  });

  it('by curves bends each colour by its own', () => {
    const values = Float32Array.from(
      { length: 33 * 3 },
      (_, i) => (Math.floor(i / 3) / 32) ** [1.5, 0.8, 1][i % 3]
    );
    const look: Look = { ...crooked(2), kind: '1D', size: 33, values };
    through(look).forEach((out, i) =>
      expect(
        apart(
          out,
          COLOURS[i].map((v, c) => v ** [1.5, 0.8, 1][c])
        )
      ).toBeLessThan(0.35)
    );
  });

  it('of linear light takes linear light, and its amount is a share of the way', () => {
    const look = crooked(9, { space: 'linear' });
    through(look).forEach((out, i) => {
      const linear = walked(look, COLOURS[i].map(srgbDecode) as unknown as Rgb);
      expect(apart(out, linear.map(srgbEncode))).toBeLessThan(0.15);
    });
    const half = through(crooked(9), 50);
    half.forEach((out, i) => {
      const whole = walked(crooked(9), COLOURS[i]);
      expect(
        apart(
          out,
          whole.map((value, c) => (value + COLOURS[i][c]) / 2)
        )
      ).toBeLessThan(0.1);
    });
    through(crooked(9), 0).forEach((out, i) => expect(apart(out, COLOURS[i])).toBeLessThan(0.05));
  });

  it('of our own keeps the order of greys, and does something', () => {
    const greys = Array.from({ length: 30 }, (_, i): Rgb => [i / 29, i / 29, i / 29]);
    expect(Object.keys(SHIPPED_LOOKS)).toHaveLength(3);
    for (const make of Object.values(SHIPPED_LOOKS)) {
      const out = through(make(), 100, greys);
      for (let i = 1; i < out.length; i++) expect(out[i][1]).toBeGreaterThan(out[i - 1][1]);
      const colours = through(make());
      expect(Math.max(...colours.map((each, i) => apart(each, COLOURS[i])))).toBeGreaterThan(3);
    }
  });
});

describe('a .cube file', () => {
  it('comes back as it was written, and from bytes', () => {
    const look = crooked(7, { name: 'A "look"', from: [0, 0.1, 0], to: [1, 1, 2] });
    const back = parseCube(writeCube(look), 'x.cube', 'srgb');
    expect(back).toMatchObject({ name: "A 'look'", kind: '3D', size: 7, from: [0, 0.1, 0], to: [1, 1, 2] });
    back.values.forEach((value, i) => expect(value).toBeCloseTo(look.values[i], 5));
    expect(readStoredLook(storeLook(look))).toEqual(look);
  });

  it('is read with comments, blank lines, other words and any line ends', () => {
    const rows = '0 0 0\r\n1 0 0\r\n0 1 0\r\n1 1 0\r\n0 0 1\r\n1 0 1\r\n0 1 1\r\n1 1 1\r\n';
    const text = `# made by hand\r\nTITLE "Plain"\r\n\r\nSOME_WORD 3\r\nLUT_3D_SIZE 2\r\n${rows}# end`;
    const look = parseCube(text, 'file.cube', 'srgb');
    expect(look.name).toBe('Plain');
    through(look).forEach((out, i) => expect(apart(out, COLOURS[i])).toBeLessThan(0.05));
    expect(parseCube(`LUT_1D_SIZE 2\n0 0 0\n1 1 1`, 'My own.cube', 'srgb')).toMatchObject({
      name: 'My own',
      kind: '1D'
    });
  });

  it('takes its range from the one line of 1D and 3D tables, too', () => {
    for (const kind of ['1D', '3D']) {
      const rows = Array.from({ length: kind === '1D' ? 2 : 8 }, (_, i) => `${i / 8} 0.5 0.25`).join('\n');
      const look = parseCube(`LUT_${kind}_SIZE 2\nLUT_${kind}_INPUT_RANGE -0.25 1.5\n${rows}`, 'x', 'srgb');
      expect(look.from).toEqual([-0.25, -0.25, -0.25]);
      expect(look.to).toEqual([1.5, 1.5, 1.5]);
    }
    expect(() => parseCube('LUT_1D_SIZE 2\nLUT_1D_INPUT_RANGE 0\n0 0 0\n1 1 1', 'x', 'srgb')).toThrow(
      /Line 2 .* numbers/
    );
    expect(() => parseCube(`LUT_3D_SIZE 2\n${'0 '.repeat(5000)}`, 'x', 'srgb')).toThrow(
      /Line 2 .* far too long/
    );
  });

  it('that is none, or wrong, says what to do', () => {
    const cube = (text: string) => () => parseCube(text, 'x.cube', 'srgb');
    expect(cube('')).toThrow(/is no look/);
    expect(cube('LUT_3D_SIZE 2\n0 0 0\n1 1 1')).toThrow('This look has 2 rows; its size asks for 8.');
    expect(cube(`LUT_3D_SIZE 2\n${'0 0 0\n'.repeat(9)}`)).toThrow('9 rows; its size asks for 8');
    expect(cube('LUT_3D_SIZE 2\n0 0 NaN')).toThrow(/Line 2 of this look should be three numbers/);
    expect(cube('LUT_3D_SIZE 2\n0 0')).toThrow(/three numbers/);
    expect(cube('LUT_3D_SIZE 2\n0 0 1e999')).toThrow(/three numbers/);
    for (const size of ['1', '66', '2.5', 'many', '', '-3', '1e9'])
      expect(cube(`LUT_3D_SIZE ${size}\n`)).toThrow(/nodes a side: 2 to 65/);
    expect(cube('LUT_3D_SIZE 2\nLUT_1D_SIZE 2')).toThrow(/two sizes/);
    expect(cube('0 0 0')).toThrow(/before its size/);
    expect(cube(`LUT_1D_SIZE 2\nDOMAIN_MAX 0 1 1\n0 0 0\n1 1 1`)).toThrow(/domain of this look is empty/);
    for (const strange of [
      'DOMAIN_MIN -1e308 0 0\n0 0 0\n1 1 1',
      'DOMAIN_MAX 1 1 1e308\n0 0 0\n1 1 1',
      '0 0 0\n1 1e308 1',
      'LUT_1D_INPUT_RANGE -1e308 1e308\n0 0 0\n1 1 1'
    ])
      expect(cube(`LUT_1D_SIZE 2\n${strange}`)).toThrow(/beyond any colour/);
    expect(cube(`LUT_1D_SIZE 2\nDOMAIN_MAX 1e-300 1 1\n0 0 0\n1 1 1`)).toThrow(
      /domain of this look is empty/
    );
    expect(() => parseCube('#'.repeat(33e6), 'x', 'srgb')).toThrow(/larger than 32 MB/);
  });

  it('with a hostile name or any text does no harm', () => {
    const rows = '0 0 0\n1 1 1\n';
    const named = parseCube(
      `TITLE "<img src=x>\u202e\u0007${'a'.repeat(500)}"\nLUT_1D_SIZE 2\n${rows}`,
      '',
      'srgb'
    );
    expect(named.name.length).toBeLessThanOrEqual(80);
    expect(named.name).not.toMatch(/[\u0000-\u001f\u202e]/);
    fc.assert(
      fc.property(fc.string({ maxLength: 300 }), (text) => {
        try {
          parseCube(`LUT_3D_SIZE 2\n${text}`, text, 'srgb');
        } catch (error) {
          expect(error).toBeInstanceOf(CubeError);
        }
      })
    );
  });
});

describe('parts of a look', () => {
  const toOklab = converter('oklab');
  const places: Rgb[] = [
    [0.25, 0.5, 0.75],
    [0.5, 0.25, 0.125],
    [0.75, 0.75, 0.25]
  ];
  const labAt = (look: LookTable, place: Rgb): number[] => {
    const [r, g, b] = place.map((value) => Math.round(value * (look.size - 1)));
    const at = 3 * ((b * look.size + g) * look.size + r);
    const lab = toOklab({ mode: 'rgb', r: look.values[at], g: look.values[at + 1], b: look.values[at + 2] });
    return [lab.l, lab.a, lab.b];
  };
  const same: Look = {
    ...crooked(9),
    values: crooked(9).values.map((_, i) => (Math.floor(i / 3 / 9 ** (i % 3)) % 9) / 8)
  };
  it('have its light and dark without its colours, or its colours without its light and dark', () => {
    const look = crooked(9);
    for (const place of places) {
      const [own, whole] = [labAt(same, place), labAt(look, place)];
      const contrast = labAt(partLook(look, { contrast: 1, colour: 0 }), place);
      const colour = labAt(partLook(look, { contrast: 0, colour: 1 }), place);
      const half = labAt(partLook(look, { contrast: 0.5, colour: 0.25 }), place);
      expect(Math.abs(whole[0] - own[0]) + Math.abs(whole[1] - own[1])).toBeGreaterThan(0.02);
      expect(contrast[0]).toBeCloseTo(whole[0], 4);
      expect(colour[0]).toBeCloseTo(own[0], 4);
      expect(half[0]).toBeCloseTo((own[0] + whole[0]) / 2, 4);
      for (const c of [1, 2]) {
        expect(contrast[c]).toBeCloseTo(own[c], 4);
        expect(colour[c]).toBeCloseTo(whole[c], 4);
        expect(half[c]).toBeCloseTo(own[c] + 0.25 * (whole[c] - own[c]), 4);
      }
    }
  });
  it('are taken of curves and of tables for linear light as well', () => {
    const curves: Look = {
      name: 'c',
      kind: '1D',
      size: 3,
      from: [0, 0, 0],
      to: [1, 1, 1],
      space: 'srgb',
      values: Float32Array.of(0, 0, 0, 0.7, 0.5, 0.4, 1, 1, 1)
    };
    const whole = partLook(curves, { contrast: 1, colour: 1 });
    expect(whole).toMatchObject({ kind: '3D', size: 33 });
    const at = 3 * ((16 * 33 + 16) * 33 + 16);
    [0.7, 0.5, 0.4].forEach((value, c) => expect(whole.values[at + c]).toBeCloseTo(value, 3));
    const linear = crooked(5, { space: 'linear' });
    partLook(linear, { contrast: 1, colour: 1 }).values.forEach((value, i) =>
      expect(value).toBeCloseTo(linear.values[i], 3)
    );
  });
  it('are laid on through all stages, where no part leaves the picture as it was', () => {
    const source = paint((x, y) => [x / 700, y / 500, 0.3]);
    const seen = (colour: object): Uint16Array =>
      rendered(
        source,
        inputsFor({ colour } as never, { rendering: 'display' }),
        undefined,
        undefined,
        crooked(17)
      );
    const [plain, none, whole, colour] = [
      {},
      { look: 'x', lookContrast: 0, lookColour: 0 },
      { look: 'x' },
      { look: 'x', lookContrast: 0 }
    ].map(seen);
    const most = (one: Uint16Array, other: Uint16Array): number =>
      one.reduce((worst, value, i) => Math.max(worst, Math.abs(value - other[i])), 0);
    expect(most(plain, none)).toBeLessThan(250);
    expect(most(plain, whole)).toBeGreaterThan(5000);
    expect(most(colour, whole)).toBeGreaterThan(2000);
  });
});
