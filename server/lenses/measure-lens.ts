/** Profiles measured here: from frames of a chart and of a flat surface. */
import { FULL_FRAME_HALF_DIAGONAL } from '../../core/optics/focal-length.ts';
import { calibrate } from '../../core/measure/chart/calibrate.ts';
import type { MeasuredChart } from '../../core/measure/chart/measure-chart.ts';
import type { FlatFit } from '../../core/measure/flat/fit-flat.ts';
import { halfDiagonal } from '../../core/math/frame-geometry.ts';
import { fitLateral } from '../../core/measure/lateral/fit-lateral.ts';
import type { LateralEdge } from '../../core/measure/lateral/measure-edges.ts';
import { type LensProfile, completeProfile } from '../../core/optics/profile.ts';
import type { Context } from '../context.ts';
import { UserError } from '../user-error.ts';
import { type FrameRow, frameById } from '../frames/frame-row.ts';
import { keepJson, keptJson } from '../originals/kept-json.ts';
import { readSingleEdges } from '../frames/frame-edges.ts';
import { originalOf } from '../originals/store-original.ts';
import { readOriginal } from '../render/read-original.ts';
import { inScope } from '../../core/picture/kernels/scope.ts';
import { developInPool } from '../render/linear-source.ts';
import { freeId, writeProfiles } from './catalogue.ts';
import { soundProfile } from './sound-profile.ts';

async function readyFrame(
  context: Context,
  id: string
): Promise<FrameRow & { facts: NonNullable<FrameRow['facts']> }> {
  const frame = await frameById(context, id);
  if (!frame?.facts || frame.state !== 'ready')
    throw new UserError('This frame is not ready to be measured.');
  return frame as FrameRow & { facts: NonNullable<FrameRow['facts']> };
}

/** Runs a measurement on a frame's full-size picture once; what it found is kept beside the proxy. */
async function measured<T>(context: Context, frame: FrameRow, what: 'chart' | 'flat'): Promise<T> {
  const file = `${what}.json`;
  const kept = await keptJson<T>(context, frame.sha256, file);
  if (kept) return kept;
  const { decoded } = await readOriginal(context.pool, originalOf(context.data, frame));
  const { planes } = await developInPool(decoded, context.pool, { clip: true });
  const found = await inScope(
    async ({ ownAll }) => (await context.pool.run({ planes: ownAll(planes) }, { name: what })) as T
  );
  await keepJson(context, frame.sha256, file, found);
  return found;
}

export interface FrameMeasurement {
  frame: string;
  /** Chart: how many corners; flat: falloff in the corners, in EV. */
  kind: 'chart' | 'flat';
  ok: boolean;
  said: string;
}

/** Looks at one frame as a chart or as a flat frame, and says what it shows. */
export async function measureFrame(
  context: Context,
  id: string,
  kind: 'chart' | 'flat'
): Promise<FrameMeasurement> {
  const frame = await readyFrame(context, id);
  if (kind === 'flat') {
    const fit = await measured<FlatFit>(context, frame, 'flat');
    const said = fit.ok
      ? `corners ${fit.corner.toFixed(2)} EV, fits within ${fit.residual.toFixed(3)} EV`
      : fit.reason;
    return { frame: frame.name, kind, ok: fit.ok, said };
  }
  const chart = await measured<MeasuredChart | null>(context, frame, 'chart');
  return {
    frame: frame.name,
    kind,
    ok: chart !== null,
    said: chart
      ? `${chart.kind === 'chessboard' ? 'chessboard' : 'line grid'}, ${chart.corners.length} corners`
      : 'No chart was found: a chessboard or a grid of lines must be seen whole, in focus, with at least four squares each way.'
  };
}

export interface MeasureRequest {
  charts: string[];
  flats: string[];
  maker: string;
  lens: string;
  /** Millimetres. */
  focalLength: number;
  save: boolean;
}

export interface MeasureResult {
  profile: LensProfile;
  saved: boolean;
  /** Residuals, in words for the user. */
  findings: string[];
  frames: FrameMeasurement[];
}

export const measureSchema = {
  $id: 'measure-lens',
  type: 'object',
  additionalProperties: false,
  required: ['charts', 'flats', 'maker', 'lens', 'focalLength', 'save'],
  properties: {
    charts: { type: 'array', maxItems: 60, items: { type: 'string' } },
    flats: { type: 'array', maxItems: 10, items: { type: 'string' } },
    maker: { type: 'string', maxLength: 100 },
    lens: { type: 'string', minLength: 1, maxLength: 200, pattern: '\\S' },
    focalLength: { type: 'number', exclusiveMinimum: 0, maximum: 2000 },
    save: { type: 'boolean' }
  }
};

/** Makes a profile from frames; refuses a poor one with the reason. */
export async function measureLens(context: Context, request: MeasureRequest): Promise<MeasureResult> {
  const { charts, flats, maker, lens, focalLength, save } = request;
  if (charts.length + flats.length === 0) throw new UserError('Choose the frames to measure from.');
  const findings: string[] = [];
  const frames: FrameMeasurement[] = [];
  const rows = await Promise.all([...charts, ...flats].map((id) => readyFrame(context, id)));
  const sensors = new Set(rows.map((row) => row.facts.sensorHalfDiagonal?.toFixed(2)));
  if (sensors.size > 1)
    throw new UserError(
      'The frames were taken with sensors of different sizes. Measure each camera by itself.'
    );
  const profile: LensProfile = completeProfile({
    id: await freeId(context, maker, lens, 'measured'),
    maker: maker.trim(),
    lens: lens.trim(),
    sensorHalfDiagonal: rows[0].facts.sensorHalfDiagonal ?? FULL_FRAME_HALF_DIAGONAL,
    note: `Measured here from ${charts.length} chart and ${flats.length} flat frames.`
  });
  if (charts.length > 0) {
    const views: MeasuredChart[] = [];
    const edges: LateralEdge[] = [];
    for (const id of charts) {
      const said = await measureFrame(context, id, 'chart');
      frames.push(said);
      if (!said.ok) continue;
      const frame = await readyFrame(context, id);
      views.push((await measured<MeasuredChart | null>(context, frame, 'chart'))!);
      edges.push(...(await readSingleEdges(context, frame.sha256)));
    }
    const unit = halfDiagonal(rows[0].facts.size);
    const found = calibrate(
      views.map((view) => view.corners),
      { pixel: 1 / unit }
    );
    if (!found.ok) throw new UserError(found.reason);
    profile.distortion.push({ focalLength, terms: found.terms, centre: found.centre });
    findings.push(
      `Distortion from ${views.length} frames: the corners fit within ${(found.rms * unit).toFixed(2)} px RMS ` +
        `(worst frame ${(Math.max(...found.views.map((view) => view.rms)) * unit).toFixed(2)} px); ` +
        `they reach ${(found.reach * 100).toFixed(0)} % of the way to the corners.`
    );
    const leftOut = found.views.reduce((sum, view) => sum + view.leftOut, 0);
    if (leftOut > 0)
      findings.push(
        leftOut === 1
          ? 'One corner fitted no lens, and was left out.'
          : `${leftOut} corners fitted no lens, and were left out.`
      );
    if (found.reach < 0.85)
      findings.push(
        'The outermost part is carried on from there: a frame with the chart in the corners would make it sure.'
      );
    const lateral = fitLateral(edges, unit);
    if (lateral.ok) {
      profile.lateral.push({ focalLength, red: [...lateral.lateral.red], blue: [...lateral.lateral.blue] });
      findings.push(`Lateral colour from ${lateral.edges} edges.`);
    } else findings.push(`No lateral colour: ${lateral.reason}`);
  }
  for (const id of flats) {
    const frame = await readyFrame(context, id);
    const fit = await measured<FlatFit>(context, frame, 'flat');
    frames.push(await measureFrame(context, id, 'flat'));
    if (!fit.ok) throw new UserError(`${frame.name}: ${fit.reason}`);
    profile.falloff.push({
      focalLength,
      ...(frame.facts.aperture ? { aperture: frame.facts.aperture } : {}),
      terms: fit.terms,
      red: fit.red,
      blue: fit.blue
    });
    findings.push(
      `Falloff from ${frame.name}: ${fit.corner.toFixed(2)} EV in the corners, fits within ${fit.residual.toFixed(3)} EV.`
    );
  }
  const sound = soundProfile(profile);
  if (save) await writeProfiles(context.db, [sound], 'measured');
  return { profile: sound, saved: save, findings, frames };
}
