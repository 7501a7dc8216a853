/** The table of colours of a large picture, made by all threads and checked on its own colours. */
import { giveBack, takeFloat32, takenTogether } from '../../core/picture/kernels/heap.ts';
import { filled, inScope } from '../../core/picture/kernels/scope.ts';
import type { Resources } from '../../core/picture/tile/resource.ts';
import { type Matrix3, apply } from '../../core/math/matrix3.ts';
import { type ColourTable, TABLE_SIZE, takeTable, worthTabling } from '../../core/render/colour-table.ts';
import type { StageInputs } from '../../core/render/stages.ts';
import { unfoldHighlight } from '../../core/picture/tile/highlights.ts';
import type { PlacedPlanes, Planes } from '../../core/picture/tile/planes.ts';
import { type Pool, inBands } from './pool.ts';
import type { SharedInputs } from './shared-inputs.ts';

/** Pixels from which a picture gains by a table, which takes as long as a quarter of a million of them. */
const LARGE = 1e6;
/** Blues that a thread does at a time. */
const BLUES = 9;
/** Colours of the picture that a table is checked on, and the stops by which broad light may have changed them. */
const CHECKED = 8192;
const RELIT = 1.5;

export interface TableRequest {
  source: PlacedPlanes;
  toWorking: Matrix3;
  inputs: StageInputs;
  /** The same, as threads are given them. */
  stages: SharedInputs;
  resources: Resources;
  pixels: number;
}

/** Working colours of pixels all over the picture, some lighter and some darker than they are. */
function someColours({ r, g, b }: Planes, toWorking: Matrix3): Pick<Planes, 'r' | 'g' | 'b'> {
  const out = takenTogether((own) => ({
    r: own(takeFloat32(CHECKED)),
    g: own(takeFloat32(CHECKED)),
    b: own(takeFloat32(CHECKED))
  }));
  for (let i = 0; i < CHECKED; i++) {
    const at = Math.floor(((i + 0.5) * r.length) / CHECKED);
    const gain = 2 ** (RELIT * ((i % 7) / 3 - 1));
    const colour = apply(toWorking, [r[at], g[at], b[at]].map(unfoldHighlight) as [number, number, number]);
    [out.r[i], out.g[i], out.b[i]] = colour.map((value) => value * gain);
  }
  return out;
}

/** Null where the picture gains nothing by a table, or shows what a table cannot; else the caller's to give back. */
export async function takeColourTable(
  { source, toWorking, inputs, stages, resources, pixels }: TableRequest,
  pool: Pool,
  signal?: AbortSignal
): Promise<ColourTable | null> {
  if (pixels < LARGE || !worthTabling(inputs)) return null;
  let holds = false;
  const table = await filled(takeTable(), async (table) => {
    await inBands(TABLE_SIZE, BLUES, signal, (from, to) =>
      pool.run({ table, stages, resources, from, to }, { name: 'tabulate', signal })
    );
    await inScope(async ({ ownAll }) => {
      const colours = ownAll(someColours(source, toWorking));
      holds = (await pool.run({ table, stages, resources, colours }, { name: 'holds', signal })) as boolean;
    });
  });
  if (holds) return table;
  giveBack(table);
  return null;
}
