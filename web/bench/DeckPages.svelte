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

<div class="pages" role="tablist" aria-label={name} aria-orientation="vertical">
  {#each pages as { page, label } (page)}
    <button role="tab" aria-selected={current === page} onclick={() => turnTo(page)}>{label}</button>
  {/each}
</div>

<style>
  .pages {
    display: flex;
    flex-direction: column;
    flex: 0 0 116px;
    padding: 8px 0;
    border-right: 1px solid var(--line);
  }
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
