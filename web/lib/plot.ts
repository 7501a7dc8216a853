/** One look for all plots. Plotly is large: it is loaded when the first plot is shown. */
const INK = '#22262a';
export const PLOT_SHADES = [INK, '#b3541e', '#7a8087'];

export const plotAxis = {
  color: INK,
  gridcolor: '#e2e3e4',
  zerolinecolor: '#9a9da0',
  linecolor: '#9a9da0',
  ticks: 'outside' as const
};

export const plotPaper = {
  font: { family: 'IBM Plex Sans', size: 11, color: INK },
  paper_bgcolor: '#ffffff',
  plot_bgcolor: '#ffffff'
};

export const plotTitle = (text: string): object => ({
  title: { text, font: { size: 13, color: INK }, x: 0.02, xanchor: 'left' as const }
});

export async function drawPlot(box: HTMLElement, data: unknown[], layout: object): Promise<void> {
  const { default: Plotly } = await import('plotly.js-dist-min');
  await Plotly.react(box, data, layout, { displayModeBar: false, responsive: true });
}
