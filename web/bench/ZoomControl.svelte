<!-- How large the picture is shown: all of it, one for one, by steps, or as typed. -->
<script lang="ts">
  import { Button, ButtonGroup, Input } from 'flowbite-svelte';
  import { type Command, tooltip } from './controls/commands.ts';
  import type { SheetState } from './sheet/sheet-state.svelte.ts';
  import { hint } from '../lib/hints/hint.ts';

  interface Props {
    sheet: SheetState;
    command: (id: string) => Command;
  }
  let { sheet, command }: Props = $props();
  const percent = $derived(`${(sheet.zoom * 100).toFixed(sheet.zoom < 0.1 ? 1 : 0)} %`);

  function take(field: HTMLInputElement): void {
    const typed = Number(field.value.replace(',', '.').replace(/[%\s]/g, ''));
    if (Number.isFinite(typed) && typed > 0)
      sheet.zoomTo(typed / 100, [sheet.size.width / 2, sheet.size.height / 2]);
    field.value = percent;
    field.blur();
  }
</script>

{#snippet press(id: string, text: string, pressed?: boolean)}
  {@const { run, label } = command(id)}
  <Button
    color="light"
    aria-label={label}
    aria-pressed={pressed}
    {...hint(tooltip(command(id)))}
    onclick={() => run(1)}>{text}</Button
  >
{/snippet}
<ButtonGroup>
  {@render press('zoom-out', '−')}
  <Input
    class="w-16! rounded-none text-right"
    aria-label="Zoom"
    {...hint('Type how large the picture is shown: 100 % shows its pixels one for one')}
    value={percent}
    data-testid="zoom"
    onchange={(event) => take(event.currentTarget)}
    onkeydown={(event: KeyboardEvent) => {
      if (event.key === 'Enter') take(event.target as HTMLInputElement);
    }}
  />
  {@render press('zoom-in', '+')}
</ButtonGroup>
{@render press('zoom-fit', 'Fit', sheet.fits)}
