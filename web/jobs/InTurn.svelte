<!-- How far work on frames has come that are taken one after another, and then those that want a look. -->
<script lang="ts">
  import { Button, Progressbar } from 'flowbite-svelte';
  import type { FramesDone } from './frames-in-turn.ts';

  interface Props {
    working: { done: number; name: string } | null;
    all: number;
    made: FramesDone | null;
    /** What all others are now. */
    verb: string;
    close: () => void;
  }
  let { working, all, made, verb, close }: Props = $props();
</script>

{#if made}
  <p>
    {made.looks.length === made.done ? 'These want a look.' : `These want a look; all others are ${verb}.`}
  </p>
  <ul class="max-h-75 overflow-y-auto border border-line" data-testid="in-turn-looks">
    {#each made.looks as { id, name, why } (id)}
      <li class="px-2 py-1">
        <a class="underline" href={`/frames/${id}`}>{name}</a> <span class="quiet">{why}</span>
      </li>
    {/each}
  </ul>
  <Button onclick={close}>Done</Button>
{:else if working}
  <div data-testid="in-turn">
    <Progressbar progress={Math.round((100 * working.done) / all)} size="h-1.5" />
    <p role="status">{working.name}, {working.done + 1} of {all}…</p>
  </div>
{/if}
