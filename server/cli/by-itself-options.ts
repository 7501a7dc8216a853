/** Options for what is set by itself before a picture is made, and for house settings that are laid over it. */
import { TRUE_UP_MODES } from '../../core/steps/lines/solve-rotation.ts';
import { soundHouseFile } from '../recipes/house-file.ts';
import { AUTOMATIC, type ByItself } from '../render/by-itself.ts';
import { UsageError, readJson } from './files.ts';

export const BY_ITSELF_OPTIONS = {
  straighten: { type: 'boolean' },
  'true-up': { type: 'string' },
  auto: { type: 'string' },
  'house-settings': { type: 'string' }
} as const;

interface Values {
  straighten?: boolean;
  'true-up'?: string;
  auto?: string;
  'house-settings'?: string;
}

/** What they ask for; undefined where that is nothing. */
export async function readByItself(values: Values): Promise<ByItself | undefined> {
  const trueUp = TRUE_UP_MODES.find((mode) => mode === values['true-up']) ?? null;
  if (values['true-up'] !== undefined && !trueUp)
    throw new UsageError(`--true-up is one of ${TRUE_UP_MODES.join(', ')}, not "${values['true-up']}".`);
  const auto = (values.auto?.split(',') ?? []).map((name) => {
    const known = AUTOMATIC.find((each) => each === name.trim());
    if (!known) throw new UsageError(`--auto takes ${AUTOMATIC.join(' and ')}, not "${name}".`);
    return known;
  });
  const path = values['house-settings'];
  const house = path === undefined ? [] : soundHouseFile(await readJson(path));
  const straighten = values.straighten ?? false;
  return straighten || trueUp || auto.length > 0 || house.length > 0
    ? { straighten, trueUp, auto, house }
    : undefined;
}
