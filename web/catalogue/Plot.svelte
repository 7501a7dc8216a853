<!-- A line plot. Plotly is large: it is loaded when the first plot is shown. -->
<script lang="ts">
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
  const INK = '#22262a';
  const SHADES = ['#22262a', '#b3541e', '#7a8087'];

  $effect(() => {
    const data = lines.map((line, i) => ({
      x,
      y: line.y,
      name: line.name,
      mode: 'lines' as const,
      line: { color: SHADES[i % SHADES.length], width: 1.6, dash: line.dash ?? ('solid' as const) },
      hovertemplate: `%{y:.3~f} ${unit}<extra>${line.name}</extra>`
    }));
    const axis = {
      color: INK,
      gridcolor: '#e2e3e4',
      zerolinecolor: '#9a9da0',
      linecolor: '#9a9da0',
      ticks: 'outside' as const
    };
    const layout = {
      title: { text: `${title}, ${unit}`, font: { size: 13, color: INK }, x: 0.02, xanchor: 'left' as const },
      font: { family: 'IBM Plex Sans', size: 11, color: INK },
      margin: { l: 46, r: 10, t: 30, b: 40 },
      paper_bgcolor: '#ffffff',
      plot_bgcolor: '#ffffff',
      showlegend: lines.length > 1,
      legend: { orientation: 'h' as const, x: 1, xanchor: 'right' as const, y: 1.16 },
      xaxis: { ...axis, title: { text: 'image height', standoff: 4 }, range: [0, 1], dtick: 0.25 },
      yaxis: { ...axis, rangemode: 'tozero' as const }
    };
    void import('plotly.js-dist-min').then(({ default: Plotly }) =>
      Plotly.react(box, data, layout, { displayModeBar: false, responsive: true })
    );
  });
</script>

<div class="plot" bind:this={box} role="img" aria-label={`${title} over image height`}></div>

<style>
  .plot {
    height: 204px;
    border: 1px solid var(--soft);
  }
</style>
