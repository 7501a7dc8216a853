<!-- A line plot over image height. -->
<script lang="ts">
  import { drawPlot, plotAxis, plotPaper, plotShades, plotTitle } from '$lib/plot.ts';

  interface Line {
    name: string;
    y: number[];
    dash?: 'solid' | 'dash' | 'dot';
  }
  interface Props {
    title: string;
    unit: string;
    x: number[];
    lines: Line[];
  }
  let { title, unit, x, lines }: Props = $props();
  let box: HTMLDivElement;

  $effect(() => {
    const shades = plotShades();
    const data = lines.map((line, i) => ({
      x,
      y: line.y,
      name: line.name,
      mode: 'lines' as const,
      line: { color: shades[i % shades.length], width: 1.6, dash: line.dash ?? ('solid' as const) },
      hovertemplate: `%{y:.3~f} ${unit}<extra>${line.name}</extra>`
    }));
    const layout = {
      ...plotPaper(),
      ...plotTitle(`${title}, ${unit}`),
      margin: { l: 46, r: 10, t: 30, b: 40 },
      showlegend: lines.length > 1,
      legend: { orientation: 'h' as const, x: 1, xanchor: 'right' as const, y: 1.16 },
      xaxis: { ...plotAxis(), title: { text: 'image height', standoff: 4 }, range: [0, 1], dtick: 0.25 },
      yaxis: { ...plotAxis(), rangemode: 'tozero' as const }
    };
    void drawPlot(box, data, layout);
  });
</script>

<div
  class="plot h-51 border border-soft"
  bind:this={box}
  role="img"
  aria-label={`${title} over image height`}
></div>
