/** The resources that stages read beside a tile: whatever is made once and read by many is in this list. */
import { lightResource } from '../measure/light/light-resource.ts';
import { laidResource } from '../steps/areas/another-sky/laid-resource.ts';
import { skyResource } from '../steps/areas/another-sky/sky-resource.ts';
import { maskResource } from '../steps/areas/mask-resource.ts';
import type { Ask, Resource } from '../picture/tile/resource.ts';
import { glowResource } from '../steps/finish/glow/glow-resource.ts';
import { lookResource } from '../steps/colour/looks/look-resource.ts';
import { detailsResource } from '../steps/tone/local/details-resource.ts';
import { developedResource } from './developed-resource.ts';

const RESOURCES = [
  detailsResource,
  developedResource,
  glowResource,
  laidResource,
  lightResource,
  lookResource,
  maskResource,
  skyResource
] as const;

/** A resource without what tells its values from another's. */
export type AnyResource = Resource<string, unknown, unknown>;

const BY_NAME = new Map<string, AnyResource>(
  RESOURCES.map((resource) => [resource.name, resource as unknown as AnyResource])
);

export function resourceOf({ resource }: Pick<Ask, 'resource'>): AnyResource {
  const found = BY_NAME.get(resource);
  if (!found) throw new Error(`There is no resource "${resource}".`);
  return found;
}
