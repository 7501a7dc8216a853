/** What the Lines step does to a frame: truing up, by itself or from marks, and the level tool. */
import type { Point } from '$core/math/frame-geometry.ts';
import { halfDiagonal } from '$core/math/frame-geometry.ts';
import { foundMarks } from '$core/steps/lines/found-marks.ts';
import { trueUpRecipe } from '$core/render/true-up.ts';
import { type FrameSetup, setupFrame } from '$core/steps/lens/frame-optics.ts';
import type { LensSettings } from '$core/steps/lens/step.ts';
import { type KnownRectangle, rectangleReading } from '$core/steps/lines/known-rectangle.ts';
import { nearerKind, rollForEdge } from '$core/steps/lines/level-by-edge.ts';
import type { Mark, MarkKind } from '$core/steps/lines/mark.ts';
import { type SolveOptions, solveRotation } from '$core/steps/lines/solve-rotation.ts';
import { type SolvedTogether, type TracedMark, solveTogether } from '$core/steps/lines/solve-together.ts';
import type { TrueUpItself } from '$core/steps/lines/true-up-itself.ts';
import { fieldToUpright } from '$core/picture/geometry/projection.ts';
import { type LinesSettings, linesSchema } from '$core/steps/lines/step.ts';
import type { Bench } from '../state/bench-state.svelte.ts';
import { linesView } from './lines-view.svelte.ts';

const solving = (bench: Bench): SolveOptions => ({
  focal: bench.optics.focal,
  model: bench.plan.projection.model,
  mode: linesView(bench).mode
});

/** Takes lines found by themselves in place of those found before, and trues up from them; nothing when none are sure. */
export function takeFoundLines(bench: Bench, found: TrueUpItself): void {
  const setup = (lens: LensSettings): FrameSetup => setupFrame(bench.facts, lens, bench.choice);
  const made = trueUpRecipe(found, { recipe: bench.recipe, mode: linesView(bench).mode, setup });
  linesView(bench).said = made.said;
  linesView(bench).chosen = [];
  linesView(bench).noLines = !made.ok;
  if (made.ok) bench.changeSteps(made.patch);
}

/** Shows found lines as marks without truing up. */
export function showFoundLines(bench: Bench, found: TrueUpItself): void {
  const { model } = bench.plan.projection;
  const marks = foundMarks(found, model, linesView(bench).mode);
  const drawn = bench.recipe.lines.marks.filter((mark) => !mark.found);
  linesView(bench).chosen = [];
  linesView(bench).said = found.ok
    ? `${found.said} Press a line to take it in or out.`
    : marks.length > 0
      ? 'Lines were found, but none is surely plumb. Choose some and say what they are.'
      : 'No lines were found. Draw them.';
  bench.change('lines', { marks: [...drawn, ...marks] });
}

/** Whether something of an angle is left undone. */
export const heldBack = ({ holdBackRoll, holdBackPitch, holdBackYaw }: LinesSettings): boolean =>
  holdBackRoll !== 0 || holdBackPitch !== 0 || holdBackYaw !== 0;

/** Undoes all of the turn, whatever was held back. */
export function makeFull(bench: Bench): void {
  bench.change('lines', { holdBackRoll: 0, holdBackPitch: 0, holdBackYaw: 0, heldByItself: 0 });
  linesView(bench).said = 'Nothing is held back.';
}

/** Trues up from the marks alone, with the lens as it is known. */
export function trueUpFromMarks(bench: Bench): void {
  const { marks } = bench.recipe.lines;
  const solution = solveRotation(marks, solving(bench));
  if (!solution.ok) linesView(bench).said = solution.reason;
  else {
    const sure = Math.max(...solution.solved.map((name) => solution.uncertainty[name] ?? 0));
    linesView(bench).said = [
      `Solved ${solution.solved.join(', ')} within ${Math.max(0.01, sure).toFixed(2)}°.`,
      ...solution.notices
    ].join(' ');
    bench.change('lines', { ...solution.angles, enabled: true });
  }
}

/** Takes over what was solved together, as one step of the history; of the angles, those that should become true. */
function takeTogether(bench: Bench, solved: SolvedTogether, withBow: boolean, forFront = false): void {
  if (!solved.ok) {
    linesView(bench).said = solved.reason;
    return;
  }
  const { mode } = linesView(bench);
  const angles = {
    ...solved.angles,
    pitch: mode === 'level' && !forFront ? 0 : solved.angles.pitch,
    yaw: mode === 'front' || forFront ? solved.angles.yaw : 0
  };
  const unit = halfDiagonal(bench.optics.size);
  const { projection } = bench.plan.projection.model;
  const said = ['Solved the rotation'];
  if (solved.focalError !== null)
    said.push(`the focal length within ${(solved.focalError * 100).toFixed(1)} %`);
  if (withBow)
    said.push(
      `the bow: ${(solved.before * unit).toFixed(1)} px are down to ${(solved.after * unit).toFixed(2)} px`
    );
  linesView(bench).said = `${said.join(', ')}.`;
  bench.changeSteps({
    lines: { ...angles, enabled: true },
    lens: {
      ...(solved.focalError === null ? {} : { solvedFocal: solved.focal }),
      ...(withBow
        ? {
            solved: { projection, terms: [...solved.terms], centre: [0, 0] as Point },
            distortion: 100,
            bow: 0,
            wave: 0,
            enabled: true
          }
        : {})
    }
  });
}

/** Trues up from marks with the focal length, the bow, or both solved as well. */
export function solveMarksTogether(bench: Bench, lines: readonly TracedMark[]): void {
  const { solveFocal, solveBow } = linesView(bench);
  const { focal, model } = solving(bench);
  const { roll, pitch, yaw } = bench.recipe.lines;
  const solved = solveTogether(lines, {
    focal,
    model,
    start: { roll, pitch, yaw },
    solveFocal,
    solveLens: solveBow,
    lensKnown: lensKnown(bench)
  });
  takeTogether(bench, solved, solveBow);
}

/** Whether the bow of the lens is known, from a profile or from edges. */
const lensKnown = ({ profile, recipe }: Bench): boolean =>
  (profile !== null && profile.distortion.length > 0) || recipe.lens.solved !== null;

/** Why the focal length is not to be solved, or null. */
export function focalTold({ facts, optics }: Bench): string | null {
  if (optics.focalFrom === 'file')
    return `The file tells it: ${facts.focalLength ?? facts.focalLength35} mm.`;
  if (optics.focalFrom === 'profile') return 'The lens profile tells it.';
  return optics.focalFrom === 'hand' ? 'It was set by hand in step 1.' : null;
}

/** Adds the edge that the level tool was drawn along, as what it is nearest to, and sets the roll from it. */
export function levelByEdge(bench: Bench, a: Point, b: Point): void {
  const { projection } = bench.plan;
  const [p, q] = [fieldToUpright(a, projection), fieldToUpright(b, projection)];
  if (!p || !q) return;
  const id = crypto.randomUUID().slice(0, 8);
  linesView(bench).edge = id;
  setRoll(bench, { id, kind: nearerKind(p, q), a, b });
}

/** Takes the edge last drawn for the other of plumb and level. */
export function flipEdge(bench: Bench): void {
  const mark = bench.recipe.lines.marks.find(({ id }) => id === linesView(bench).edge);
  if (mark) setRoll(bench, { ...mark, kind: mark.kind === 'plumb' ? 'level' : 'plumb' });
}

function setRoll(bench: Bench, mark: Mark): void {
  const { lines } = bench.recipe;
  const kind = mark.kind as 'plumb' | 'level';
  const roll = rollForEdge(mark.a, mark.b, kind, lines, bench.plan.projection);
  if (roll === null) {
    linesView(bench).said = `No roll within 45° makes this edge ${kind}.`;
    return;
  }
  linesView(bench).said = `Taken as ${kind}: roll ${roll.toFixed(2)}°.`;
  bench.change('lines', {
    marks: [...lines.marks.filter(({ id }) => id !== mark.id), mark],
    roll,
    enabled: true
  });
}

/** Nudges an angle from the keyboard, within its range. */
export function nudgeAngle(bench: Bench, name: 'roll' | 'pitch' | 'yaw', by: number): void {
  const { minimum, maximum } = linesSchema.properties[name];
  const value = Math.min(maximum, Math.max(minimum, bench.recipe.lines[name] + by));
  bench.change('lines', { [name]: Number(value.toFixed(4)), enabled: true });
}

/** Changes marks by their ids; `null` removes them. */
export function changeMarks(
  bench: Bench,
  ids: readonly string[],
  change: ((mark: Mark) => Mark) | null
): void {
  const { marks } = bench.recipe.lines;
  const next = change
    ? marks.map((mark) => (ids.includes(mark.id) ? change(mark) : mark))
    : marks.filter((mark) => !ids.includes(mark.id));
  if (!change) {
    linesView(bench).chosen = linesView(bench).chosen.filter((id) => !ids.includes(id));
    bench.view.lit = null;
  }
  bench.change('lines', { marks: next });
}

/** A mark taken out, or back in; what was nothing is taken in as what it is nearest to in the picture. */
export function takenInOrOut(bench: Bench, mark: Mark): Mark {
  const { out, ...rest } = mark;
  if (mark.kind === 'none') {
    const { projection } = bench.plan;
    const [p, q] = [fieldToUpright(mark.a, projection), fieldToUpright(mark.b, projection)];
    return p && q ? { ...rest, kind: nearerKind(p, q) } : mark;
  }
  return out ? rest : { ...rest, out: true };
}

/** A mark as another kind; what it was of other kinds no longer holds. */
export const retyped =
  (kind: MarkKind) =>
  ({ out: _out, recedes: _recedes, ...rest }: Mark): Mark => ({ ...rest, kind });

/** Makes the picture's proportions those of the known rectangle: by the focal length where it is not known, else by height. */
export function correctForRectangle(bench: Bench, rectangle: KnownRectangle): void {
  const { focal, model } = solving(bench);
  const { roll, pitch, yaw, stretch } = bench.recipe.lines;
  if (focalTold(bench) === null) {
    const lines = bench.recipe.lines.marks.map((mark) => ({ mark, points: [mark.a, mark.b] }));
    const start = { roll, pitch, yaw };
    const solved = solveTogether(lines, {
      focal,
      model,
      start,
      solveFocal: true,
      rectangle,
      lensKnown: lensKnown(bench)
    });
    takeTogether(bench, solved, false, true);
    return;
  }
  const reading = rectangleReading(rectangle, bench.plan.projection);
  if (!reading) return;
  const needed = ((1 + stretch / 100) * (1 + reading.error / 100) - 1) * 100;
  const { maximum } = linesSchema.properties.stretch;
  if (Math.abs(needed) > maximum) {
    linesView(bench).said =
      `It is off by ${reading.error.toFixed(0)} %, more than a height stretch should hide. True up the front first, and check the corners and the ratio.`;
    return;
  }
  linesView(bench).said = `Height changed by ${needed.toFixed(1)} %, so that the rectangle comes out right.`;
  bench.change('lines', { stretch: Number(needed.toFixed(3)), enabled: true });
}
