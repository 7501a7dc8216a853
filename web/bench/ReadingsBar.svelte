<!-- The readings bar: measured figures of the corrected picture, under the sheet. -->
<script lang="ts">
  import { FULL_FRAME_HALF_DIAGONAL } from '$core/optics/focal-length.ts';
  import { type ByItself, type Readings, SAMPLING_WARNING } from '$core/render/readings/measure.ts';
  import { angleText, straightText } from '$core/render/readings/reading-text.ts';
  import type { Bench } from './state/bench-state.svelte.ts';
  import { hint } from '../lib/hints/hint.ts';

  let { bench }: { bench: Bench } = $props();
  const readings = $derived(bench.readings);

  type Lines = Readings['plumb'];
  const angle = (lines: Lines, none: string): string => (lines ? angleText(lines) : none);
  const foundText = ({ found }: ByItself): string =>
    found ? ' Found by itself, as nothing is marked; ± is the standard error.' : '';
  const detail = (lines: Lines): string =>
    lines
      ? `${lines.count} ${lines.count === 1 ? 'line' : 'lines'}, worst ${lines.worst.toFixed(2)}°.${foundText(lines)}`
      : 'Draw lines in step 2 to measure this.';
  const FOCAL_WORDS = {
    file: 'as the file says',
    profile: 'from the lens profile',
    hand: 'set by hand',
    solved: 'solved from lines',
    assumed: 'assumed, as nothing tells it'
  };
  const proportionTitle = $derived(
    `How width against height is known. Focal length ${FOCAL_WORDS[bench.optics.focalFrom]}: ` +
      `${(bench.optics.focal * FULL_FRAME_HALF_DIAGONAL).toFixed(1)} mm in 36 × 24 mm terms.`
  );
  const light = (id: string | null): void => {
    bench.view.lit = id;
  };
</script>

<dl
  class="flex h-10 flex-none overflow-x-auto overflow-y-hidden border-t border-t-line border-b border-b-line bg-panel"
  aria-label="Readings"
>
  {#snippet reading(name: string, value: string, title: string, lit: string | null = null, warn = false)}
    <div
      class="flex-[1_1_auto] pt-0.75 px-3 pb-0 border-r border-r-soft leading-[1.25] whitespace-nowrap"
      class:none={value.startsWith('no ')}
      class:warn
      {...hint(title)}
      onpointerenter={() => light(lit)}
      onpointerleave={() => light(null)}
    >
      <dt class="text-xs text-faint">{name}</dt>
      <dd class="font-semibold text-[14px]" data-testid={`reading-${name.toLowerCase()}`}>{value}</dd>
    </div>
  {/snippet}
  {@render reading(
    'Plumb',
    angle(readings.plumb, 'no plumb lines yet'),
    detail(readings.plumb),
    readings.plumb?.worstId ?? null
  )}
  {@render reading(
    'Level',
    angle(readings.level, 'no level lines yet'),
    detail(readings.level),
    readings.level?.worstId ?? null
  )}
  {@render reading(
    'Straight',
    readings.straight ? straightText(readings.straight) : 'no edges yet',
    readings.straight
      ? `${readings.straight.curves.length} edges, worst ${Math.max(...readings.straight.curves.map((c) => c.rms)).toFixed(2)} px RMS.${foundText(readings.straight)}`
      : 'Mark edges that should be straight in step 1, Bow, to measure this.',
    readings.straight
      ? readings.straight.curves.reduce((worst, c) => (c.rms > worst.rms ? c : worst)).id
      : null
  )}
  {@render reading(
    'Fringe',
    bench.measured === null
      ? 'no edges yet'
      : readings.fringe
        ? `${readings.fringe.worst.toFixed(2)} px`
        : 'no clear edges',
    readings.fringe
      ? `Red ${readings.fringe.red.toFixed(2)} px, blue ${readings.fringe.blue.toFixed(2)} px against green, at ${readings.fringe.edges} edges of the outer third`
      : 'Red and blue against green at strong edges of the outer third'
  )}
  {@render reading(
    'Neutral',
    readings.neutral ? readings.neutral.rms.toFixed(1) : 'no grey yet',
    readings.neutral
      ? `Chroma of ${readings.neutral.places} ${readings.neutral.places === 1 ? 'place' : 'places'} picked as grey, worst ${readings.neutral.worst.toFixed(1)}`
      : 'Pick what should be grey in step 5, Balance, to measure this.'
  )}
  {@render reading(
    'Falloff',
    readings.falloff === null ? 'no profile' : `${(readings.falloff || 0).toFixed(2)} EV`,
    'Light left missing in the corners against the centre, from the profile'
  )}
  {@render reading(
    'Cover',
    `${readings.cover.toFixed(readings.cover === 100 ? 0 : 1)} %`,
    'Share of the crop that lies on real pixels',
    null,
    readings.cover < 100
  )}
  {@render reading(
    'Sampling',
    readings.sampling.toFixed(2),
    'Fewest source pixels for one output pixel, anywhere in the crop',
    null,
    readings.sampling < SAMPLING_WARNING
  )}
  {@render reading(
    'Proportion',
    readings.stretch === 0
      ? readings.proportion
      : `${readings.proportion}, height ${readings.stretch > 0 ? '+' : '−'}${Math.abs(readings.stretch).toFixed(1)} %`,
    readings.rectangle
      ? `${proportionTitle} The known rectangle is ${Math.abs(readings.rectangle.error).toFixed(2)} % too ${readings.rectangle.error > 0 ? 'wide' : 'narrow'}.`
      : proportionTitle
  )}
  {@render reading(
    'Output',
    `${bench.plan.output.width} × ${bench.plan.output.height}`,
    'Full size of the crop in pixels'
  )}
</dl>

<style>
  .none dd {
    font-weight: 400;
    font-size: 12px;
    color: var(--faint);
  }
  .warn dd::after {
    content: ' !';
    color: var(--accent);
  }
</style>
