<!-- Which profile corrects the frame, how much of it, and for which other frames. -->
<script lang="ts">
  import { Button, Input, Select } from 'flowbite-svelte';
  import { MATCHES } from '$core/optics/rank-profiles.ts';
  import { lensSchema } from '$core/steps/lens/step.ts';
  import { call } from '$lib/call.ts';
  import { cameraText, exposureText, lensText } from '$lib/frame-text.ts';
  import type { Job } from '$server/jobs/jobs.ts';
  import type { FrameChoice } from '$server/lenses/lens-choice.ts';
  import CarryDialog from '../parts/CarryDialog.svelte';
  import FindLensDialog from './FindLensDialog.svelte';
  import SettingControl from '../controls/SettingControl.svelte';
  import type { OtherFrame } from '../parts/step-parts.ts';
  import type { Bench } from '../state/bench-state.svelte.ts';
  import { hint } from '../../lib/hints/hint.ts';

  let { bench, job, ready, off }: { bench: Bench; job: Job; ready: OtherFrame[]; off: string | null } =
    $props();
  const settings = lensSchema.properties;
  const lens = $derived(bench.recipe.lens);
  const { choice } = $derived(bench);
  const scores = $derived(new Map(choice.ranked.map((ranked) => [ranked.id, ranked])));
  let finding = $state(false);
  let carrying = $state(false);
  let said = $state('');

  const name = (profile: { maker: string; lens: string }): string =>
    profile.lens.toLowerCase().startsWith(profile.maker.toLowerCase())
      ? profile.lens
      : `${profile.maker} ${profile.lens}`;
  const autoText = $derived(
    choice.auto
      ? `By itself: ${name(choice.auto)}${choice.remembered ? ' (kept)' : ''}`
      : bench.facts.corrections
        ? 'By itself: the file’s own corrections'
        : 'By itself: none matches'
  );
  const against = $derived(scores.get(lens.profile)?.against ?? []);
  const namesOne = $derived(!['auto', 'none', 'file'].includes(lens.profile));
  const idle = $derived(
    off ?? (bench.profile ? null : 'No profile is applied, so there is nothing to correct from.')
  );
  const nothing = (what: 'distortion' | 'lateral' | 'falloff', setByPicture: boolean): string | null =>
    off ??
    (setByPicture ||
    (bench.profile && (bench.profile[what].length > 0 || (what === 'falloff' && bench.profile.gainMap)))
      ? null
      : bench.profile
        ? `This profile holds no ${what === 'lateral' ? 'lateral colour' : what} figures.`
        : idle);

  async function reload(named: string): Promise<void> {
    bench.setChoice(await call<FrameChoice>(`/api/frames/${bench.frame.id}/lens-choice?named=${named}`));
  }

  async function pick(id: string): Promise<void> {
    said = '';
    await reload(id);
    bench.change('lens', { profile: id, enabled: true });
  }

  /** Keeps the chosen profile for this body and lens, or forgets it. */
  async function keep(profile: string | null): Promise<void> {
    try {
      await bench.saver.flush();
      const { frames } = await call<{ frames: number }>(`/api/frames/${bench.frame.id}/lens-choice`, {
        method: 'PUT',
        body: { profile }
      });
      await reload('auto');
      bench.change('lens', { profile: 'auto' });
      said = profile
        ? `Kept for this camera and lens: ${frames} ${frames === 1 ? 'frame' : 'frames'} of the job, and all to come.`
        : 'Forgotten: the file decides again.';
    } catch (reason) {
      said = (reason as Error).message;
    }
  }
</script>

<section class="column" style:flex="1 1 330px" aria-label="Profile">
  <h2>Profile</h2>
  <div class="flex items-center gap-1.5 mb-1.25">
    <Select
      {...hint('Which lens the distortion, colour edges and falloff are known of')}
      placeholder=""
      class="min-w-0 flex-1"
      aria-label="Lens profile"
      value={lens.profile}
      onchange={(e) => {
        said = '';
        bench.change('lens', { profile: e.currentTarget.value });
      }}
    >
      <option value="auto">{autoText}</option>
      {#if bench.facts.corrections}<option value="file">The file’s own corrections</option>{/if}
      <option value="none">None</option>
      {#each choice.known as profile (profile.id)}
        {@const score = scores.get(profile.id)?.score}
        <option value={profile.id}>
          {name(profile)}{score === undefined
            ? ''
            : score >= MATCHES
              ? ` · fits ${score} %`
              : ` · perhaps, ${score} %`}
        </option>
      {/each}
    </Select>
    <Button {...hint('Look for a lens by its name')} color="light" onclick={() => (finding = true)}
      >Catalogue…</Button
    >
  </div>
  <div class="flex items-center gap-1.5 mb-1.25">
    <Button
      color="light"
      disabled={!namesOne}
      {...hint(namesOne ? 'Use it for this camera and lens from now on' : 'Choose a profile by name first')}
      onclick={() => keep(lens.profile)}>Keep for this lens</Button
    >
    {#if choice.remembered}<Button color="light" onclick={() => keep(null)}>Forget</Button>{/if}
    <Button
      {...hint('Gives this step to other frames of the job')}
      color="light"
      disabled={ready.length < 2}
      onclick={() => (carrying = true)}>Carry over…</Button
    >
  </div>
  <p class="quiet note text-sm leading-[1.35] max-h-8.5 overflow-y-auto" role="status">
    {said || bench.notices.join(' ') || (against.length > 0 ? `Mind: ${against.join(', ')}.` : '')}
  </p>
</section>
<section class="column" aria-label="Lens">
  <h2>Lens</h2>
  <p class="quiet mb-1 text-sm">
    {lensText(bench.facts)}<br />{cameraText(bench.facts)} · {exposureText(bench.facts)}
  </p>
  <label class="flex items-center gap-1.5 mb-1.25">
    <span>Focal length</span>
    <Input
      class="w-23!"
      type="text"
      inputmode="decimal"
      aria-label="Focal length"
      placeholder={bench.facts.focalLength ? bench.facts.focalLength.toFixed(1) : 'not in the file'}
      value={lens.focalLength ?? ''}
      onchange={(e) => {
        const value = Number(e.currentTarget.value.replace(',', '.'));
        bench.change('lens', { focalLength: value > 0 && value <= 5000 ? value : null });
        e.currentTarget.value = bench.recipe.lens.focalLength?.toString() ?? '';
      }}
    />
    <span class="quiet">mm</span>
  </label>
  <label class="flex items-center gap-1.5 mb-1.25">
    <span>Projection</span>
    <Select
      placeholder=""
      class="min-w-0 flex-1"
      aria-label="Projection"
      value={lens.projection}
      onchange={(e) => bench.change('lens', { projection: e.currentTarget.value as typeof lens.projection })}
    >
      {#each settings.projection.enum as projection (projection)}
        <option value={projection}>
          {projection === 'profile'
            ? `as the profile says`
            : projection === 'rectilinear'
              ? projection
              : `fisheye, ${projection}`}
        </option>
      {/each}
    </Select>
  </label>
</section>
<section class="column" aria-label="Correction">
  <h2>Correction</h2>
  <SettingControl
    {bench}
    step="lens"
    name="distortion"
    idle={nothing(
      'distortion',
      lens.solved !== null || (bench.plan.projection.model.projection !== 'rectilinear' && !off)
    )}
  />
  <SettingControl {bench} step="lens" name="lateral" idle={nothing('lateral', lens.measured !== null)} />
  <SettingControl {bench} step="lens" name="falloff" idle={nothing('falloff', false)} />
</section>
<FindLensDialog bind:open={finding} {pick} />
<CarryDialog step="lens" bind:open={carrying} {bench} {job} {ready} />
