<!-- A border about the picture, and a fine line in it. -->
<script lang="ts">
  import { Input } from 'flowbite-svelte';
  import { borderedSize, hasBorder } from '$core/steps/finish/border/border-layout.ts';
  import { finishSchema } from '$core/steps/finish/step.ts';
  import { hint } from '../../lib/hints/hint.ts';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { Bench } from '../state/bench-state.svelte.ts';

  interface Props {
    bench: Bench;
    off: string | null;
  }
  let { bench, off }: Props = $props();
  const finish = $derived(bench.recipe.finish);
  const idle = $derived(
    off ?? (hasBorder({ ...finish, enabled: true }) ? null : 'There is no border: set Border or Paper first.')
  );
  const noLine = $derived(
    idle ?? (finish.borderLine === 0 ? 'There is no line: set how thick it is first.' : null)
  );
  const size = $derived(borderedSize(finish, bench.plan.output));
  function put(name: 'borderColour' | 'borderLineColour', { currentTarget }: Event, moving: boolean): void {
    bench.change('finish', { [name]: (currentTarget as HTMLInputElement).value }, moving);
  }
</script>

{#snippet colour(name: 'borderColour' | 'borderLineColour', why: string | null)}
  {@const { description } = finishSchema.properties[name]}
  <label class="flex items-center gap-1.5 py-0.75 text-sm">
    <span>{name === 'borderColour' ? 'Colour' : 'Its colour'}</span>
    <Input
      type="color"
      class="h-6.5 w-16! p-0.5"
      aria-label={name === 'borderColour' ? 'Colour of the border' : 'Colour of the line'}
      disabled={why !== null}
      {...hint(why ?? description)}
      value={finish[name]}
      oninput={(event) => put(name, event, true)}
      onchange={(event) => put(name, event, false)}
    />
  </label>
{/snippet}

<section class="column" aria-label="Border">
  <SettingControl {bench} step="finish" name="border" idle={off} />
  <div class="flex flex-wrap items-center gap-x-4">
    <SettingControl {bench} step="finish" name="borderPaper" idle={off} />
    {@render colour('borderColour', idle)}
  </div>
</section>
<section class="column" aria-label="Line in the border">
  <SettingControl {bench} step="finish" name="borderLine" label="Line" spoken="Line in the border" {idle} />
  <SettingControl
    {bench}
    step="finish"
    name="borderLineAt"
    label="Its place"
    spoken="Place of the line"
    idle={noLine}
  />
  {@render colour('borderLineColour', noLine)}
</section>
<section class="column" aria-label="The file">
  <p class="quiet pt-1.5 text-sm" data-testid="bordered-size">
    {#if idle}
      Nothing lies about the picture.
    {:else}
      With its border the file has {size.width} × {size.height} px at full size; the picture in it {bench.plan
        .output.width} × {bench.plan.output.height}.
    {/if}
  </p>
</section>
