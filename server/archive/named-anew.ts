/** Names that recipes hold, where what they name is known by another here. */
import type { PartialRecipe } from '../../core/recipe/recipe.ts';

/** What is known here by another id, by the id that it came with. */
export interface NewNames {
  looks: ReadonlyMap<string, string>;
  skies: ReadonlyMap<string, string>;
  lenses: ReadonlyMap<string, string>;
}

export function namedAnew(recipe: PartialRecipe, { looks, skies, lenses }: NewNames): PartialRecipe {
  const { lens, colour, areas } = recipe;
  const list = areas?.list?.map((area) => {
    const sky = area.sky && skies.get(area.sky.picture);
    return sky ? { ...area, sky: { ...area.sky, picture: sky } } : area;
  });
  return {
    ...recipe,
    ...(lens?.profile && { lens: { ...lens, profile: lenses.get(lens.profile) ?? lens.profile } }),
    ...(colour?.look && { colour: { ...colour, look: looks.get(colour.look) ?? colour.look } }),
    ...(list && { areas: { ...areas, list: list as never } })
  };
}
