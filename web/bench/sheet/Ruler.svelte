<!-- A ruler along an edge of the sheet, in pixels of the full-size output from the crop's corner. -->
<script lang="ts">
  interface Props {
    along: 'top' | 'left';
    length: number;
    /** Sheet position of the crop's edge, and sheet pixels per output pixel. */
    zero: number;
    scale: number;
    pointer: number | null;
  }
  let { along, length, zero, scale, pointer }: Props = $props();
  const THICK = 18;
  const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000];
  const step = $derived(STEPS.find((s) => s * scale >= 64) ?? 20000);
  const ticks = $derived.by(() => {
    const found: { at: number; label: string | null }[] = [];
    const minor = step / 5;
    for (let i = Math.ceil(-zero / scale / minor); i * minor * scale + zero <= length; i++) {
      found.push({ at: i * minor * scale + zero, label: i % 5 === 0 ? String(i * minor) : null });
    }
    return found;
  });
</script>

<svg
  class="block text-faint bg-paper"
  width={along === 'top' ? length : THICK}
  height={along === 'top' ? THICK : length}
  aria-hidden="true"
>
  {#each ticks as { at, label } (at)}
    {#if along === 'top'}
      <path d={`M${at} ${label ? 6 : 13}V18`} stroke="currentColor" stroke-width="0.7" />
      {#if label}<text class="text-[9px] [fill:var(--faint)]" x={at + 3} y="11">{label}</text>{/if}
    {:else}
      <path d={`M${label ? 6 : 13} ${at}H18`} stroke="currentColor" stroke-width="0.7" />
      {#if label}<text
          class="text-[9px] [fill:var(--faint)]"
          transform={`translate(11 ${at - 3}) rotate(-90)`}>{label}</text
        >{/if}
    {/if}
  {/each}
  {#if pointer !== null}
    <path d={along === 'top' ? `M${pointer} 0V18` : `M0 ${pointer}H18`} stroke="var(--accent)" />
  {/if}
</svg>
