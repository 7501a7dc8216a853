<!-- Names of a step's pages, one under the other, to turn between them. -->
<script lang="ts" generics="P extends string">
  interface Props {
    label: string;
    pages: readonly { page: P; label: string }[];
    current: P;
    turnTo: (page: P) => void;
  }
  let { label: name, pages, current, turnTo }: Props = $props();
</script>

<div
  class="pages flex flex-col flex-[0_0_116px] py-2 px-0 border-r border-r-line"
  role="tablist"
  aria-label={name}
  aria-orientation="vertical"
>
  {#each pages as { page, label } (page)}
    <button role="tab" aria-selected={current === page} onclick={() => turnTo(page)}>{label}</button>
  {/each}
</div>

<style>
  .pages button {
    padding: 6px 10px;
    text-align: left;
    border-left: 3px solid transparent;
  }
  .pages button[aria-selected='true'] {
    border-left-color: var(--accent);
    font-weight: 600;
    background: var(--panel);
  }
</style>
