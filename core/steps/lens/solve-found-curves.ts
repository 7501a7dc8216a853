/**
 * A lens from edges that were found and may be anything: those that some bow makes straight are told from others, the terms
 * follow from them, and sectors of the picture are held out in turn to see whether the rest foretells them.
 */
import { jackknife } from '../../math/jackknife.ts';
import { type Curve, thinned } from '../../optics/curve.ts';
import { type LensModel, lensModel } from '../../optics/lens-model.ts';
import {
  type BestFit,
  type Fit,
  INDEPENDENT,
  NOISE,
  type SolveCurvesOptions,
  bends,
  fit,
  fitBest,
  rms
} from './fit-terms.ts';
import { type Judgement, judgeStraight, likeliestBow, spreadOf } from './judge-straight.ts';

/** Samples taken of each curve: judging takes many fits. */
const ROUGH_SAMPLES = 40;
const TELL_NOTHING =
  'Nothing was changed: the edges that were found do not tell a bow of the lens. Mark two or three edges by hand that are straight in truth.';

/** Edges that have to agree; parts of them that are held out in turn; and fewer than these were marked by hand. */
const FEWEST_FOUND = 5;
const FEWEST_JUDGED = 8;
/** Of edges marked by hand most are straight. */
const MARKED_RIGHT = 0.8;
const PARTS = 4;
/** How much more the held-out edges have to be explained, in nats, and how many of them straightened. */
const LEAST_GAIN = 6;
const LEAST_BETTER = 0.5;
/** And by a fuller model than by a plain bow. */
const FULLER_GAIN = 3;
/** A bow at the corner less certain than this, as a share of the radius and of itself, is none to undo. */
const MOST_ERROR = { least: 0.008, share: 0.2 };

interface Judged {
  ok: true;
  used: Curve[];
  found: BestFit;
  error: number | null;
}

/** Solves from found curves, most of which may be anything but straight. */
export function solveFoundCurves(
  curves: readonly Curve[],
  options: SolveCurvesOptions
): Judged | { ok: false; reason: string } {
  const noise = options.noise ?? NOISE;
  const rough = curves.map(({ points }) => thinned(points, ROUGH_SAMPLES));
  let spreads = rough.map((points) => spreadOf(points, noise));
  const shape = { projection: options.projection, focal: options.focal };
  const judge = (i: number, model: LensModel): Judgement =>
    judgeStraight(rough[i], model, { spread: spreads[i], noise });
  const modelOf = ({ terms, centre }: Pick<Fit, 'terms' | 'centre'>): LensModel =>
    lensModel({ ...shape, terms, centre });
  const all = curves.map((_, i) => i);
  const { bow } = likeliestBow((model) => all.reduce((sum, i) => sum + judge(i, model).log, 0), shape);
  // Samples that lie close together are not independent: the terms' usual sizes have to weigh against edges, not samples.
  const weighed = { ...options, noise: noise * Math.sqrt(ROUGH_SAMPLES / INDEPENDENT) };
  const straightWith = (model: LensModel): number[] => all.filter((i) => judge(i, model).straight > 0.5);
  const fitTo = (of: readonly number[]): BestFit =>
    fitBest(
      of.map((i) => rough[i]),
      weighed
    );
  let used = straightWith(modelOf({ terms: [0, bow], centre: [0, 0] }));
  const tooFew = { ok: false, reason: TELL_NOTHING } as const;
  const fewest = curves.length < FEWEST_JUDGED ? 2 : FEWEST_FOUND;
  if (used.length < fewest) return tooFew;
  let found = fitTo(used);
  for (let round = 0; round < 2; round++) {
    // As well as this picture's own edges are placed: sharp ones tell more.
    const placed = used.map((i) => rms(bends(rough[i], modelOf(found)))).sort((a, b) => a - b);
    const usual = Math.min(noise * 1.5, Math.max(noise / 4, 1.2 * placed[placed.length >> 1]));
    spreads = rough.map((points) => spreadOf(points, usual));
    used = straightWith(modelOf(found));
    if (used.length < fewest) return tooFew;
    found = fitTo(used);
  }
  if (curves.length < FEWEST_JUDGED)
    return used.length < MARKED_RIGHT * curves.length
      ? tooFew
      : { ok: true, used: used.map((i) => curves[i]), found, error: null };
  // Edges held out have to come out straighter than they were, by what the others say.
  const neutral = modelOf({ terms: [], centre: [0, 0] });
  const asItWas = all.map((i) => judge(i, neutral));
  const candidates = all.filter((i) => asItWas[i].straight > 0.05 || used.includes(i));
  // Parts are sectors about the middle: what hangs side by side, such as cables, has to be told by what stands elsewhere.
  const angleOf = (i: number): number => {
    const [x, y] = rough[i][rough[i].length >> 1];
    return Math.atan2(y, x);
  };
  const inOrder = [...candidates].sort((i, j) => angleOf(i) - angleOf(j));
  const partOf = (i: number): number => Math.floor((inOrder.indexOf(i) * PARTS) / inOrder.length);
  const heldOut = ({ powers, centreSolved }: BestFit) => {
    let [gain, better, told] = [0, 0, 0];
    const corners: number[] = [];
    for (let part = 0; part < PARTS; part++) {
      const rest = used.filter((i) => partOf(i) !== part);
      if (rest.length < 3) return null;
      const of = rest.map((i) => rough[i]);
      const without = fit(of, powers, centreSolved, weighed, found);
      corners.push(without.terms.reduce((sum, term) => sum + term, 0));
      const model = modelOf(without);
      for (const i of candidates.filter((each) => partOf(each) === part)) {
        const more = judge(i, model).log - asItWas[i].log;
        gain += Math.max(-4, Math.min(4, more));
        if (Math.abs(more) < 0.05) continue;
        told++;
        if (more > 0) better++;
      }
    }
    return { gain, better, told, ...jackknife(corners) };
  };
  let judged = heldOut(found);
  if (judged && (found.powers > 1 || found.centreSolved)) {
    // A fuller model has to foretell better, too: waves and a moved centre follow anything.
    const plain = {
      ...fit(
        used.map((i) => rough[i]),
        1,
        false,
        weighed,
        null
      ),
      powers: 1,
      centreSolved: false
    };
    const other = heldOut(plain);
    if (other && other.gain > judged.gain - FULLER_GAIN) [judged, found] = [other, plain];
  }
  if (!judged) return tooFew;
  const { gain, better, told, mean, error } = judged;
  const mostError = Math.max(MOST_ERROR.least, MOST_ERROR.share * Math.abs(mean));
  if (gain < LEAST_GAIN || better < LEAST_BETTER * told || error > mostError) return tooFew;
  return { ok: true, used: used.map((i) => curves[i]), found, error };
}
