<!-- Words over the picture, readable on any of it. -->
<script lang="ts">
  import { Text } from 'svelte-konva';

  let { x, y, text }: { x: number; y: number; text: string } = $props();
</script>

<Text
  {x}
  {y}
  {text}
  fontFamily="IBM Plex Sans"
  fontStyle="600"
  fontSize={13.5}
  fill="#fff"
  stroke="#111"
  strokeWidth={3}
  fillAfterStrokeEnabled
  listening={false}
/>
