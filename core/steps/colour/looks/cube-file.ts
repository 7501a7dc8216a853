/** Looks as .cube text: 1D and 3D tables with a domain, one node a line, red changing fastest. */
import { type Look, type LookSpace, MOST_NODES, valuesOf } from './look.ts';

/** Why a file is no look, in words for its user. */
export class CubeError extends Error {}

/** Characters of a file that are read: a cube of 65 nodes with long numbers takes a third of it. */
export const MOST_CUBE = 32e6;

/** A domain is at least this wide. */
const NARROWEST = 1e-5;
/** Characters of a line: three numbers, or a title. */
const MOST_LINE = 2000;
const MOST_NAME = 80;

/** A name without what has no place in an interface. */
export const cleanName = (name: string): string =>
  name
    .replace(/[\u0000-\u001f\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2066-\u2069]+/g, ' ')
    .trim()
    .slice(0, MOST_NAME);

/** Larger than any light that a look can be meant for, as a share of white. */
const MOST_VALUE = 1e5;

const numbersOf = (words: readonly string[], line: number): number[] => {
  const numbers = words.map(Number);
  if (words.length !== 3 || !numbers.every((value, i) => Number.isFinite(value) && words[i] !== ''))
    throw new CubeError(`Line ${line} of this look should be three numbers. Export the look again.`);
  if (numbers.some((value) => Math.abs(value) > MOST_VALUE))
    throw new CubeError(
      `Line ${line} of this look has a number beyond any colour: ${MOST_VALUE} is the most. Export the look again.`
    );
  return numbers;
};

/** `name`: of the file, for looks that give themselves none. Throws a CubeError. */
export function parseCube(text: string, name: string, space: LookSpace): Look {
  if (text.length > MOST_CUBE)
    throw new CubeError('This file is larger than 32 MB: no look is. Choose a .cube file.');
  let [kind, size]: [Look['kind'] | null, number] = [null, 0];
  let [from, to]: number[][] = [
    [0, 0, 0],
    [1, 1, 1]
  ];
  let title = '';
  let values: Float32Array | null = null;
  let filled = 0;
  let line = 0;
  for (let at = 0; at < text.length;) {
    const end = text.indexOf('\n', at);
    const next = end < 0 ? text.length : end;
    if (next - at > MOST_LINE)
      throw new CubeError(`Line ${line + 1} of this look is far too long: it is no .cube file.`);
    const row = text.slice(at, next).trim();
    at = end < 0 ? text.length : end + 1;
    line++;
    if (row === '' || row.startsWith('#')) continue;
    const [word, ...rest] = row.split(/\s+/);
    if (word === 'TITLE') title = cleanName(row.slice(5).trim().replace(/^"|"$/g, ''));
    else if (word === 'LUT_1D_SIZE' || word === 'LUT_3D_SIZE') {
      if (kind) throw new CubeError('This look names two sizes. Looks of one table can be taken.');
      kind = word === 'LUT_1D_SIZE' ? '1D' : '3D';
      size = Number(rest[0]);
      if (!Number.isInteger(size) || size < 2 || size > MOST_NODES[kind])
        throw new CubeError(
          `This look says that it has ${cleanName(rest[0] ?? 'no number of')} nodes a side: 2 to ${MOST_NODES[kind]} can be taken.`
        );
      values = new Float32Array(valuesOf({ kind, size }));
    } else if (word === 'DOMAIN_MIN') from = numbersOf(rest, line);
    else if (word === 'DOMAIN_MAX') to = numbersOf(rest, line);
    else if (word === 'LUT_1D_INPUT_RANGE' || word === 'LUT_3D_INPUT_RANGE') {
      const [low, high] = numbersOf([...rest.slice(0, 2), '0'], line);
      from = [low, low, low];
      to = [high, high, high];
    } else if (/^[A-Z_]/.test(word)) {
      // Words that other programs add say nothing of the table.
    } else {
      const numbers = numbersOf([word, ...rest], line);
      if (!values) throw new CubeError('This look has numbers before its size. It is no .cube file.');
      if (filled + 3 > values.length) filled += 3;
      else {
        values.set(numbers, filled);
        filled += 3;
      }
    }
  }
  if (!kind || !values)
    throw new CubeError(
      'This is no look: a .cube file says LUT_3D_SIZE or LUT_1D_SIZE. Choose another file.'
    );
  if (filled !== values.length)
    throw new CubeError(
      `This look has ${filled / 3} rows; its size asks for ${values.length / 3}. It was cut short or changed: export it again.`
    );
  if (
    ![0, 1, 2].every((c) => Number.isFinite(from[c]) && Number.isFinite(to[c]) && to[c] - from[c] > NARROWEST)
  )
    throw new CubeError('The domain of this look is empty: its end has to be above its beginning.');
  return {
    name: title || cleanName(name.replace(/\.cube$/i, '')) || 'Look',
    kind,
    size,
    from: from as [number, number, number],
    to: to as [number, number, number],
    space,
    values
  };
}

/** Nine digits tell one value of single precision from all others. */
const exactly = (value: number): string => String(Number(value.toPrecision(9)));

/** The look as text, which reads as the same look. */
export function writeCube({ name, kind, size, from, to, values }: Look): string {
  const rows = [
    `TITLE "${cleanName(name).replace(/"/g, "'")}"`,
    `LUT_${kind}_SIZE ${size}`,
    `DOMAIN_MIN ${from.join(' ')}`,
    `DOMAIN_MAX ${to.join(' ')}`
  ];
  for (let i = 0; i < values.length; i += 3)
    rows.push([values[i], values[i + 1], values[i + 2]].map(exactly).join(' '));
  return `${rows.join('\n')}\n`;
}
