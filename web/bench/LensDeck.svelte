<script lang="ts">
  import { matchProfile } from '$core/lens/match-profile.ts';
  import { lensSchema } from '$core/recipe/schema.ts';
  import { cameraText, exposureText, lensText } from '$lib/frame-text.ts';
  import NumberControl from './NumberControl.svelte';
  import type { Bench } from './bench-state.svelte.ts';

  let { bench }: { bench: Bench } = $props();
  const settings = lensSchema.properties;
  const matched = $derived(matchProfile(bench.facts, bench.profiles));
  const idle = $derived(
    !bench.recipe.lens.enabled
      ? 'The Lens step is switched off.'
      : bench.profile
        ? null
        : 'No profile is applied, so there is nothing to correct from.'
  );
</script>

<section class="column" aria-label="Profile">
  <h2>Profile</h2>
  <label class="row">
    <span class="quiet">Profile</span>
    <select
      aria-label="Lens profile"
      value={bench.recipe.lens.profile}
      onchange={(e) => bench.change('lens', { profile: e.currentTarget.value })}
    >
      <option value="auto"
        >{matched ? `By itself: ${matched.maker} ${matched.lens}` : 'By itself: none matches'}</option
      >
      <option value="none">None</option>
      {#each bench.profiles as profile (profile.id)}
        <option value={profile.id}>{profile.maker} {profile.lens}</option>
      {/each}
    </select>
  </label>
  <p class="quiet facts">
    {lensText(bench.facts)}<br />{cameraText(bench.facts)} · {exposureText(bench.facts)}
  </p>
</section>
<section class="column" aria-label="Correction">
  <h2>Correction</h2>
  <NumberControl
    setting={settings.distortion}
    value={bench.recipe.lens.distortion}
    {idle}
    change={(distortion, moving) => bench.change('lens', { distortion }, moving)}
  />
  <NumberControl
    setting={settings.falloff}
    value={bench.recipe.lens.falloff}
    {idle}
    change={(falloff, moving) => bench.change('lens', { falloff }, moving)}
  />
  {#if idle}<p class="quiet">{idle}</p>{/if}
</section>

<style>
  .row {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  select {
    height: 27px;
    padding: 0 26px 0 6px;
    font-size: 12px;
    border: 1px solid var(--line);
    border-radius: 2px;
    background-color: var(--panel);
    color: var(--ink);
    max-width: 260px;
  }
  .facts {
    margin-top: 6px;
    line-height: 1.45;
  }
</style>
