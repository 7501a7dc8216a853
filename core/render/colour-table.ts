/**
 * All stages that act on colours alone, as one table: 67³ nodes over the octaves of working colours, between them tetrahedra.
 * A large picture takes its colours from it in a fraction of the time. It is checked against the stages themselves on colours of
 * the picture: where a stage bends them more sharply than nodes lie, it is not used.
 */
import { type Arena, inArena } from '../picture/kernels/arena.ts';
import { takeFloat32 } from '../picture/kernels/heap.ts';
import { kernels } from '../picture/kernels/kernels.ts';
import { quantiles } from '../math/quantiles.ts';
import { type Planes, addresses } from '../picture/tile/planes.ts';
import { NO_RESOURCES, type Resources } from '../picture/tile/resource.ts';
import type { ReadingTile } from '../picture/tile/tile.ts';
import { type Pass, passesOf, takeRows } from './pixel-passes.ts';
import { PIXEL_STAGES, type StageInputs } from './stages.ts';

/** What is added to colours before their octave is told: those a little below zero are lawful. */
const OFFSET = 1 / 128;
/** Octaves of the first and the last node, and nodes in each: at its ends lies one. */
const LOW = Math.log2(OFFSET / 2);
const HIGH = 3;
const PER_OCTAVE = 6;
/** Nodes of each side. */
export const TABLE_SIZE = (HIGH - LOW) * PER_OCTAVE + 1;

/**
 * Greatest errors of a table, in parts of the encoded range: on the mean (half a step of 8 bits), and of all colours but one of
 * a thousand, which lie where a colour clips between two nodes.
 */
const MEAN = 0.002;
const WORST = 0.03;

/** Values of the nodes, red changing fastest; in memory that threads share. */
export type ColourTable = Float32Array<ArrayBuffer>;

/** Memory for a table and, because four values are read at a time, for one more. */
export const takeTable = (): ColourTable => takeFloat32(3 * TABLE_SIZE ** 3 + 1);

/** Whether the stages take so long that a table pays off. */
export const worthTabling = (stages: StageInputs): boolean =>
  PIXEL_STAGES.some(({ name, tabled }) => tabled === 'slow' && stages[name] !== null);

/** The passes of the tabled stages themselves: they look at no pixel's place, and at nothing about it. */
const ownPasses = (stages: StageInputs, resources: Resources, arena: Arena): Pass[] =>
  passesOf(stages, { resources } as ReadingTile, arena, ({ tabled }) => tabled !== undefined);

/** What takes the place of the tabled stages. */
export function tablePass(table: ColourTable, arena: Arena): Pass {
  const at = arena.addressOf(table);
  const numbers = arena.addressOf([0, 0, 0, 1, 1, 1, TABLE_SIZE, 1]);
  const { octaveShape, throughCube } = kernels();
  return (rows) => {
    const planes = addresses(rows);
    const { length } = rows.r;
    for (const plane of planes) octaveShape(plane, length, OFFSET, LOW, PER_OCTAVE);
    throughCube(...planes, length, at, numbers);
  };
}

/** Octaves are parted evenly. */
function lightOfNode(i: number): number {
  const octave = Math.floor(i / PER_OCTAVE);
  return 2 ** (LOW + octave) * (1 + (i - octave * PER_OCTAVE) / PER_OCTAVE) - OFFSET;
}

const LIGHTS = Float32Array.from({ length: TABLE_SIZE }, (_, i) => lightOfNode(i));

/** Fills the nodes of some blues. */
export function fillTable(
  table: ColourTable,
  stages: StageInputs,
  resources: Resources = NO_RESOURCES,
  from = 0,
  to = TABLE_SIZE
): void {
  const plane = TABLE_SIZE ** 2;
  inArena((arena) => {
    const passes = ownPasses(stages, resources, arena);
    const rows = takeRows(plane, 1, arena);
    for (let blue = from; blue < to; blue++) {
      for (let green = 0, i = 0; green < TABLE_SIZE; green++)
        for (let red = 0; red < TABLE_SIZE; red++, i++) {
          rows.r[i] = LIGHTS[red];
          rows.g[i] = LIGHTS[green];
        }
      rows.b.fill(LIGHTS[blue]);
      for (const pass of passes) pass(rows);
      for (let i = 0; i < plane; i++) {
        const at = (blue * plane + i) * 3;
        table[at] = rows.r[i];
        table[at + 1] = rows.g[i];
        table[at + 2] = rows.b[i];
      }
    }
  });
}

/** Whether the table gives some working colours what the stages do. */
export function tableHolds(
  table: ColourTable,
  stages: StageInputs,
  resources: Resources,
  colours: Pick<Planes, 'r' | 'g' | 'b'>
): boolean {
  return inArena((arena) => {
    const [own, tabled] = [takeRows(colours.r.length, 1, arena), takeRows(colours.r.length, 1, arena)];
    for (const channel of ['r', 'g', 'b'] as const) {
      own[channel].set(colours[channel]);
      tabled[channel].set(colours[channel]);
    }
    for (const pass of ownPasses(stages, resources, arena)) pass(own);
    tablePass(table, arena)(tabled);
    const errors = arena.float32(own.r.length);
    for (const channel of ['r', 'g', 'b'] as const)
      for (let i = 0; i < errors.length; i++)
        errors[i] = Math.max(channel === 'r' ? 0 : errors[i], Math.abs(own[channel][i] - tabled[channel][i]));
    const mean = errors.reduce((sum, error) => sum + error, 0) / errors.length;
    const worst = quantiles(errors)(0.999);
    return mean <= MEAN && worst <= WORST;
  });
}
