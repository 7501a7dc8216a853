<!-- What went wrong, and the way on. While the database is away, the page tries again by itself. -->
<script lang="ts">
  import { Button } from 'flowbite-svelte';
  import { page } from '$app/state';

  const AGAIN = 3000;
  $effect(() => {
    if (!page.error?.away) return;
    const timer = setTimeout(() => location.reload(), AGAIN);
    return () => clearTimeout(timer);
  });
</script>

<svelte:head><title>Line True</title></svelte:head>
<main>
  <h1>{page.error?.away ? 'A moment' : page.status}</h1>
  <p role="alert">{page.error?.message}</p>
  <p class="row">
    <Button size="sm" color="primary" onclick={() => location.reload()}>Try again</Button>
    <a class="tool" href="/">All jobs</a>
  </p>
</main>

<style>
  main {
    max-width: 520px;
    margin: 18vh auto 0;
    display: flex;
    flex-direction: column;
    gap: 14px;
  }
  .row {
    display: flex;
    gap: 10px;
  }
</style>
