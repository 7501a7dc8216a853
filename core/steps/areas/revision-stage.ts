/**
 * Another revision of the frame through a shape: its tone and colours, from the light as it came, in place of those of the
 * picture. Both share the geometry, and the stages by which a picture leaves.
 */
import type { Falloff } from '../../optics/falloff.ts';
import type { Rendering } from '../../optics/frame-facts.ts';
import type { Arena } from '../../picture/kernels/arena.ts';
import type { Ask } from '../../picture/tile/resource.ts';
import type { PixelStage } from '../../picture/tile/stage.ts';
import type { ReadingTile } from '../../picture/tile/tile.ts';
import { FIRST_RENDITION, SECOND_RENDITION, type Rendition } from '../../settings/rendition.ts';
import { type BalanceFacts, balanceStage } from '../colour/balance-stage.ts';
import { gradeStage } from '../colour/grade-stage.ts';
import { lookStage } from '../colour/looks/look-stage.ts';
import { relightStage } from '../tone/relight-stage.ts';
import { secondRelightStage } from '../tone/second-relight-stage.ts';
import { toneStage } from '../tone/stage.ts';
import { type Change, actWithin } from './act-within.ts';
import { type Area, type AreasSettings, areasAtWork } from './step.ts';

interface Given {
  facts: BalanceFacts & { rendering: Rendering };
  plan: { falloff: Falloff | null };
  laid: Ask | null;
  recipe: { rendition: Rendition; areas: AreasSettings };
}

/** The stages of a development, in their order. */
const STAGES = [relightStage, secondRelightStage, balanceStage, toneStage, gradeStage, lookStage] as const;
/** What each of them works by; null: nothing to do. */
type StageData = readonly (object | null)[];

export interface RevisionData {
  areas: readonly { id: string; stages: StageData }[];
}

const developed = (
  { facts, plan, laid, recipe: { rendition: given } }: Given,
  { settings }: NonNullable<Area['revision']>
): StageData => {
  // Areas of the first rendition were never rendered by it.
  const rendition = given === FIRST_RENDITION ? SECOND_RENDITION : given;
  return STAGES.map((stage) => stage.prepare({ facts, plan, laid, recipe: { rendition, ...settings } }));
};

const changesOf = (stages: StageData, tile: ReadingTile, arena: Arena): Change[] =>
  STAGES.flatMap((stage, i) => {
    const data = stages[i];
    return data === null ? [] : [stage.begin(tile, data as never, arena)];
  });

export const areaRevisionStage: PixelStage<'areaRevision', Given, RevisionData> = {
  name: 'areaRevision',
  kind: 'pixel',
  prepare(given) {
    const areas = areasAtWork(given.recipe.areas).flatMap(({ area: { id, revision } }) =>
      revision ? [{ id, stages: developed(given, revision) }] : []
    );
    return areas.length === 0 ? null : { areas };
  },
  reads: ({ areas }) =>
    areas.flatMap(({ stages }) =>
      STAGES.flatMap((stage, i): readonly Ask[] => {
        const data = stages[i];
        return data === null ? [] : (stage.reads?.(data as never) ?? []);
      })
    ),
  begin: (tile, { areas }, arena) =>
    actWithin(
      areas.map(({ id, stages }) => ({ id, changes: changesOf(stages, tile, arena) })),
      arena,
      (rows) => rows.asCame ?? rows
    )
};
