/** White by itself on rooms and fronts of the demo camera, whose true light is known. */
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
import { lightColours } from './light-colour.ts';

/** Long edge of the pictures. */
const EDGE = 600;
/** Rooms and fronts: by daylight, by lamps as well, under a closed sky, in the sun and after sunset. */
const FRAMES = [
  'SML_0121.dng',
  'CPR_0018.dng',
  'SML_0112.dng',
  'CPR_0003.dng',
  'CPR_0027.dng',
  'CPR_0021.dng'
];

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
  /** The other of two lights, blue against red, less that of the one that was set. */
  other: number | null;
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
  const { light: found, other } = lightColours(light);
  const [r, , b] = found;
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
    byItself: neutrality(card, balance)!.rms,
    other: other && Math.log(other[2] / other[0]) - Math.log(b / r)
  };
}

describe('the colour of the light of rooms and fronts by itself', () => {
  let told: Told[] = [];
  beforeAll(() => {
    told = FRAMES.map(tell);
  });

  it('leaves true greys of six rooms and fronts little colour, and of none as much as could be called a cast', () => {
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

  it('is said to be two where lamps and the last of the day are, and one in the sun or under clouds', () => {
    const [, , clouds, sun, evening, lawn] = told;
    expect(evening.other).toBeLessThan(-1);
    for (const { other } of [clouds, sun, lawn]) expect(other).toBeNull();
  });

  it('is not taken for the sky’s where there is hardly anything but sky and lawn', () => {
    const lawn = told[5];
    // Balanced for the sky it would be a fifth of the way round to mustard: fifteen and more.
    expect(lawn.byItself).toBeLessThan(6.5);
  });
});
