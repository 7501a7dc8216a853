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
<main class="max-w-130 mt-[18vh] mx-auto mb-0 flex flex-col gap-3.5">
  <h1>{page.error?.away ? 'A moment' : page.status}</h1>
  <p role="alert">{page.error?.message}</p>
  <p class="flex gap-2.5">
    <Button size="sm" color="primary" onclick={() => location.reload()}>Try again</Button>
    <Button color="light" href="/">All jobs</Button>
  </p>
</main>
