/** Values between the nodes of a mesh. */

const ONE: f32 = 1;

/** A value of a mesh between its nodes, and by how much it changes from one pixel of a row to the next. */
export let value: f32 = 0;
export let slope: f32 = 0;

export function between(nodes: usize, i: i32, columns: i32, fy: f32, step: i32): void {
  const above = nodes + ((<usize>i) << 2);
  const below = above + ((<usize>columns) << 2);
  value = load<f32>(above) * (ONE - fy) + load<f32>(below) * fy;
  slope = (load<f32>(above, 4) * (ONE - fy) + load<f32>(below, 4) * fy - value) / <f32>step;
}
