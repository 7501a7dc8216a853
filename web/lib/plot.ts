/** One look for all plots, in the theme's colours. Plotly is large: it is loaded when the first plot is shown. */

/** A colour of the theme as it is now; in the browser. */
const themed = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();

export const plotShades = (): string[] => [themed('ink'), themed('accent'), themed('faint')];

export const plotAxis = (): object => ({
  color: themed('ink'),
  gridcolor: themed('soft'),
  zerolinecolor: themed('faint'),
  linecolor: themed('faint'),
  ticks: 'outside' as const
});

export const plotPaper = (): object => ({
  font: { family: 'IBM Plex Sans', size: 11, color: themed('ink') },
  paper_bgcolor: themed('panel'),
  plot_bgcolor: themed('panel')
});

export const plotTitle = (text: string): object => ({
  title: { text, font: { size: 13, color: themed('ink') }, x: 0.02, xanchor: 'left' as const }
});

export async function drawPlot(box: HTMLElement, data: unknown[], layout: object): Promise<void> {
  const { default: Plotly } = await import('plotly.js-dist-min');
  await Plotly.react(box, data, layout, { displayModeBar: false, responsive: true });
}
