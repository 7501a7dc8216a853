/** Everything of Finish in use at once, for measurements of what it costs. */
export const ALL_FINISH = {
  noise: 50,
  noiseColour: 50,
  sharpening: 60,
  edges: 20,
  edge: -40,
  edgeSpare: 40,
  inner: 10,
  grain: 30,
  glow: 40
};
