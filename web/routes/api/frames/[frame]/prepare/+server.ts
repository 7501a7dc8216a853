import { json } from '@sveltejs/kit';
import { RATIO_PATTERN } from '$core/picture/output/ratios.ts';
import { TRUE_UP_MODES, type TrueUpMode } from '$core/steps/lines/solve-rotation.ts';
import { answer, isId, notFound } from '$lib/answer.ts';
import { readJson } from '$lib/read-json.ts';
import { getContext } from '$server/app.ts';
import { validator } from '$server/documents/validator.ts';
import { listHouseSettings } from '$server/recipes/house-settings.ts';
import { AUTOMATIC, type ByItself } from '$server/render/by-itself.ts';
import { prepareFrame } from '$server/set/prepare-frame.ts';
import { UserError } from '$server/user-error.ts';
import type { RequestHandler } from './$types';

interface Wanted {
  straighten: boolean;
  trueUp: TrueUpMode | null;
  ratio: string | null;
  auto: ByItself['auto'];
  house: string | null;
  dust: boolean;
}

const validWanted = validator<Wanted>(
  {
    $id: 'prepare',
    type: 'object',
    additionalProperties: false,
    required: ['straighten', 'trueUp', 'ratio', 'auto', 'house', 'dust'],
    properties: {
      straighten: { type: 'boolean' },
      trueUp: { enum: [...TRUE_UP_MODES, null] },
      ratio: { type: ['string', 'null'], pattern: RATIO_PATTERN },
      auto: { type: 'array', items: { enum: AUTOMATIC } },
      house: { type: ['string', 'null'] },
      dust: { type: 'boolean' }
    }
  },
  'request'
);

/** Prepares the frame in one go. */
export const POST: RequestHandler = ({ params, request }) =>
  answer(async () => {
    if (!isId(params.frame)) return notFound('frame');
    const { house, ...wanted } = validWanted(await readJson(request));
    const context = await getContext();
    const set = house === null ? null : (await listHouseSettings(context)).find(({ id }) => id === house);
    if (set === undefined) throw new UserError('These house settings no longer exist. Choose others.');
    return json(await prepareFrame(context, params.frame, { ...wanted, house: set?.steps ?? null }));
  });
