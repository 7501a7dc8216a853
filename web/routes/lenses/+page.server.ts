import { getContext } from '$server/app.ts';
import { searchProfiles } from '$server/lenses/catalogue.ts';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async () => searchProfiles(await getContext(), {});
