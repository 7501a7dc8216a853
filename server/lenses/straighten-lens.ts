/** A lens profile from the edges of a job's own frames: one record for each focal length. */
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import { halfDiagonal } from '../../core/math/frame-geometry.ts';
import type { FrameFacts } from '../../core/optics/frame-facts.ts';
import { type LensProfile, completeProfile } from '../../core/optics/profile.ts';
import { type FrameCurves, type LensOfFrames } from '../../core/steps/lens/solve-lens-frames.ts';
import { edgeNoise } from '../../core/steps/lens/straighten.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { frameCurves } from '../frames/frame-curves.ts';
import { type FrameRow, frameById } from '../frames/frame-row.ts';
import { giveProfile } from './apply-lens.ts';
import { freeId, writeProfiles } from './catalogue.ts';
import { soundProfile } from './sound-profile.ts';

export const MOST_FRAMES = 60;

export interface StraightenRequest {
  frames: string[];
  maker: string;
  lens: string;
  /** Millimetres, of frames whose files do not say; null where all do. */
  focalLength: number | null;
  /** Whether the profile is stored, and given to the frames. */
  save: boolean;
}

export const straightenSchema = {
  $id: 'straighten-lens',
  type: 'object',
  additionalProperties: false,
  required: ['frames', 'maker', 'lens', 'focalLength', 'save'],
  properties: {
    frames: { type: 'array', maxItems: 5000, items: { type: 'string' } },
    maker: { type: 'string', maxLength: 100 },
    lens: { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' },
    focalLength: { type: ['number', 'null'], exclusiveMinimum: 0, maximum: 2000 },
    save: { type: 'boolean' }
  }
};

export interface StraightenedFrame {
  id: string;
  name: string;
  ok: boolean;
  /** What its edges say, in words. */
  said: string;
}

export interface StraightenResult {
  profile: LensProfile;
  saved: boolean;
  /** Frames that have it now. */
  given: number;
  findings: string[];
  frames: StraightenedFrame[];
}

type Ready = FrameRow & { facts: FrameFacts };

async function readyFrames(context: Context, ids: readonly string[]): Promise<Ready[]> {
  const wanted = [...new Set(ids)];
  if (wanted.length < 2) throw new UserError('Choose two frames or more that were taken with one lens.');
  if (wanted.length > MOST_FRAMES)
    throw new UserError(
      `${wanted.length} frames are more than it takes. Choose up to ${MOST_FRAMES} of them, those with the most straight edges near their borders.`
    );
  const rows = await Promise.all(wanted.map((id) => frameById(context, id)));
  return rows.map((row) => {
    if (!row?.facts || row.state !== 'ready')
      throw new UserError('One of the frames is not ready, or is gone. Choose the frames again.');
    return row as Ready;
  });
}

/** Refuses what cannot be one lens, by what the files say. */
function checkAlike(rows: readonly Ready[]): void {
  const names = [...new Set(rows.flatMap(({ facts }) => (facts.lens ? [facts.lens] : [])))];
  if (names.length > 1)
    throw new UserError(
      `These frames were taken with ${names.length} lenses: ${names.slice(0, 4).join('; ')}. Choose frames of one of them.`
    );
  const sensors = new Set(rows.map(({ facts }) => facts.sensorHalfDiagonal?.toFixed(2)));
  if (sensors.size > 1)
    throw new UserError(
      'The frames were taken with sensors of different sizes. Straighten the lens on each camera by itself.'
    );
}

function byFocalLength(rows: readonly Ready[], told: number | null): Map<number, Ready[]> {
  const groups = new Map<number, Ready[]>();
  for (const row of rows) {
    const focal = row.facts.focalLength ?? told;
    if (!focal)
      throw new UserError(`${row.name} does not say its focal length. Give it, as engraved on the lens.`);
    groups.set(focal, [...(groups.get(focal) ?? []), row]);
  }
  return new Map([...groups].sort(([a], [b]) => a - b));
}

const saysOf = (rows: readonly Ready[], { frames }: LensOfFrames): StraightenedFrame[] =>
  rows.map(({ id, name, facts }, i) => {
    const { used, found, before, after, other } = frames[i];
    const unit = halfDiagonal(facts.size);
    const px = (value: number): string => `${(value * unit).toFixed(2)} px`;
    const said = other
      ? 'says another lens, and was left out'
      : used === 0
        ? `no use: none of ${found} edges counts`
        : `${px(before)} → ${px(after)}, ${used} of ${found} edges`;
    return { id, name, ok: !other && used > 0, said };
  });

/** Makes a profile from the edges of frames, and gives it to them where it is stored; refuses a poor one with the reason. */
export async function straightenLens(
  context: Context,
  { frames: ids, maker, lens, focalLength, save }: StraightenRequest
): Promise<StraightenResult> {
  const rows = await readyFrames(context, ids);
  checkAlike(rows);
  const findings: string[] = [];
  const frames: StraightenedFrame[] = [];
  const profile = completeProfile({
    id: await freeId(context, maker, lens, 'measured'),
    maker: maker.trim(),
    lens: lens.trim(),
    sensorHalfDiagonal: rows[0].facts.sensorHalfDiagonal ?? FULL_FRAME_HALF_DIAGONAL,
    note: `Straightened here by the edges of ${rows.length} frames.`
  });
  for (const [focal, group] of byFocalLength(rows, focalLength)) {
    const curves = await Promise.all(
      group.map(async (row): Promise<FrameCurves> => ({
        id: row.id,
        curves: await frameCurves(context, row),
        noise: 2.5 * edgeNoise(row.facts.size)
      }))
    );
    const found = (await context.pool.run({ frames: curves }, { name: 'lensOfFrames' })) as LensOfFrames;
    frames.push(...saysOf(group, found));
    if (!found.ok) {
      const others = found.frames.flatMap(({ other }, i) => (other ? [group[i].name] : []));
      const named = others.length > 0 ? ` Those that differ: ${others.join(', ')}.` : '';
      throw new UserError(`At ${focal} mm: ${found.reason}${named}`);
    }
    profile.distortion.push({ focalLength: focal, terms: found.terms, centre: found.centre });
    const unit = Math.max(...group.map(({ facts }) => halfDiagonal(facts.size)));
    const px = (value: number): string => `${(value * unit).toFixed(2)} px`;
    const edges = found.frames.reduce((sum, { used }) => sum + used, 0);
    findings.push(
      `At ${focal} mm: bows of ${px(found.before)} are down to ${px(found.after)}, from ${edges} edges of ` +
        `${found.frames.filter(({ used }) => used > 0).length} frames; the corner is told within ±${px(found.error)}.`
    );
    if (found.reach < 0.8)
      findings.push(
        `The edges reach ${(found.reach * 100).toFixed(0)} % of the way to the corners: a frame with edges in the corners would make the rest sure.`
      );
  }
  const sound = soundProfile(profile);
  let given = 0;
  if (save) {
    await writeProfiles(context.db, [sound], 'measured');
    for (const job of new Set(rows.map((row) => row.job_id))) {
      const own = rows.filter(
        ({ job_id, id }) => job_id === job && frames.find((each) => each.id === id)?.ok
      );
      if (own.length > 0)
        given += (
          await giveProfile(
            context,
            job,
            own.map(({ id }) => id),
            sound.id
          )
        ).frames;
    }
  }
  return { profile: sound, saved: save, given, findings, frames };
}
