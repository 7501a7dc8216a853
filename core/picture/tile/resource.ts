/**
 * Resources: what stages read beside a tile, and what is costly to make. Each is made once, kept by its key, and read by
 * every tile that names it.
 */
import type { Matrix3 } from '../../math/matrix3.ts';
import { hashOf } from '../../settings/hash.ts';
import type { PlacedPlanes } from './planes.ts';

/** What a stage needs: which resource, and what it is made by, as plain data. */
export interface Ask<Name extends string = string, Data = unknown> {
  resource: Name;
  data: Data;
}

/** What a resource can be made from. */
export interface ResourceSource {
  /** The frame as it was developed, at whatever size is at hand; null for what is made of no picture. */
  planes: PlacedPlanes | null;
  /** Names the planes: as long as the name is the same, they are. Null: they have none. */
  picture: string | null;
  /** The file's own colours to the working space. */
  toWorking: Matrix3;
  /** What was kept where `stored` says. */
  bytes: Uint8Array | null;
  /** What the resource reads; without what cannot be had. */
  resources: Resources;
}

export interface Resource<Name extends string, Data, Value> {
  readonly name: Name;
  /** Made of one frame's picture, and gone with it; or the same for all frames. */
  readonly of: 'frame' | 'all';
  /** Pixels along the longer edge that it needs of the picture; more tell it nothing. Without it, all of them. */
  readonly longEdge?: number;
  /** Other resources that it is made of, and that are made first. */
  reads?(data: Data): readonly Ask[];
  /** What two values have in common that are much alike: while a picture is in motion, one stands in for the other. */
  alike?(data: Data): unknown;
  /** Where the bytes are kept that it is made from, as a path below the app's `api/`; null: it is made of the picture. */
  stored(data: Data): string | null;
  /** Its arrays stand in the memory that threads share, where any thread reads them. */
  make(from: ResourceSource, data: Data): Value;
  /** All arrays of a value, to be given back once nothing reads it any more. */
  memory(value: Value): readonly ArrayBufferView[];
  /** What is said to users where its bytes cannot be had. */
  readonly missing: string;
}

/** Values by their keys, as a tile is given them. */
export type Resources = ReadonlyMap<string, unknown>;

export const NO_RESOURCES: Resources = new Map();

/** The planes that are measured: what another resource leaves of the frame, or the frame as it was developed. */
export function planesOn({ planes, resources }: ResourceSource, on: Ask | null): PlacedPlanes {
  const measured = on ? (resources.get(keyOf(on)) as PlacedPlanes | undefined) : planes;
  if (!measured) throw new Error('There is no picture to measure.');
  return measured;
}

/** What a value is kept by. */
export const keyOf = ({ resource, data }: Ask): string => `${resource} ${hashOf(data)}`;

/** The value that a stage asked for. */
export function resourceFor<Name extends string, Data, Value>(
  resources: Resources,
  { name }: Pick<Resource<Name, Data, Value>, 'name'> & { make: Resource<Name, Data, Value>['make'] },
  data: Data
): Value {
  const value = resources.get(keyOf({ resource: name, data }));
  if (value === undefined) throw new Error(`The ${name} that a stage reads is to be made first.`);
  return value as Value;
}
