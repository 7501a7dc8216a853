/**
 * What areas do to light, before it is rendered: exposure and all of Tone that acts on a scene, and the balance of colours.
 * Tones are told by the light as the frame is exposed.
 */
import { STEPS, tabulate } from '../../colour/look-up-table.ts';
import { REC2020_TO_SRGB } from '../../colour/primaries.ts';
import type { Matrix3 } from '../../math/matrix3.ts';
import type { Falloff } from '../../optics/falloff.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import { kernels } from '../../picture/kernels/kernels.ts';
import { addresses } from '../../picture/tile/planes.ts';
import type { Ask } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { ReadingTile } from '../../picture/tile/tile.ts';
import { evenBalance } from '../colour/white-balance.ts';
import { relightStage } from '../tone/relight-stage.ts';
import { secondRelightStage } from '../tone/second-relight-stage.ts';
import { type ToneSettings, looksAbout, untouchedTone } from '../tone/step.ts';
import { bendingOf, gainOf, tonedLight } from '../tone/toned-light.ts';
import { RENDITION, type Rendition } from '../../settings/rendition.ts';
import { touchedSettings } from '../../settings/step.ts';
import { type Acting, type Change, actWithin } from './act-within.ts';
import { type Area, type AreasSettings, areaToneSchema, areasChanging } from './step.ts';

interface Given {
  plan: { falloff: Falloff | null };
  laid: Ask | null;
  recipe: { rendition: Rendition; areas: AreasSettings; tone: ToneSettings };
}

export interface LightData {
  rendition: Rendition;
  areas: readonly Pick<Area, 'id' | 'settings'>[];
  /** Stops by which the whole frame is exposed. */
  exposure: number;
  falloff: Falloff | null;
  /** The frame with what was laid into it, where something was: light is measured on it. */
  laid: Ask | null;
}

/** Light beyond this, in shares of white, is multiplied like it. */
const MOST_LIGHT = 8;
/** Settings of an area's tone that multiply a light by what it is. */
const BENDS = ['exposure', 'contrast', 'midtones', 'white', 'black'];
const OTHER_TONES = Object.keys(areaToneSchema.properties).filter((name) => !BENDS.includes(name));

const bends = ({ settings: { tone } }: LightData['areas'][number]): boolean =>
  touchedSettings(areaToneSchema, tone, OTHER_TONES).length > 0;
const balances = ({ settings: { colour } }: LightData['areas'][number]): boolean =>
  colour.warmth !== 0 || colour.tint !== 0;
const relights = ({ settings: { tone } }: LightData['areas'][number]): boolean =>
  looksAbout({ ...untouchedTone(), ...tone });

/** Areas of the first rendition were never rendered by it. */
const relightOf = (rendition: Rendition): typeof relightStage | typeof secondRelightStage =>
  rendition === RENDITION ? relightStage : secondRelightStage;

export const areaLightStage: PixelStage<'areaLight', Given, LightData> = {
  name: 'areaLight',
  kind: 'pixel',
  prepare({ plan: { falloff }, laid, recipe: { rendition, areas, tone } }) {
    const works = areasChanging(areas)
      .map(({ id, settings }) => ({ id, settings }))
      .filter((area) => bends(area) || balances(area) || relights(area));
    if (works.length === 0) return null;
    return { rendition, areas: works, exposure: tone.enabled ? tone.exposure : 0, falloff, laid };
  },
  reads: ({ rendition, areas, falloff, laid }) =>
    areas
      .filter(relights)
      .flatMap(({ settings }) =>
        relightOf(rendition).reads!({ settings: { ...untouchedTone(), ...settings.tone }, falloff, laid })
      ),
  begin: (tile, data, arena) =>
    actWithin(
      data.areas.map((area) => actingOf(area, data, tile, arena)),
      arena
    )
};

/** Settings of an area's tone that are no more than a factor. */
const bendsMore = ({ settings: { tone } }: LightData['areas'][number]): boolean =>
  touchedSettings(areaToneSchema, tone, ['exposure', ...OTHER_TONES]).length > 0;

function actingOf(
  area: LightData['areas'][number],
  { rendition, exposure, falloff, laid }: LightData,
  tile: ReadingTile,
  arena: Arena
): Acting {
  const { mixColours, scaleByNorm } = kernels();
  const tone: ToneSettings = { ...untouchedTone(), ...area.settings.tone };
  const changes: Change[] = [];
  if (relights(area))
    changes.push(relightOf(rendition).begin(tile, { settings: { ...tone, exposure }, falloff, laid }, arena));
  const balance = evenBalance(area.settings.colour);
  if (!bendsMore(area)) {
    const gain = 2 ** tone.exposure;
    return { id: area.id, changes, matrix: balance.map((each) => each * gain) as Matrix3 };
  }
  if (balances(area)) {
    const matrix = arena.addressOf(balance);
    changes.push((rows) => mixColours(...addresses(rows), rows.r.length, matrix, Infinity));
  }
  const toned = tonedLight(bendingOf(tone));
  const exposed = 2 ** exposure;
  const gain = gainOf((light) => toned(light * exposed) / exposed);
  const gains = arena.addressOf(tabulate((share) => gain(share * MOST_LIGHT)));
  const toSrgb = arena.addressOf(REC2020_TO_SRGB);
  changes.push((rows) => scaleByNorm(...addresses(rows), rows.r.length, toSrgb, gains, STEPS, MOST_LIGHT));
  return { id: area.id, changes };
}
