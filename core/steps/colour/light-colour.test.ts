import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import { capture } from '../../../scenes/camera/capture.ts';
import { CAMERA_FROM_SRGB, WHITE_RESPONSE, XYZ_TO_CAMERA } from '../../../scenes/camera/colour.ts';
import { mosaicOf } from '../../../scenes/camera/mosaic-of.ts';
import { DEMO_FRAMES, setupAt } from '../../../scenes/demo-frames.ts';
import { lightScene } from '../../../scenes/take-frame.ts';
import { lightSeen } from '../../../scenes/trace/light-seen.ts';
import { type CameraWhite, whiteOfNeutral } from '../../optics/camera-white.ts';
import { REC2020_TO_XYZ, SRGB_TO_REC2020 } from '../../colour/primaries.ts';
import { giveLightBack, measureLight } from '../../measure/light/measure-light.ts';
import { IDENTITY, type Matrix3, apply, invert3, multiply } from '../../math/matrix3.ts';
import type { Vector3 } from '../../math/vector3.ts';
import { developBand } from '../../picture/raw/develop.ts';
import { neutrality } from '../../render/readings/neutrality.ts';
import { allocatePlanes, givePlanesBack, placeOn } from '../../picture/tile/planes.ts';
import { lightColour } from './light-colour.ts';

/** Long edge of the pictures. */
const EDGE = 600;
/** Rooms and fronts: by daylight, by lamps as well, under a closed sky, in the sun and after sunset. */
const FRAMES = ['SML_0121.dng', 'CPR_0018.dng', 'SML_0112.dng', 'CPR_0003.dng', 'CPR_0027.dng'];

const [RED, GREEN, BLUE] = WHITE_RESPONSE;
const TO_WORKING = multiply(
  SRGB_TO_REC2020,
  multiply(invert3(CAMERA_FROM_SRGB), [RED, 0, 0, 0, GREEN, 0, 0, 0, BLUE])
);

/** A grey card, in linear sRGB, in the light that the frame's surfaces truly have, in the middle of all of them. */
function trueGrey(seen: readonly Vector3[]): Vector3 {
  const middle = (c: number): number => {
    const logs = seen.map((light) => Math.log(light[c] / light[1])).filter(Number.isFinite);
    return Math.exp(logs.sort((a, b) => a - b)[logs.length >> 1]);
  };
  return [middle(0), 1, middle(2)];
}

/** Colours as the light of a frame has them. */
const laidOut = (colours: readonly Float32Array[], width: number): Parameters<typeof lightColour>[0] => ({
  width,
  height: colours[0].length / width,
  stops: Float32Array.from(colours[1], (green) => Math.log2(Math.max(1e-6, green))),
  colours: colours as unknown as Parameters<typeof lightColour>[0]['colours']
});

/** Correlated colour temperature of linear sRGB light, by McCamy (Color Research & Application 17, 1992). */
function mccamy(colour: Vector3): number {
  const [x, y, z] = apply(REC2020_TO_XYZ, apply(SRGB_TO_REC2020, colour));
  const n = (x / (x + y + z) - 0.332) / (0.1858 - y / (x + y + z));
  return 449 * n ** 3 + 3525 * n ** 2 + 6823.3 * n + 5520.33;
}

const CAMERA: CameraWhite = {
  neutral: [RED / GREEN, 1, BLUE / GREEN],
  matrices: [{ kelvin: 6504, xyzToCamera: XYZ_TO_CAMERA }]
};

interface Told {
  /** Temperatures of a grey card's light: as it truly is, and as the sensor's response to it tells. */
  kelvin: number;
  toldKelvin: number;
  asShot: number;
  byItself: number;
}

function tell(file: string): Told {
  const frame = DEMO_FRAMES.find((each) => each.file === file)!;
  const scene = frame.scene();
  // Less care for the light than where pictures are made: its colour is the same.
  const lit = lightScene({ ...scene, rays: Math.ceil(scene.rays / 3), texel: scene.texel * 2 });
  const setup = setupAt(frame, EDGE);
  const planes = allocatePlanes(setup.size.width, setup.size.height);
  developBand(mosaicOf(capture(lit, setup)), planes, 0, setup.size.height);
  const light = measureLight(placeOn(planes, setup.size), TO_WORKING);
  const [r, , b] = lightColour(light);
  giveLightBack(light);
  givePlanesBack(planes);
  const grey = trueGrey(lightSeen(lit, setup));
  const card = [apply(SRGB_TO_REC2020, grey)];
  const response = apply(CAMERA_FROM_SRGB, grey);
  const balance: Matrix3 = [1 / r, 0, 0, 0, 1, 0, 0, 0, 1 / b];
  return {
    kelvin: mccamy(grey),
    toldKelvin: whiteOfNeutral(CAMERA, response).kelvin,
    asShot: neutrality(card, IDENTITY)!.rms,
    byItself: neutrality(card, balance)!.rms
  };
}

describe('the colour of the light by itself', () => {
  let told: Told[] = [];
  beforeAll(() => {
    told = FRAMES.map(tell);
  });

  it('leaves true greys of five rooms and fronts little colour, and of none as much as could be called a cast', () => {
    for (const { byItself } of told) expect(byItself).toBeLessThan(6.5);
    expect(told.reduce((sum, { byItself }) => sum + byItself, 0) / told.length).toBeLessThan(4.5);
  });

  it('is named in kelvin as it truly is', () => {
    // McCamy’s formula holds for these; after sunset the light is bluer than any that it knows.
    const known = told.filter(({ kelvin }) => kelvin > 2800 && kelvin < 9000);
    expect(known.length).toBeGreaterThanOrEqual(4);
    for (const { kelvin, toldKelvin } of known) expect(Math.abs(toldKelvin - kelvin)).toBeLessThan(150);
  });

  it('comes nearer to them than the camera where that is far off', () => {
    for (const { asShot, byItself } of told.filter((each) => each.asShot > 4))
      expect(byItself).toBeLessThan(asShot * 0.55);
    expect(told.filter((each) => each.asShot > 4).length).toBeGreaterThan(2);
  });

  /** The colours of a picture, and what is told of its light. */
  const of = (colours: readonly Vector3[]): Vector3 =>
    lightColour(
      laidOut(
        [0, 1, 2].map((c) => Float32Array.from(colours, (rgb) => rgb[c])),
        colours.length
      )
    );
  const greys = Array.from({ length: 400 }, (_, i): Vector3 => {
    const light = 0.02 + (0.6 * ((i * 37) % 400)) / 400;
    return [light * 1.3, light, light * 0.75];
  });

  it('is that of greys, whatever the camera was set to', () => {
    const [r, g, b] = of(greys);
    expect(r).toBeCloseTo(1.3, 4);
    expect(g).toBe(1);
    expect(b).toBeCloseTo(0.75, 4);
  });

  it('hardly hears what is far from grey, clipped or black', () => {
    const strong = Array.from({ length: 400 }, (): Vector3 => [0.4, 0.13, 0.06]);
    const clipped = Array.from({ length: 400 }, (): Vector3 => [1.5, 1.2, 0.2]);
    const black = Array.from({ length: 400 }, (): Vector3 => [0.001, 0.003, 0.0001]);
    const [r, , b] = of([...greys, ...strong, ...clipped, ...black]);
    expect(Math.abs(r / 1.3 - 1)).toBeLessThan(0.03);
    expect(Math.abs(b / 0.75 - 1)).toBeLessThan(0.03);
    expect(of([...clipped, ...black])).toEqual([1, 1, 1]);
  });
});

/** Photographs of what the world holds, which come with packages of the system. */
const PHOTOGRAPHS = [
  '/usr/lib/python3/dist-packages/sklearn/datasets/images/china.jpg',
  '/usr/lib/python3/dist-packages/sklearn/datasets/images/flower.jpg',
  ...['Wine_by_Jakkub_Mede', 'Bridge_by_Sander_Klootwijk', 'seeding_by_Clements_Engelhardt'].map(
    (name) => `/usr/share/backgrounds/${name}.jpg`
  ),
  ...['greentock_by_Peter_Nerlich', 'life_by_Aitzol_Berasategi'].map(
    (name) => `/usr/share/backgrounds/${name}.jpg`
  )
];

describe('of real photographs under lights that are known', () => {
  /** What each light makes of the working colours. */
  const LIGHTS: Record<string, Vector3> = {
    lamps: [1.9, 1, 0.38],
    'warm lamps': [1.5, 1, 0.55],
    morning: [1.2, 1, 0.78],
    'as it was': [1, 1, 1],
    cloudy: [0.88, 1, 1.18],
    shade: [0.78, 1, 1.4],
    fluorescent: [1.12, 1, 0.62]
  };
  const linear = (code: number): number =>
    code <= 10.31 ? code / 255 / 12.92 : ((code / 255 + 0.055) / 1.055) ** 2.4;
  let pictures: Float32Array[][] = [];
  const widths: number[] = [];
  beforeAll(async () => {
    pictures = await Promise.all(
      PHOTOGRAPHS.map(async (path, n) => {
        const { data, info } = await sharp(path)
          .resize(384, 384, { fit: 'inside' })
          .removeAlpha()
          .raw()
          .toBuffer({ resolveWithObject: true });
        widths[n] = info.width;
        const planes = [0, 1, 2].map(() => new Float32Array(info.width * info.height));
        for (let i = 0; i < planes[0].length; i++) {
          const rgb = [0, 1, 2].map((c) => 0.9 * linear(data[i * 3 + c])) as Vector3;
          apply(SRGB_TO_REC2020, rgb).forEach((value, c) => (planes[c][i] = Math.max(0, value)));
        }
        return planes;
      })
    );
  });

  for (const [name, light] of Object.entries(LIGHTS))
    it(`leaves five degrees of grey in the mean, and fourteen at worst: ${name}`, () => {
      const most = Math.max(...light);
      const left = pictures.map((planes, i) => {
        const colours = planes.map((plane, c) => plane.map((value) => (value * light[c]) / most));
        const grey = lightColour(laidOut(colours, widths[i])).map((value, c) => light[c] / value);
        const length = Math.hypot(...grey);
        return (Math.acos((grey[0] + grey[1] + grey[2]) / length / Math.sqrt(3)) * 180) / Math.PI;
      });
      expect(left.reduce((sum, value) => sum + value, 0) / left.length).toBeLessThan(5);
      expect(Math.max(...left)).toBeLessThan(14);
    });
});
