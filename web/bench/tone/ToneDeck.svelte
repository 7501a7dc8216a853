<!-- The Tone step: light, its ends and middle, and curves. -->
<script lang="ts">
  import { Input, Select } from 'flowbite-svelte';
  import { CURVES, type CurveName, toneSchema } from '$core/tone/step.ts';
  import SettingControl from '../SettingControl.svelte';
  import type { DeckProps } from '../step-parts.ts';
  import CurveEditor from './CurveEditor.svelte';
  import { CURVE_SHAPES, shapeOf } from './curve-shapes.ts';

  let { bench }: DeckProps = $props();
  const tone = $derived(bench.recipe.tone);
  const off = $derived(tone.enabled ? null : 'The Tone step is switched off.');
  const finished = $derived(
    bench.facts.rendering === 'scene' ? null : 'This picture is rendered already: this is for raw files.'
  );
  const ENDS = ['contrast', 'midtones', 'white', 'black'] as const;
  let which = $state<CurveName>('curve');
  const shape = $derived(shapeOf(tone[which]));
  const typed = $derived(
    tone[which].map(({ x, y }) => `${Math.round(x * 100)}:${Math.round(y * 100)}`).join(' ')
  );
  let fault = $state('');

  /** Points as "25:20 75:80", in percent. */
  function take(text: string): void {
    const points = text
      .split(/[\s;]+/)
      .filter(Boolean)
      .map((pair) => pair.split(':').map(Number));
    const sound = points.every((pair) => pair.length === 2 && pair.every((n) => n >= 0 && n <= 100));
    fault = sound ? '' : 'Write points as 25:20 75:80, in percent.';
    if (sound) bench.change('tone', { [which]: points.map(([x, y]) => ({ x: x / 100, y: y / 100 })) });
  }
</script>

<section class="column" aria-label="Light">
  <SettingControl {bench} step="tone" name="exposure" idle={off} />
  <SettingControl {bench} step="tone" name="recovery" idle={off} />
  <div class="mt-1.5"><SettingControl {bench} step="tone" name="rendering" idle={off ?? finished} /></div>
</section>
<section class="column" aria-label="Middle and ends">
  {#each ENDS as name (name)}<SettingControl {bench} step="tone" {name} idle={off} />{/each}
</section>
<section class="column flex flex-[0_0_380px] gap-3" aria-label="Curve">
  <CurveEditor
    label={toneSchema.properties[which].label}
    points={tone[which]}
    disabled={off !== null}
    change={(points, moving) => bench.change('tone', { [which]: points }, moving)}
  />
  <div class="flex min-w-0 flex-1 flex-col gap-1.5">
    <Select placeholder="" class="w-full" aria-label="Which curve" disabled={off !== null} bind:value={which}>
      {#each CURVES as name (name)}
        <option value={name}>{toneSchema.properties[name].label}{tone[name].length > 0 ? ' ·' : ''}</option>
      {/each}
    </Select>
    <Select
      placeholder=""
      class="w-full"
      aria-label="Shape of the curve"
      disabled={off !== null}
      value={shape}
      onchange={(event) => {
        const points = CURVE_SHAPES[event.currentTarget.value];
        if (points) bench.change('tone', { [which]: points.map((point) => ({ ...point })) });
      }}
    >
      {#each Object.keys(CURVE_SHAPES) as name (name)}<option value={name}>{name}</option>{/each}
      {#if shape === 'own'}<option value="own">own</option>{/if}
    </Select>
    <Input
      aria-label="Points of the curve, in percent"
      placeholder="25:20 75:80"
      disabled={off !== null}
      value={typed}
      onchange={(event) => take(event.currentTarget.value)}
    />
    <p class="quiet text-xs leading-[1.3]">{fault || toneSchema.properties[which].description}</p>
  </div>
</section>
