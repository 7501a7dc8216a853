/** The Finish step through all stages: edges, noise, and what is to look alike at every size. */
import { describe, expect, it } from 'vitest';
import { gaussian, seededRandom } from '../math/random.ts';
import { type FrameSize, halfDiagonal } from '../math/frame-geometry.ts';
import type { Mosaic } from '../picture/raw/mosaic.ts';
import { developBand } from '../picture/raw/develop.ts';
import { type PlacedPlanes, allocatePlanes, givePlanesBack, placeOn } from '../picture/tile/planes.ts';
import { packRgb } from '../picture/output/pack-pixels.ts';
import { sharpenedStages } from './mask-picture.ts';
import { SENSORS_OWN } from '../steps/finish/step.ts';
import { noiseStage } from '../steps/finish/noise/noise-stage.ts';
import { completeRecipe } from '../recipe/recipe.ts';
import { changedPicture } from './source-planes.ts';
import { renderTile } from './render-tile.ts';
import type { RenderInputs } from './render-inputs.ts';
import { SIZE, inputsFor, paint, rendered, wholeView } from './painted-frame.ts';

const LARGE: FrameSize = { width: 6000, height: 4000 };

type Finish = Record<string, number | boolean | string>;

/** Codes of green along one row of a frame, as shares of white. */
function row(source: PlacedPlanes, finish: Finish, y = 200): Float64Array {
  const codes = rendered(source, inputsFor({ finish } as never, { noise: { gain: 1e-6, read: 1e-5 } }));
  return Float64Array.from({ length: SIZE.width }, (_, x) => codes[(y * SIZE.width + x) * 3 + 1] / 65535);
}

/** An upright edge as a lens blurs it, between two levels of light. */
function blurredEdge(dark: number, light: number): PlacedPlanes {
  const erf = (x: number): number => Math.tanh(1.128 * x + 0.1 * x ** 3);
  return paint((x) => {
    const value = dark + ((light - dark) * (1 + erf((x - 300.3) / (1.1 * Math.SQRT2)))) / 2;
    return [value, value, value];
  });
}

/** Pixels from a tenth to nine tenths of a rise. */
function riseOf(values: Float64Array): number {
  const [low, high] = [values[250], values[350]];
  const reached = (share: number): number => {
    const level = low + share * (high - low);
    const at = values.findIndex((value, x) => x > 250 && value >= level);
    return at - 1 + (level - values[at - 1]) / (values[at] - values[at - 1]);
  };
  return reached(0.9) - reached(0.1);
}

const meanOf = (values: ArrayLike<number>): number =>
  Array.from(values).reduce((sum, value) => sum + value, 0) / values.length;
const deviationOf = (values: ArrayLike<number>): number => {
  const mean = meanOf(values);
  return Math.sqrt(meanOf(Array.from(values, (value) => (value - mean) ** 2)));
};

describe('sharpening', () => {
  // A roof against the sky, a faint joint, and a dark one: from the first step of the slider to its end.
  it.each([
    [0.05, 0.7],
    [0.3, 0.36],
    [0.002, 0.02]
  ])('steepens an edge from %f to %f, and goes beyond it by two hundredths at most', (dark, light) => {
    const source = blurredEdge(dark, light);
    const before = row(source, {});
    let last = riseOf(before);
    for (const sharpening of [1, 30, 60, 100]) {
      const after = row(source, { sharpening });
      const step = before[350] - before[250];
      expect(Math.max(...after) - before[350]).toBeLessThan(0.02 * step);
      expect(before[250] - Math.min(...after)).toBeLessThan(0.02 * step);
      expect(riseOf(after)).toBeLessThan(last);
      last = riseOf(after);
    }
    expect(last).toBeLessThan(0.8 * riseOf(before));
    // With room for a halo it has one; with none, none at all.
    const wide = row(source, { sharpening: 100, halo: 100 });
    expect(Math.max(...wide) - before[350]).toBeGreaterThan(0.01 * (before[350] - before[250]));
    const none = row(source, { sharpening: 100, halo: 0 });
    expect(Math.max(...none)).toBeLessThanOrEqual(before[350] + 1e-4);
    // Undoing a blur of a pixel, half as much again, and one that is far too wide keep to the same limits.
    for (const radius of [1, 1.5, 3]) {
      const undone = row(source, { sharpening: 100, sharpeningKind: 'deconvolving', radius });
      const step = before[350] - before[250];
      expect(Math.max(...undone) - before[350]).toBeLessThan(0.02 * step);
      expect(before[250] - Math.min(...undone)).toBeLessThan(0.02 * step);
      expect(riseOf(undone)).toBeLessThan(0.95 * riseOf(before));
    }
    givePlanesBack(source);
  });

  it('spares faint edges when it is for edges only', () => {
    const [strong, faint] = [blurredEdge(0.05, 0.7), blurredEdge(0.3, 0.33)];
    const gained = (source: PlacedPlanes, edges: number): number =>
      riseOf(row(source, {})) - riseOf(row(source, { sharpening: 80, edges }));
    expect(gained(faint, 0)).toBeGreaterThan(0.2);
    expect(gained(faint, 100)).toBeLessThan(0.02);
    expect(gained(strong, 100)).toBeGreaterThan(0.8 * gained(strong, 0));
    [strong, faint].forEach(givePlanesBack);
  });

  it('shows where it acts: there alone the picture changes, whatever the amount', () => {
    const facts = { noise: { gain: 3e-5, read: 1e-5 } };
    const random = seededRandom(4);
    // A strong edge, a faint one a hundred pixels on, and noise all over.
    const source = paint((x) => {
      const step = (at: number): number => 1 / (1 + Math.exp(-(x - at) / 0.6));
      const light = 0.2 + 0.4 * step(200.3) + 0.05 * step(300.3);
      const value = light + gaussian(random) * 0.6 * Math.sqrt(3e-5 * light);
      return [value, value, value];
    });
    const codes = (finish: Finish, shown: boolean): Uint16Array => {
      const inputs = inputsFor({ finish } as never, facts);
      const stages = shown ? sharpenedStages(inputs.stages)! : inputs.stages;
      return rendered(source, { ...inputs, stages });
    };
    expect(sharpenedStages(inputsFor({}, facts).stages)).toBeNull();
    for (const finish of [{ detail: 50 }, { detail: 90, edges: 60 }, { edges: 100 }] as Finish[]) {
      const mask = codes({ sharpening: 40, ...finish }, true);
      expect(codes({ sharpening: 100, ...finish }, true)).toEqual(mask);
      const [before, after] = [codes({}, false), codes({ sharpening: 100, halo: 50, ...finish }, false)];
      let [coloured, changedElsewhere, changed] = [0, 0, 0];
      for (let at = 0; at < mask.length; at += 3) {
        if (Math.abs(mask[at] - mask[at + 1]) + Math.abs(mask[at] - mask[at + 2]) > 3) coloured++;
        if (Math.abs(after[at + 1] - before[at + 1]) <= 2) continue;
        if (mask[at] === 0) changedElsewhere++;
        else changed++;
      }
      expect({ coloured, changedElsewhere }).toEqual({ coloured: 0, changedElsewhere: 0 });
      expect(changed).toBeGreaterThanOrEqual(2 * SIZE.height);
      const at = (x: number): number => mask[(150 * SIZE.width + x) * 3];
      expect(at(200)).toBeGreaterThan(finish.edges === 100 ? 40000 : 65000);
      expect(at(250)).toBe(0);
      expect(at(300) > 32000).toBe(finish.edges === undefined);
    }
    // A picture in motion shows it as well, and one that is too small for it to act is black.
    const { stages } = inputsFor({ finish: { sharpening: 60 } } as never, facts);
    const motion = new Uint16Array(SIZE.width * SIZE.height * 3);
    const request = { source, stages: sharpenedStages(stages)!, view: wholeView(), draft: true };
    renderTile(request, packRgb(motion, SIZE.width));
    expect(motion[(150 * SIZE.width + 200) * 3]).toBeGreaterThan(65000);
    const small = rendered(source, { stages: sharpenedStages(stages)! } as RenderInputs, wholeView(SIZE, 5));
    expect(Math.max(...small)).toBe(0);
    givePlanesBack(source);
  });

  // As clean as at ISO 100, and 64 times as noisy; dark to light; as demosaiced.
  it.each([1.7e-5, 1.1e-3])('adds nothing to noise of gain %f', (gain) => {
    const noise = { gain, read: 2 * gain };
    for (const light of [0.01, 0.18, 0.6]) {
      const random = seededRandom(9);
      const multipliers = [2, 1, 1.5] as const;
      const pattern = [0, 1, 1, 2] as const;
      const { width, height } = SIZE;
      const data = Uint16Array.from({ length: width * height }, (_, i) => {
        const own = light / multipliers[pattern[((Math.floor(i / width) & 1) << 1) | ((i % width) & 1)]];
        const value = own + gaussian(random) * Math.sqrt(gain * own + noise.read ** 2);
        return Math.min(65535, Math.max(0, Math.round(2000 + 60000 * value)));
      });
      const mosaic: Mosaic = {
        ...{ data, stride: width, left: 0, top: 0, width, height, pattern, multipliers },
        ...{ black: 2000, white: 62000, turns: 0 }
      };
      const source = placeOn(allocatePlanes(width, height), SIZE);
      developBand(mosaic, source, 0, height);
      const grain = (finish: Finish): number =>
        deviationOf(
          rendered(source, inputsFor({ finish } as never, { noise })).filter((_, i) => i % 3 === 1)
        );
      const before = grain({});
      expect(grain({ sharpening: 60 }) / before).toBeLessThan(1.05);
      expect(grain({ sharpening: 100, sharpeningKind: 'deconvolving', radius: 0.7 }) / before).toBeLessThan(
        1.05
      );
      // What is left of noise that was taken out is not raised either.
      for (const taken of [8, 25, SENSORS_OWN, 100]) {
        const finish = { noise: taken, noiseColour: taken };
        const [data] = noiseStage.prepare({
          recipe: completeRecipe({ finish }),
          facts: { noise: { ...noise, multipliers }, rendering: 'scene', iso: null }
        })!;
        const clean = changedPicture(source, [{ stage: 'noise', data }]);
        const left = (more: Finish): number =>
          deviationOf(
            rendered(clean, inputsFor({ finish: { ...finish, ...more } } as never, { noise })).filter(
              (_, i) => i % 3 === 1
            )
          );
        const own = left({});
        expect(own / before).toBeLessThan(taken < SENSORS_OWN ? 0.85 : 0.16);
        expect(left({ sharpening: 60 }) / own).toBeLessThan(1.05);
        expect(left({ sharpening: 100, sharpeningKind: 'deconvolving', radius: 0.7 }) / own).toBeLessThan(
          1.05
        );
        givePlanesBack(clean);
      }
      // Asked for the finest detail, it cannot but take some noise for it.
      expect(grain({ sharpening: 100, detail: 100 }) / before).toBeGreaterThan(1.05);
      givePlanesBack(source);
    }
  });

  it('shows the same enlarged as at 1:1', () => {
    const source = blurredEdge(0.3, 0.36);
    const unit = halfDiagonal(SIZE);
    const slope = (finish: Finish, by: number): number => {
      const inputs = inputsFor({ finish } as never, { noise: { gain: 3e-5, read: 1e-5 } });
      const width = 40 * by;
      const view = { left: -20 / unit, top: 0, pixel: 1 / by / unit, width, height: 4 };
      const codes = rendered(source, inputs, view);
      const at = (x: number): number => codes[(width + x) * 3 + 1];
      // Over a pixel of the frame, whatever its size.
      return Math.max(...Array.from({ length: width - by }, (_, x) => at(x + by) - at(x)));
    };
    const gained = (by: number): number => slope({ sharpening: 60 }, by) / slope({}, by);
    expect(gained(1)).toBeGreaterThan(1.15);
    for (const by of [2, 4, 8]) expect(Math.abs(gained(by) / gained(1) - 1)).toBeLessThan(0.08);
    givePlanesBack(source);
  });

  it('tells finer structures from noise where a picture is smaller, whose noise is less', () => {
    // A step of a few deviations of the noise of a pixel.
    const source = blurredEdge(0.3, 0.325);
    const steepest = (finish: Finish, reduction: number): number => {
      const inputs = inputsFor({ finish: { radius: 3, ...finish } } as never, {
        noise: { gain: 6e-5, read: 0 }
      });
      const codes = rendered(source, inputs, wholeView(SIZE, reduction));
      const from = 60 * (SIZE.width / reduction);
      const steps = Array.from({ length: SIZE.width / reduction - 1 }, (_, x) => {
        const at = (from + x) * 3 + 1;
        return codes[at + 3] - codes[at];
      });
      return Math.max(...steps);
    };
    const gained = (by: number): number => steepest({ sharpening: 100 }, by) / steepest({}, by);
    expect(gained(1)).toBeLessThan(1.05);
    expect(gained(2)).toBeGreaterThan(1.5);
    givePlanesBack(source);
  });

  it('tells finer structures from noise where that was taken out before', () => {
    const source = blurredEdge(0.3, 0.328);
    const rise = (finish: Finish): number => {
      const codes = rendered(
        source,
        inputsFor({ finish } as never, { noise: { gain: 6e-5, read: 0 } })
      ).slice(60 * SIZE.width * 3, 61 * SIZE.width * 3);
      return Math.max(
        ...Array.from({ length: SIZE.width - 1 }, (_, x) => codes[x * 3 + 4] - codes[x * 3 + 1])
      );
    };
    const gained = (noise: number): number => rise({ noise, sharpening: 100 }) / rise({ noise });
    const [none, half, all] = [0, SENSORS_OWN / 2, SENSORS_OWN].map(gained);
    expect(none).toBeLessThan(1.02);
    expect(half).toBeGreaterThan(none + 0.05);
    expect(all).toBeGreaterThan(half + 0.1);
    givePlanesBack(source);
  });

  it.each(['contrast', 'deconvolving'])(
    'leaves black black where reading adds no noise: %s',
    (sharpeningKind) => {
      const source = paint((x) => (x < 300 ? [0, 0, 0] : [0.4, 0.4, 0.4]));
      const finish = { sharpening: 100, detail: 100, sharpeningKind } as Finish;
      const output = { sharpening: { radius: 1, amount: 0.5 } } as const;
      const inputs = inputsFor({ finish } as never, { noise: { gain: 1e-5, read: 0 } }, undefined, output);
      const codes = rendered(source, inputs);
      const at = (x: number): number => codes[(200 * SIZE.width + x) * 3 + 1];
      expect([at(100), at(298)]).toEqual([0, 0]);
      // What is no number would spread into what lies beside it.
      for (const x of [301, 302, 304, 320]) expect(at(x)).toBeGreaterThan(40000);
      givePlanesBack(source);
    }
  );

  it('undoes a blur alike however the picture is cut into tiles', () => {
    const random = seededRandom(8);
    const lines = Array.from({ length: 40 }, () => [
      random() * 600,
      random() * 400,
      random() * 6.3,
      random()
    ]);
    const source = paint((x, y) => {
      const light = lines.reduce(
        (sum, [cx, cy, angle, level]) =>
          sum + (level - 0.5) * Math.tanh((x - cx) * Math.cos(angle) + (y - cy) * Math.sin(angle)),
        0.5
      );
      const value = Math.min(0.9, Math.max(0.02, 0.5 + 0.05 * light));
      return [value, value, value];
    });
    const finish = { sharpening: 100, sharpeningKind: 'deconvolving', detail: 100, radius: 0.6 } as Finish;
    const whole = rendered(source, inputsFor({ finish } as never));
    expect(whole).not.toEqual(rendered(source, inputsFor({})));
    const view = wholeView();
    // Odd places and sizes: groups of four pixels lie elsewhere in each.
    const [left, top, width, height] = [131, 77, 205, 93];
    const cut = {
      ...{ left: view.left + left * view.pixel, top: view.top + top * view.pixel },
      ...{ pixel: view.pixel, width, height }
    };
    // What is left of another picture in the memory that is worked in must not be seen.
    const bright = paint(() => [0.9, 0.9, 0.9]);
    rendered(bright, inputsFor({ finish } as never), cut);
    givePlanesBack(bright);
    const part = rendered(source, inputsFor({ finish } as never), cut);
    let most = 0;
    for (let y = 0; y < height; y++)
      for (let i = 0; i < width * 3; i++)
        most = Math.max(
          most,
          Math.abs(part[y * width * 3 + i] - whole[((top + y) * SIZE.width + left) * 3 + i])
        );
    expect(most).toBeLessThan(8);
    givePlanesBack(source);
  });

  it('acts on the frame’s own pixels: at a third of its size there is nothing left to do', () => {
    const source = blurredEdge(0.05, 0.7);
    const small = (finish: Finish): Uint16Array =>
      rendered(source, inputsFor({ finish } as never), wholeView(SIZE, 5));
    expect(small({ sharpening: 100 })).toEqual(small({}));
    givePlanesBack(source);
  });
});

/** A frame of 24 MP, even, as its proxy would hold it. */
function even(light: number): PlacedPlanes {
  const planes = paint(() => [light, light, light], { width: 300, height: 200 });
  return { ...planes, scaleX: 300 / LARGE.width, scaleY: 200 / LARGE.height };
}

/** A part of a picture of a large frame: where it begins, in shares of it, and the pixels of the frame for one of the picture. */
const partOf = (left: number, top: number, reduction: number, width: number, height: number) => {
  const unit = halfDiagonal(LARGE);
  return {
    left: ((left - 0.5) * LARGE.width) / unit,
    top: ((top - 0.5) * LARGE.height) / unit,
    pixel: reduction / unit,
    width,
    height
  };
};

/** Linear light from codes of sRGB (IEC 61966-2-1). */
const linear = (code: number): number =>
  code <= 0.04045 * 65535 ? code / 65535 / 12.92 : ((code / 65535 + 0.055) / 1.055) ** 2.4;

describe('colours at the edge', () => {
  it('lose their strength there, and keep their light; in the middle they are as they were', () => {
    const red = paint(() => [0.4, 0.15, 0.1]);
    const at = (edgeColour: number, edge: number, x: number, y: number): number[] => {
      const out = rendered(
        red,
        inputsFor({ finish: { edgeColour, edge } } as never, { rendering: 'display' })
      );
      const i = (y * SIZE.width + x) * 3;
      return [0, 1, 2].map((c) => linear(out[i + c]));
    };
    const light = ([r, g, b]: number[]): number => 0.2126729 * r + 0.7151522 * g + 0.072175 * b;
    const [middle, corner] = [
      [300, 200],
      [2, 2]
    ];
    expect(at(-100, 0, middle[0], middle[1])).toEqual(at(0, 0, middle[0], middle[1]));
    const [r, g, b] = at(-100, 0, corner[0], corner[1]);
    expect(Math.max(r, g, b) / Math.min(r, g, b)).toBeLessThan(1.06);
    expect(light([r, g, b])).toBeCloseTo(light(at(0, 0, corner[0], corner[1])), 2);
    const half = at(-50, 0, corner[0], corner[1]);
    expect(half[0] / half[2]).toBeGreaterThan(1.4);
    expect(half[0] / half[2]).toBeLessThan(3);
    const strong = at(40, 0, corner[0], corner[1]);
    expect(strong[0] / strong[2]).toBeGreaterThan(4.5);
    // Beside the darkening, which it leaves as it is.
    expect(light(at(-100, -50, corner[0], corner[1]))).toBeCloseTo(
      light(at(0, -50, corner[0], corner[1])),
      2
    );
  });
});

describe('the edge', () => {
  const facts = { size: LARGE, rendering: 'display' } as const;
  const source = even(0.4);
  const light = (finish: Finish, x: number, y: number, more: object = {}): number => {
    const inputs = inputsFor({ finish, ...more } as never, facts);
    const unit = halfDiagonal(LARGE);
    const { crop } = inputs.plan;
    const view = {
      left: crop.x + (x * crop.width) / 2 - 4 / unit,
      top: crop.y + (y * crop.height) / 2 - 4 / unit,
      ...{ pixel: 1 / unit, width: 9, height: 9 }
    };
    return linear(rendered(source, inputs, view)[(4 * 9 + 4) * 3 + 1]) / 0.4;
  };

  it('is darker by the stops that are asked for in the corners, and untouched in the middle', () => {
    expect(light({ edge: -50 }, 0.99, -0.99)).toBeCloseTo(0.5, 1);
    expect(light({ edge: -50 }, 0, 0)).toBeCloseTo(1, 3);
    expect(light({ edge: 50 }, -0.99, 0.99)).toBeGreaterThan(1.8);
    expect(light({ inner: 50 }, 0, 0)).toBeCloseTo(Math.SQRT2, 2);
    expect(light({ inner: 50 }, 0.999, -0.999)).toBeCloseTo(1, 2);
    // The same for the first step of the slider.
    expect(light({ edge: -1 }, 0.999, 0.999)).toBeCloseTo(2 ** -0.02, 2);
  });

  it('follows the crop, its middle, and the shape that is asked for', () => {
    const crop = { enabled: true, ratio: '1:1', x: 0.3, y: 0, width: 0.5, height: 0.5 };
    expect(light({ edge: -50 }, 0.99, 0.99, { crop })).toBeCloseTo(light({ edge: -50 }, 0.99, 0.99), 1);
    // Off the middle, the far side is darker.
    expect(light({ edge: -50, edgeX: 60 }, -0.8, 0)).toBeLessThan(light({ edge: -50 }, -0.8, 0) - 0.03);
    // Nearly a rectangle darkens the middle of a side as it does the corner; an ellipse does not.
    const hard = { edge: -50, edgeReach: 20, edgeFeather: 50 };
    expect(light({ ...hard, edgeRound: 0 }, 0.97, 0)).toBeLessThan(0.6);
    expect(light({ ...hard, edgeRound: 100 }, 0.97, 0)).toBeGreaterThan(0.95);
  });

  it.each([
    [100, 90, 90, 0],
    [40, 90, 80, -25],
    [0, 80, 100, 30]
  ])(
    'of roundness %i rises along its superellipse, all the way',
    (edgeRound, edgeReach, edgeFeather, edgeX) => {
      const power = 2 * 8 ** (1 - edgeRound / 100);
      const corner = 2 ** (1 / power);
      const from = corner * (1 - edgeReach / 100);
      const width = ((corner - from) * edgeFeather) / 100;
      let between = 0;
      for (const [x, y] of [
        [0.1, 0.05],
        [0.5, -0.4],
        [-0.62, 0.3],
        [0.7, 0.7],
        [-0.4, -0.85],
        [0.93, 0.1]
      ]) {
        const radius = (Math.abs(x - edgeX / 100) ** power + Math.abs(y) ** power) ** (1 / power);
        const t = Math.min(1, Math.max(0, (radius - from) / width));
        const share = t * t * (3 - 2 * t);
        if (share > 0.05 && share < 0.95) between++;
        const gain = 2 ** (-1.2 * share + 0.2 * (1 - share));
        const seen = light({ edge: -60, inner: 20, edgeRound, edgeReach, edgeFeather, edgeX }, x, y);
        expect(seen, `${x} ${y}`).toBeGreaterThan(gain - 0.002);
        expect(seen, `${x} ${y}`).toBeLessThan(gain + 0.002);
      }
      expect(between).toBeGreaterThan(1);
    }
  );

  it('spares what is bright, and only that', () => {
    const bright = even(0.98);
    const inputs = (edgeSpare: number) => inputsFor({ finish: { edge: -50, edgeSpare } } as never, facts);
    const corner = partOf(0.002, 0.002, 1, 8, 8);
    const at = (planes: PlacedPlanes, spare: number): number =>
      linear(rendered(planes, inputs(spare), corner)[1]);
    expect(at(bright, 100)).toBeGreaterThan(0.95);
    expect(at(bright, 0)).toBeLessThan(0.6);
    expect(at(source, 100)).toBeCloseTo(at(source, 0), 3);
    givePlanesBack(bright);
  });

  it('is the same at 24 MP and at 1,200 pixels', () => {
    const inputs = inputsFor({ finish: { edge: -80, edgeFeather: 60, edgeX: 20 } } as never, facts);
    const small = rendered(source, inputs, partOf(0, 0, 5, 300, 200));
    const large = rendered(source, inputs, partOf(0, 0, 1, 1500, 1000));
    let worst = 0;
    for (let y = 0; y < 200; y++)
      for (let x = 0; x < 300; x++) {
        const at = ((y * 5 + 2) * 1500 + x * 5 + 2) * 3 + 1;
        worst = Math.max(worst, Math.abs(small[(y * 300 + x) * 3 + 1] - large[at]));
      }
    expect(worst / 65535).toBeLessThan(0.002);
  });
});

describe('grain', () => {
  const facts = { size: LARGE, rendering: 'display' } as const;
  const source = even(0.2);
  const grain = (finish: Finish, reduction: number, width: number, height: number): Float64Array => {
    const inputs = inputsFor({ finish: { grain: 50, ...finish } } as never, facts);
    const codes = rendered(source, inputs, partOf(0.4, 0.4, reduction, width, height));
    return Float64Array.from({ length: width * height }, (_, i) => linear(codes[i * 3 + 1]));
  };

  // Between two levels of its texture, and on one.
  it.each([
    [25, 4],
    [50, 5],
    [0, 3],
    [75, 6],
    [0, 7],
    [25, 7]
  ])('of size %i is the same at full size and reduced by %i', (grainSize, by) => {
    const [width, height] = [120, 80];
    const large = grain({ grainSize }, 1, width * by, height * by);
    const small = grain({ grainSize }, by, width, height);
    const reduced = Float64Array.from({ length: width * height }, (_, i) => {
      let sum = 0;
      for (let y = 0; y < by; y++)
        for (let x = 0; x < by; x++)
          sum += large[(Math.floor(i / width) * by + y) * width * by + (i % width) * by + x];
      return sum / by ** 2;
    });
    const ratio = deviationOf(small) / deviationOf(reduced);
    expect(ratio).toBeGreaterThan(0.87);
    expect(ratio).toBeLessThan(1.15);
    // Not only as strong: the same grains.
    const [a, b] = [small, reduced].map((values) => {
      const mean = meanOf(values);
      return values.map((value) => value - mean);
    });
    const shared = meanOf(a.map((value, i) => value * b[i])) / deviationOf(small) / deviationOf(reduced);
    expect(shared).toBeGreaterThan(0.7);
  });

  it('leaves black and white, and the mean between them', () => {
    for (const light of [0, 1]) {
      const planes = even(light);
      const inputs = inputsFor({ finish: { grain: 100 } } as never, facts);
      const codes = rendered(planes, inputs, partOf(0.4, 0.4, 1, 64, 64));
      const before = rendered(planes, inputsFor({}, facts), partOf(0.4, 0.4, 1, 64, 64));
      expect(Math.max(...codes.map((code, i) => Math.abs(code - before[i])))).toBeLessThan(70);
      givePlanesBack(planes);
    }
    expect(meanOf(grain({}, 1, 400, 300)) / 0.2).toBeCloseTo(1, 1);
    expect(deviationOf(grain({}, 1, 400, 300))).toBeGreaterThan(0.004);
  });

  it('does not show where a picture is cut into tiles', () => {
    const whole = grain({}, 1, 96, 64);
    const inputs = inputsFor({ finish: { grain: 50 } } as never, facts);
    const unit = halfDiagonal(LARGE);
    const view = partOf(0.4, 0.4, 1, 49, 30);
    const part = rendered(source, inputs, {
      ...view,
      left: view.left + 13 / unit,
      top: view.top + 21 / unit
    });
    for (const [x, y] of [
      [0, 0],
      [48, 29],
      [20, 11]
    ])
      expect(linear(part[(y * 49 + x) * 3 + 1])).toBeCloseTo(whole[(y + 21) * 96 + x + 13], 3);
  });
});

describe('a neutral Finish', () => {
  it('has no stage at work', () => {
    const source = paint((x, y) => [0.3 + 0.2 * Math.sin(x / 9), 0.3, 0.3 + 0.2 * Math.cos(y / 7)]);
    const of = (finish: object): Uint16Array => rendered(source, inputsFor({ finish } as never));
    const neutral = of({});
    const isNeutral = (finish: object): boolean => of(finish).every((code, i) => code === neutral[i]);
    expect(isNeutral({ enabled: false, sharpening: 80, edge: -50, inner: 20, grain: 60 })).toBe(true);
    expect(isNeutral({ radius: 3, edgeX: 50, grainSize: 90 })).toBe(true);
    for (const finish of [{ sharpening: 1 }, { edge: -1 }, { inner: 1 }, { grain: 1 }])
      expect(isNeutral(finish)).toBe(false);
    givePlanesBack(source);
  });
});

describe('sharpening of texture', () => {
  /** Waves of light, so many pixels long, both ways; far from noise. */
  const woven = (period: number): PlacedPlanes =>
    paint((x, y) => {
      const wave = Math.sin((2 * Math.PI * x) / period) * Math.sin((2 * Math.PI * y) / period);
      const value = 0.2 * 2 ** (0.25 * wave);
      return [value, value, value];
    });
  const contrast = (source: PlacedPlanes, finish: Finish, rendition?: 2): number =>
    deviationOf(
      rendered(source, inputsFor({ rendition, finish } as never, QUIET)).filter((_, i) => i % 3 === 1)
    );
  const QUIET = { noise: { gain: 1e-6, read: 1e-6 } };

  it('can be too much at 100, is plain at 50, and grows all the way', () => {
    const source = woven(3.2);
    const [before, ...after] = [0, 25, 50, 75, 100].map((sharpening) => contrast(source, { sharpening }));
    const gains = after.map((each) => each / before);
    gains.forEach((gain, i) => expect(gain).toBeGreaterThan(i === 0 ? 1.1 : gains[i - 1] + 0.1));
    expect(gains[1]).toBeGreaterThan(1.35);
    expect(gains[3]).toBeGreaterThan(1.9);
    // Frames that were finished before are held as they were.
    expect(contrast(source, { sharpening: 100 }, 2) / before).toBeLessThan(1.7);
    givePlanesBack(source);
  });

  it('acts on the finest alone with a radius of 0.3 pixels, and no less than with one', () => {
    const [fine, coarse] = [woven(2.4), woven(12)];
    const gain = (source: PlacedPlanes, radius: number): number =>
      contrast(source, { sharpening: 50, radius }) / contrast(source, {});
    expect(gain(fine, 0.3)).toBeGreaterThan(0.8 * gain(fine, 1));
    expect(gain(fine, 0.3)).toBeGreaterThan(1.3);
    expect(gain(coarse, 0.3)).toBeLessThan(gain(coarse, 1) - 0.1);
    [fine, coarse].forEach(givePlanesBack);
  });

  it('of both kinds is more than either, and has no more of a halo', () => {
    const source = woven(4);
    const kinds = (['contrast', 'deconvolving', 'both'] as const).map((sharpeningKind) =>
      contrast(source, { sharpening: 40, sharpeningKind, radius: 0.8 })
    );
    expect(kinds[2]).toBeGreaterThan(1.03 * Math.max(kinds[0], kinds[1]));
    const edge = blurredEdge(0.05, 0.7);
    const [plain, both] = [{}, { sharpening: 100, sharpeningKind: 'both' } as Finish].map((each) =>
      row(edge, each)
    );
    expect(Math.max(...both) - plain[350]).toBeLessThan(0.05 * (plain[350] - plain[250]));
    [source, edge].forEach(givePlanesBack);
  });
});
