/** Answers to questions about the picture, from the proxy. */
import { countHues } from '$core/steps/colour/count-hues.ts';
import { lightColours } from '$core/steps/colour/light-colour.ts';
import { suggestCast } from '$core/steps/colour/suggest-cast.ts';
import { heldBands } from '$core/steps/tone/held-bands.ts';
import { suggestTone } from '$core/steps/tone/suggest-tone.ts';
import type { FrameLight } from '$core/measure/light/frame-light.ts';
import { type FrameSize, type Point, fieldToSensor, sensorToField } from '$core/math/frame-geometry.ts';
import { greyOf } from '$core/measure/edges/grey-of.ts';
import { longEdges } from '$core/measure/edges/long-edges.ts';
import { type GreyPlane, tracePolyline } from '$core/measure/edges/trace-polyline.ts';
import { lookForLines } from '$core/steps/lines/look-for-lines.ts';
import { hueAndChroma } from '$core/colour/oklab.ts';
import { apply } from '$core/math/matrix3.ts';
import { lookForDust } from '$core/steps/mend/dust/dust-patches.ts';
import { findFill } from '$core/steps/mend/fill/find-fill.ts';
import { findSource } from '$core/steps/mend/find-source.ts';
import { meanColour } from '$core/picture/tile/mean-colour.ts';
import type { PlacedPlanes } from '$core/picture/tile/planes.ts';
import type { Answers, OpenFrame, Question } from './messages.ts';

/** How far about a place its fringe colour is looked for, in proxy pixels. */
const PICK_REACH = 4;
/** The plane of each picture that edges are looked for on: they are asked for at every press. */
const greys = new WeakMap<PlacedPlanes, GreyPlane>();

function greyFor(planes: PlacedPlanes): GreyPlane {
  const grey = greys.get(planes) ?? greyOf(planes);
  greys.set(planes, grey);
  return grey;
}

/** Stops of the broad light at a field position. */
function baseAt({ width, height, bases, stops }: FrameLight, field: Point, size: FrameSize): number {
  const [x, y] = fieldToSensor(field, size);
  const column = Math.min(width - 1, Math.max(0, Math.floor((x * width) / size.width)));
  const row = Math.min(height - 1, Math.max(0, Math.floor((y * height) / size.height)));
  const i = row * width + column;
  return bases[i * 8] * stops[i] + bases[i * 8 + 4];
}

/** `lightOf`: the broad light of the frame, for questions that are answered by it. */
export function answerAbout(
  planes: PlacedPlanes,
  { size, toWorking }: OpenFrame,
  question: Exclude<Question, { kind: 'bake' | 'covered' }>,
  lightOf: () => FrameLight
): Answers[keyof Answers] {
  if (question.kind === 'base') return baseAt(lightOf(), question.at, size);
  if (question.kind === 'hues') return countHues(lightOf(), question.matrix);
  if (question.kind === 'cast') return suggestCast(lightOf(), question.matrix);
  if (question.kind === 'bands') return heldBands(lightOf());
  if (question.kind === 'white') return lightColours(lightOf());
  if (question.kind === 'tone') return suggestTone(lightOf(), question.tone, question.asked);
  if (question.kind === 'source') return findSource(planes, question.region, size, question.others);
  if (question.kind === 'fill') return findFill(planes, question.region, size, question);
  if (question.kind === 'dust') return lookForDust({ planes, size, before: question.others, known: null });
  const toProxy = (field: Point): Point => {
    const [x, y] = fieldToSensor(field, size);
    return [(x - planes.originX) * planes.scaleX, (y - planes.originY) * planes.scaleY];
  };
  const toField = ([x, y]: Point): Point =>
    sensorToField([x / planes.scaleX + planes.originX, y / planes.scaleY + planes.originY], size);
  if (question.kind === 'trace')
    return tracePolyline(greyFor(planes), question.polyline.map(toProxy)).map(toField);
  if (question.kind === 'find') return longEdges(greyFor(planes), toField).map(({ points }) => points);
  if (question.kind === 'lines') return lookForLines(greyFor(planes), { ...question, toField });
  if (question.kind === 'colour') return meanColour(planes, question.at, size, toWorking);
  const [cx, cy] = toProxy(question.at).map(Math.floor);
  let best = { hue: 0, chroma: 0 };
  for (let y = Math.max(0, cy - PICK_REACH); y <= Math.min(planes.height - 1, cy + PICK_REACH); y++) {
    for (let x = Math.max(0, cx - PICK_REACH); x <= Math.min(planes.width - 1, cx + PICK_REACH); x++) {
      const at = y * planes.width + x;
      const found = hueAndChroma(apply(toWorking, [planes.r[at], planes.g[at], planes.b[at]]));
      if (found.chroma > best.chroma) best = found;
    }
  }
  return best;
}
