/**
 * The kernels: what the module gives to the threads that share its memory. They take pmin and pmax, single instructions, in
 * place of min and max, which heed NaN and the sign of zero and are many.
 */
export * from './heap';
export { blurPlane } from './blur';
export { addScaled, boxMean, guidedLines, multiplyPlanes } from './box';
export { fillFromCodes, storeCodes } from './codes';
export { throughCube, throughCurves } from './cube';
export { developRows } from './develop';
export { describeMosaic } from './mosaic';
export { describeRoot } from './root';
export { splitRows } from './split';
export { addGrain, shadeRow } from './finish';
export { chromaOfHue, extremes, loseChroma, subtract, takeThin, toOklab } from './fringe';
export { mapIntoGamut } from './gamut';
export { blurLevels } from './deconvolve';
export { addGlow, keepBright } from './glow';
export { gradeColours } from './grade';
export { halve } from './halve';
export { countColours } from './histogram';
export { averageOnto, interleave, logLight, logRatio, relightRow } from './light';
export { addAtLight, detailRow, detailsAbout, enlarge, partAtEdges } from './local';
export { fromRootsApart, partScale, shrinkNoise, toRootsApart } from './noise';
export { packRgb8, packRgb16, packRgba8 } from './pack';
export {
  bendPlane,
  drawClipped,
  fadeToWhite,
  lookUpPlane,
  mixColours,
  multiplyBetween,
  scaleByLuminance,
  scaleByNorm
} from './pixels';
export { placeSource, resampleRows } from './resample';
export { sharpenLight, sharpenPlanes } from './sharpen';
export { copyRows, mixRows, weighLines, weighRow } from './mix';
export { tellApart, weighSide } from './tell-apart';
