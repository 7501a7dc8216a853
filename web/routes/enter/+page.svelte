<!-- Asks for the studio's password. -->
<script lang="ts">
  import { Button, Input, Label } from 'flowbite-svelte';
  import { page } from '$app/state';
  import { call } from '$lib/call.ts';

  let password = $state('');
  let error = $state('');

  async function enter(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    try {
      await call('/api/enter', { method: 'POST', body: { password } });
      const to = page.url.searchParams.get('to') ?? '/';
      location.assign(/^\/(?![/\\])/.test(to) ? to : '/');
    } catch (reason) {
      error = (reason as Error).message;
    }
  }
</script>

<svelte:head><title>Line True</title></svelte:head>
<main class="max-w-75 mt-[20vh] mx-auto mb-0">
  <h1>Line True</h1>
  <form class="flex flex-col items-start gap-3 mt-3.5" onsubmit={enter}>
    <Label class="w-full">
      The studio’s password
      <Input type="password" size="sm" autocomplete="current-password" bind:value={password} />
    </Label>
    <Button type="submit" size="sm" color="primary" disabled={password === ''}>Enter</Button>
    {#if error}<p role="alert">{error}</p>{/if}
  </form>
</main>
