<!-- One profile: what it is, what it corrects, its figures as plots and as text, and what uses it. -->
<script lang="ts">
  import { Button, Select, Textarea } from 'flowbite-svelte';
  import type { LensProfile } from '$core/optics/profile.ts';
  import { focalRange } from '$core/optics/profile.ts';
  import { call } from '$lib/call.ts';
  import type { Origin } from '$server/lenses/catalogue.ts';
  import Plot from './Plot.svelte';
  import { profileCurves } from './profile-curves.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Usage {
    frames: { id: string; name: string; job: string }[];
    choices: { body: string; lens: string }[];
  }
  interface Props {
    id: string;
    /** Called with the id to show next, or null, after the catalogue changed. */
    changed: (id: string | null) => void;
  }
  let { id, changed }: Props = $props();
  let found = $state.raw<{ profile: LensProfile; origin: Origin; usage: Usage } | null>(null);
  let error = $state('');
  let editing = $state(false);
  let text = $state('');
  let confirming = $state(false);
  let focal = $state(0);
  let aperture = $state<number | null>(null);

  async function load(which: string): Promise<void> {
    error = '';
    editing = confirming = false;
    try {
      found = await call(`/api/lenses/${which}`);
      focal = focalRange(found!.profile)?.[0] ?? 50;
      const apertures = found!.profile.falloff.flatMap((node) => node.aperture ?? []);
      aperture = apertures.length > 0 ? Math.min(...apertures) : null;
    } catch (reason) {
      found = null;
      error = (reason as Error).message;
    }
  }
  $effect(() => void load(id));

  const profile = $derived(found?.profile ?? null);
  const range = $derived(profile && focalRange(profile));
  const curves = $derived(profile && profileCurves(profile, focal, aperture));
  const focals = $derived(
    profile
      ? [
          ...new Set(
            [...profile.distortion, ...profile.lateral, ...profile.falloff].map((n) => n.focalLength)
          )
        ].sort((a, b) => a - b)
      : []
  );
  const apertures = $derived(
    profile ? [...new Set(profile.falloff.flatMap((n) => n.aperture ?? []))].sort((a, b) => a - b) : []
  );
  const ORIGINS = { shipped: 'comes with Line True', imported: 'imported', measured: 'measured here' };

  async function attempt(work: () => Promise<string | null>): Promise<void> {
    try {
      error = '';
      changed(await work());
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
  const duplicate = () =>
    attempt(async () => (await call<LensProfile>(`/api/lenses/${id}`, { method: 'POST' })).id);
  const save = () =>
    attempt(async () => {
      let document: unknown;
      try {
        document = JSON.parse(text);
      } catch (reason) {
        throw new Error(`This is not JSON: ${(reason as Error).message}`, { cause: reason });
      }
      await call(`/api/lenses/${id}`, { method: 'PUT', body: document });
      await load(id);
      return id;
    });
  const remove = (force: boolean) =>
    attempt(async () => {
      await call(`/api/lenses/${id}${force ? '?force=yes' : ''}`, { method: 'DELETE' });
      return null;
    });
</script>

{#if error}<p class="text-accent mb-2" role="alert">{error}</p>{/if}
{#if found && profile && curves}
  <header class="flex justify-between gap-4 mb-2">
    <div>
      <h2>{profile.lens}</h2>
      <p class="quiet">
        {profile.maker} · {ORIGINS[found.origin]} · measured on a sensor of {(
          profile.sensorHalfDiagonal * 2
        ).toFixed(1)} mm diagonal · {profile.projection === 'rectilinear'
          ? 'rectilinear'
          : `fisheye, ${profile.projection}`}
      </p>
      <p class="quiet">
        {profile.bodies?.length
          ? `built into ${profile.bodies.slice(0, 6).join(', ')}`
          : profile.mounts?.length
            ? `for ${profile.mounts.slice(0, 6).join(', ')}${profile.mounts.length > 6 ? ' …' : ''}`
            : 'mount not named'}
      </p>
    </div>
    <div class="flex gap-2 items-center mb-2">
      <Button color="light" href={`/api/lenses/${id}/file`} download>Export</Button>
      <Button color="light" onclick={duplicate}>Duplicate</Button>
      <Button
        color="light"
        disabled={found.origin === 'shipped'}
        {...hint(found.origin === 'shipped' ? 'Duplicate it to change a copy' : undefined)}
        onclick={() => {
          text = JSON.stringify(profile, null, 2);
          editing = !editing;
        }}>Edit</Button
      >
      <Button color="light" disabled={found.origin === 'shipped'} onclick={() => (confirming = true)}
        >Remove</Button
      >
    </div>
  </header>
  {#if confirming}
    <p class="py-2 px-2.5 border border-accent mb-2">
      {found.usage.frames.length > 0
        ? `${found.usage.frames.length} ${found.usage.frames.length === 1 ? 'frame uses' : 'frames use'} it; they fall back to matching by themselves.`
        : 'No frame names it.'}
      {found.usage.choices.length > 0 ? `It is kept for ${found.usage.choices.length} lenses.` : ''}
      <Button onclick={() => remove(true)}>Remove it</Button>
      <Button color="light" onclick={() => (confirming = false)}>Leave it</Button>
    </p>
  {/if}
  {#if editing}
    <Textarea
      class="w-full h-55 font-mono text-sm p-2 border border-line"
      aria-label="Profile as JSON"
      spellcheck="false"
      bind:value={text}
    ></Textarea>
    <div class="flex gap-2 items-center mb-2">
      <Button onclick={save}>Save</Button>
      <Button color="light" onclick={() => (editing = false)}>Leave it as it was</Button>
      <span class="quiet">Terms and units are told in docs/lens-profiles.md.</span>
    </div>
  {/if}
  <div class="flex gap-2 items-center mb-2">
    {#if focals.length > 1 && range}
      <label>
        Focal length
        <Select placeholder="" bind:value={focal}>
          {#each focals as value (value)}<option {value}>{value} mm</option>{/each}
        </Select>
      </label>
    {/if}
    {#if apertures.length > 1}
      <label>
        Aperture
        <Select placeholder="" bind:value={aperture}>
          {#each apertures as value (value)}<option {value}>f/{value}</option>{/each}
        </Select>
      </label>
    {/if}
  </div>
  <div class="grid grid-cols-[1fr] gap-2">
    {#if curves.distortion}
      <Plot
        title="Distortion"
        unit="%"
        x={curves.height}
        lines={[{ name: 'distortion', y: curves.distortion }]}
      />
    {/if}
    {#if curves.red && curves.blue}
      <Plot
        title="Lateral colour"
        unit="px at 24 MP"
        x={curves.height}
        lines={[
          { name: 'red', y: curves.red },
          { name: 'blue', y: curves.blue, dash: 'dash' }
        ]}
      />
    {/if}
    {#if curves.falloff}
      <Plot title="Falloff" unit="EV" x={curves.height} lines={[{ name: 'falloff', y: curves.falloff }]} />
    {/if}
  </div>
  {#if found.usage.frames.length + found.usage.choices.length > 0}
    <h3 class="font-semibold mt-2 mx-0 mb-0.5">Used by</h3>
    <ul class="usage">
      {#each found.usage.frames as frame (frame.id)}
        <li><a class="underline" href={`/frames/${frame.id}`}>{frame.job}, {frame.name}</a></li>
      {/each}
      {#each found.usage.choices as choice (choice.body + choice.lens)}
        <li class="quiet">
          kept for {choice.body || 'an unnamed camera'}, {choice.lens || 'lens not named'}
        </li>
      {/each}
    </ul>
  {/if}
  {#if profile.note}<p class="quiet">{profile.note}</p>{/if}
{/if}
