/** Property tests draw fewer samples while the code is changed on purpose: there are hundreds of changes to be tried. */
import fc from 'fast-check';

const MOST = 20;
const assert = fc.assert.bind(fc) as (property: never, parameters?: object) => unknown;
fc.assert = ((property: never, parameters: { numRuns?: number } = {}) =>
  assert(property, {
    ...parameters,
    numRuns: Math.min(parameters.numRuns ?? MOST, MOST)
  })) as typeof fc.assert;
