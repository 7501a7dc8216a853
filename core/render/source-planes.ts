/**
 * Runs the stages on developed planes, before the one resampling. A part of the picture is made from what each stage needs of
 * the one before it; a whole picture at once, or in bands.
 */
import { type PlacedPlanes, givePlanesBack } from '../picture/tile/planes.ts';
import { type SensorRectangle, takePart, wholeSensor } from '../picture/tile/sensor-rectangle.ts';
import { type AnySource, SOURCE_STAGES, type StageInputs } from './stages.ts';

/** What the source stages with something to do work by, run after run in their order: plain data. */
export type SourceInputs = readonly { stage: string; data: unknown }[];

export const sourceInputs = (stages: StageInputs, list = SOURCE_STAGES): SourceInputs =>
  list.flatMap(({ name }) => {
    const runs = ((stages as Record<string, unknown>)[name] ?? []) as readonly unknown[];
    return runs.map((data) => ({ stage: name, data }));
  });

function stageOf(name: string, list: readonly AnySource[]): AnySource {
  const found = list.find((stage) => stage.name === name);
  if (!found) throw new Error(`There is no source stage "${name}".`);
  return found;
}

/** All rectangles of the developed picture that one is made from, itself first. */
export function rectanglesFor(
  made: SensorRectangle,
  inputs: SourceInputs,
  list = SOURCE_STAGES
): SensorRectangle[] {
  const last = inputs.at(-1);
  if (!last) return [made];
  const needed = [made, ...stageOf(last.stage, list).needs(made, last.data)];
  return needed.flatMap((each) => rectanglesFor(each, inputs.slice(0, -1), list));
}

/**
 * A rectangle of the picture after the source stages. `read` lends planes about a rectangle, as they came; what is returned
 * is the caller's to give back, unless there is no stage and it is lent as well.
 */
export function changedPart(
  made: SensorRectangle,
  inputs: SourceInputs,
  read: (rectangle: SensorRectangle) => PlacedPlanes,
  list = SOURCE_STAGES
): PlacedPlanes {
  const last = inputs.at(-1);
  if (!last) return read(made);
  const before = inputs.slice(0, -1);
  const stage = stageOf(last.stage, list);
  const patches: PlacedPlanes[] = [];
  try {
    for (const each of [made, ...stage.needs(made, last.data)])
      patches.push(changedPart(each, before, read, list));
    const out = takePart(patches[0], made);
    try {
      stage.apply(patches, out, last.data);
      return out;
    } catch (error) {
      givePlanesBack(out);
      throw error;
    }
  } finally {
    if (before.length > 0) patches.forEach(givePlanesBack);
  }
}

/** Rows [from, to) of a whole picture after one stage, into planes of its size. */
export function changeRows(
  source: PlacedPlanes,
  out: PlacedPlanes,
  { stage, data }: SourceInputs[number],
  from: number,
  to: number,
  list = SOURCE_STAGES
): void {
  const { width } = out;
  const rows = (plane: Float32Array): Float32Array => plane.subarray(from * width, to * width);
  const band: PlacedPlanes = {
    ...out,
    r: rows(out.r),
    g: rows(out.g),
    b: rows(out.b),
    height: to - from,
    originY: out.originY + from / out.scaleY
  };
  const made: SensorRectangle = {
    left: out.originX,
    top: band.originY,
    right: out.originX + width / out.scaleX,
    bottom: out.originY + to / out.scaleY
  };
  const found = stageOf(stage, list);
  // The whole picture holds whatever is needed of it.
  const patches = [source, ...found.needs(made, data).map(() => source)];
  found.apply(patches, band, data);
}

/** A whole picture after all source stages; the caller's to give back, while the given one stays. */
export function changedPicture(
  source: PlacedPlanes,
  inputs: SourceInputs,
  list = SOURCE_STAGES
): PlacedPlanes {
  const size = { width: source.width / source.scaleX, height: source.height / source.scaleY };
  return changedPart(wholeSensor(size), inputs, () => source, list);
}
