<!-- Angle left of each line over its place; pointing at one lights it in the picture. -->
<script lang="ts">
  import { drawPlot, plotAxis, plotPaper, plotShades, plotTitle } from '$lib/plot.ts';

  interface Residual {
    id: string;
    at: number;
    angle: number;
  }
  interface Props {
    title: string;
    across: string;
    points: Residual[];
    lit: string | null;
    hovered: (id: string | null) => void;
  }
  let { title, across, points, lit, hovered }: Props = $props();
  let box: HTMLDivElement;
  type Hoverable = HTMLDivElement & {
    on?: (event: string, listener: (event: { points: { customdata: string }[] }) => void) => void;
  };
  let listening = false;
  /** Residuals below this, in degrees, are shown small: a plot of noise should not look like a fault. */
  const LEAST_REACH = 0.1;

  $effect(() => {
    const [ink, accent] = plotShades();
    const reach = Math.max(LEAST_REACH, ...points.map(({ angle }) => Math.abs(angle))) * 1.15;
    const data = [
      {
        x: points.map(({ at }) => at),
        y: points.map(({ angle }) => angle),
        customdata: points.map(({ id }) => id),
        mode: 'markers',
        marker: {
          color: points.map(({ id }) => (id === lit ? accent : ink)),
          size: points.map(({ id }) => (id === lit ? 10 : 6))
        },
        hovertemplate: '%{y:.3f}°<extra></extra>'
      }
    ];
    const layout = {
      ...plotPaper(),
      ...plotTitle(title),
      margin: { l: 46, r: 8, t: 24, b: 34 },
      showlegend: false,
      xaxis: { ...plotAxis(), title: { text: across, standoff: 2 }, range: [-55, 55], dtick: 25 },
      yaxis: { ...plotAxis(), ticksuffix: '°', range: [-reach, reach], nticks: 5 }
    };
    void drawPlot(box, data, layout).then(() => {
      const plot = box as Hoverable;
      if (listening || !plot.on) return;
      listening = true;
      plot.on('plotly_hover', ({ points: [point] }) => hovered(point.customdata));
      plot.on('plotly_unhover', () => hovered(null));
    });
  });
</script>

<div
  class="plot h-36.5 beside:h-65"
  bind:this={box}
  role="img"
  aria-label={`${title}, angle over place`}
></div>
