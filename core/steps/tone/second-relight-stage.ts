/** Tone that looks about as the second rendition had it: what stood out by more than a quarter of a stop counted as an edge. */
import { SECOND_RENDITION } from '../../settings/rendition.ts';
import { PRESENT, relightStageOf } from './relight-stage.ts';

/** A distance, in stops, from which on what stands out is an edge. */
const EDGE = 0.25;

export const secondRelightStage = relightStageOf('second-relight', {
  ...PRESENT,
  rendition: SECOND_RENDITION,
  local: { mostDetail: [1.15, 1.1, 1.15], layered: true, held: [0, 1 / EDGE ** 2] }
});
