/**
 * What a picture does not show as it was, in words and as a term of the IPTC NewsCodes (Digital Source Type): who relies on a
 * listing has to know.
 */
import type { Settings } from '../../settings/step.ts';
import { type AreasSettings, showsAnotherSky } from '../areas/step.ts';
import { type mendSchema, patchesAtWork } from './step.ts';

const TERMS = 'http://cv.iptc.org/newscodes/digitalsourcetype/';

interface Disclosed {
  mend: Settings<typeof mendSchema>;
  areas: AreasSettings;
}

export interface Disclosure {
  /** Specks of dust on the sensor: nothing of the place itself is hidden by mending them. */
  dust: number;
  /** Other spots that have no name. */
  spots: number;
  /** What was taken out, by its name. */
  takenOut: string[];
  cables: number;
  /** The sky is that of another picture. */
  sky: boolean;
  /** All of it in words. */
  words: string;
  /** Whether anything but dust was mended, or something replaced. */
  beyondDust: boolean;
}

const NUMBERS = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const counted = (count: number, one: string, many: string): string =>
  `${NUMBERS[count] ?? count} ${count === 1 ? one : many}`;

/** Names with how often they stand, in the order of their first. */
function tallied(names: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const name of names) counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].map(([name, count]) => (count === 1 ? name : `${name} (${count})`));
}

/** What a recipe mends, takes out and replaces. */
export function disclose({ mend, areas }: Disclosed): Disclosure {
  const patches = patchesAtWork(mend);
  const dust = patches.filter((patch) => patch.dust).length;
  const others = patches.filter((patch) => !patch.dust);
  const cables = others.filter(({ kind, name }) => kind === 'cable' && name === '').length;
  // What was taken out and not named was there all the same.
  const takenOut = others
    .map(({ name, kind }) => name || (kind === 'takeOut' ? 'something' : ''))
    .filter(Boolean);
  const spots = others.length - cables - takenOut.length;
  const mended = [
    ...(dust > 0 ? [counted(dust, 'speck of dust', 'specks of dust')] : []),
    ...(spots > 0 ? [counted(spots, 'spot', 'spots')] : [])
  ];
  const gone = [...tallied(takenOut), ...(cables > 0 ? [counted(cables, 'cable', 'cables')] : [])];
  const sky = showsAnotherSky(areas);
  const words = [
    ...(mended.length > 0 ? [`mended: ${mended.join(', ')}`] : []),
    ...(gone.length > 0 ? [`taken out: ${gone.join(', ')}`] : []),
    ...(sky ? ['sky replaced'] : [])
  ].join('; ');
  return {
    dust,
    spots,
    takenOut,
    cables,
    sky,
    words: words || 'nothing mended or taken out',
    beyondDust: others.length > 0 || sky
  };
}

/** What was mended, as a sentence. */
export const disclosureSentence = ({ words }: Disclosure): string =>
  `${words[0].toUpperCase()}${words.slice(1)}.`;

/** The term for how a picture came about; null where nothing is known of how a finished one was made. */
export function digitalSourceType(
  { beyondDust, sky }: Disclosure,
  rendering: 'scene' | 'display'
): string | null {
  if (sky) return `${TERMS}compositeCapture`;
  if (beyondDust) return `${TERMS}humanEdits`;
  return rendering === 'scene' ? `${TERMS}digitalCapture` : null;
}
