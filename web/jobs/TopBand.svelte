<script lang="ts">
  import type { Snippet } from 'svelte';

  let { children, actions }: { children?: Snippet; actions?: Snippet } = $props();
</script>

<header class="band">
  <a class="mark" href="/"><img src="/mark.svg" alt="" width="20" height="20" />Line True</a>
  {@render children?.()}
  <span class="gap"></span>
  {@render actions?.()}
</header>

<style>
  .band {
    display: flex;
    align-items: center;
    gap: 12px;
    height: 44px;
    padding: 0 28px;
    border-bottom: 1px solid var(--line);
    background: var(--panel);
  }
  .mark {
    display: flex;
    align-items: center;
    gap: 8px;
    font-weight: 600;
    font-size: 15px;
  }
  .gap {
    flex: 1;
  }
</style>
