/** A look as the first rendition laid it over the finished colours: what lies outside its range counts as its ends. */
import { lookStageOf } from '../../steps/colour/looks/look-stage.ts';

export const firstLookStage = lookStageOf('first-look', false);
