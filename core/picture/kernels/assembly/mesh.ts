/** Values between the nodes of a mesh. */

const ONE: f32 = 1;
const HALF: f32 = 0.5;

/** A value of a mesh between its nodes, and by how much it changes from one pixel of a row to the next. */
export let value: f32 = 0;
export let slope: f32 = 0;

export function between(nodes: usize, i: i32, columns: i32, fy: f32, step: i32): void {
  const above = nodes + ((<usize>i) << 2);
  const below = above + ((<usize>columns) << 2);
  value = load<f32>(above) * (ONE - fy) + load<f32>(below) * fy;
  slope = (load<f32>(above, 4) * (ONE - fy) + load<f32>(below, 4) * fy - value) / <f32>step;
}

/**
 * Where a row lies between those of the nodes, and the cell of the mesh that was entered: its first node, the columns of the tile
 * [first, past) that are in it, and the place of the first with by how much it changes to the next.
 */
let nodesAcross: i32 = 0;
let pixelsAcross: i32 = 0;
let rowOfNodes: i32 = 0;
let rowShare: f32 = 0;
let node: i32 = 0;
let inset: f32 = 0;
export let firstColumn: i32 = 0;
export let pastColumn: i32 = 0;
export let placeX: f32 = 0;
export let placeY: f32 = 0;
export let slopeX: f32 = 0;
export let slopeY: f32 = 0;

/** Enters a row of a tile on a mesh that has so many `columns` of nodes, `step` pixels apart. */
export function enterRow(row: i32, columns: i32, step: i32): void {
  const position = (<f32>row + HALF) / <f32>step;
  nodesAcross = columns;
  pixelsAcross = step;
  rowOfNodes = <i32>position;
  rowShare = position - <f32>rowOfNodes;
}

/** Enters a cell of that row, for columns [left, end) of the tile: `x` and `y` are nodes of the places in it. */
export function enterCell(x: usize, y: usize, column: i32, left: i32, end: i32): void {
  node = rowOfNodes * nodesAcross + column;
  firstColumn = max(left, column * pixelsAcross);
  pastColumn = min(end, (column + 1) * pixelsAcross);
  inset = <f32>(firstColumn - column * pixelsAcross) + HALF;
  fromNodes(x);
  placeX = value;
  slopeX = slope;
  fromNodes(y);
  placeY = value;
  slopeY = slope;
}

/** `value` of other nodes at the first pixel of that cell, and its `slope`. */
export function fromNodes(nodes: usize): void {
  between(nodes, node, nodesAcross, rowShare, pixelsAcross);
  value += slope * inset;
}
