import { differenceCiede2000 } from 'culori';
import { describe, expect, it } from 'vitest';
import { parseCube, writeCube } from '../steps/colour/looks/cube-file.ts';
import { bakeLook } from './bake-look.ts';
import { type Rgb, inputsFor, paint, rendered } from './painted-frame.ts';

const difference = differenceCiede2000();

describe('a look written from a recipe', () => {
  const source = paint((x, y): Rgb => {
    const [u, v] = [x / 600, y / 400];
    return [0.02 + 0.7 * u, 0.05 + 0.6 * v, 0.5 * (1 - u) + 0.1 * v];
  });
  const recipe = {
    tone: {
      contrast: 35,
      midtones: -20,
      black: -10,
      curve: [
        { x: 0.3, y: 0.25 },
        { x: 0.7, y: 0.78 }
      ]
    },
    colour: {
      warmth: 25,
      saturation: 15,
      hues: [{ at: 30, hue: 8, chroma: 30, light: -10 }],
      zoneShadows: { hue: 250, chroma: 20, light: 0, saturation: 0 }
    }
  };

  for (const rendering of ['scene', 'display'] as const)
    it(`makes the same picture of a ${rendering === 'scene' ? 'raw' : 'finished'} one, within half a ΔE`, () => {
      const own = inputsFor(recipe, { rendering });
      const look = parseCube(writeCube(bakeLook(own.stages, rendering, 'Mine')), 'x.cube', 'srgb');
      expect(look).toMatchObject({ name: 'Mine', size: 33 });
      const wanted = rendered(source, own);
      const laid = inputsFor({ colour: { look: 'mine' } }, { rendering });
      const out = rendered(source, laid, undefined, undefined, look);
      const plain = rendered(source, inputsFor({}, { rendering }));
      const colour = (of: Uint16Array, i: number) => ({
        mode: 'rgb' as const,
        r: of[i] / 65535,
        g: of[i + 1] / 65535,
        b: of[i + 2] / 65535
      });
      let [sum, worst, changed, count] = [0, 0, 0, 0];
      for (let i = 0; i < out.length; i += 3 * 101, count++) {
        const apart = difference(colour(out, i), colour(wanted, i));
        sum += apart;
        worst = Math.max(worst, apart);
        changed += difference(colour(plain, i), colour(wanted, i));
      }
      expect(changed / count).toBeGreaterThan(4);
      expect(sum / count).toBeLessThan(0.5);
      expect(worst).toBeLessThan(4);
    });

  it('has nothing of what acts on places', () => {
    const places = {
      ...recipe,
      tone: { ...recipe.tone, shadows: 40, fine: 30 },
      finish: { sharpening: 80, glow: 60, edge: -80, grain: 70, noise: 50 },
      lens: { fringeOne: 50 },
      areas: {
        shapes: [
          { id: 's', parts: [{ id: 'p', kind: 'radial', meets: 'add', centre: [0, 0], across: 9, down: 9 }] }
        ],
        list: [
          { id: 'a', shape: 's', settings: { tone: { exposure: 2 }, finish: { sharpening: 50, glow: 50 } } }
        ]
      }
    } as never;
    const [placed, alone] = [places, recipe].map((each) =>
      bakeLook(inputsFor(each, { rendering: 'scene' }).stages, 'scene', 'Mine')
    );
    expect(placed.values).toEqual(alone.values);
  });
});
