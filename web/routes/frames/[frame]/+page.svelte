<script lang="ts">
  import { invalidateAll } from '$app/navigation';
  import BenchView from '../../../bench/BenchView.svelte';
  import { LOST, hearEvents } from '$lib/hear-events.ts';
  import type { FrameCard } from '$server/set/frame-card.ts';
  import type { FrameRow } from '$server/frames/frame-row.ts';
  import type { PageProps } from './$types';

  let { data }: PageProps = $props();
  let lost = $state(false);

  /** Whether nothing will change the frame's recipe by itself any more. */
  const settled = (frame: FrameRow): boolean =>
    frame.state === 'failed' || (frame.state === 'ready' && (frame.measured || data.job.true_up === 'none'));

  // A frame that is still being prepared opens by itself when it is ready.
  $effect(() => {
    if (settled(data.frame)) return;
    return hearEvents<{ cards: FrameCard[] }>(
      `/api/jobs/${data.job.id}/events`,
      ({ cards }) => {
        const own = cards.find(({ frame }) => frame.id === data.frame.id);
        if (own && settled(own.frame)) void invalidateAll();
      },
      (isLost) => (lost = isLost)
    );
  });
</script>

<svelte:head><title>{data.frame.name} · {data.job.name} · Line True</title></svelte:head>
{#if data.frame.state === 'ready' && settled(data.frame) && data.choice}
  {#key data.frame.id}
    <BenchView
      frame={data.frame}
      job={data.job}
      ready={data.ready}
      partners={data.partners}
      choice={data.choice}
    />
  {/key}
{:else}
  <main class="p-6">
    <p>{lost ? LOST : (data.frame.error ?? 'This frame is still being prepared.')}</p>
    <p><a class="underline" href={`/jobs/${data.job.id}`}>Back to {data.job.name}</a></p>
  </main>
{/if}
